import { empty, type Grid, give, grid, HABIT_COUNT, normalise, PACE_COUNT, ROWS, WIDE } from './grid.js';
import { kernelOf, type StepKernel } from './step-kernel.js';

/** How likely a habit is to leave a Done unsaid, and how often a habit is met; both of 1024. */
const HABITS = [
  { miss: 40, prior: 620 },
  { miss: 340, prior: 290 },
  { miss: 1000, prior: 114 },
] as const;
export const levels = ['beginner', 'improver', 'experienced'] as const;
/** Of 1024 students of a level so many have each pace (normal in its logarithm; spread 0.38, 0.28, 0.22). */
const PRIOR: Record<(typeof levels)[number], readonly number[]> = {
  beginner: [77, 130, 178, 197, 178, 130, 77, 37, 15, 5],
  improver: [46, 119, 212, 256, 212, 119, 46, 12, 2, 0],
  experienced: [20, 93, 237, 323, 237, 93, 20, 2, 0, 0],
};
/** Of 1024 Dones so many are pressed so many half minutes after the work was done, and so many later than that. */
const DELAY = [600, 230, 95, 45, 24, 13, 8, 5, 3, 1];
const DELAY_TAIL = DELAY.map((_, i) => DELAY.slice(i + 1).reduce((sum, one) => sum + one, 0));

/** A step as the class had it, in half minutes: when its showing was over, when the class left it (null: not yet), how long it takes (a rung). */
export type ClassStep = { start: number; left: number | null; rung: number };
export type DoneBy = 'self' | 'asked' | 'desk';
/** A sign at a half minute: how well it agrees with a step finished after it, and before it, of 1024. */
export type Sign = readonly [tick: number, after: number, before: number];
/** What was said of one step. */
export type StepFact = { done?: number; by?: DoneBy; wentOn?: number; leftOut?: boolean; signs?: Sign[] };

type Column = { column: Float64Array; sum: number; base: number };
/** What is known of one student: joint weights over habits, paces and the half minute at which the last settled step was finished. */
export type Following = {
  anchor: Grid;
  /** The first step that is not settled. */
  next: number;
  facts: StepFact[];
  /** When settled steps were finished that nobody said Done to: after 10, 50 and 90 % of the chance, in half minutes. */
  assumed: ([number, number, number] | undefined)[];
  /** The step since which nothing was heard, as the pace alone would have it. */
  silence: (Column & { signs: readonly Sign[] }) | null;
  /** When the first open step would be finished by the pace alone: what every look begins with. */
  first?: { anchor: Grid; start: number; rung: number; x: Grid; column: Column };
};

/** A student of whom nothing is known but their level, who begins at a step at a half minute. */
export function newcomer(level: (typeof levels)[number], tick: number, from: number): Following {
  const start = grid(tick);
  for (let h = 0; h < HABIT_COUNT; h++)
    for (let g = 0; g < PACE_COUNT; g++) {
      const row = h * PACE_COUNT + g;
      start.weights[row * WIDE] = HABITS[h].prior * PRIOR[level][g];
      start.low[row] = 0;
      start.high[row] = 1;
    }
  normalise(start);
  return { anchor: start, next: from, facts: [], assumed: [], silence: null };
}

const atOnce = new Float64Array(WIDE);
const runs = new Float64Array(WIDE + 1);
/** From when the step before was finished to when this one is: begun at `start`, or when free, whichever is later. */
function advanced(before: Grid, { start, rung }: ClassStep): Grid {
  const out = grid(Math.max(before.base, start));
  const kernels = kernelOf(rung);
  const shift = before.base - out.base;
  for (let row = 0; row < ROWS; row++) {
    const [first, past] = [before.low[row], before.high[row]];
    if (past <= first) continue;
    const o = row * WIDE;
    // Who was finished before the showing was over begins with the others; nobody begins beyond the end of the grid.
    let [begin, end] = [WIDE, 0];
    for (let i = first; i < past; i++) {
      const value = before.weights[o + i];
      if (value === 0) continue;
      const at = Math.max(0, Math.min(i + shift, WIDE - 3));
      while (end <= at) atOnce[end++] = 0;
      atOnce[at] += value;
      if (at < begin) begin = at;
    }
    if (begin < end) spread(atOnce, begin, end, kernels[row % PACE_COUNT], out, row);
  }
  return out;
}

/** Lays what begins at each half minute over when it ends, into a row. Whole numbers: the order of adding plays no part. */
function spread(begun: Float64Array, begin: number, end: number, kernel: StepKernel, out: Grid, row: number): void {
  const { low: first, high: past, chance, from, to, each } = kernel;
  const low = Math.min(begin + first, WIDE - 1);
  const high = Math.min(end - 1 + to, WIDE);
  const o = row * WIDE;
  // Where it goes wrong it ends evenly between two times: as what is added there and taken away again.
  for (let c = 0; c <= high; c++) runs[c] = 0;
  for (let at = begin; at < end; at++) {
    const value = begun[at];
    if (value === 0) continue;
    const [a, b] = [Math.min(at + from, WIDE - 1), Math.min(at + to, WIDE)];
    if (a <= high) runs[a] += value * each;
    if (b <= high) runs[b] -= value * each;
  }
  let run = 0;
  for (let c = 0; c < high; c++) {
    run += runs[c];
    if (c < low) continue;
    let sum = run;
    const last = Math.min(end - 1, c - first);
    for (let at = Math.max(begin, c - past + 1); at <= last; at++) sum += begun[at] * chance[c - at];
    out.weights[o + c] = Math.floor(sum / 65536);
  }
  out.low[row] = low;
  out.high[row] = high;
}

/** How well "finished at this half minute" agrees with what was said of a step, of 1024, for a habit of leaving Dones unsaid. */
function agrees(fact: StepFact, at: number, now: number, miss: number): number {
  let like = 1024;
  if (fact.done !== undefined) {
    const ago = fact.done - at;
    if (ago < 0) return 0;
    if (fact.by === 'desk') like = 512;
    else if (fact.by === 'asked') like = ago < 6 ? 512 : ago < 20 ? 100 : 20;
    else like = ago < DELAY.length ? Math.floor(((1024 - miss) * DELAY[ago]) / 1024) : 1;
  } else if (fact.wentOn !== undefined) {
    const off = at - fact.wentOn;
    like = off > 2 || off < -8 ? 24 : 700;
  } else if (at <= now) {
    const ago = now - at;
    like = miss + (ago < DELAY_TAIL.length ? Math.floor(((1024 - miss) * DELAY_TAIL[ago]) / 1024) : 0);
  }
  for (const [tick, after, before] of fact.signs ?? []) like = Math.floor((like * (at > tick ? after : before)) / 1024);
  return like;
}

const likes = new Float64Array(HABIT_COUNT * WIDE);
/** Weighs a grid by what was said of its step; gives what is left of it. */
function weigh(x: Grid, fact: StepFact, now: number): number {
  let [low, high] = [WIDE, 0];
  for (let row = 0; row < ROWS; row++) {
    if (x.high[row] <= x.low[row]) continue;
    low = Math.min(low, x.low[row]);
    high = Math.max(high, x.high[row]);
  }
  for (let h = 0; h < HABIT_COUNT; h++)
    for (let i = low; i < high; i++) likes[h * WIDE + i] = agrees(fact, x.base + i, now, HABITS[h].miss);
  let sum = 0;
  for (let row = 0; row < ROWS; row++) {
    const [o, l] = [row * WIDE, Math.floor(row / PACE_COUNT) * WIDE];
    for (let i = x.low[row], end = x.high[row]; i < end; i++) {
      const value = Math.floor((x.weights[o + i] * likes[l + i]) / 1024);
      x.weights[o + i] = value;
      sum += value;
    }
  }
  return sum;
}

function columnOf(x: Grid): Column {
  const column = new Float64Array(WIDE);
  let sum = 0;
  for (let row = 0; row < ROWS; row++)
    for (let i = x.low[row]; i < x.high[row]; i++) {
      const value = x.weights[row * WIDE + i];
      column[i] += value;
      sum += value;
    }
  return { column, sum, base: x.base };
}

const [TENTH, HALF, NINE_TENTHS] = [102, 512, 922];
function quantile({ column, sum, base }: Column, of1024: number): number {
  let run = 0;
  for (let i = 0; i < WIDE; i++) {
    run += column[i];
    if (run > 0 && run * 1024 >= sum * of1024) return base + i;
  }
  return base + WIDE - 1;
}
const spanOf = (column: Column): [number, number, number] => [
  quantile(column, TENTH),
  quantile(column, HALF),
  quantile(column, NINE_TENTHS),
];

/** When the first open step would be finished, to write into; worked out once for all looks. */
function firstOf(one: Following, step: ClassStep): Grid {
  const { start, rung } = step;
  if (one.first?.anchor !== one.anchor || one.first.start !== start || one.first.rung !== rung) {
    const x = advanced(one.anchor, step);
    normalise(x);
    if (one.first) give(one.first.x);
    one.first = { anchor: one.anchor, start, rung, x, column: columnOf(x) };
  }
  return copyOf(one.first.x);
}
/** The weights after each step since the last one that is settled. `look` sees each before what was said of it is weighed in. */
function chain(
  one: Following,
  steps: readonly ClassStep[],
  now: number,
  look?: (j: number, x: Grid, fact: StepFact) => void,
): Grid[] {
  const found: Grid[] = [];
  let before = one.anchor;
  for (let j = one.next; j < steps.length; j++) {
    const fact = one.facts[j] ?? {};
    const x = fact.leftOut ? copyOf(before) : j === one.next ? firstOf(one, steps[j]) : advanced(before, steps[j]);
    if (fact.leftOut || j > one.next) normalise(x);
    if (!fact.leftOut) {
      look?.(j, x, fact);
      // Nothing agrees: what was said counts, the pace is kept.
      if (!normalise(x, weigh(x, fact, now))) standAt(x, advanced(before, steps[j]), (fact.done ?? now) - 1);
    }
    found.push(x);
    before = x;
  }
  return found;
}
/** Sets a grid to one half minute, with the paces and habits of another one (which is given up). */
function standAt(x: Grid, like: Grid, at: number): void {
  normalise(like);
  x.base = Math.max(0, at - 1);
  empty(x);
  for (let row = 0; row < ROWS; row++) {
    let mass = 0;
    for (let i = row * WIDE + like.low[row], end = row * WIDE + like.high[row]; i < end; i++) mass += like.weights[i];
    x.weights[row * WIDE + 1] = mass;
    x.low[row] = mass > 0 ? 1 : WIDE;
    x.high[row] = mass > 0 ? 2 : 0;
  }
  give(like);
  normalise(x);
}
function copyOf(x: Grid): Grid {
  const out = grid(x.base);
  out.low.set(x.low);
  out.high.set(x.high);
  for (let row = 0; row < ROWS; row++)
    for (let i = row * WIDE + x.low[row], end = row * WIDE + x.high[row]; i < end; i++) out.weights[i] = x.weights[i];
  return out;
}
const giveAll = (grids: readonly Grid[], keep: Grid | null): void => {
  for (const x of grids) if (x !== keep) give(x);
};

/** Of a chain that ends with a step said to be done: when those before it were finished, given it (backward over two or three steps). */
function smoothed(one: Following, steps: readonly ClassStep[], post: readonly Grid[], now: number): [number, number, number][] {
  const found: [number, number, number][] = [];
  let after: { base: number; like: Float64Array } | null = null;
  for (let k = post.length - 1; k >= 0; k--) {
    const x = post[k];
    const own = new Float64Array(ROWS * WIDE);
    const next = one.next + k + 1;
    if (after)
      for (let row = 0; row < ROWS; row++) {
        if (x.high[row] <= x.low[row]) continue;
        const { low, high, chance, from, to, each } = kernelOf(steps[next].rung)[row % PACE_COUNT];
        for (let i = x.low[row]; i < x.high[row]; i++) {
          const begun = Math.max(x.base + i, steps[next].start) - after.base;
          let sum = 0;
          for (let d = low; d < high; d++) {
            const c = begun + d;
            if (c >= 0 && c < WIDE) sum += chance[d] * after.like[row * WIDE + c];
          }
          for (let d = from; d < to; d++) {
            const c = begun + d;
            if (c >= 0 && c < WIDE) sum += each * after.like[row * WIDE + c];
          }
          own[row * WIDE + i] = Math.floor(sum / 65536);
        }
      }
    const column = new Float64Array(WIDE);
    let sum = 0;
    const fact = one.facts[one.next + k] ?? {};
    const like = new Float64Array(ROWS * WIDE);
    for (let row = 0; row < ROWS; row++)
      for (let i = x.low[row]; i < x.high[row]; i++) {
        const at = row * WIDE + i;
        const value = after ? Math.floor((x.weights[at] * own[at]) / 1_048_576) : x.weights[at];
        column[i] += value;
        sum += value;
        const said = agrees(fact, x.base + i, now, HABITS[Math.floor(row / PACE_COUNT)].miss);
        like[at] = after ? Math.floor((said * own[at]) / 1024) : said * 1024;
      }
    found[k] = spanOf({ column, sum, base: x.base });
    after = { base: x.base, like };
  }
  return found;
}

/** A step is said to be done: what came before it is settled. */
export function saidDone(one: Following, steps: readonly ClassStep[], j: number, tick: number, by: DoneBy): void {
  if (j < one.next) return;
  one.silence = null;
  one.facts[j] = { ...one.facts[j], done: tick, by };
  const cut = steps.slice(0, j + 1);
  const post = chain(one, cut, tick);
  if (post.length > 1)
    smoothed(one, cut, post, tick)
      .slice(0, -1)
      .forEach((span, k) => {
        one.assumed[one.next + k] = span;
      });
  one.anchor = post[post.length - 1];
  one.next = j + 1;
  giveAll(post, one.anchor);
}

/** Two steps after the class left it a step is settled as well as it is known. */
const OPEN_STEPS = 2;
/** The class came to its next step: what it left long ago is settled. */
export function classWentOn(one: Following, steps: readonly ClassStep[], now: number): void {
  while (steps.length - one.next > OPEN_STEPS) {
    const post = chain(one, steps.slice(0, one.next + 1), now, (_, x, fact) => {
      // Silence is judged on the first step that nothing was said of, also after it is settled.
      one.silence ??= { ...columnOf(x), signs: fact.signs ?? [] };
    });
    one.assumed[one.next] = spanOf(columnOf(post[0]));
    one.anchor = post[0];
    one.next += 1;
  }
}

/** A sign that a step is not finished yet (after > before), or is. */
export function saidSign(one: Following, j: number, sign: Sign): void {
  one.silence = null;
  const fact = one.facts[j] ?? {};
  one.facts[j] = { ...fact, signs: [...(fact.signs ?? []), sign] };
}
/** "When we went on": finished about when the class left it. */
export function saidWentOn(one: Following, j: number, tick: number): void {
  one.silence = null;
  one.facts[j] = { ...one.facts[j], wentOn: tick };
}
/** It is left out, and takes no time. */
export function saidLeftOut(one: Following, j: number): void {
  one.silence = null;
  one.facts[j] = { ...one.facts[j], leftOut: true };
}

/** What may be said of a student at a half minute. */
export type Knowledge = {
  /** The first open step, and the chance that each open one is finished. */
  from: number;
  finished: number[];
  /** The first step that is rather not finished. */
  stepNow: number;
  /** Half minutes still needed for what the class left: expected, and after 10 and 90 % of the chance; how likely it is that any are. */
  late: { mean: number; low: number; high: number; chance: number };
  /** How likely, by the pace alone, a step lasts longer than since the last sign. */
  tail: number;
  /** When each open step is finished: 10, 50, 90 %. */
  spans: [number, number, number][];
};

function tailOf({ column, base }: Column, signs: readonly Sign[], now: number): number {
  let [sum, more] = [0, 0];
  for (let i = 0; i < WIDE; i++) {
    let value = column[i];
    if (value === 0) continue;
    for (const [tick, after, before] of signs) value = Math.floor((value * (base + i > tick ? after : before)) / 1024);
    sum += value;
    if (base + i > now) more += value;
  }
  return sum > 0 ? more / sum : 0;
}

/** What is known at a half minute. Changes nothing. */
export function known(one: Following, steps: readonly ClassStep[], now: number): Knowledge {
  let tail = one.silence ? tailOf(one.silence, one.silence.signs, now) : 1;
  const post = chain(one, steps, now, (j, x, fact) => {
    if (j === one.next && !one.silence) tail = tailOf(one.first?.column ?? columnOf(x), fact.signs ?? [], now);
  });
  const columns = post.map(columnOf);
  const finished = columns.map(({ column, sum, base }) => {
    let before = 0;
    for (let i = 0; i < WIDE && base + i <= now; i++) before += column[i];
    return before / sum;
  });
  let stepNow = one.next;
  while (stepNow - one.next < finished.length && finished[stepNow - one.next] >= 0.5) stepNow++;
  let left = steps.length - 1;
  while (left >= 0 && steps[left].left === null) left--;
  const late = { mean: 0, low: 0, high: 0, chance: 0 };
  if (left >= one.next) {
    const own = columns[left - one.next];
    let expected = 0;
    for (let i = 0; i < WIDE; i++) if (own.base + i > now) expected += own.column[i] * (own.base + i - now);
    late.mean = expected / own.sum;
    late.chance = 1 - finished[left - one.next];
    late.low = Math.max(0, quantile(own, TENTH) - now);
    late.high = Math.max(0, quantile(own, NINE_TENTHS) - now);
  }
  const spans = columns.map(spanOf);
  giveAll(post, null);
  return { from: one.next, finished, stepNow, late, tail, spans };
}

/** A short fingerprint on which two machines must agree. */
export function fingerprint({ anchor, next }: Following): string {
  let hash = 0x811c9dc5;
  const add = (value: number) => {
    hash = Math.imul(hash ^ (value & 0xffff), 0x01000193) >>> 0;
  };
  add(next);
  add(anchor.base);
  for (const weight of anchor.weights)
    if (weight !== 0) {
      add(weight);
      add(Math.floor(weight / 65536));
    }
  return hash.toString(16);
}
