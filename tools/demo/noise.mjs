// Small helpers of the painted scenes.
const { floor, imul, max, min } = Math;
export const mix = (a, b, t) => a.map((value, i) => value + (b[i] - value) * t);
export const clamp = (value) => min(1, max(0, value));
export const smooth = (from, to, value) => {
  const t = clamp((value - from) / (to - from));
  return t * t * (3 - 2 * t);
};

/** Value noise of a seed: 0…1, smooth, the same on every machine. */
export function noise(seed) {
  const at = (x, y) => {
    let h = imul(x, 374761393) ^ imul(y, 668265263) ^ imul(seed, 2246822519);
    h = imul(h ^ (h >>> 13), 1274126177);
    return ((h ^ (h >>> 16)) >>> 0) / 2 ** 32;
  };
  const one = (x, y) => {
    const [i, j] = [floor(x), floor(y)];
    const [u, v] = [smooth(0, 1, x - i), smooth(0, 1, y - j)];
    const top = at(i, j) + (at(i + 1, j) - at(i, j)) * u;
    const foot = at(i, j + 1) + (at(i + 1, j + 1) - at(i, j + 1)) * u;
    return top + (foot - top) * v;
  };
  return (x, y) => (one(x, y) + one(x * 2.1 + 17, y * 2.1) / 2 + one(x * 4.3, y * 4.3 + 9) / 4) / 1.75;
}
