import type { Lab, Lesson, Mix, Tube } from '@viaticum/contract';
import { languageNow, say } from '@viaticum/contract';
import { deltaE00 } from '@viaticum/kernels/colour';
import type { RecipeTable } from '@viaticum/kernels/mixing';
import { paintsOf } from '../derived/index.js';
import { mixParts, paletteSearch, recipeCost, type StockPaint, tableOf, tintingPower } from '../mix/index.js';
import { colourInWords } from '../picture/index.js';
import { uncapital } from '../units/index.js';
import type { AreaValues } from './values.js';

/** A mix to be mixed: its colour, the areas it is for with the share it takes of each, and what else it is for. */
type Wanted = { lab: Lab; weight: number; areas: Map<string, number>; lines: string[] };

export type Mixes = {
  mixes: Mix[];
  /** By area the mixes for it with the share of the area they take, dark to light. */
  shares: Map<string, { mixId: string; share: number }[]>;
};

/**
 * Mixes for the values of all areas: values of different areas that are nearly alike share one (`alike` in ΔE00), and where there are more
 * than `most` the nearest two are joined, small areas first; then recipes of at most `maxTubes` tubes, and a name from area and colour.
 */
export function* mixesFor(
  lesson: Lesson,
  values: readonly { areaId: string | null; name: string | null; isRich: boolean; areaCm2: number; values: AreaValues }[],
  { alike, most, maxTubes, isSmallest }: { alike: number; most: number; maxTubes: number; isSmallest: boolean },
  ids: () => string,
): Generator<number, Mixes> {
  let wanted: Wanted[] = values.flatMap(({ areaId, name, areaCm2, isRich, values: own }) =>
    own.values.map(
      (value): Wanted => ({
        lab: value.lab,
        // Accents take little room and make the surface.
        weight: areaCm2 * (isRich ? Math.max(LEAST_RICH, value.share) : value.share),
        areas: new Map(areaId ? [[areaId, value.share]] : []),
        lines: areaId || !name ? [] : [name],
      }),
    ),
  );
  const join = ({ i, j }: Pair) => {
    const both = joined(wanted[i] as Wanted, wanted[j] as Wanted);
    wanted = [...wanted.filter((_, k) => k !== i && k !== j), both];
  };
  for (let pair = cheapest(wanted, byColour); pair && pair.cost <= alike; pair = cheapest(wanted, byColour)) join(pair);
  for (let pair = cheapest(wanted, byLoss); pair && wanted.length > most; pair = cheapest(wanted, byLoss)) join(pair);
  const paints = paintsOf(lesson);
  const work = tableOf(paints, { maxTubes, finish: lesson.finish });
  let table = work.next();
  while (!table.done) {
    yield table.value.share * (isSmallest ? 0.5 : 1);
    table = work.next();
  }
  const found = table.value;
  const among = isSmallest ? yield* smallestOf(wanted, paints, found, lesson.finish) : ALL;
  wanted.sort((one, other) => one.lab[0] - other.lab[0]);
  const mixes = wanted.map(({ lab, areas }): Mix => {
    const recipe = simplest(found.nearest(lab, { count: 40, among }), paints, lesson.finish);
    const [first, ...others] = [...areas].sort((a, b) => b[1] - a[1]).map(([id]) => id);
    return {
      id: ids(),
      name: '',
      targetLab: lab.map((value) => Math.round(value * 10) / 10) as Lab,
      ...(first ? { areaId: first } : {}),
      ...(others.length > 0 ? { alsoAreaIds: others } : {}),
      recipe: recipe.map(({ tube, parts }) => ({ tubeId: (paints[tube] as StockPaint).id, parts })),
    };
  });
  const names = new Map(values.map((one) => [one.areaId, one.name]));
  nameMixes(
    mixes,
    wanted.map(({ areas, lines }) => {
      const [only] = [...areas.keys()].map((id) => names.get(id) ?? null).concat(lines);
      return areas.size + lines.length === 1 ? (only ?? null) : null;
    }),
  );
  const shares = new Map<string, { mixId: string; share: number }[]>();
  wanted.forEach(({ areas }, i) => {
    for (const [areaId, share] of areas)
      shares.set(areaId, [...(shares.get(areaId) ?? []), { mixId: (mixes[i] as Mix).id, share }]);
  });
  return { mixes, shares };
}

const LEAST_RICH = 0.2;
const ALL = -1;
/** Near enough for a palette that is kept small; seen side by side. */
const REACHED = 3;
/** The fewest of the paints that reach all colours which all of them reach, as bits; a white is always among them. */
function* smallestOf(
  wanted: readonly Wanted[],
  paints: readonly StockPaint[],
  table: RecipeTable,
  finish: Lesson['finish'],
): Generator<number, number> {
  if (wanted.length === 0) return ALL;
  const white = paints.find((paint) => tintingPower(paint) < WHITE_POWER);
  const search = paletteSearch(
    wanted.map((one) => one.lab),
    paints,
    { tolerance: REACHED, finish, kinds: ['touch'], ...(white ? { must: [white.id] } : {}) },
  );
  let step = search.next();
  while (!step.done) {
    yield 0.5 + 0.5 * step.value;
    step = search.next();
  }
  const { tubes, unreachable } = step.value;
  let bits = 0;
  for (const [i, paint] of paints.entries()) if (tubes.includes(paint.id)) bits |= 1 << i;
  if (bits === 0) return ALL;
  // What is not reached at all gets the tubes of the recipe that comes nearest, where that is much nearer.
  for (const at of unreachable) {
    const { lab } = wanted[at] as Wanted;
    const [own, any] = [table.nearest(lab, { among: bits })[0], table.nearest(lab)[0]];
    if (any && (!own || own.deltaE > any.deltaE + NEARER)) for (const { tube } of any.parts) bits |= 1 << tube;
  }
  return bits;
}
const NEARER = 1.5;
const WHITE_POWER = 0.05;

const joined = (one: Wanted, other: Wanted): Wanted => {
  const weight = one.weight + other.weight;
  const lab = one.lab.map((value, c) => (value * one.weight + (other.lab[c] as number) * other.weight) / weight) as Lab;
  const areas = new Map(one.areas);
  for (const [id, share] of other.areas) areas.set(id, (areas.get(id) ?? 0) + share);
  return { lab, weight, areas, lines: [...one.lines, ...other.lines] };
};

type Pair = { i: number; j: number; cost: number };
const byColour = (one: Wanted, other: Wanted) => deltaE00(one.lab, other.lab);
/** What the picture loses: the difference, times the root of the smaller one's area. */
const byLoss = (one: Wanted, other: Wanted) => deltaE00(one.lab, other.lab) * Math.sqrt(Math.min(one.weight, other.weight));

/** The two whose joining costs least. */
function cheapest(wanted: readonly Wanted[], costOf: (one: Wanted, other: Wanted) => number): Pair | null {
  let best: Pair | null = null;
  wanted.forEach((one, i) => {
    for (let j = i + 1; j < wanted.length; j++) {
      const cost = costOf(one, wanted[j] as Wanted);
      if (best === null || cost < best.cost) best = { i, j, cost };
    }
  });
  return best;
}

type Hits = { parts: { tube: number; parts: Mix['recipe'][number]['parts'] }[]; deltaE: number }[];
/** The nearest recipe, unless one that a person would rather mix comes nearly as near. */
function simplest(hits: Hits, paints: readonly StockPaint[], finish: Lesson['finish']): Hits[number]['parts'] {
  const cost = ({ parts, deltaE }: Hits[number]) =>
    deltaE +
    recipeCost(mixParts({ parts }, paints), { finish }).total +
    (parts.some((part) => paints[part.tube]?.isBlack) ? 0.3 : 0);
  const best = hits.reduce<Hits[number] | null>((least, one) => (least === null || cost(one) < cost(least) ? one : least), null);
  return best?.parts ?? [];
}

/**
 * Names from the one thing that a mix is for, where that has a name, and from the colour; those that are alike are told apart by their
 * value, then by a number.
 */
function nameMixes(mixes: Mix[], things: readonly (string | null)[]): void {
  const owners = things.map((own) => (own ? ` (${uncapital(own)})` : ''));
  const colours = mixes.map((mix) => colourInWords(mix.targetLab as Lab));
  const plain = mixes.map((_, i) => `${colours[i]}${owners[i]}`);
  mixes.forEach((mix, i) => {
    const same = plain.flatMap((other, k) => (other === plain[i] ? [k] : []));
    const rank = same.indexOf(i);
    const [owner, colour] = [owners[i] as string, colours[i] as string];
    if (same.length === 1) mix.name = `${colour}${owner}`;
    else if (same.length <= 3) mix.name = `${ranked(colour, rank, same.length)}${owner}`;
    else mix.name = `${colour} ${rank + 1}${owner}`;
  });
}

/** Two or three of one colour, told apart from dark to light: "darkest brown, dark brown", "deeper red, lighter red". */
function ranked(colour: string, rank: number, of: number): string {
  const [first = '', ...rest] = colour.split(' ');
  // How dark and pale ones grow in steps is known of English words alone.
  const own = languageNow() !== 'en' ? null : first === 'dark' ? DARK : first === 'pale' ? PALE : null;
  if (own && rest.length > 0) return [own[of === 2 ? 0 : 1]?.[rank], ...rest].join(' ');
  const [deeper, middle, lighter] = [say`deeper ${colour}`, say`middle ${colour}`, say`lighter ${colour}`];
  return (of === 2 ? [deeper, lighter] : [deeper, middle, lighter])[rank] ?? colour;
}
const DARK = [
  ['darkest', 'dark'],
  ['darkest', 'dark', 'half-dark'],
] as const;
const PALE = [
  ['pale', 'palest'],
  ['pale', 'paler', 'palest'],
] as const;

/** Tubes that some recipe needs. */
export const usedTubes = (tubes: readonly Tube[], mixes: readonly Mix[]): Tube[] => {
  const used = new Set(mixes.flatMap((mix) => mix.recipe.map((part) => part.tubeId)));
  return tubes.filter((tube) => used.has(tube.id));
};
