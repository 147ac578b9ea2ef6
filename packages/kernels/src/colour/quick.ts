import { deltaE00Of } from './difference.js';

const TOP7 = 25 ** 7;
/** 1/S_L² at its least, where two colours are both black or both white. */
const LEAST_LIGHT = 1 / (1 + (0.015 * 2500) / Math.sqrt(2520)) ** 2;
const CHROMA_STEPS = 8; // a unit of chroma
/** √(C⁷ / (C⁷ + 25⁷)) by mean chroma. */
const share7 = Float64Array.from({ length: 320 * CHROMA_STEPS + 2 }, (_, i) => {
  const c7 = (i / CHROMA_STEPS) ** 7;
  return Math.sqrt(c7 / (c7 + TOP7));
});
const TURN_STEPS = 2048;
/** sin(60° · exp(−((h̄ − 275°)/25°)²)) by the cosine of h̄ − 275°. */
const turning = Float64Array.from({ length: TURN_STEPS + 2 }, (_, i) => {
  const apart = (Math.acos(Math.max(-1, Math.min(1, (2 * i) / TURN_STEPS - 1))) * 180) / Math.PI;
  return Math.sin((Math.PI / 3) * Math.exp(-((apart / 25) ** 2)));
});
const between = (table: Float64Array, at: number): number => {
  const i = at | 0;
  const low = table[i];
  return low + (table[i + 1] - low) * (at - i);
};
const [cos30, sin30, cos6, sin6, cos63, sin63, cos275, sin275] = [30, 6, 63, 275].flatMap((angle) => [
  Math.cos((angle * Math.PI) / 180),
  Math.sin((angle * Math.PI) / 180),
]) as [number, number, number, number, number, number, number, number];

/** How far {@link quickDeltaE} may lie from the exact difference. */
export const QUICK_ERROR = 0.002;

/** The difference to a colour, or any number above `most` where it is certainly more than that. */
export type QuickDeltaE = (l2: number, a2: number, b2: number, most: number) => number;

/**
 * CIEDE2000 of one colour to many, ten times as fast as the exact one and within {@link QUICK_ERROR} of it: the mean hue as a
 * direction instead of an angle, its multiples by products, the slow powers from tables. For setting aside what is farther than
 * the best found; what remains is worked out exactly.
 */
export function quickDeltaE(l1: number, a1: number, b1: number): QuickDeltaE {
  const chroma1 = Math.sqrt(a1 * a1 + b1 * b1);
  return (l2, a2, b2, most) => {
    const meanC = (chroma1 + Math.sqrt(a2 * a2 + b2 * b2)) / 2;
    const gain = 1.5 - 0.5 * between(share7, meanC * CHROMA_STEPS);
    const widest = gain * meanC;
    const widely = between(share7, widest * CHROMA_STEPS);
    const tint = (1 - 0.8661 * widely) / ((1 + 0.045 * widest) * (1 + 0.045 * widest));
    if (tint * ((a2 - a1) * (a2 - a1) + (b2 - b1) * (b2 - b1)) + LEAST_LIGHT * (l2 - l1) * (l2 - l1) > most * most)
      return Number.POSITIVE_INFINITY;
    const p1 = gain * a1;
    const p2 = gain * a2;
    const c1 = Math.sqrt(p1 * p1 + b1 * b1);
    const c2 = Math.sqrt(p2 * p2 + b2 * b2);
    const mean = (c1 + c2) / 2;
    const rotation = between(share7, mean * CHROMA_STEPS);
    const off = ((l1 + l2) / 2 - 50) ** 2;
    const lightness = (l2 - l1) / (1 + (0.015 * off) / Math.sqrt(20 + off));
    const chroma = (c2 - c1) / (1 + 0.045 * mean);
    const cross = Math.max(0, 2 * (c1 * c2 - p1 * p2 - b1 * b2));
    // S_H is at most 1 + 0.015 · 1.93 · C̄′, R_T at most 2 · 0.8661 · √…: more than this it cannot fall short of.
    const least =
      lightness * lightness + (1 - 0.8661 * rotation) * (chroma * chroma + cross / (1 + 0.029 * mean) / (1 + 0.029 * mean));
    if (least > most * most) return Number.POSITIVE_INFINITY;
    if (c1 < 1e-6 || c2 < 1e-6) return deltaE00Of(l1, a1, b1, l2, a2, b2);
    const u = p1 / c1 + p2 / c2;
    const v = b1 / c1 + b2 / c2;
    const length = Math.sqrt(u * u + v * v);
    if (length < 1e-3) return deltaE00Of(l1, a1, b1, l2, a2, b2);
    const c = u / length;
    const s = v / length;
    const cos2 = c * c - s * s;
    const sin2 = 2 * c * s;
    const cos3 = c * cos2 - s * sin2;
    const sin3 = s * cos2 + c * sin2;
    const cos4 = cos2 * cos2 - sin2 * sin2;
    const sin4 = 2 * cos2 * sin2;
    const t =
      1 - 0.17 * (c * cos30 + s * sin30) + 0.24 * cos2 + 0.32 * (cos3 * cos6 - sin3 * sin6) - 0.2 * (cos4 * cos63 + sin4 * sin63);
    const hue = ((p1 * b2 >= b1 * p2 ? 1 : -1) * Math.sqrt(cross)) / (1 + 0.015 * mean * t);
    const turn = -2 * rotation * between(turning, ((c * cos275 + s * sin275 + 1) * TURN_STEPS) / 2);
    const squared = lightness * lightness + chroma * chroma + hue * hue + turn * chroma * hue;
    return Math.sqrt(Math.max(squared, 0));
  };
}
