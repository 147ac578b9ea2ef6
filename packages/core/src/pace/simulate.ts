import { say } from '@viaticum/contract';
import type { PaceModel } from './model.js';
import { player } from './play.js';

export type Ends = { mean: number; p05: number; p50: number; p90: number; p95: number };
export type PaceResult = {
  /** Chance that the last student is done within the slot, and that the class is, 0-1. */
  finishInSlot: number;
  classInSlot: number;
  /** When the last student is done, and when the class is (the gate of its last step), minutes. */
  endMin: Ends;
  classMin: Ends;
  /**
   * Of every step the share of students who were not done when the class went on, the mean wait of a student before it, how much longer it
   * took the class than planned, and how much longer the pause before it was; minutes.
   */
  perStep: { id: string; lateShare: number; waitMin: number; overMin: number; pauseOverMin: number }[];
  /** Minutes of a class that hands wait in all, and that help takes. */
  hands: { waitedMin: number; helpedMin: number };
  /** Steps that hold the class up most, worst first. */
  bottlenecks: string[];
  /** End of the last student of every run, ascending; and when the class was done, run by run. */
  ends: Float64Array;
  gates: Float64Array;
};

const YIELD_RUNS = 200;

function checked({ steps, students, slotMin }: PaceModel, runs: number): void {
  if (!(Number.isInteger(runs) && runs >= 1 && runs <= 1_000_000))
    throw new RangeError(say('Between 1 and 1 000 000 runs can be made.'));
  if (!(Number.isInteger(students.n) && students.n >= 1 && students.n <= 1200))
    throw new RangeError(say('A class has between 1 and 1200 students.'));
  if (!(students.sigma >= 0 && students.stepSigma >= 0 && students.sigma <= 2 && students.stepSigma <= 2))
    throw new RangeError(say('The spread of paces lies between 0 and 2.'));
  if (!(Number.isInteger(students.helpers ?? 1) && (students.helpers ?? 1) >= 1 && (students.helpers ?? 1) <= 60))
    throw new RangeError(say('Between 1 and 60 people can help.'));
  if (!(slotMin > 0)) throw new RangeError(say('The slot needs a length above 0 minutes.'));
  const known = new Set<string>();
  for (const { id, doMin, showMin, breakMin, gate, drying } of steps) {
    if (!(doMin >= 0 && showMin >= 0 && breakMin >= 0 && Number.isFinite(doMin + showMin + breakMin)))
      throw new RangeError(say`Step “${id}” needs a duration of 0 minutes or more.`);
    if (!(gate.q > 0 && gate.q <= 1)) throw new RangeError(say('The class goes on when a share between 1 and 100 % is done.'));
    for (const { after } of drying)
      if (!known.has(after))
        throw new RangeError(say`A coat of “${after}” is to dry before step “${id}”, but comes later or never.`);
    known.add(id);
  }
}

/**
 * Plays a class many times: see {@link player} for its rules (*Pace without error* in the models). Same seed, same result; two models with
 * the same seed have the same chances. Yields the share done; throws a RangeError with a sentence on numbers that cannot be.
 */
export function* pacing(model: PaceModel, { runs, seed }: { runs: number; seed: number }): Generator<number, PaceResult> {
  checked(model, runs);
  const { steps, students, slotMin } = model;
  const { play, sums } = player(model, seed);
  const ends = new Float64Array(runs);
  const gates = new Float64Array(runs);
  for (let run = 0; run < runs; run++) {
    const { gate, end } = play(run);
    ends[run] = end;
    gates[run] = gate;
    if (run % YIELD_RUNS === YIELD_RUNS - 1) yield (run + 1) / runs;
  }
  const sorted = ends.slice().sort();
  const sortedGates = gates.slice().sort();
  const perStep = steps.map(({ id }, s) => ({
    id,
    lateShare: (sums.late[s] as number) / (runs * students.n),
    waitMin: (sums.wait[s] as number) / (runs * students.n),
    overMin: (sums.over[s] as number) / runs,
    pauseOverMin: Math.max(0, (sums.pauseOver[s] as number) / runs),
  }));
  const worst = [...perStep].sort((a, b) => b.overMin - a.overMin).filter((step) => step.overMin > 0.5);
  return {
    finishInSlot: shareUpTo(sorted, slotMin),
    classInSlot: shareUpTo(sortedGates, slotMin),
    endMin: endsOf(sorted),
    classMin: endsOf(sortedGates),
    perStep,
    hands: { waitedMin: sums.hands.waited / runs, helpedMin: sums.hands.helped / runs },
    bottlenecks: worst.slice(0, 5).map((step) => step.id),
    ends: sorted,
    gates,
  };
}

const shareUpTo = (values: Float64Array, most: number): number =>
  values.reduce((count, value) => (value <= most + 1e-9 ? count + 1 : count), 0) / values.length;

const endsOf = (sorted: Float64Array): Ends => ({
  mean: sorted.reduce((sum, value) => sum + value, 0) / sorted.length,
  p05: quantile(sorted, 0.05),
  p50: quantile(sorted, 0.5),
  p90: quantile(sorted, 0.9),
  p95: quantile(sorted, 0.95),
});

/** A quantile of ascending values, between neighbours (definition 7 of Hyndman and Fan 1996). */
export function quantile(sorted: ArrayLike<number>, q: number): number {
  const at = (sorted.length - 1) * q;
  const low = Math.floor(at);
  const [a, b] = [sorted[low] as number, sorted[Math.min(sorted.length - 1, low + 1)] as number];
  return a + (b - a) * (at - low);
}

/** The same in one go. */
export function simulatePace(model: PaceModel, options: { runs: number; seed: number }): PaceResult {
  const work = pacing(model, options);
  for (;;) {
    const step = work.next();
    if (step.done) return step.value;
  }
}
