import { type Amount, type SmallAmount, smallAmounts } from '@viaticum/contract';

/** Whole parts of a recipe add up to at most so many, so that a student can count them out. */
export const MOST_PARTS = 12;
export type { SmallAmount };

/** Among whole parts of any paints a small amount is taken once; in white alone also twice and three times. */
const ONCE: readonly SmallAmount[] = ['touch', 'speck'];

/** Whole parts for `tubes` tubes, one row after the other in lexicographic order; coprime ones only, or all with a sum up to 12. */
export type PartsList = { tubes: number; count: number; parts: Uint8Array };

const gcd = (a: number, b: number): number => (b === 0 ? a : gcd(b, a % b));

function listParts(tubes: number, coprime: boolean): PartsList {
  const out: number[] = [];
  let count = 0;
  const fill = (row: number[], left: number, divisor: number) => {
    if (row.length === tubes) {
      if (coprime && divisor > 1) return;
      out.push(...row);
      count++;
      return;
    }
    const most = left - (tubes - row.length - 1);
    for (let parts = 1; parts <= most; parts++) fill([...row, parts], left - parts, gcd(divisor, parts));
  };
  fill([], MOST_PARTS, 0);
  return { tubes, count, parts: Uint8Array.from(out) };
}

const lists = new Map<string, PartsList>();
/** All whole parts that a recipe of so many tubes may have. */
export function partsList(tubes: number, coprime: boolean): PartsList {
  const key = `${tubes}${coprime}`;
  const found = lists.get(key) ?? listParts(tubes, coprime);
  lists.set(key, found);
  return found;
}

/** Recipes of the same tubes and the same small amounts; only their whole parts differ. */
export type Block = {
  whole: number[];
  small: { tube: number; amount: SmallAmount }[];
  list: PartsList;
  /** The tubes as bits. */
  mask: number;
  /** Number of the block's first recipe in its tier. */
  first: number;
};
/** Recipes with the same number of small amounts: 0 to 3. */
export type TierPlan = { blocks: Block[]; rows: number };

function* choose(from: readonly number[], count: number): Generator<number[]> {
  if (count === 0) {
    yield [];
    return;
  }
  for (let i = 0; i + count <= from.length; i++)
    for (const rest of choose(from.slice(i + 1), count - 1)) yield [from[i], ...rest];
}

/**
 * The grid of recipes of at most `maxTubes` of `tubes` tubes with exactly `smalls` small amounts. Whole parts are coprime
 * where there are no small amounts (2 : 2 is 1 : 1); beside a small amount they are not reduced, since 4 : a touch is not
 * 1 : a touch. With 12 tubes: 283 207, 961 488 and 815 760 recipes.
 */
export function tierPlan(tubes: number, maxTubes: number, smalls: number, kinds: readonly SmallAmount[] = ONCE): TierPlan {
  const all = Array.from({ length: tubes }, (_, i) => i);
  const blocks: Block[] = [];
  let rows = 0;
  for (let wholes = 1; wholes + smalls <= Math.min(maxTubes, tubes); wholes++) {
    const list = partsList(wholes, smalls === 0);
    for (const whole of choose(all, wholes))
      for (const block of seasoned(all, whole, list, smalls, kinds)) {
        blocks.push({ ...block, first: rows });
        rows += list.count;
      }
  }
  return { blocks, rows };
}

/**
 * The grid of pale tints: whole parts of one of the `whites` alone, and in it up to three small amounts, each taken once to three
 * times, as far as these are not in the other tiers (up to two amounts taken once in up to 12 parts). With 12 tubes, one of them white: 562 386.
 */
export function palePlan(tubes: number, maxTubes: number, whites: readonly number[]): TierPlan {
  const all = Array.from({ length: tubes }, (_, i) => i);
  const blocks: Block[] = [];
  let rows = 0;
  for (const white of whites)
    for (let smalls = 1; smalls < Math.min(maxTubes, tubes, MOST_IN_WHITE + 1); smalls++)
      for (const block of seasoned(all, [white], anyWhite, smalls, smallAmounts)) {
        const isKnown = smalls < MOST_IN_WHITE && block.small.every(({ amount }) => ONCE.includes(amount));
        const list = isKnown ? muchWhite : anyWhite;
        blocks.push({ ...block, list, first: rows });
        rows += list.count;
      }
  return { blocks, rows };
}
const MOST_IN_WHITE = 3;
/** The most parts that a recipe names of one paint. */
export const MOST_WHITE = 32;
/** The palest tints take a large heap of white, counted by eights. */
const LARGE_HEAPS = [16, 24, MOST_WHITE];
const whiteParts = (parts: number[]): PartsList => ({ tubes: 1, count: parts.length, parts: Uint8Array.from(parts) });
const anyWhite = whiteParts([...Array.from({ length: MOST_PARTS }, (_, i) => i + 1), ...LARGE_HEAPS]);
const muchWhite = whiteParts(LARGE_HEAPS);

/** Whole parts of some tubes, with so many small amounts of others in every way. */
function* seasoned(
  all: readonly number[],
  whole: number[],
  list: PartsList,
  smalls: number,
  kinds: readonly SmallAmount[],
): Generator<Omit<Block, 'first'>> {
  const amounts = (count: number): SmallAmount[][] =>
    count === 0 ? [[]] : amounts(count - 1).flatMap((one) => kinds.map((kind) => [...one, kind]));
  const rest = all.filter((tube) => !whole.includes(tube));
  for (const tubes of choose(rest, smalls))
    for (const kind of amounts(smalls)) {
      const small = tubes.map((tube, i) => ({ tube, amount: kind[i] as SmallAmount }));
      const mask = [...whole, ...tubes].reduce((bits, tube) => bits | (1 << tube), 0);
      yield { whole, small, list, mask };
    }
}

/** The amounts of one recipe of a block. */
export function amountsOf(block: Block, row: number): { tube: number; parts: Amount }[] {
  const at = row * block.list.tubes;
  return [
    ...block.whole.map((tube, i) => ({ tube, parts: block.list.parts[at + i] })),
    ...block.small.map(({ tube, amount }) => ({ tube, parts: amount })),
  ];
}
