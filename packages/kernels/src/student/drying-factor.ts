import { LADDER, phi16, rung } from './tables.js';

/** What touch tests found of one coat: minutes predicted, the longest at which it was not dry yet, and the shortest after that at which it was. */
export type TouchedCoat = { predictedMin: number; wetMin: number | null; dryMin: number | null };

/** Factors from 0.59 to 1.68, a thirty-second of an octave apart. */
const COUNT = 49;
const STEP = 2;
const OCTAVE = 64;
/** Before any test: 0.17 of the natural logarithm, in rungs; and how far coats of one class lie apart, 0.30. */
const PRIOR = 16;
const SPREAD = 28;
const WHOLE = 65536;
/** A tenth of all tests mean nothing. */
const MEANT = 0.9;
const NONSENSE = WHOLE / 20;

/**
 * How much longer than predicted coats dry, by touch tests: the median over a grid of factors, in whole numbers, so that every screen has the
 * same. One test moves it little, nonsense hardly at all; it never leaves 0.59 to 1.68.
 */
export function dryingFactorOf(coats: readonly TouchedCoat[]): number {
  const weights = Array.from({ length: COUNT }, (_, k) => {
    const off = (k - (COUNT - 1) / 2) * STEP;
    const below = phi16(Math.floor(((off - STEP / 2) * 32) / PRIOR));
    return phi16(Math.floor(((off + STEP / 2) * 32) / PRIOR)) - below;
  });
  for (const { predictedMin, wetMin, dryMin } of coats) {
    const rungs = (minutes: number) => rung(minutes * 60) - rung(predictedMin * 60);
    for (let k = 0; k < COUNT; k++) {
      const off = (k - (COUNT - 1) / 2) * STEP;
      const before = (minutes: number | null, otherwise: number) =>
        minutes === null ? otherwise : phi16(Math.floor(((rungs(minutes) - off) * 32) / SPREAD));
      const inside = Math.max(0, before(dryMin, WHOLE) - before(wetMin, 0));
      weights[k] = Math.floor((weights[k] * (Math.floor(MEANT * inside) + NONSENSE)) / 4096);
    }
    const most = Math.max(...weights);
    // All numbers stay whole and below 2^53.
    if (most > 1e9) for (let k = 0; k < COUNT; k++) weights[k] = Math.floor(weights[k] / 65536);
  }
  const sum = weights.reduce((total, one) => total + one, 0);
  let run = 0;
  for (let k = 0; k < COUNT; k++) {
    run += weights[k];
    if (run * 2 < sum) continue;
    const off = (k - (COUNT - 1) / 2) * STEP;
    return off >= 0 ? LADDER[OCTAVE + off] / LADDER[OCTAVE] : LADDER[OCTAVE] / LADDER[OCTAVE - off];
  }
  return 1;
}

/** How likely a coat is dry after so many minutes, of 65536, by a prediction and a factor. */
export function chanceDry(minutes: number, predictedMin: number, factor: number): number {
  const off = rung(minutes * 60) - rung(predictedMin * factor * 60);
  return phi16(Math.floor((off * 32) / (SPREAD + PRIOR / 2)));
}
