import { say } from '@viaticum/contract';

/** A tube as it is sold; the price in the smallest coin. */
export type TubeSize = { ml: number; priceMinor: number };
/** Tubes to buy: their sizes (largest first), what they cost, and what is left over of them, ml. */
export type Packed = { sizes: number[]; costMinor: number; leftMl: number };

/** Of a tube so much can be pressed out (judged). */
export const TUBE_YIELD = 0.96;
const usable = (ml: number): number => Math.floor(ml * TUBE_YIELD);

type Best = { cost: number; ml: number; count: number; from: number; size: number };

const isBetter = (one: Omit<Best, 'from' | 'size'>, other: Best | undefined): boolean =>
  !other ||
  one.cost < other.cost ||
  (one.cost === other.cost && (one.ml < other.ml || (one.ml === other.ml && one.count < other.count)));

/**
 * The cheapest tubes that hold so many ml and lie at so many places at once; of equal ones those that leave least, then the fewest. Exact, by
 * dynamic programming over ml and places. Nothing where nothing is needed. Throws on sizes or needs that are no positive numbers.
 */
export function packTubes(needMl: number, sizes: readonly TubeSize[], places = 1): Packed {
  const need = Math.max(0, Math.ceil(needMl - 1e-9));
  if (!Number.isFinite(needMl)) throw new RangeError(say('The amount of paint is no number.'));
  if (need === 0) return { sizes: [], costMinor: 0, leftMl: 0 };
  const sold = sizes.filter(({ ml }) => usable(ml) > 0);
  if (sold.length === 0) throw new RangeError(say('There is no size of tube to buy. Enter one.'));
  if (sold.some(({ priceMinor }) => !Number.isInteger(priceMinor) || priceMinor < 0))
    throw new RangeError(say('A price is a whole number of the smallest coin.'));
  const width = need + 1;
  const best: (Best | undefined)[] = new Array((places + 1) * width);
  best[0] = { cost: 0, ml: 0, count: 0, from: -1, size: 0 };
  for (let at = 0; at <= places; at++)
    for (let got = 0; got <= need; got++) {
      const here = best[at * width + got];
      if (!here) continue;
      for (const { ml, priceMinor } of sold) {
        const to = Math.min(places, at + 1) * width + Math.min(need, got + usable(ml));
        if (to === at * width + got) continue;
        const next = { cost: here.cost + priceMinor, ml: here.ml + ml, count: here.count + 1 };
        if (isBetter(next, best[to])) best[to] = { ...next, from: at * width + got, size: ml };
      }
    }
  const end = best[places * width + need] as Best;
  const list: number[] = [];
  for (let one = end; one.from >= 0; one = best[one.from] as Best) list.push(one.size);
  return {
    sizes: list.sort((a, b) => b - a),
    costMinor: end.cost,
    leftMl: list.reduce((sum, ml) => sum + ml * TUBE_YIELD, 0) - needMl,
  };
}

/**
 * A larger purchase whose extra money is at most half of what its extra paint costs by the ml of the first: what it costs more, and how
 * much more is left; null where there is none.
 */
export function worthMore(
  packed: Packed,
  sizes: readonly TubeSize[],
  places: number,
): { moreMinor: number; moreMl: number; sizes: number[] } | null {
  const ml = packed.sizes.reduce((sum, one) => sum + one, 0);
  if (ml === 0 || packed.costMinor === 0) return null;
  const perMl = packed.costMinor / ml;
  let found: { moreMinor: number; moreMl: number; sizes: number[] } | null = null;
  for (const { ml: size } of sizes) {
    const larger = packTubes(ml * TUBE_YIELD + usable(size) * 0.5, sizes, places);
    const moreMl = larger.sizes.reduce((sum, one) => sum + one, 0) - ml;
    const moreMinor = larger.costMinor - packed.costMinor;
    if (moreMl <= 0 || moreMinor > (perMl * moreMl) / 2) continue;
    if (!found || moreMinor / moreMl < found.moreMinor / found.moreMl) found = { moreMinor, moreMl, sizes: larger.sizes };
  }
  return found;
}
