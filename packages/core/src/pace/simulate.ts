import { normal, uniform } from './chance.js';

export type PaceStep = {
  id: string;
  /** Minutes that a student of the middle pace needs. */
  minutes: number;
  /** Minutes that are the same for all: showing, a break. */
  fixedMin?: number;
  /** The class goes on when a share `q` is done, or `afterMin` after the start of the step (null: not before that share). */
  gate: { q: number; afterMin: number | null };
  /** Coats that must dry first, each student's own: so many minutes from their own Done of that step. */
  drying: { after: string; minutes: number }[];
  /** Who is not done when the class goes on leaves it. */
  mayBeLeftOut?: boolean;
};
export type PaceModel = {
  steps: PaceStep[];
  students: {
    n: number;
    /** Spread of the paces, and of every student from step to step: standard deviations of logarithms. */
    sigma: number;
    stepSigma: number;
    /** Paces that are known: 1 is the middle, 2 needs twice as long. The others are drawn. */
    factors?: number[];
    /** A student asks for help half-way through a step with this chance; the one instructor helps for so many minutes, one after the other. */
    help?: { chance: number; minutes: number };
  };
  slotMin: number;
};
export type PaceResult = {
  /** Chance that the last one is done within the slot, 0-1. */
  finishInSlot: number;
  endMin: { mean: number; p05: number; p50: number; p95: number };
  /** Of every step the share of students who were not done when the class went on, the mean wait of a student before it, and how much longer it took than planned. */
  perStep: { id: string; lateShare: number; waitMin: number; overMin: number }[];
  /** Steps that hold the class up most, worst first. */
  bottlenecks: string[];
  /** End of every run, ascending. */
  ends: Float64Array;
};

const YIELD_RUNS = 200;

function checked({ steps, students, slotMin }: PaceModel, runs: number): void {
  if (!(Number.isInteger(runs) && runs >= 1 && runs <= 1_000_000))
    throw new RangeError('Between 1 and 1 000 000 runs can be made.');
  if (!(Number.isInteger(students.n) && students.n >= 1 && students.n <= 500))
    throw new RangeError('A class has between 1 and 500 students.');
  if (!(students.sigma >= 0 && students.stepSigma >= 0 && students.sigma <= 2 && students.stepSigma <= 2))
    throw new RangeError('The spread of paces lies between 0 and 2.');
  if (!(slotMin > 0)) throw new RangeError('The slot needs a length above 0 minutes.');
  const known = new Set<string>();
  for (const { id, minutes, fixedMin = 0, gate, drying } of steps) {
    if (!(minutes >= 0 && fixedMin >= 0 && Number.isFinite(minutes + fixedMin)))
      throw new RangeError(`Step “${id}” needs a duration of 0 minutes or more.`);
    if (!(gate.q > 0 && gate.q <= 1)) throw new RangeError('The class goes on when a share between 1 and 100 % is done.');
    for (const { after } of drying)
      if (!known.has(after))
        throw new RangeError(`A coat of “${after}” is to dry before step “${id}”, but comes later or never.`);
    known.add(id);
  }
}

/**
 * Plays a class many times: every step starts for all at once, each student needs its minutes times their own pace and chance, the gate
 * opens, and who is not done goes on with the old step first. Definitions in the models (*Pace of a group*). Same seed, same result.
 * Yields the share done; throws a RangeError with a sentence on numbers that cannot be.
 */
export function* pacing(model: PaceModel, { runs, seed }: { runs: number; seed: number }): Generator<number, PaceResult> {
  checked(model, runs);
  const { steps, students, slotMin } = model;
  const { n, sigma, stepSigma, factors = [], help } = students;
  const draw = uniform(seed);
  const gauss = normal(draw);
  const place = new Map(steps.map((step, i) => [step.id, i]));
  const coats = steps.map(({ drying }) => drying.map(({ after, minutes }) => ({ after: place.get(after) as number, minutes })));
  const done = steps.map(() => new Float64Array(n));
  const pace = new Float64Array(n);
  const free = new Float64Array(n);
  const sorted = new Float64Array(n);
  const ends = new Float64Array(runs);
  const asking: { k: number; at: number }[] = [];
  const [late, wait, over] = [new Float64Array(steps.length), new Float64Array(steps.length), new Float64Array(steps.length)];
  for (let run = 0; run < runs; run++) {
    for (let k = 0; k < n; k++) {
      const own = factors[k];
      pace[k] = own ?? Math.exp(sigma * gauss());
      free[k] = 0;
    }
    let start = 0;
    // Until when the instructor is with somebody.
    let busy = 0;
    for (const [s, { minutes, fixedMin = 0, gate, mayBeLeftOut }] of steps.entries()) {
      const own = done[s] as Float64Array;
      for (let k = 0; k < n; k++) {
        const ready = free[k] as number;
        let from = Math.max(start, ready);
        for (const { after, minutes: dry } of coats[s] as { after: number; minutes: number }[])
          from = Math.max(from, ((done[after] as Float64Array)[k] as number) + dry);
        wait[s] = (wait[s] as number) + from - ready;
        const works = minutes * (pace[k] as number) * (stepSigma > 0 ? Math.exp(stepSigma * gauss()) : 1);
        own[k] = from + fixedMin + works;
        if (help && draw() < help.chance) asking.push({ k, at: from + fixedMin + works / 2 });
      }
      if (help && asking.length > 0) {
        asking.sort((one, other) => one.at - other.at || one.k - other.k);
        for (const { k, at } of asking.splice(0)) {
          busy = Math.max(busy, at) + help.minutes;
          own[k] = (own[k] as number) + busy - at;
        }
      }
      sorted.set(own);
      sorted.sort();
      const enough = sorted[Math.max(0, Math.ceil(gate.q * n - 1e-9) - 1)] as number;
      const opens = gate.afterMin === null ? enough : Math.min(enough, Math.max(start + gate.afterMin, start));
      for (let k = 0; k < n; k++) {
        const isLate = (own[k] as number) > opens + 1e-9;
        if (isLate) late[s] = (late[s] as number) + 1;
        // What may be left out is left when the class goes on.
        free[k] = isLate && mayBeLeftOut && s < steps.length - 1 ? opens : (own[k] as number);
        if (isLate && mayBeLeftOut && s < steps.length - 1) own[k] = opens;
      }
      over[s] = (over[s] as number) + Math.max(0, opens - start - minutes - fixedMin);
      start = opens;
    }
    let end = 0;
    for (let k = 0; k < n; k++) end = Math.max(end, free[k] as number);
    ends[run] = end;
    if (run % YIELD_RUNS === YIELD_RUNS - 1) yield (run + 1) / runs;
  }
  ends.sort();
  let [sum, inSlot] = [0, 0];
  for (const end of ends) {
    sum += end;
    if (end <= slotMin + 1e-9) inSlot++;
  }
  const perStep = steps.map(({ id }, s) => ({
    id,
    lateShare: (late[s] as number) / (runs * n),
    waitMin: (wait[s] as number) / (runs * n),
    overMin: (over[s] as number) / runs,
  }));
  const worst = [...perStep].sort((a, b) => b.overMin - a.overMin).filter((step) => step.overMin > 0.5);
  return {
    finishInSlot: inSlot / runs,
    endMin: { mean: sum / runs, p05: quantile(ends, 0.05), p50: quantile(ends, 0.5), p95: quantile(ends, 0.95) },
    perStep,
    bottlenecks: worst.slice(0, 5).map((step) => step.id),
    ends,
  };
}

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
