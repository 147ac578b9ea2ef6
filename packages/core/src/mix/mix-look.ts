import type { Amount, Mix, Tube } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { cssRgb, deltaE00 } from '@viaticum/kernels/colour';
import { blend, type Finish, type MixedColour, type MixPart, mixColour, partsOf, type Spectra } from '@viaticum/kernels/mixing';
import { offInWords } from '../units/index.js';
import { addingOrder } from './recipes.js';
import type { StockPaint } from './suggest.js';
import { paintOf, shortTubeName, tubeRgb } from './tube.js';
import { recipeInWords } from './words.js';

/** A part of a mix with its name: a tube of the list or another mix. */
export type LookPart = {
  tubeId?: string;
  mixId?: string;
  name: string;
  rgb: string;
  weight: number;
  parts: Amount;
  paint: Spectra;
};
/** A mix with everything computed about it; `colour` and `wet` are null while it has no recipe. */
export type MixLook = {
  mix: Mix;
  colour: MixedColour | null;
  wet: MixedColour | null;
  rgb: string;
  /** Wet, seen through the veil that the dry surface will have, so that the two can be compared. */
  wetRgb: string;
  words: string;
  /** In the order in which to put them together. */
  parts: LookPart[];
  /** Against the target, in the state (dry or wet) in which it is to be met. */
  deltaE: number | null;
  off: string | null;
};

const unmixed = 'rgb(190 190 190)';

/** What can be mixed from: the tubes and mixes of a lesson, and what a tube is taken to hold where not as `paintOf` has it. */
export type Stock = { tubes: readonly Tube[]; mixes: readonly Mix[]; finish: Finish; paint?: (tube: Tube) => Spectra };

/** A recipe as parts of paints, mixes within it mixed already; null where it is empty. A mix that would be part of itself is left out. */
export function recipeParts(mix: Mix, stock: Stock, within: readonly string[] = []): MixPart[] | null {
  const parts = lookParts(mix, stock, within);
  return parts.length > 0 ? parts.map((part) => ({ pigment: part.paint, parts: part.parts })) : null;
}

function lookParts(mix: Mix, stock: Stock, within: readonly string[] = []): LookPart[] {
  const { finish } = stock;
  const inside = [...within, mix.id];
  const mixes = (mix.mixedFrom ?? []).flatMap(({ mixId, parts }): LookPart[] => {
    const part = stock.mixes.find((one) => one.id === mixId);
    const own = part && !inside.includes(mixId) ? recipeParts(part, stock, inside) : null;
    if (!part || !own) return [];
    const rgb = cssRgb(mixColour(own, { finish }).srgb);
    return [{ mixId, name: part.name, rgb, weight: partsOf(parts), parts, paint: blend(own) }];
  });
  const tubes = mix.recipe.flatMap(({ tubeId, parts }): LookPart[] => {
    const tube = stock.tubes.find((one) => one.id === tubeId);
    if (!tube) return [];
    return [
      {
        tubeId,
        name: shortTubeName(tube),
        rgb: cssRgb(tubeRgb(tube, finish)),
        weight: partsOf(parts),
        parts,
        paint: (stock.paint ?? paintOf)(tube),
      },
    ];
  });
  return addingOrder([...mixes, ...tubes].map((part) => ({ ...part, pigment: part.paint }))).map(
    ({ pigment: _, ...part }) => part,
  );
}

/** Everything computed about one mix of a stock. */
export function mixLook(mix: Mix, stock: Stock): MixLook {
  const parts = lookParts(mix, stock);
  const { finish } = stock;
  const mixed = parts.map((part) => ({ pigment: part.paint, parts: part.parts }));
  const colour = parts.length > 0 ? mixColour(mixed, { finish }) : null;
  const wet = parts.length > 0 ? mixColour(mixed, { state: 'wet' }) : null;
  const seen = mix.targetState === 'wet' ? wet : colour;
  return {
    mix,
    colour,
    wet,
    rgb: colour ? cssRgb(colour.srgb) : unmixed,
    wetRgb: parts.length > 0 ? cssRgb(mixColour(mixed, { state: 'wet', finish }).srgb) : unmixed,
    words:
      parts.length > 0
        ? recipeInWords(
            parts.map((part, i) => ({ tubeId: String(i), parts: part.parts })),
            (i) => (parts[Number(i)] as LookPart).name,
          )
        : say('no recipe yet'),
    parts,
    deltaE: seen && mix.targetLab ? deltaE00(mix.targetLab, seen.lab) : null,
    off: seen && mix.targetLab ? offInWords(mix.targetLab, seen.lab) : null,
  };
}

const blacks = new Set(['PBk7', 'PBk9', 'PBk11']);
/** What recipes are sought among: the tubes, and the mixes let down beforehand. */
export function stockOf(lesson: Omit<Stock, 'finish'> & { finish?: Finish }, without: readonly string[] = []): StockPaint[] {
  const tubes = lesson.tubes
    .filter((tube) => !without.includes(tube.id))
    .map(
      (tube): StockPaint => ({
        id: tube.id,
        ...pick(paintOf(tube)),
        pricePerMl: tube.priceMinor !== undefined && tube.sizeMl ? tube.priceMinor / tube.sizeMl : undefined,
        isBlack: blacks.has(tube.pigment),
      }),
    );
  const letDown = lesson.mixes.flatMap((mix): StockPaint[] => {
    const parts =
      mix.letDown && !mix.recipe.some((part) => without.includes(part.tubeId))
        ? recipeParts(mix, { finish: 'satin', ...lesson })
        : null;
    return parts ? [{ id: mix.id, ...blend(parts) }] : [];
  });
  return [...tubes, ...letDown];
}
const pick = ({ K, S, film }: Spectra): Spectra => ({ K, S, film });
