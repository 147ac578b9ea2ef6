import type { Lesson, Step } from '@viaticum/contract';
import { toEnd } from '@viaticum/kernels/cooperative';
import { betterOrder, inOrderOf } from '../advice/index.js';
import { isHairPass } from './marks.js';

/** Nodes of the search for an order while a draft is written. */
export const ORDER_NODES = 1500;

/**
 * The order that waits least. First coats, drawings, ground and looks stay in their stages; later coats and marks may slip to where
 * something dries.
 */
export function waitingLess(lesson: Lesson): Lesson {
  const { sessions: _, ...planning } = lesson.planning;
  const begun = new Set<string>();
  const bases = new Set<string>();
  for (const step of lesson.steps) {
    const isFirst = step.kind !== 'paint' || step.areaIds.some((id) => !begun.has(id));
    for (const id of step.areaIds) if (step.kind === 'paint') begun.add(id);
    if (isFirst) bases.add(step.id);
  }
  const pins = lesson.stages.slice(1).flatMap((stage, k) => {
    const before = lesson.steps.filter((step) => step.stageId === lesson.stages[k]?.id && bases.has(step.id));
    const own = lesson.steps.filter((step) => step.stageId === stage.id && bases.has(step.id));
    return before.flatMap((one) => own.map((other) => ({ firstId: one.id, thenId: other.id })));
  });
  const held = {
    ...lesson,
    planning: { ...planning, pins: [...featuresFirst(lesson, bases), ...hairsInTurn(lesson), ...pins].slice(0, 200) },
  };
  const { best, own, order } = toEnd(betterOrder(held, { maxNodes: ORDER_NODES }));
  return best.endMin < own.endMin ? inOrderOf(lesson, order) : lesson;
}

/** Passes of hair follow each other as they were drafted, the shorter before the longer, whatever area they lie on. */
function hairsInTurn(lesson: Lesson): { firstId: string; thenId: string }[] {
  const hairs = lesson.steps.filter((step) => isHairPass(lesson, step));
  return hairs.slice(1).map((step, k) => ({ firstId: (hairs[k] as Step).id, thenId: step.id }));
}

/** Where the hard part comes first, no search puts it behind what was drafted after it. */
function featuresFirst({ school, areas, steps }: Lesson, bases: ReadonlySet<string>): { firstId: string; thenId: string }[] {
  if (school.hardPart !== 'first') return [];
  const features = new Set(areas.filter((area) => area.feature).map((area) => area.id));
  return steps.flatMap((step, k) =>
    bases.has(step.id) && step.areaIds.some((id) => features.has(id))
      ? steps.slice(k + 1).flatMap((later) => (bases.has(later.id) ? [{ firstId: step.id, thenId: later.id }] : []))
      : [],
  );
}
