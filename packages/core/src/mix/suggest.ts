import type { Lab } from '@viaticum/contract';
import { deltaE00 } from '@viaticum/kernels/colour';
import { toEnd } from '@viaticum/kernels/cooperative';
import type { Hit, RecipeTable } from '@viaticum/kernels/mixing';
import { type Finish, type MixOptions, type MixPart, mixColour, partsOf, RecipeTable as Table } from '@viaticum/kernels/mixing';
import { offInWords } from '../units/index.js';
import { recipeCost } from './cost.js';
import { addingOrder, mixParts, type Paint } from './recipes.js';

/** A paint with what decides between recipes of like colour. */
export type StockPaint = Paint & {
  /** Price of a ml in the smallest coin, where it is known. */
  pricePerMl?: number | undefined;
  isBlack?: boolean | undefined;
  /** Whether other mixes of the palette use it; taken for granted where nothing is said. */
  isOpen?: boolean | undefined;
};
export const reasons = ['best', 'nearest', 'fewest', 'least-waste', 'steady', 'cheapest', 'opaque', 'without-black'] as const;
export type Reason = (typeof reasons)[number];
export type Suggestion = {
  reasons: Reason[];
  parts: { id: string; parts: MixPart['parts'] }[];
  /** Infinite film, in the state (dry or wet) in which the target is to be met. */
  lab: Lab;
  deltaE: number;
  off: string;
  /** Over the ground, in the film that the step lays. */
  film: { lab: Lab; deltaE: number; contrastRatio: number } | null;
  /** Doubling the smallest part moves the colour so far. */
  touchy: { deltaE: number; id: string };
  /** Chroma that its paints kill in each other. */
  killed: number;
  /** What all of this is worth as a difference of colour, ΔE00. */
  cost: number;
  pricePerMl: number | null;
};
export type SuggestOptions = {
  finish?: Finish;
  film?: { dryUm: number } | undefined;
  ground?: MixOptions['ground'];
  /** A target met wet: recipes are ranked by their wet colour. */
  state?: 'dry' | 'wet';
};

const REACH = 4; // ΔE00 above which a colour counts as out of reach
const AGAIN = 50;
const ALIKE = 1.5; // alternatives may be so much farther than the best
const TOUCHED_TUBES = 3;

/** Whether the nearest recipe leaves so much that a colour counts as out of reach. */
export const outOfReach = (deltaE: number): boolean => deltaE > REACH;

/**
 * The recipe that a person would mix for a target, and its alternatives: nearest, fewest tubes, least wasted, steadiest, cheapest,
 * most opaque, without black. The nearest on an infinite film are ranked again in the film that is laid, over the ground it is laid
 * on; both differences are kept. Beside the difference counts what a recipe costs ({@link recipeCost}). One recipe that is
 * several things at once is given once.
 */
export function suggest(
  target: Lab,
  paints: readonly StockPaint[],
  table: RecipeTable,
  options: SuggestOptions = {},
): Suggestion[] {
  const { finish = 'satin', film, ground, state = 'dry' } = options;
  const aim = state === 'wet' ? dryAim(target, paints, table, finish) : target;
  const judged = (hits: Hit[]) => hits.map((hit) => judge(hit, target, paints, { finish, film, ground, state }));
  const off = (one: Suggestion) => one.film?.deltaE ?? one.deltaE;
  const score = (one: Suggestion) => off(one) + one.cost;
  const least = <T>(list: T[], of: (one: T) => number) => list.reduce((best, one) => (of(one) < of(best) ? one : best));
  const near = judged(table.nearest(aim, { count: AGAIN }));
  if (near.length === 0) return [];
  const limit = (table.nearest(aim)[0] as Hit).deltaE + ALIKE;
  const pool = judged([
    ...table.nearest(aim, { count: 150, limit }),
    ...few(paints.length).flatMap((among) => table.nearest(aim, { count: 2, among, limit })),
  ]);
  const nearest = least(near, off);
  const best = least([...near, ...pool], score);
  const front = pool.filter((one) => off(one) <= off(nearest) + ALIKE);
  const found: [Reason, Suggestion][] = [
    ['best', best],
    ['nearest', nearest],
  ];
  if (front.length > 0) {
    found.push(['fewest', least(front, (one) => one.parts.length * 1000 + smalls(one) * 10 + score(one))]);
    found.push(['least-waste', least(front, (one) => one.killed * PER_KILLED + score(one))]);
    found.push(['steady', least(front, (one) => one.touchy.deltaE + score(one))]);
    const priced = front.filter((one) => one.pricePerMl !== null);
    if (priced.length > 0) found.push(['cheapest', least(priced, (one) => one.pricePerMl as number)]);
    if (film) found.push(['opaque', least(front, (one) => -(one.film?.contrastRatio ?? 0))]);
  }
  if (best.parts.some((part) => paints.find((paint) => paint.id === part.id)?.isBlack)) {
    const among = paints.reduce((bits, paint, i) => (paint.isBlack ? bits : bits | (1 << i)), 0);
    const others = judged(table.nearest(aim, { count: AGAIN, among }));
    if (others.length > 0) found.push(['without-black', least(others, score)]);
  }
  const out: Suggestion[] = [];
  for (const [reason, one] of found) {
    const same = out.find((other) => JSON.stringify(other.parts) === JSON.stringify(one.parts));
    if (same) same.reasons.push(reason);
    else out.push({ ...one, reasons: [reason] });
  }
  return out;
}

/** How much a unit of killed chroma counts where least waste is asked for. */
const PER_KILLED = 0.3;
const smalls = (one: Suggestion) => one.parts.filter((part) => typeof part.parts !== 'number').length;

/** All pairs of paints as bits, so that simple recipes are among those looked at. */
function few(count: number): number[] {
  const out: number[] = [];
  for (let i = 0; i < count; i++) for (let j = i + 1; j < count; j++) out.push((1 << i) | (1 << j));
  return out;
}

/** The dry colour whose wet paint looks like the target: found by moving the dry aim by what the nearest recipe misses wet. */
function dryAim(target: Lab, paints: readonly StockPaint[], table: RecipeTable, finish: Finish): Lab {
  let aim = target;
  for (let round = 0; round < 4; round++) {
    const [hit] = table.nearest(aim);
    if (!hit) return target;
    const parts = mixParts(hit, paints);
    const [dry, wet] = [mixColour(parts, { finish }).lab, mixColour(parts, { state: 'wet' }).lab];
    aim = target.map((value, i) => value + (dry[i] as number) - (wet[i] as number)) as Lab;
    aim[0] = Math.min(100, Math.max(0, aim[0]));
  }
  return aim;
}

function judge(hit: Hit, target: Lab, paints: readonly StockPaint[], options: SuggestOptions): Suggestion {
  const { finish = 'satin', film, ground, state = 'dry' } = options;
  // What is met wet is met as the eye sees it wet, without the veil of the dry surface.
  const surface = state === 'wet' ? {} : { finish };
  const parts = addingOrder(
    hit.parts.map(({ tube, parts }) => ({ pigment: paints[tube] as StockPaint, id: (paints[tube] as StockPaint).id, parts })),
  );
  const { lab } = mixColour(parts, { ...surface, state });
  const laid = film && mixColour(parts, { ...surface, state, film, ...(ground && { ground }) });
  const cost = recipeCost(parts, { finish, isOpen: (i) => (parts[i] as { pigment: StockPaint }).pigment.isOpen !== false });
  const { deltaE, part } = cost.touchy;
  const total = parts.reduce((sum, one) => sum + partsOf(one.parts), 0);
  const price = parts.reduce((sum, one) => sum + ((one.pigment.pricePerMl ?? Number.NaN) * partsOf(one.parts)) / total, 0);
  return {
    reasons: [],
    parts: parts.map(({ id, parts }) => ({ id, parts })),
    lab,
    deltaE: deltaE00(target, lab),
    off: offInWords(target, laid ? laid.lab : lab),
    film: laid ? { lab: laid.lab, deltaE: deltaE00(target, laid.lab), contrastRatio: laid.contrastRatio as number } : null,
    touchy: { deltaE, id: (parts[part] as { id: string }).id },
    killed: cost.killed,
    cost: cost.total,
    pricePerMl: Number.isFinite(price) ? price : null,
  };
}

/**
 * Which paint that is not there would bring a colour within reach: for each candidate the nearest whole-part recipe of it with
 * at most two of the paints, best first. Yields, so that a worker can take messages.
 */
export function* whatWouldReach(
  target: Lab,
  paints: readonly Paint[],
  candidates: readonly Paint[],
  finish: Finish = 'satin',
): Generator<number, { id: string; deltaE: number; lab: Lab }[]> {
  const out: { id: string; deltaE: number; lab: Lab }[] = [];
  // Those that alone or with one other come near are tried first with two others.
  const pairs: { paint: Paint; deltaE: number }[] = [];
  for (const [i, paint] of candidates.entries()) {
    const table = toEnd(Table.build([...paints, paint], { maxTubes: 2, smalls: 1, finish }));
    pairs.push({ paint, deltaE: table.nearest(target)[0]?.deltaE ?? Number.POSITIVE_INFINITY });
    yield (0.4 * (i + 1)) / candidates.length;
  }
  pairs.sort((one, other) => one.deltaE - other.deltaE);
  const tried = pairs.slice(0, 8);
  for (const [i, { paint }] of tried.entries()) {
    const table = toEnd(Table.build([...paints, paint], { maxTubes: TOUCHED_TUBES, smalls: 1, finish }));
    const [hit] = table.nearest(target);
    if (hit) out.push({ id: paint.id, deltaE: hit.deltaE, lab: hit.lab });
    yield 0.4 + (0.6 * (i + 1)) / tried.length;
  }
  return out.sort((one, other) => one.deltaE - other.deltaE);
}
