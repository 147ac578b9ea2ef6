import type { ClassLog } from '@viaticum/contract';
import { type Fit, fitEffects, type Observation, type Spread, Z80 } from './fit.js';

type Logged = { id: string; log: ClassLog };

/** How the minutes of one student differ from the plan, as logarithms: by level, technique, step, person, class (our judgement). */
export const pace: Spread = {
  kinds: { level: 0.1, technique: 0.15, step: 0.2 },
  class: 0.08,
  person: 0.3,
  one: 0.2,
  nonsense: 0.1,
  wide: 1.2,
};

/**
 * What logged classes tell of pace, student by student. What was noted by hand is of a class as a whole and meant as it stands: it is no
 * sample with a tenth of slips in it, and is not fitted.
 */
export function paceTests(logs: readonly Logged[]): Observation[] {
  return logs.flatMap(({ id, log }) =>
    log.paces.map(({ stepId, technique, planned, from, to, who }) => ({
      lo: Math.log(from / planned),
      hi: Math.log(to / planned),
      effects: [`level:${log.level}`, `step:${stepId}`, ...(technique ? [`technique:${technique}`] : [])],
      class: id,
      person: who,
    })),
  );
}
export const fitPace = (tests: readonly Observation[]): Fit => fitEffects(tests, pace);

/** What is expected beforehand counts as so many students at a step (our judgement). */
const ASKS_WORTH = 20;
/** Students of a level ask so often at one step (our judgement; found anew from what is logged). */
const ASKS_USUAL = { beginner: 0.06, improver: 0.04, experienced: 0.02 } as const;

/** How often one student asks for help at each step: Gamma–Poisson, with the bounds of 80 %. Source: Gelman et al., Bayesian Data Analysis, 2.6. */
export function asksAt(
  logs: readonly Logged[],
): Map<string, { rate: number; from: number; usual: number; asks: number; students: number; reasons: string[] }> {
  const found = new Map<string, { asks: number; students: number; reasons: string[]; usual: number }>();
  for (const { log } of logs)
    for (const { stepId, kind, present, asks, reasons } of log.items) {
      if (kind !== 'step' || !stepId || present === 0 || log.kind === 'by-hand') continue;
      const one = found.get(stepId) ?? { asks: 0, students: 0, reasons: [], usual: ASKS_USUAL[log.level] };
      found.set(stepId, {
        ...one,
        asks: one.asks + asks,
        students: one.students + present,
        reasons: [...one.reasons, ...reasons],
      });
    }
  return new Map(
    [...found].map(([stepId, { asks, students, reasons, usual }]) => {
      const shape = ASKS_WORTH * usual + asks;
      const weight = ASKS_WORTH + students;
      // A gamma distribution of this shape, by the cube root (Wilson, Hilferty 1931).
      const low = shape * (1 - 1 / (9 * shape) - Z80 / (3 * Math.sqrt(shape))) ** 3;
      return [stepId, { rate: shape / weight, from: Math.max(0, low) / weight, usual, asks, students, reasons }];
    }),
  );
}
