import type { Lesson, Level } from '@viaticum/contract';
import { learntFactor } from '../derived/index.js';
import type { LessonPlan } from '../plan/index.js';
import { keyOf } from './draws.js';
import type { PaceModel, PaceStep } from './model.js';
import { player } from './play.js';

/**
 * Spread of paces by level (standard deviation of the logarithm): in one evening class of beginners the slowest often need twice as long as
 * the quickest quarter. Common practice, no published source.
 */
export const sigmaOf: Record<Level, number> = { beginner: 0.38, improver: 0.28, experienced: 0.22 };
export const STEP_SIGMA = 0.2;
/** How often a student stops for help in a step, and for how long; common practice, no published source. */
export const helpOf: Record<Level, { chance: number; minutes: number }> = {
  beginner: { chance: 0.1, minutes: 3 },
  improver: { chance: 0.05, minutes: 2.5 },
  experienced: { chance: 0.02, minutes: 2 },
};

/** How often and how long students are helped, with what classes taught of it. */
export const helpFor = (lesson: Pick<Lesson, 'learnt'>, level: Level): { chance: number; minutes: number } => ({
  chance: Math.min(0.6, helpOf[level].chance * learntFactor(lesson, 'asks')),
  minutes: helpOf[level].minutes * learntFactor(lesson, 'help'),
});

export type Group = {
  n: number;
  level: Level;
  q: number;
  overMin: number | null;
  slotMin: number;
  /** Who helps besides the instructor. */
  assistants?: number;
  /** Students who came before, with their own pace. */
  factors?: number[];
};

/** A lesson's plan as the pace model takes it: steps in their order, breaks and drying before them, drying from the plan's own constraints. */
export function paceModel(lesson: Lesson, plan: LessonPlan, group: Group): PaceModel {
  const students: PaceModel['students'] = {
    n: group.n,
    sigma: sigmaOf[group.level],
    stepSigma: STEP_SIGMA,
    help: helpFor(lesson, group.level),
    helpers: 1 + (group.assistants ?? 0),
    ...(group.factors && { factors: group.factors }),
  };
  return { steps: withPauses(stepsOf(lesson, plan, group)), students, slotMin: group.slotMin };
}

function stepsOf(lesson: Lesson, plan: LessonPlan, { q, overMin }: Group): PaceStep[] {
  const byId = new Map(lesson.steps.map((step) => [step.id, step]));
  const known = new Set<string>();
  const steps: PaceStep[] = [];
  let breakMin = 0;
  for (const { step: id } of plan.solution.items) {
    const step = byId.get(id);
    const { showMin = 0, doMin = 0 } = plan.minutes.get(id) ?? {};
    const whole = showMin + doMin;
    if (step?.kind === 'break') {
      breakMin += whole;
      continue;
    }
    // Of several areas of one coat the longest counts; what is painted part by part waits for nothing.
    const dry = new Map<string, number>();
    for (const { type, from, to, minutes: wait = 0 } of plan.problem.constraints)
      if (type === 'dry' && to === id && known.has(from) && wait > 0) dry.set(from, Math.max(dry.get(from) ?? 0, wait));
    const drying = [...dry].map(([after, minutes]) => ({ after, minutes }));
    const isLook = step?.kind === 'look';
    known.add(id);
    steps.push({
      id,
      key: keyOf(id),
      doMin: isLook ? 0 : doMin,
      showMin: isLook ? whole : showMin,
      breakMin,
      pauseMin: 0,
      gate: { q, afterMin: overMin === null ? null : whole + overMin },
      drying,
      ...(step?.mayBeLeftOut && { mayBeLeftOut: true }),
    });
    breakMin = 0;
  }
  return steps;
}

/** Steps with the pauses that a class exactly at plan has before them. */
function withPauses(steps: PaceStep[]): PaceStep[] {
  const alone = steps.map((step) => ({ ...step, gate: { q: 1, afterMin: null } }));
  const { sums, play } = player({ steps: alone, students: { n: 1, sigma: 0, stepSigma: 0, factors: [1] }, slotMin: 1 }, 1);
  play(0);
  return steps.map((step, s) => ({ ...step, pauseMin: Math.max(0, sums.pauseOver[s] as number) }));
}

/** A model without some of its steps, and without the coats that they would have laid. */
export function withoutSteps(model: PaceModel, gone: readonly string[]): PaceModel {
  const kept = model.steps.filter((step) => !gone.includes(step.id));
  // A break before a step that is left out is still held.
  let carried = 0;
  const steps: PaceStep[] = [];
  for (const step of model.steps) {
    if (gone.includes(step.id)) carried += step.breakMin;
    else {
      const drying = step.drying.filter(({ after }) => kept.some(({ id }) => id === after));
      steps.push({ ...step, breakMin: step.breakMin + carried, drying });
      carried = 0;
    }
  }
  return { ...model, steps };
}
