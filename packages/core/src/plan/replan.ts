import type { Lesson } from '@viaticum/contract';
import type { DryingConstraint, Problem } from '@viaticum/kernels/scheduling';
import { solve } from '@viaticum/kernels/scheduling';
import { stretched } from '../step/index.js';
import { type LessonPlan, lessonProblem, planProblem } from './lesson-plan.js';
import { inOrderOf, orderOf, orderProblem } from './order.js';

/** What really happened of a lesson, in minutes of its class. */
export type Past = {
  now: number;
  /** Steps that were begun, in the order in which they were, with their real times; the last may end in the future. */
  fixed: { step: string; start: number; end: number }[];
  /** How much longer than the model says coats dry here (touch tests). */
  dryFactor: number;
  /** How much longer than planned this group takes. */
  pace: number;
};

const MOST_NODES = 4000;
/** Another order must save so much: a group that has seen what comes next does not like surprises. */
const WORTH_MIN = 1;

/**
 * The rest of a lesson planned again from its real past: what was begun stays where it was, what is to come follows from the paint
 * as it lies, this class's drying and its pace. `lesson` holds the steps begun and those to come, in the room's present air. The order
 * of the rest changes only where the `quickest` is asked for and the search finds one that ends at least a minute sooner. Minutes of
 * the class.
 */
export function replanLesson(lesson: Lesson, past: Past, quickest = false): LessonPlan {
  const begun = new Set(past.fixed.map((one) => one.step));
  const start = inOrderOf(lesson, [
    ...past.fixed.map((one) => one.step),
    ...lesson.steps.flatMap((step) => (begun.has(step.id) ? [] : [step.id])),
  ]);
  const own = timed(start, past, begun);
  if (!quickest) return own;
  const found = solve(asPast(orderProblem(start), past, begun), { maxNodes: MOST_NODES });
  const order = orderOf(start, found.items);
  if (order.length !== start.steps.length || found.makespan > own.plan.endMin - WORTH_MIN) return own;
  const other = timed(inOrderOf(start, order), past, begun);
  return other.plan.endMin <= own.plan.endMin - WORTH_MIN ? other : own;
}

function timed(lesson: Lesson, past: Past, begun: ReadonlySet<string>): LessonPlan {
  const { problem, minutes, laid, misses, contacts } = lessonProblem(lesson);
  const paced = new Map([...minutes].map(([id, own]) => [id, begun.has(id) ? own : stretched(own, past.pace)] as const));
  return planProblem(lesson, { problem: asPast(problem, past, begun), minutes: paced, laid, misses, contacts });
}

/** A problem with its past fixed: constraints into it hold no more, drying and durations are those of this class. */
function asPast(problem: Problem, past: Past, begun: ReadonlySet<string>): Problem {
  const pins = problem.pins?.filter((pin) =>
    'step' in pin ? !begun.has(pin.step) && pin.start >= past.now : !begun.has(pin.then),
  );
  return {
    ...problem,
    steps: problem.steps.map((step) => (begun.has(step.id) ? step : { ...step, minutes: step.minutes * past.pace })),
    constraints: problem.constraints.flatMap((one) => {
      if (one.type === 'either') return eitherFrom(one, begun, past.dryFactor);
      if (begun.has(one.to)) return [];
      return one.minutes === undefined ? [one] : [{ ...one, minutes: one.minutes * past.dryFactor }];
    }),
    ...(pins && { pins }),
    now: past.now,
    fixed: past.fixed,
  };
}

/** A pair in either order, of which one may have been begun: then the other waits for it. */
function eitherFrom(one: DryingConstraint, begun: ReadonlySet<string>, factor: number): DryingConstraint[] {
  const { id, from, to, source, minutes = 0, backMinutes = 0 } = one;
  if (begun.has(from) && begun.has(to)) return [];
  const base = { id, source, type: 'dry' as const };
  if (begun.has(from)) return [{ ...base, from, to, minutes: minutes * factor }];
  if (begun.has(to)) return [{ ...base, from: to, to: from, minutes: backMinutes * factor }];
  return [{ ...one, minutes: minutes * factor, backMinutes: backMinutes * factor }];
}
