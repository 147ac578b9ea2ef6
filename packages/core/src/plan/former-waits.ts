import type { Lesson, Step } from '@viaticum/contract';
import { type DryingConstraint, solveInOrder } from '@viaticum/kernels/scheduling';
import { areasWorkedOn, laysPaint, restsOn } from '../derived/index.js';
import { type LaidCoat, rungMinutes } from '../step/index.js';
import { lessonProblem, planOf } from './lesson-plan.js';

/** How long steps waited by the rules before contacts, beside now: the whole of it, and step by step. */
export type FormerWaits = {
  formerMin: number;
  nowMin: number;
  steps: { stepId: string; title: string; formerMin: number; nowMin: number; startMin: number }[];
};

/** What a step asked of every coat on its areas and beside them, before only contacts were asked. */
const formerNeed = (step: Step) =>
  step.needs !== 'auto'
    ? step.needs
    : step.kind === 'transfer' || step.kind === 'draw' || ['glaze', 'wash', 'scumble'].includes(step.technique ?? '')
      ? ('touchDry' as const)
      : ('paintOver' as const);

/** The waits of a lesson by the former rules and by the present ones; null where they do not differ. */
export function formerWaits(lesson: Lesson): FormerWaits | null {
  const { problem, laid } = lessonProblem(lesson);
  const onArea = new Map<string, LaidCoat[]>();
  const constraints: DryingConstraint[] = problem.constraints.filter((one) => one.type === 'wet');
  for (const step of lesson.steps) {
    const areas = areasWorkedOn(lesson, step);
    const need = formerNeed(step);
    const beside = laysPaint(step) ? areas.flatMap((id) => restsOn(lesson, id)) : [];
    if (!['any', 'wet', 'damp'].includes(need))
      for (const below of [...new Set([...areas, ...beside])].flatMap((id) => onArea.get(id) ?? [])) {
        const minutes = rungMinutes(need, below.drying);
        const id = `${step.id}/${below.areaId}/${below.step.id}`;
        if (Number.isFinite(minutes))
          constraints.push({ id, type: 'dry', from: below.step.id, to: step.id, minutes, source: id });
      }
    for (const coat of laid) if (coat.step === step) onArea.set(coat.areaId, [...(onArea.get(coat.areaId) ?? []), coat]);
  }
  const { items } = solveInOrder({ ...problem, constraints });
  if (items.length === 0) return null;
  const now = planOf(lesson).solution.items;
  const waitOf = (list: typeof items, k: number) => Math.max(0, (list[k]?.start ?? 0) - (k > 0 ? (list[k - 1]?.end ?? 0) : 0));
  const steps = items.flatMap((item, k) => {
    const [formerMin, nowMin] = [waitOf(items, k), waitOf(now, k)];
    const title = lesson.steps[k]?.title ?? '';
    return Math.abs(formerMin - nowMin) < 1 ? [] : [{ stepId: item.step, title, formerMin, nowMin, startMin: item.start }];
  });
  const sum = (list: typeof items) => list.reduce((all, _, k) => all + waitOf(list, k), 0);
  return steps.length === 0 ? null : { formerMin: sum(items), nowMin: sum(now), steps };
}
