/** A box of colours: bounds of L*, a*, b* and of chroma. */
export type Box = { l0: number; l1: number; a0: number; a1: number; b0: number; b1: number; c0: number; c1: number };

const TOP7 = 25 ** 7;
const gain = (chroma: number) => {
  const c7 = chroma ** 7;
  return 0.5 * (1 - Math.sqrt(c7 / (c7 + TOP7)));
};
const lightSpread = (l: number) => 1 + (0.015 * (l - 50) ** 2) / Math.sqrt(20 + (l - 50) ** 2);

/**
 * What no CIEDE2000 difference between a colour and any colour of a box can fall below, by parts: a distance d with lightness
 * part dL and chromatic part d² = Δa² + Δb² has ΔE00² ≥ light · dL² + tint · d². Derived from S_H ≤ S_C, the growth of S_L from
 * L* 50 and |R_T| ≤ 0.8661 · R_C (0 where both b* are at least 0, the hues then lying far from 275°).
 */
export function weightsOf(l: number, a: number, b: number, box: Box): { light: number; tint: number } {
  const chroma = Math.hypot(a, b);
  const sL = Math.max(lightSpread((l + box.l0) / 2), lightSpread((l + box.l1) / 2));
  const least = (chroma + box.c0) / 2;
  const most = ((chroma + box.c1) / 2) * (1 + gain(least));
  const sC = 1 + 0.045 * most;
  const c7 = most ** 7;
  const turn = b >= 0 && box.b0 >= 0 ? 1e-5 : 0.8661 * 2 * Math.sqrt(c7 / (c7 + TOP7));
  return { light: 1 / (sL * sL), tint: (1 - turn / 2) / (sC * sC) };
}

const gap = (value: number, low: number, high: number) => (value < low ? low - value : value > high ? value - high : 0);

/** The square of the least ΔE00 that a colour can have from any colour of a box. */
export function leastSquared(l: number, a: number, b: number, box: Box, weights = weightsOf(l, a, b, box)): number {
  return weights.light * gap(l, box.l0, box.l1) ** 2 + weights.tint * (gap(a, box.a0, box.a1) ** 2 + gap(b, box.b0, box.b1) ** 2);
}
