import type { ClassLog, Level, LoggedPace } from '@viaticum/contract';
import { helpOf } from '../pace/index.js';
import { type Factor, type Fit, fitEffects, type Observation, type Spread, Z80 } from './fit.js';
import type { Logged } from './suggestion.js';

/** How the minutes of one student differ from the plan, as logarithms: by level, technique, step, person, class (our judgement). */
export const pace: Spread = {
  kinds: { level: 0.1, technique: 0.15, step: 0.2 },
  class: 0.08,
  person: 0.3,
  one: 0.2,
  nonsense: 0.1,
  wide: 1.2,
};

const observed = (id: string, log: ClassLog, one: LoggedPace, planned: number): Observation => ({
  lo: Math.log(one.from / planned),
  hi: Math.log(one.to / planned),
  effects: [`level:${log.level}`, `step:${one.stepId}`, ...(one.technique ? [`technique:${one.technique}`] : [])],
  class: id,
  person: one.who,
});

/**
 * What logged classes of a lesson tell of pace, student by student, against the minutes that its steps are planned for now: they may have been
 * others then. What was noted by hand is of a class as a whole and meant as it stands: it is no sample with a tenth of slips in it, and is
 * not fitted.
 */
export const paceTests = (logs: readonly Logged[], plannedNow: ReadonlyMap<string, number>): Observation[] =>
  logs.flatMap(({ id, log }) =>
    log.paces.flatMap((one) => {
      const planned = plannedNow.get(one.stepId);
      return planned ? [observed(id, log, one, planned)] : [];
    }),
  );

/** What logged classes tell of the rates by which minutes are proposed: of steps whose minutes nobody typed, against the bare model. */
export const rateTests = (logs: readonly Logged[]): Observation[] =>
  logs.flatMap(({ id, log }) =>
    log.paces.flatMap((one) => (one.typed ? [] : [observed(id, log, one, one.planned / (one.reckoned ?? 1))])),
  );
export const fitPace = (tests: readonly Observation[]): Fit => fitEffects(tests, pace);

/** What is expected beforehand counts as so many students at a step (our judgement). */
const ASKS_WORTH = 20;
/** How often one student asks for help at each step: Gamma–Poisson, with the bounds of 80 %. Source: Gelman et al., Bayesian Data Analysis, 2.6. */
export function asksAt(
  logs: readonly Logged[],
): Map<string, { rate: number; from: number; usual: number; asks: number; students: number; reasons: string[] }> {
  const found = new Map<string, { asks: number; students: number; reasons: string[]; usual: number }>();
  for (const { log } of logs)
    for (const { stepId, kind, present, asks, reasons } of log.items) {
      // Who is alone has nobody to ask.
      if (kind !== 'step' || !stepId || present === 0 || log.kind !== 'class') continue;
      const one = found.get(stepId) ?? { asks: 0, students: 0, reasons: [], usual: helpOf[log.level].chance };
      found.set(stepId, {
        ...one,
        asks: one.asks + asks,
        students: one.students + present,
        reasons: [...one.reasons, ...reasons],
      });
    }
  return new Map(
    [...found].map(([stepId, { asks, students, reasons, usual }]) => [
      stepId,
      { ...askRate(asks, students, usual), usual, asks, students, reasons },
    ]),
  );
}

/** Asks of so many students at a step, with what is usual beforehand; the bounds of 80 % of a gamma distribution by the cube root (Wilson, Hilferty 1931). */
function askRate(asks: number, students: number, usual: number): { rate: number; from: number; to: number } {
  const shape = ASKS_WORTH * usual + asks;
  const weight = ASKS_WORTH + students;
  const bound = (z: number) => Math.max(0, shape * (1 - 1 / (9 * shape) + z / (3 * Math.sqrt(shape))) ** 3) / weight;
  return { rate: shape / weight, from: bound(-Z80), to: bound(Z80) };
}

/** How often students of a level ask at all, over all steps of these classes, against the usual. */
export function asksOverall(logs: readonly Logged[], level: Level): Factor & { observations: number; classes: number } {
  const own = logs.filter(({ log }) => log.level === level && log.kind === 'class');
  const steps = own.flatMap(({ log }) => log.items.filter((item) => item.kind === 'step' && item.present > 0));
  const [asks, students] = [steps.reduce((sum, item) => sum + item.asks, 0), steps.reduce((sum, item) => sum + item.present, 0)];
  const { rate, from, to } = askRate(asks, students, helpOf[level].chance);
  const over = (one: number) => one / helpOf[level].chance;
  return { factor: over(rate), from: over(from), to: over(to), observations: students, classes: own.length };
}
