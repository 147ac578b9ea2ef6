import type { Lab } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { toEnd } from '@viaticum/kernels/cooperative';
import type { Finish, SmallAmount } from '@viaticum/kernels/mixing';
import { type Paint, soundPaints, soundTarget, tableOf } from './recipes.js';

export type PaletteOptions = {
  /** Greatest ΔE00 that counts as reached. */
  tolerance: number;
  /** Tubes that the palette must have, and such as it must not have. */
  must?: readonly string[];
  mustNot?: readonly string[];
  maxTubes?: number;
  finish?: Finish;
  /** Small amounts allowed beside whole parts; none by default. */
  kinds?: readonly SmallAmount[];
};
export type PaletteSize = { tubes: string[]; worst: number; mean: number };
export type Palette = PaletteSize & {
  /** Places of the targets that no recipe of all tubes reaches. */
  unreachable: number[];
  /** Whether no smaller set of tubes can do it: the search is exhaustive. */
  proven: boolean;
  /** Other sets of as few tubes that reach everything too, best first (at most ten). */
  others: PaletteSize[];
  /** The best set of each number of tubes, from one up: what fewer tubes give up. */
  tradeOff: PaletteSize[];
  /** For each tube of the palette: which target loses most without it, and how much (ΔE00 with and without). */
  usefulness: { tube: string; target: number; with: number; without: number }[];
};

/** Differences beyond this (and beyond twice the tolerance) are not told apart: such a set does not come near. */
const FAR = 8;

const bits = (mask: number): number => {
  let left = mask - ((mask >>> 1) & 0x55555555);
  left = (left & 0x33333333) + ((left >>> 2) & 0x33333333);
  return (((left + (left >>> 4)) & 0x0f0f0f0f) * 0x01010101) >>> 24;
};

/**
 * The smallest set of tubes whose recipes reach all targets within a tolerance (dry, infinite film), exactly: for every target
 * the least ΔE00 of every set of tubes is found by carrying the table's recipes upward through all sets, so that nothing is
 * missed. Recipes of whole parts unless `kinds` allows one small amount. Also gives the trade-off of number of tubes against
 * worst and mean ΔE00, and what each tube is for. Yields the share done.
 */
export function* paletteSearch(
  targets: readonly Lab[],
  tubes: readonly (string | Paint)[],
  options: PaletteOptions,
): Generator<number, Palette> {
  const { tolerance, must = [], mustNot = [], maxTubes = 4, finish = 'satin', kinds = [] } = options;
  if (!(tolerance > 0))
    throw new RangeError(say('The tolerance must be above 0. About 3 is a difference one sees side by side.'));
  if (targets.length === 0) throw new RangeError(say('There is no colour to reach. Give the mixes targets first.'));
  targets.forEach(soundTarget);
  const paints = soundPaints(tubes).filter((paint) => !mustNot.includes(paint.id));
  if (paints.length === 0) throw new RangeError(say('All tubes are ruled out. Allow at least one.'));
  const missing = must.find((id) => !paints.some((paint) => paint.id === id));
  if (missing)
    throw new RangeError(say`“${missing}” must be on the palette but is not among the tubes. Add it, or do not demand it.`);
  const building = tableOf(paints, { maxTubes, finish, smalls: kinds.length > 0 ? 1 : 0, kinds });
  let step = building.next();
  for (; !step.done; step = building.next()) yield step.value.share * 0.5;
  const table = step.value;

  const size = 2 ** paints.length;
  const mustBits = paints.reduce((mask, paint, i) => (must.includes(paint.id) ? mask | (1 << i) : mask), 0);
  const worst = new Float32Array(size);
  const sum = new Float32Array(size);
  const best = new Float32Array(size);
  const unreachable: number[] = [];
  // For every target the least ΔE00 of each set of tubes that a recipe has; larger sets follow from these.
  const masks = table.sets();
  const byTarget: Float32Array[] = [];
  for (const [number, target] of targets.entries()) {
    const ofSets = table.leastOfSets(target, Math.max(FAR, 2 * tolerance));
    byTarget.push(ofSets);
    if (ofSets.reduce((least, value) => Math.min(least, value), Number.POSITIVE_INFINITY) > tolerance) unreachable.push(number);
    else {
      spread(ofSets, masks, best, paints.length);
      gather(best, worst, sum);
    }
    yield 0.5 + (0.45 * (number + 1)) / targets.length;
  }
  const reached = targets.length - unreachable.length;
  const named = (mask: number): PaletteSize => ({
    tubes: paints.filter((_, i) => mask & (1 << i)).map((paint) => paint.id),
    worst: worst[mask] as number,
    mean: reached > 0 ? (sum[mask] as number) / reached : 0,
  });
  if (reached === 0) return { ...named(mustBits), unreachable, proven: true, others: [], tradeOff: [], usefulness: [] };

  const { bestOf, answers } = bestSets(worst, sum, paints.length, mustBits, Math.fround(tolerance));
  // Among palettes of the same size all of which reach everything, the one that is nearest in the mean.
  answers.sort((one, other) => (sum[one] as number) - (sum[other] as number));
  const chosen = answers[0] as number;
  const within = (ofSets: Float32Array, mask: number) => {
    let least = Number.POSITIVE_INFINITY;
    for (let i = 0; i < masks.length; i++)
      if (((masks[i] as number) & ~mask) === 0 && (ofSets[i] as number) < least) least = ofSets[i] as number;
    return least;
  };
  const usefulness = paints.flatMap((paint, i) => {
    if (!(chosen & (1 << i))) return [];
    let most = { target: -1, with: 0, without: 0 };
    for (const [target, ofSet] of byTarget.entries()) {
      if (unreachable.includes(target)) continue;
      const [having, lacking] = [within(ofSet, chosen), within(ofSet, chosen & ~(1 << i))];
      if (most.target < 0 || lacking - having > most.without - most.with) most = { target, with: having, without: lacking };
    }
    return [{ tube: paint.id, ...most }];
  });
  return {
    ...named(chosen),
    unreachable,
    proven: true,
    others: answers.slice(1, 11).map(named),
    tradeOff: [...bestOf].flatMap((mask) => (mask >= 0 && Number.isFinite(worst[mask]) ? [named(mask)] : [])),
    usefulness,
  };
}

/** {@link paletteSearch} to its end. */
export const smallestPalette = (targets: readonly Lab[], tubes: readonly (string | Paint)[], options: PaletteOptions): Palette =>
  toEnd(paletteSearch(targets, tubes, options));

/** Smaller worst difference first, then smaller mean. */
const before = (one: number, other: number, worst: Float32Array, sum: Float32Array) =>
  worst[one] === worst[other] ? (sum[one] as number) < (sum[other] as number) : (worst[one] as number) < (worst[other] as number);

/** Takes one target's values into the worst and the sum of all. */
function gather(values: Float32Array, worst: Float32Array, sum: Float32Array): void {
  for (let mask = 0; mask < values.length; mask++) {
    const value = values[mask] as number;
    if (value > (worst[mask] as number)) worst[mask] = value;
    sum[mask] = (sum[mask] as number) + value;
  }
}

/** For each number of tubes the best set that has all musts, and the smallest number that stays within a tolerance. */
function bestSets(worst: Float32Array, sum: Float32Array, tubes: number, mustBits: number, allowed: number) {
  const bestOf = new Int32Array(tubes + 1).fill(-1);
  let fewest = tubes + 1;
  for (let mask = 1; mask < worst.length; mask++) {
    if ((mask & mustBits) !== mustBits) continue;
    const count = bits(mask);
    const known = bestOf[count] as number;
    if (known < 0 || before(mask, known, worst, sum)) bestOf[count] = mask;
    if (count < fewest && (worst[mask] as number) <= allowed) fewest = count;
  }
  const answers: number[] = [];
  for (let mask = 1; mask < worst.length; mask++)
    if ((worst[mask] as number) <= allowed && (mask & mustBits) === mustBits && bits(mask) === fewest) answers.push(mask);
  return { bestOf, answers };
}

/** The least ΔE00 of every set of tubes, from those of the sets that recipes have. */
function spread(ofSets: Float32Array, masks: readonly number[], best: Float32Array, tubes: number): void {
  best.fill(Number.POSITIVE_INFINITY);
  for (let i = 0; i < masks.length; i++) best[masks[i] as number] = ofSets[i] as number;
  upward(best, tubes);
}

const BLOCK_BITS = 13;

/** Gives every set the least value of all its subsets: first within blocks that stay near the processor, then between blocks. */
function upward(values: Float32Array, tubes: number): void {
  const block = 1 << Math.min(BLOCK_BITS, tubes);
  for (let from = 0; from < values.length; from += block) lessen(values, from, from + block, 1, block);
  lessen(values, 0, values.length, block, values.length);
}

/** Carries values up along the bits from `first` to below `end`, between two places. */
function lessen(values: Float32Array, from: number, to: number, first: number, end: number): void {
  for (let bit = first; bit < end; bit *= 2)
    for (let at = from; at < to; at += 2 * bit)
      for (let mask = at; mask < at + bit; mask++) {
        const value = values[mask] as number;
        if (value < (values[mask + bit] as number)) values[mask + bit] = value;
      }
}
