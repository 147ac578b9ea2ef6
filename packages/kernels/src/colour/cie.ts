import type { Lab } from '@viaticum/contract';

export type Rgb = [number, number, number];
export type Xyz = [number, number, number];

/** D65, 2 degrees: the sum of the colour weights, so that a perfect white is exactly white. */
export const white: Xyz = [95.047, 100, 108.883];

const primaries = [
  [0.64, 0.33],
  [0.3, 0.6],
  [0.15, 0.06],
] as const; // IEC 61966-2-1

/** Linear sRGB to XYZ (0-100), derived from the primaries and {@link white} so that neutrals stay neutral. */
const toXyz: number[] = (() => {
  const columns = primaries.map(([x, y]) => [x / y, 1, (1 - x - y) / y] as const);
  const [r, g, b] = columns as unknown as [Xyz, Xyz, Xyz];
  const m = [r[0], g[0], b[0], r[1], g[1], b[1], r[2], g[2], b[2]];
  const scale = multiply3(invert3(m), white);
  return m.map((value, i) => value * scale[(i % 3) as 0 | 1 | 2]);
})();
const fromXyz: number[] = invert3(toXyz);

/** The inverse of a 3×3 matrix given row by row. Throws where there is none. */
export function invert3(m: number[]): number[] {
  const [a, b, c, d, e, f, g, h, i] = m as [number, number, number, number, number, number, number, number, number];
  const det = a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g);
  if (!Number.isFinite(1 / det)) throw new RangeError('This matrix has no inverse.');
  return [
    e * i - f * h,
    c * h - b * i,
    b * f - c * e,
    f * g - d * i,
    a * i - c * g,
    c * d - a * f,
    d * h - e * g,
    b * g - a * h,
    a * e - b * d,
  ].map((value) => value / det);
}

/** A 3×3 matrix, row by row, times a vector. */
export function multiply3(m: number[], v: readonly [number, number, number]): [number, number, number] {
  const at = (i: number) => m[i];
  return [
    at(0) * v[0] + at(1) * v[1] + at(2) * v[2],
    at(3) * v[0] + at(4) * v[1] + at(5) * v[2],
    at(6) * v[0] + at(7) * v[1] + at(8) * v[2],
  ];
}

/** sRGB component 0-1 to linear light 0-1 (IEC 61966-2-1). */
export function srgbToLinear(value: number): number {
  return value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4;
}

/** Linear light 0-1 to an sRGB component 0-1 (IEC 61966-2-1). */
export function linearToSrgb(value: number): number {
  return value <= 0.0031308 ? 12.92 * value : 1.055 * value ** (1 / 2.4) - 0.055;
}

const knee = (6 / 29) ** 3;
const slope = 841 / 108;
const forward = (t: number) => (t > knee ? Math.cbrt(t) : slope * t + 4 / 29);
const back = (t: number) => (t > 6 / 29 ? t ** 3 : (t - 4 / 29) / slope);

/** XYZ (0-100, D65) to CIE L*a*b* (CIE 15). */
export function xyzToLab([x, y, z]: Xyz): Lab {
  const fx = forward(x / white[0]);
  const fy = forward(y / white[1]);
  const fz = forward(z / white[2]);
  return [116 * fy - 16, 500 * (fx - fy), 200 * (fy - fz)];
}

/** CIE L*a*b* (D65) to XYZ 0-100. */
export function labToXyz([l, a, b]: readonly [number, number, number]): Xyz {
  const fy = (l + 16) / 116;
  return [white[0] * back(fy + a / 500), white[1] * back(fy), white[2] * back(fy - b / 200)];
}

/** Linear sRGB 0-1 to XYZ 0-100. */
export function linearToXyz(rgb: Rgb): Xyz {
  return multiply3(toXyz, rgb);
}

/** sRGB 0-1 to L*a*b* (D65). */
export function srgbToLab([r, g, b]: readonly [number, number, number]): Lab {
  return xyzToLab(linearToXyz([srgbToLinear(r), srgbToLinear(g), srgbToLinear(b)]));
}

/** L*a*b* (D65) to sRGB, clipped to 0-1. */
export function labToSrgb(lab: readonly [number, number, number]): Rgb {
  return xyzToSrgb(labToXyz(lab));
}

/** XYZ 0-100 to sRGB, clipped to 0-1. */
export function xyzToSrgb(xyz: Xyz): Rgb {
  const [r, g, b] = multiply3(fromXyz, xyz);
  const clip = (value: number) => Math.min(1, Math.max(0, linearToSrgb(Math.max(0, value))));
  return [clip(r), clip(g), clip(b)];
}

/** sRGB 0-1 as `rgb(r g b)` for style sheets and SVG. */
export function cssRgb(rgb: readonly [number, number, number]): string {
  return `rgb(${rgb.map((value) => Math.round(value * 255)).join(' ')})`;
}
