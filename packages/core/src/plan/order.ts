import type { Lesson, Step } from '@viaticum/contract';
import { laysPaint, lessonProblem, planLesson, zonesOf } from './lesson-plan.js';
import type { Problem, Relation } from './problem.js';
import { solving } from './solve.js';

/** A plan's length and the waiting in it, minutes. */
export type PlanLength = { endMin: number; waitMin: number };
export type OrderAnswer = {
  /** The lesson's own order, and the best found; equal where none is shorter. */
  own: PlanLength;
  best: PlanLength;
  /** The steps in the best order found. */
  order: string[];
  /** Pairs of steps that changed places. */
  changes: number;
  /** Whether no order ends sooner, and whether none that ends as soon changes fewer pairs. */
  proven: boolean;
  orderProven: boolean;
  /** No order can end before this. */
  lowerBoundMin: number;
  nodes: number;
};

const draws = (step: Step): boolean => step.kind === 'transfer' || step.kind === 'draw';

/**
 * The orders that a lesson allows, as a planning problem: what must be dry, wet or damp, and besides that coats of one area stay
 * one on the other, lines are drawn before what they are drawn for, and steps that lay nothing (looking, practising, a break)
 * keep their place between their neighbours.
 */
export function orderProblem(lesson: Lesson): Problem {
  const { problem } = lessonProblem(lesson);
  const { steps } = lesson;
  const relations: Relation[] = [...problem.relations];
  const before = (from: Step, to: Step, source: string) =>
    relations.push({ id: `before:${from.id}/${to.id}`, type: 'before', from: from.id, to: to.id, source });
  const zones = steps.map((step) => new Set(zonesOf(lesson, step)));
  steps.forEach((step, i) => {
    const shares = (k: number) => [...(zones[k] as Set<string>)].some((id) => (zones[i] as Set<string>).has(id));
    for (let k = i - 1; k >= 0; k--) {
      const other = steps[k] as Step;
      const both = (laysPaint(other) || draws(other)) && (laysPaint(step) || draws(step));
      if (both && shares(k)) before(other, step, 'same-area');
    }
    if (laysPaint(step) || draws(step)) return;
    const [last, next] = [steps[i - 1], steps[i + 1]];
    if (last) before(last, step, 'keeps-its-place');
    if (next) before(step, next, 'keeps-its-place');
  });
  return { ...problem, relations };
}

/** A lesson with its steps in another order; each place keeps the stage that it had. */
export const inOrderOf = (lesson: Lesson, order: readonly string[]): Lesson => ({
  ...lesson,
  steps: order.flatMap((id, place) => {
    const step = lesson.steps.find((one) => one.id === id);
    return step ? [{ ...step, stageId: lesson.steps[place]?.stageId ?? step.stageId }] : [];
  }),
});

const lengthOf = (lesson: Lesson): PlanLength => {
  const { plan } = planLesson(lesson);
  return { endMin: plan.endMin, waitMin: plan.waitMin };
};

/** Seeks the order with the earliest end, and of those the one with the fewest changes; yields how far it is. */
export function* betterOrder(
  lesson: Lesson,
  { maxNodes }: { maxNodes?: number } = {},
): Generator<{ endMin: number; lowerBoundMin: number; nodes: number }, OrderAnswer> {
  const own = lengthOf(lesson);
  const work = solving(orderProblem(lesson), maxNodes === undefined ? {} : { maxNodes });
  let step = work.next();
  for (; !step.done; step = work.next()) {
    const { end, lowerBound, nodes } = step.value;
    yield { endMin: end, lowerBoundMin: lowerBound, nodes };
  }
  const { items, status, orderProven, lowerBound, inversions, nodes } = step.value;
  const order = items.map((item) => item.step);
  // The plan itself has the last word: what lies on what may differ a little in another order.
  const best = order.length === lesson.steps.length ? lengthOf(inOrderOf(lesson, order)) : own;
  const proven = status === 'optimal';
  if (best.endMin >= own.endMin)
    return {
      own,
      best: own,
      order: lesson.steps.map((one) => one.id),
      changes: 0,
      proven,
      orderProven: proven,
      lowerBoundMin: Math.min(own.endMin, lowerBound),
      nodes,
    };
  return { own, best, order, changes: inversions, proven, orderProven, lowerBoundMin: lowerBound, nodes };
}
