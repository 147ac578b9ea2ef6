/** Paces and habits that are told apart, and half minutes that are looked ahead. */
export const PACE_COUNT = 10;
export const HABIT_COUNT = 3;
export const ROWS = PACE_COUNT * HABIT_COUNT;
export const WIDE = 150;
const ONE = 1 << 20;
const UP = 1_048_576;
/** Whoever has less than this of the whole is no longer followed. */
const PRUNE = 2048;
const LEAST_CELL = 12;

/**
 * Whole-number weights of every habit and pace (a row) at every half minute from `base` on; of a row only `low` to `high` are used, the
 * rest is zero.
 */
export type Grid = { base: number; low: Int32Array; high: Int32Array; weights: Float64Array };

const pool: Grid[] = [];
const MOST_KEPT = 64;
/** An empty grid, perhaps one that was given back. */
export function grid(base: number): Grid {
  const x =
    pool.pop() ??
    ({ base: 0, low: new Int32Array(ROWS), high: new Int32Array(ROWS), weights: new Float64Array(ROWS * WIDE) } satisfies Grid);
  x.base = base;
  x.low.fill(WIDE);
  x.high.fill(0);
  return x;
}
/** Leaves nothing in a grid. */
export function empty({ weights, low, high }: Grid): void {
  for (let row = 0; row < ROWS; row++) if (high[row] > low[row]) weights.fill(0, row * WIDE + low[row], row * WIDE + high[row]);
}
/** A grid that nobody looks at any more. */
export function give(x: Grid): void {
  if (pool.length >= MOST_KEPT) return;
  empty(x);
  pool.push(x);
}

function sumOf(x: Grid): number {
  let sum = 0;
  for (let row = 0; row < ROWS; row++)
    for (let i = row * WIDE + x.low[row], end = row * WIDE + x.high[row]; i < end; i++) sum += x.weights[i];
  return sum;
}
/** To a sum of 2^20, small weights dropped; false where there is nothing. All numbers stay whole and below 2^53. `sum`: what they come to. */
export function normalise(x: Grid, sum = sumOf(x)): boolean {
  if (sum === 0) return false;
  const up = Math.floor((ONE * UP) / sum);
  for (let row = 0; row < ROWS; row++) {
    const o = row * WIDE;
    let [low, high, mass] = [WIDE, 0, 0];
    for (let i = x.low[row]; i < x.high[row]; i++) {
      const value = Math.floor((x.weights[o + i] * up) / UP);
      if (value <= LEAST_CELL) {
        x.weights[o + i] = 0;
        continue;
      }
      x.weights[o + i] = value;
      if (high === 0) low = i;
      high = i + 1;
      mass += value;
    }
    if (mass < PRUNE) {
      for (let i = low; i < high; i++) x.weights[o + i] = 0;
      low = WIDE;
      high = 0;
    }
    x.low[row] = low;
    x.high[row] = high;
  }
  return true;
}
