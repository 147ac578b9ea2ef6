import type { Lesson } from '@viaticum/contract';

/** The mixes that steps or the ground use, with those that they are mixed from. */
export function usedMixes(lesson: Lesson): Set<string> {
  const open = [...lesson.steps.flatMap((step) => step.mixIds), ...lesson.support.groundCoats.map((coat) => coat.mixId)];
  const used = new Set<string>();
  for (let id = open.pop(); id !== undefined; id = open.pop()) {
    if (used.has(id)) continue;
    used.add(id);
    open.push(...(lesson.mixes.find((mix) => mix.id === id)?.mixedFrom?.map((part) => part.mixId) ?? []));
  }
  return used;
}
