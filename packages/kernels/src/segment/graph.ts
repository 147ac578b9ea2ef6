import type { Labels, LabRaster } from '../raster/index.js';

/** Sums over the pixels of a region, from which its mean and the planes L, a, b(x, y) follow; sums of two regions add. */
const SUMS = 15; // n, x, y, xx, xy, yy, then value, value·x, value·y of each of L, a, b
export type Region = { sums: Float64Array; borderPx: number };
/** The common border of two regions: its length in pixel edges and the sum of its places. */
export type Border = { length: number; x: number; y: number };
export type RegionGraph = { regions: Region[]; borders: Map<number, Border>[]; pixels: number };

/** Region adjacency of a label map: for every region its sums, and for every neighbour their common border. */
export function regionGraph(map: Labels, lab: LabRaster, count: number): RegionGraph {
  const { width, height, data } = map;
  const regions: Region[] = Array.from({ length: count }, () => ({ sums: new Float64Array(SUMS), borderPx: 0 }));
  const borders: Map<number, Border>[] = Array.from({ length: count }, () => new Map());
  const meet = (i: number, j: number, x: number, y: number) => {
    let border = (borders[i] as Map<number, Border>).get(j);
    if (!border) {
      border = { length: 0, x: 0, y: 0 };
      borders[i]?.set(j, border);
      borders[j]?.set(i, border);
    }
    border.length++;
    border.x += x;
    border.y += y;
    (regions[i] as Region).borderPx++;
    (regions[j] as Region).borderPx++;
  };
  for (let y = 0, at = 0; y < height; y++)
    for (let x = 0; x < width; x++, at++) {
      const i = data[at];
      const { sums } = regions[i] as Region;
      addPixel(sums, x, y, lab.l[at], lab.a[at], lab.b[at]);
      if (x + 1 < width && data[at + 1] !== i) meet(i, data[at + 1], x + 0.5, y);
      if (y + 1 < height && data[at + width] !== i) meet(i, data[at + width], x, y + 0.5);
      if (x === 0 || y === 0 || x === width - 1 || y === height - 1) (regions[i] as Region).borderPx++;
    }
  return { regions, borders, pixels: width * height };
}

function addPixel(sums: Float64Array, x: number, y: number, l: number, a: number, b: number): void {
  const add = (i: number, value: number) => {
    sums[i] = sums[i] + value;
  };
  add(0, 1);
  add(1, x);
  add(2, y);
  add(3, x * x);
  add(4, x * y);
  add(5, y * y);
  add(6, l);
  add(7, l * x);
  add(8, l * y);
  add(9, a);
  add(10, a * x);
  add(11, a * y);
  add(12, b);
  add(13, b * x);
  add(14, b * y);
}

export const joined = (one: Region, other: Region, shared: number): Region => ({
  sums: one.sums.map((value, i) => value + other.sums[i]),
  borderPx: one.borderPx + other.borderPx - 2 * shared,
});

export const sizeOf = ({ sums }: Region): number => sums[0];

/** A region as merging sees it: pixels, mean colour, middle, and the slopes of its fitted planes. */
export type Fit = { n: number; mean: Float64Array; x: number; y: number; slope: Float64Array; borderPx: number };

const DAMP = 12;
/**
 * Mean and fitted planes L, a, b(x, y) of a region. Slopes are damped by a few pixels' worth of spread, so that tiny regions are
 * taken as flat.
 */
export function fitOf({ sums, borderPx }: Region): Fit {
  const n = sums[0];
  const x = sums[1] / n;
  const y = sums[2] / n;
  const xx = sums[3] / n - x * x + DAMP;
  const xy = sums[4] / n - x * y;
  const yy = sums[5] / n - y * y + DAMP;
  const det = xx * yy - xy * xy;
  const mean = new Float64Array(3);
  const slope = new Float64Array(6);
  for (let c = 0; c < 3; c++) {
    const m = sums[6 + 3 * c] / n;
    const vx = sums[7 + 3 * c] / n - m * x;
    const vy = sums[8 + 3 * c] / n - m * y;
    mean[c] = m;
    slope[2 * c] = (vx * yy - vy * xy) / det;
    slope[2 * c + 1] = (vy * xx - vx * xy) / det;
  }
  return { n, mean, x, y, slope, borderPx };
}
