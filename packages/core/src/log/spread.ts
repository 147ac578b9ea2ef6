import { type Factor, factorBy } from './fit.js';

/** Observations of one class (or one evening of one person): their mean as a logarithm, and how many. */
export type Lot = { mean: number; count: number };
/** Standard deviations of what is looked for, of a lot about it, and of one observation in its lot. */
export type LotSpread = { prior: number; lot: number; one: number };

/**
 * A factor from lots of observations that are known exactly, shrunk to 1 by what is expected beforehand: the normal model with known variances
 * (Gelman et al., Bayesian Data Analysis, 2.5), with the bounds of its 80 % interval.
 */
export function shrunk(lots: readonly Lot[], { prior, lot, one }: LotSpread): Factor {
  let weight = 1 / prior ** 2;
  let sum = 0;
  for (const { mean, count } of lots) {
    if (count === 0) continue;
    const own = 1 / (lot ** 2 + one ** 2 / count);
    weight += own;
    sum += own * mean;
  }
  return factorBy(sum / weight, 1 / Math.sqrt(weight));
}

/** Observations by the class they are of. */
export function lotsOf(values: readonly { class: string; value: number }[]): Lot[] {
  const lots = new Map<string, { sum: number; count: number }>();
  for (const { class: id, value } of values) {
    const lot = lots.get(id) ?? { sum: 0, count: 0 };
    lots.set(id, { sum: lot.sum + value, count: lot.count + 1 });
  }
  return [...lots.values()].map(({ sum, count }) => ({ mean: sum / count, count }));
}

/** The value in the middle, or between the two in the middle; 0 of none. */
export const median = (values: readonly number[]): number => {
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length / 2;
  return ((sorted[Math.ceil(middle) - 1] ?? 0) + (sorted[Math.floor(middle)] ?? 0)) / 2;
};
