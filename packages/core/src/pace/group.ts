import type { Lesson, Level } from '@viaticum/contract';
import type { LessonPlan } from '../plan/index.js';
import type { PaceModel, PaceStep } from './simulate.js';

/** Spread of paces by level; of beginners and improvers as the models have it, of the experienced from memory. */
export const sigmaOf: Record<Level, number> = { beginner: 0.3, improver: 0.22, experienced: 0.18 };
export const STEP_SIGMA = 0.2;
/** How often a student stops for help in a step, and for how long; common practice, no published source. */
export const helpOf: Record<Level, { chance: number; minutes: number }> = {
  beginner: { chance: 0.08, minutes: 3 },
  improver: { chance: 0.04, minutes: 2 },
  experienced: { chance: 0.01, minutes: 2 },
};

export type Group = {
  n: number;
  level: Level;
  /** Go on when this share is done, or at the latest this many minutes after the step should have ended; null: wait for the share. */
  q: number;
  overMin: number | null;
  slotMin: number;
  /** Students who came before, with their own pace. */
  factors?: number[];
};

/** A lesson's plan as the pace model takes it: steps and breaks in their order, drying from the plan's own constraints. */
export function paceModel(lesson: Lesson, plan: LessonPlan, group: Group): PaceModel {
  const byId = new Map(lesson.steps.map((step) => [step.id, step]));
  const order = plan.solution.items.map((item) => item.step);
  const placeOf = new Map(order.map((id, i) => [id, i]));
  const steps = order.map((id): PaceStep => {
    const { showMin = 0, doMin = 0 } = plan.minutes.get(id) ?? {};
    const step = byId.get(id);
    const isOne = step?.kind === 'break' || step?.kind === 'look';
    const drying = plan.problem.constraints.flatMap((constraint) =>
      constraint.type === 'dry' &&
      constraint.to === id &&
      (placeOf.get(constraint.from) ?? order.length) < (placeOf.get(id) as number)
        ? [{ after: constraint.from, minutes: constraint.minutes ?? 0 }]
        : [],
    );
    const whole = showMin + doMin;
    return {
      id,
      minutes: isOne ? 0 : doMin,
      fixedMin: isOne ? whole : showMin,
      gate: { q: group.q, afterMin: group.overMin === null ? null : whole + group.overMin },
      drying,
      ...(step?.mayBeLeftOut && { mayBeLeftOut: true }),
    };
  });
  return {
    steps,
    students: {
      n: group.n,
      sigma: sigmaOf[group.level],
      stepSigma: STEP_SIGMA,
      help: helpOf[group.level],
      ...(group.factors && { factors: group.factors }),
    },
    slotMin: group.slotMin,
  };
}

export type HelpKind = 'show-shorter' | 'leave-details' | 'split-worst' | 'go-on-earlier' | 'dry-faster';
/** What could be tried to end sooner, each as a model of its own. */
export function whatHelps(
  model: PaceModel,
  bottlenecks: readonly string[],
): { kind: HelpKind; stepId: string | null; model: PaceModel }[] {
  const [worst] = bottlenecks;
  const withSteps = (change: (step: PaceStep) => PaceStep | null): PaceModel => {
    const steps = model.steps.flatMap((step) => change(step) ?? []);
    const kept = new Set(steps.map((step) => step.id));
    return { ...model, steps: steps.map((step) => ({ ...step, drying: step.drying.filter(({ after }) => kept.has(after)) })) };
  };
  return [
    {
      kind: 'show-shorter' as const,
      stepId: null,
      model: withSteps((step) => (step.minutes > 0 ? { ...step, fixedMin: (step.fixedMin ?? 0) / 2 } : step)),
    },
    ...(model.steps.some((step) => step.mayBeLeftOut)
      ? [{ kind: 'leave-details' as const, stepId: null, model: withSteps((step) => (step.mayBeLeftOut ? null : step)) }]
      : []),
    ...(worst
      ? [
          {
            kind: 'split-worst' as const,
            stepId: worst,
            // Half of it is done again by all together, the other half by whoever is ready: the quick do more.
            model: withSteps((step) =>
              step.id === worst ? { ...step, gate: { ...step.gate, q: Math.min(step.gate.q, 0.6) } } : step,
            ),
          },
        ]
      : []),
    ...(model.steps.some((step) => step.gate.q > 0.7)
      ? [
          {
            kind: 'go-on-earlier' as const,
            stepId: null,
            model: withSteps((step) => ({ ...step, gate: { ...step.gate, q: Math.min(step.gate.q, 0.7) } })),
          },
        ]
      : []),
    ...(model.steps.some((step) => step.drying.length > 0)
      ? [
          {
            kind: 'dry-faster' as const,
            stepId: null,
            model: withSteps((step) => ({
              ...step,
              drying: step.drying.map((coat) => ({ ...coat, minutes: coat.minutes / 2 })),
            })),
          },
        ]
      : []),
  ];
}
