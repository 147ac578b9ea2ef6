import type { Amount, Lab } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { deltaE00 } from '@viaticum/kernels/colour';
import { toEnd } from '@viaticum/kernels/cooperative';
import {
  blend,
  type Finish,
  type Hit,
  type MixOptions,
  type MixPart,
  mixColour,
  partsOf,
  RecipeTable,
  type Spectra,
  spectraOf,
  type TableOptions,
} from '@viaticum/kernels/mixing';
import { pigmentOf } from '@viaticum/kernels/pigment';

/** A paint that recipes may name: a pigment of the table by its id, or a paint of one's own. */
export type Paint = Spectra & { id: string };
export type RecipeOfPigments = { parts: { pigment: string; parts: Amount }[]; deltaE: number; lab: Lab };

/** Above this many tubes recipes keep to whole parts and one touch, so that the table stays within memory. */
const FULL_GRID_TUBES = 16;
export const MOST_TUBES = 24;

export function soundTarget(target: Lab): Lab {
  const [l, a, b] = target;
  if (!(l >= 0 && l <= 100 && Math.abs(a) <= 160 && Math.abs(b) <= 160))
    throw new RangeError(say('A colour needs L* between 0 and 100 and a*, b* between −160 and 160. Check the three numbers.'));
  return target;
}

/** Paints by id or as given; the same one twice counts once. Throws a sentence where there are none or too many. */
export function soundPaints(tubes: readonly (string | Paint)[]): Paint[] {
  const paints = tubes.map((tube) => (typeof tube === 'string' ? pigmentOf(tube) : tube));
  const different = [...new Map(paints.map((paint) => [paint.id, paint])).values()];
  if (different.length === 0) throw new RangeError(say('There are no tubes to mix from. Add at least one.'));
  if (different.length > MOST_TUBES)
    throw new RangeError(
      say`Recipes are sought among at most ${MOST_TUBES} tubes. Leave out some that the picture will not need.`,
    );
  return different;
}

const gridFor = (tubes: number): Pick<TableOptions, 'smalls' | 'kinds'> =>
  tubes > FULL_GRID_TUBES ? { smalls: 1, kinds: ['touch'] } : { smalls: 3 };

const numbers = new WeakMap<object, number>();
let numbered = 0;
const numberOf = (paint: Spectra) => {
  const known = numbers.get(paint) ?? ++numbered;
  numbers.set(paint, known);
  return known;
};
const KEPT = 2;
const kept: { key: string; table: RecipeTable }[] = [];

/** The table of all recipes of some paints, built once and kept; yields the share done and what can be asked meanwhile. */
export function* tableOf(
  paints: readonly Paint[],
  options: TableOptions = {},
): Generator<{ share: number; table: RecipeTable }, RecipeTable> {
  const full = { maxTubes: 4, finish: 'satin' as Finish, ...gridFor(paints.length), ...options };
  const key = JSON.stringify([paints.map(numberOf), full]);
  const found = kept.find((one) => one.key === key);
  if (found) return found.table;
  const table = yield* RecipeTable.build(paints, full);
  kept.unshift({ key, table });
  kept.length = Math.min(kept.length, KEPT);
  return table;
}

/**
 * The best recipes for a dry colour (satin, infinite film) by ΔE00, best first, of at most `maxTubes` tubes: whole parts with a
 * sum up to 12 and among them at most two small amounts (a touch is 1/16 part, a speck 1/64), three in white alone. Exact over this grid; with more
 * than 16 tubes the grid has at most one touch. The table of recipes is kept, so that later colours are quick. Throws a
 * RangeError with a sentence on no tubes, more than 24, or a colour that cannot be.
 */
export function findRecipes(
  targetLab: Lab,
  tubes: readonly (string | Paint)[],
  { maxTubes = 4, count = 5, finish = 'satin' }: { maxTubes?: number; count?: number; finish?: Finish } = {},
): RecipeOfPigments[] {
  const target = soundTarget(targetLab);
  const paints = soundPaints(tubes);
  const table = toEnd(tableOf(paints, { maxTubes, finish }));
  // A few more than asked for: colours are kept in single precision, the last order is by the exact ones.
  return table
    .nearest(target, { count: count + 4 })
    .map((hit): RecipeOfPigments => {
      const { lab } = mixColour(mixParts(hit, paints), { finish });
      return { parts: namedParts(hit, paints), deltaE: deltaE00(target, lab), lab };
    })
    .sort((one, other) =>
      Math.abs(one.deltaE - other.deltaE) < 1e-9 ? one.parts.length - other.parts.length : one.deltaE - other.deltaE,
    )
    .slice(0, count);
}

export const mixParts = (hit: Pick<Hit, 'parts'>, paints: readonly Spectra[]): MixPart[] =>
  hit.parts.map(({ tube, parts }) => ({ pigment: paints[tube] as Spectra, parts }));
const namedParts = (hit: Hit, paints: readonly Paint[]) =>
  hit.parts.map(({ tube, parts }) => ({ pigment: (paints[tube] as Paint).id, parts }));

/** How strongly a part of paint colours a mix: its mean absorption 400–700 nm a volume part (white about 0.005, ultramarine 2, phthalo blue 45). */
export function tintingPower(paint: string | Spectra): number {
  const { K } = spectraOf(paint);
  let sum = 0;
  for (let i = 2; i <= 32; i++) sum += K[i] as number;
  return sum / 31;
}

/** The order in which to put a recipe together: the light and weak first, the strong and the small amounts last (common practice, no published source). */
export function addingOrder<T extends MixPart>(parts: readonly T[]): T[] {
  const isSmall = (part: T) => (typeof part.parts === 'number' ? 0 : 1);
  return [...parts].sort(
    (one, other) => isSmall(one) - isSmall(other) || tintingPower(one.pigment) - tintingPower(other.pigment),
  );
}

/**
 * How far the dry colour moves (ΔE00) when a small amount is doubled, and which part that is (its place): of all touches and specks
 * the one that moves it most; without any the smallest part. 0 for a single tube.
 */
export function sensitivity(parts: readonly MixPart[], options: MixOptions = {}): { deltaE: number; part: number } {
  if (parts.length < 2) return { deltaE: 0, part: 0 };
  const smallest = parts.reduce(
    (least, one, i) => (partsOf(one.parts) < partsOf((parts[least] as MixPart).parts) ? i : least),
    0,
  );
  const smalls = parts.flatMap((one, i) => (typeof one.parts === 'number' ? [] : [i]));
  const { lab } = mixColour(parts, options);
  let worst = { deltaE: -1, part: smallest };
  for (const part of smalls.length > 0 ? smalls : [smallest]) {
    const doubled = parts.map((one, i) => (i === part ? { ...one, parts: 2 * partsOf(one.parts) } : one));
    const deltaE = deltaE00(lab, mixColour(doubled, options).lab);
    if (deltaE > worst.deltaE) worst = { deltaE, part };
  }
  return worst;
}

/** A paint of what is mixed from others, under a name of its own (a mix as part of another mix, a tube let down with white). */
export const mixedPaint = (id: string, parts: readonly MixPart[]): Paint => ({ id, ...blend(parts) });
