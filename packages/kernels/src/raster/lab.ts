import { linearToSrgb, linearToXyz, srgbToLinear, white } from '../colour/index.js';
import { type LabRaster, type Plane, plane, type Rgba } from './raster.js';

/** Linear light 0-1 of every sRGB byte. */
export const linearOfByte = Float32Array.from({ length: 256 }, (_, value) => srgbToLinear(value / 255));

const STEPS = 1 << 14;
const bytes = Uint8Array.from({ length: STEPS + 1 }, (_, i) => Math.round(255 * linearToSrgb(i / STEPS)));
/** The sRGB byte of linear light 0-1; clipped. */
export const byteOfLinear = (light: number): number => bytes[light <= 0 ? 0 : light >= 1 ? STEPS : (light * STEPS + 0.5) | 0];

const knee = (6 / 29) ** 3;
/** CIE 15's cube-root function over 0-1, sampled; one step more for interpolation. */
const root = Float32Array.from({ length: STEPS + 2 }, (_, i) => {
  const t = i / STEPS;
  return t > knee ? Math.cbrt(t) : (841 / 108) * t + 4 / 29;
});
const rootOf = (t: number): number => {
  const at = t * STEPS;
  const i = at | 0;
  const low = root[i];
  return low + (root[i + 1] - low) * (at - i);
};

const columns = (
  [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ] as const
).map((unit) => linearToXyz([...unit]));
/** Share of each linear channel in X, Y and Z of the white. */
const share = [0, 1, 2].map((k) => columns.map((column) => column[k as 0] / white[k as 0]));
const [xr, xg, xb] = share[0] as [number, number, number];
const [yr, yg, yb] = share[1] as [number, number, number];
const [zr, zg, zb] = share[2] as [number, number, number];

/** L*a*b* (D65) of every pixel; alpha is left out. Within 0.02 of CIE 15. */
export function labRaster({ width, height, data }: Rgba): LabRaster {
  const count = width * height;
  const [l, a, b] = [new Float32Array(count), new Float32Array(count), new Float32Array(count)];
  for (let i = 0, at = 0; i < count; i++, at += 4) {
    const red = linearOfByte[data[at]];
    const green = linearOfByte[data[at + 1]];
    const blue = linearOfByte[data[at + 2]];
    const fx = rootOf(xr * red + xg * green + xb * blue);
    const fy = rootOf(yr * red + yg * green + yb * blue);
    const fz = rootOf(zr * red + zg * green + zb * blue);
    l[i] = 116 * fy - 16;
    a[i] = 500 * (fx - fy);
    b[i] = 200 * (fy - fz);
  }
  return { width, height, l, a, b };
}

/** Share of a byte of each channel in Y, in steps of the tables. */
const [redY, greenY, blueY] = [yr, yg, yb].map((part) => Float32Array.from(linearOfByte, (light) => light * part)) as [
  Float32Array,
  Float32Array,
  Float32Array,
];
const [redSteps, greenSteps, blueSteps] = [redY, greenY, blueY].map((table) =>
  Int32Array.from(table, (value) => Math.round(value * STEPS)),
) as [Int32Array, Int32Array, Int32Array];
const binOfY = Uint8Array.from({ length: STEPS + 4 }, (_, i) => Math.round(((116 * root[Math.min(STEPS, i)] - 16) * 255) / 100));

const littleEndian = new Uint8Array(new Uint32Array([1]).buffer)[0] === 1;

/** Lightness of every pixel in 256 steps: L* · 2.55, rounded. */
export function lightnessBins({ width, height, data }: Rgba): Uint8Array {
  const bins = new Uint8Array(width * height);
  if (littleEndian && data.byteOffset % 4 === 0) {
    // Four bytes at once.
    const pixels = new Uint32Array(data.buffer, data.byteOffset, bins.length);
    for (let i = 0; i < bins.length; i++) {
      const pixel = pixels[i];
      const y = redSteps[pixel & 255] + greenSteps[(pixel >>> 8) & 255] + blueSteps[(pixel >>> 16) & 255];
      bins[i] = binOfY[y];
    }
    return bins;
  }
  for (let i = 0, at = 0; i < bins.length; i++, at += 4) {
    const y = redSteps[data[at]] + greenSteps[data[at + 1]] + blueSteps[data[at + 2]];
    bins[i] = binOfY[y];
  }
  return bins;
}

/** L* 0-100 of every pixel. */
export function lightness(picture: Rgba): Plane {
  const { width, height, data } = picture;
  const out = plane(width, height);
  for (let i = 0, at = 0; i < out.data.length; i++, at += 4) {
    const y = redY[data[at]] + greenY[data[at + 1]] + blueY[data[at + 2]];
    out.data[i] = 116 * rootOf(y) - 16;
  }
  return out;
}
