/** The complementary error function (Numerical Recipes, 2nd edition, section 6.2; good to 1.2e-7). */
export function erfc(x: number): number {
  const z = Math.abs(x);
  const t = 1 / (1 + z / 2);
  const terms = [
    0.17087277, -0.82215223, 1.48851587, -1.13520398, 0.27886807, -0.18628806, 0.09678418, 0.37409196, 1.00002368, -1.26551223,
  ];
  const value = t * Math.exp(-z * z + terms.reduce((sum, term) => sum * t + term, 0));
  return x >= 0 ? value : 2 - value;
}

/** The normal distribution's function, within 1.2e−7. */
export function cdf(x: number): number {
  if (x === Number.POSITIVE_INFINITY) return 1;
  if (x === Number.NEGATIVE_INFINITY) return 0;
  return erfc(-x / Math.SQRT2) / 2;
}
export const density = (x: number): number => (Number.isFinite(x) ? Math.exp((-x * x) / 2) / Math.sqrt(2 * Math.PI) : 0);
