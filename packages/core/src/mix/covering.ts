import type { Lab } from '@viaticum/contract';
import { deltaE00 } from '@viaticum/kernels/colour';
import { type Finish, type MixOptions, type MixPart, mixColour } from '@viaticum/kernels/mixing';

/** Contrast ratio from which a film counts as hiding (ISO 6504-3, ASTM D2805). */
export const HIDES_AT = 0.98;
/** Difference from the same mix laid without end under which what lies below no longer shows. */
const SHOWS_UNDER = 2;
const MOST_COATS = 12;

export type Covering = {
  /** Contrast ratio over black and white of one coat. */
  contrastRatio: number;
  /** Dry thickness with contrast ratio 0.98, µm; Infinity where none up to 2 mm has it. */
  hidingUm: number;
  /** Coats until black and white look alike under it, by contrast ratio; null where more than twelve. */
  chartCoats: number | null;
  /** Coats until the underlayer no longer shows (ΔE00 ≤ 2 to the same mix without end); null where more than twelve. */
  coats: number | null;
  /** What one coat looks like over the underlayer, and how far that is from the mix itself. */
  oneCoat: { lab: Lab; deltaE: number };
};

/** How a mix covers: laid in coats of a dry thickness over what lies below. */
export function covering(
  parts: readonly MixPart[],
  dryUm: number,
  ground: MixOptions['ground'],
  finish: Finish = 'satin',
): Covering {
  const options = (coats: number): MixOptions => ({ finish, film: { dryUm: dryUm * coats }, ...(ground && { ground }) });
  const own = mixColour(parts, { finish }).lab;
  const one = mixColour(parts, options(1));
  const left = (coats: number) => deltaE00(own, mixColour(parts, options(coats)).lab);
  let coats: number | null = null;
  // More paint does not always bring a colour nearer at every thickness: the first number from which on it stays hidden.
  for (let count = MOST_COATS; count >= 1 && left(count) <= SHOWS_UNDER; count--) coats = count;
  const hidesAt = hidingUm(parts, finish);
  const chart = Math.ceil(hidesAt / dryUm - 1e-9);
  return {
    contrastRatio: one.contrastRatio as number,
    hidingUm: hidesAt,
    chartCoats: chart <= MOST_COATS ? chart : null,
    coats,
    oneCoat: { lab: one.lab, deltaE: deltaE00(own, one.lab) },
  };
}

/** The dry thickness (µm) with contrast ratio 0.98, by bisection; Infinity where even 2 mm do not have it. */
export function hidingUm(parts: readonly MixPart[], finish: Finish = 'satin'): number {
  const ratio = (dryUm: number) => mixColour(parts, { finish, film: { dryUm } }).contrastRatio as number;
  let [low, high] = [0.01, 2000];
  if (ratio(high) < HIDES_AT) return Number.POSITIVE_INFINITY;
  for (let i = 0; i < 50; i++) {
    const middle = Math.sqrt(low * high);
    if (ratio(middle) < HIDES_AT) low = middle;
    else high = middle;
  }
  return high;
}

/** Spreading rate (m² a litre of dry paint) at which a mix hides with contrast ratio 0.98. */
export const spreadingRate = (parts: readonly MixPart[], finish: Finish = 'satin'): number => 1000 / hidingUm(parts, finish);

/** Parts of medium that makers and painters count out (common practice, no published source). */
const DILUTIONS = [2, 4, 8, 12, 16, 24, 32, 48];
/** The dry paint that one pass of a glaze leaves, µm. */
const GLAZE_UM = 8;
/** A glaze is to tint what lies below and not to hide it: a middle grey may move so far, ΔE00 (judged). */
const GLAZE_MOVES = 15;
const MIDDLE_GREY: Lab = [70, 0, 0];

/**
 * Parts of clear medium to one of a mix in a glaze: the fewest usual ones with which one pass tints a middle grey without
 * drowning it. Two for raw umber, four for ultramarine, 32 for phthalo blue.
 */
export function glazeMedium(parts: readonly MixPart[], finish: Finish = 'satin'): number {
  const tints = (medium: number) => glazeOver(parts, MIDDLE_GREY, { medium, dryUm: GLAZE_UM, finish }).deltaE <= GLAZE_MOVES;
  return DILUTIONS.find(tints) ?? (DILUTIONS.at(-1) as number);
}

/**
 * A glaze over a dried colour: the mix thinned with so many parts of clear medium, as a film over it. Medium neither absorbs nor
 * scatters, so that the paint in it is a film thinner by as much.
 */
export function glazeOver(
  parts: readonly MixPart[],
  over: Lab,
  { medium, dryUm, finish = 'satin' }: { medium: number; dryUm: number; finish?: Finish },
): { lab: Lab; deltaE: number } {
  const { lab } = mixColour(parts, { finish, film: { dryUm: dryUm / (1 + medium) }, ground: over });
  return { lab, deltaE: deltaE00(over, lab) };
}
