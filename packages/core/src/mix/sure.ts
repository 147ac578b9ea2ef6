import type { Mix } from '@viaticum/contract';
import { deltaE00 } from '@viaticum/kernels/colour';
import { mixColour, type Spectra } from '@viaticum/kernels/mixing';
import type { Calibrated } from './calibrate.js';
import type { Stock } from './mix-look.js';
import { paintOf } from './tube.js';

/** Paint of another make is up to twice as strong or half: one standard deviation of the logarithm of its absorption (judged). */
const OTHER_MAKE = 0.4;
/** Mixing itself: counting parts, stirring, the model (judged), ΔE00. */
const MODEL = 0.7;

const spreads = new WeakMap<object, readonly Spectra[]>();
function spreadOf(paint: Spectra): readonly Spectra[] {
  const known = spreads.get(paint);
  if (known) return known;
  const own = (paint as Partial<Calibrated>).spread ?? [
    { ...paint, K: Float64Array.from(paint.K, (value) => value * Math.exp(OTHER_MAKE)) },
  ];
  spreads.set(paint, own);
  return own;
}

/**
 * How far the colour of a mix of tubes may be off because its tubes are not known better, ΔE00, one standard deviation: each tube is
 * moved by what its samples leave open, or, where it is only the table's, by what makes differ. Null for a mix without tubes.
 */
export function howSure(mix: Mix, { tubes, finish }: Pick<Stock, 'tubes' | 'finish'>): number | null {
  const parts = mix.recipe.flatMap(({ tubeId, parts: amount }) => {
    const tube = tubes.find((one) => one.id === tubeId);
    return tube ? [{ pigment: paintOf(tube), parts: amount }] : [];
  });
  if (parts.length === 0) return null;
  const { lab } = mixColour(parts, { finish });
  let sum = MODEL ** 2;
  parts.forEach(({ pigment }, i) => {
    for (const moved of spreadOf(pigment)) {
      const other = parts.map((part, k) => (k === i ? { ...part, pigment: moved } : part));
      sum += deltaE00(lab, mixColour(other, { finish }).lab) ** 2;
    }
  });
  return Math.sqrt(sum);
}
