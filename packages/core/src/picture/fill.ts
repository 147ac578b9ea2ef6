import type { Outline } from '@viaticum/contract';
import { byteOfLinear, linearOfByte, type Rgba } from '@viaticum/kernels/raster';
import { grow } from '@viaticum/kernels/segment';
import { labelSheets } from '../area/index.js';

/** Solved at a quarter of the size each way; what is filled is smooth. */
const QUARTER = 4;

/**
 * Fills masked pixels, in place, with what lies behind: each takes the colours of the frontmost remaining area at its place,
 * carried in smoothly from where that area is seen (Laplace's equation with the seen pixels as border values, area by area).
 * `mask` is the thing grown by some mm, so that its rim does not spread; `core` the thing itself. An area seen nowhere takes the
 * mean of all that is seen. Gives the numbers of the areas whose surface near the mask is patterned, where a smooth fill shows.
 */
export function fillFromBehind(
  picture: Rgba,
  mask: Uint8Array,
  core: Uint8Array,
  behind: readonly { outline: Outline }[],
  mmPerPx: number,
): number[] {
  const { width, height, data } = picture;
  const areas = labelSheets(
    behind.map((area) => area.outline),
    width,
    height,
    mmPerPx,
  );
  const [w, h] = [Math.ceil(width / QUARTER), Math.ceil(height / QUARTER)];
  const count = w * h;
  const areaOf = new Int32Array(count).fill(-2);
  const known = new Uint8Array(count);
  const colour = [new Float32Array(count), new Float32Array(count), new Float32Array(count)];
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const at = y * w + x;
      const middle = Math.min(height - 1, y * QUARTER + 2) * width + Math.min(width - 1, x * QUARTER + 2);
      areaOf[at] = areas.data[middle] as number;
      let [r, g, b, n] = [0, 0, 0, 0];
      for (let dy = 0; dy < QUARTER; dy++)
        for (let dx = 0; dx < QUARTER; dx++) {
          const [px, py] = [x * QUARTER + dx, y * QUARTER + dy];
          if (px >= width || py >= height) continue;
          const pixel = py * width + px;
          if (mask[pixel] || areas.data[pixel] !== areaOf[at]) continue;
          r += linearOfByte[data[pixel * 4] as number] as number;
          g += linearOfByte[data[pixel * 4 + 1] as number] as number;
          b += linearOfByte[data[pixel * 4 + 2] as number] as number;
          n++;
        }
      if (n === 0) continue;
      known[at] = 1;
      (colour[0] as Float32Array)[at] = r / n;
      (colour[1] as Float32Array)[at] = g / n;
      (colour[2] as Float32Array)[at] = b / n;
    }
  // Start from the mean of each area, then relax.
  const sums = new Map<number, [number, number, number, number]>();
  for (let at = 0; at < count; at++) {
    if (!known[at]) continue;
    for (const key of [areaOf[at] as number, -9]) {
      const sum = sums.get(key) ?? [0, 0, 0, 0];
      for (let c = 0; c < 3; c++) sum[c as 0] += (colour[c] as Float32Array)[at] as number;
      sum[3]++;
      sums.set(key, sum);
    }
  }
  const open: number[] = [];
  for (let at = 0; at < count; at++) {
    if (known[at]) continue;
    const sum = sums.get(areaOf[at] as number) ?? sums.get(-9) ?? [0.5, 0.5, 0.5, 1];
    for (let c = 0; c < 3; c++) (colour[c] as Float32Array)[at] = (sum[c as 0] as number) / sum[3];
    open.push(at);
  }
  const patterned = patternedAreas(open, known, colour[1] as Float32Array, areaOf, w, h);
  relax(open, colour, areaOf, w, h);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const pixel = y * width + x;
      if (!mask[pixel]) continue;
      const area = areas.data[pixel] as number;
      const [fx, fy] = [(x - 1.5) / QUARTER, (y - 1.5) / QUARTER];
      const [x0, y0] = [Math.floor(fx), Math.floor(fy)];
      let [r, g, b, weight] = [0, 0, 0, 0];
      for (let dy = 0; dy <= 1; dy++)
        for (let dx = 0; dx <= 1; dx++) {
          const [cx, cy] = [Math.min(w - 1, Math.max(0, x0 + dx)), Math.min(h - 1, Math.max(0, y0 + dy))];
          const at = cy * w + cx;
          const share = (dx ? fx - x0 : 1 - fx + x0) * (dy ? fy - y0 : 1 - fy + y0) * (areaOf[at] === area ? 1 : 1e-4) + 1e-7;
          r += share * ((colour[0] as Float32Array)[at] as number);
          g += share * ((colour[1] as Float32Array)[at] as number);
          b += share * ((colour[2] as Float32Array)[at] as number);
          weight += share;
        }
      // Towards the rim of the grown mask the picture itself comes back in.
      if (!core[pixel] && area === -1) continue;
      data[pixel * 4] = byteOfLinear(r / weight);
      data[pixel * 4 + 1] = byteOfLinear(g / weight);
      data[pixel * 4 + 2] = byteOfLinear(b / weight);
    }
  return patterned;
}

const PATTERN_REACH = 25;
const PATTERN_L = 7.5;
/** Areas in which lightness near the open cells strays far (standard deviation in L*) from an even slope. */
function patternedAreas(
  open: readonly number[],
  known: Uint8Array,
  green: Float32Array,
  areaOf: Int32Array,
  w: number,
  h: number,
): number[] {
  const mask = new Uint8Array(w * h);
  for (const at of open) mask[at] = 1;
  const near = grow(mask, w, h, PATTERN_REACH);
  const wanted = new Set(open.map((at) => areaOf[at] as number));
  const cells = new Map<number, number[]>();
  for (let at = 0; at < known.length; at++) {
    const area = areaOf[at] as number;
    if (!known[at] || !near[at] || area < 0 || !wanted.has(area)) continue;
    const list = cells.get(area);
    if (list) list.push(at);
    else cells.set(area, [at]);
  }
  const found: number[] = [];
  for (const [area, list] of cells) {
    if (list.length < 40) continue;
    const sums = new Float64Array(9); // x, y, v, xx, xy, yy, xv, yv, vv
    for (const at of list) {
      const x = at % w;
      const y = Math.floor(at / w);
      const v = 116 * Math.cbrt(green[at] as number) - 16;
      const add = [x, y, v, x * x, x * y, y * y, x * v, y * v, v * v];
      for (let i = 0; i < 9; i++) sums[i] = (sums[i] as number) + (add[i] as number);
    }
    const n = list.length;
    const mean = (i: number) => (sums[i] as number) / n;
    const xx = mean(3) - mean(0) ** 2 + 1e-6;
    const xy = mean(4) - mean(0) * mean(1);
    const yy = mean(5) - mean(1) ** 2 + 1e-6;
    const xv = mean(6) - mean(0) * mean(2);
    const yv = mean(7) - mean(1) * mean(2);
    const det = xx * yy - xy * xy;
    const explained = det > 1e-9 ? (xv * (xv * yy - yv * xy) + yv * (yv * xx - xv * xy)) / det : 0;
    if (Math.sqrt(Math.max(0, mean(8) - mean(2) ** 2 - explained)) > PATTERN_L) found.push(area);
  }
  return found;
}

/** Successive over-relaxation of Laplace's equation on the open cells; borders of areas let nothing through. */
function relax(open: readonly number[], colour: readonly Float32Array[], areaOf: Int32Array, w: number, h: number): void {
  if (open.length === 0) return;
  const span = Math.sqrt(open.length);
  const omega = 2 / (1 + Math.PI / Math.max(4, span));
  const rounds = Math.min(400, Math.ceil(3 * span));
  const around = new Int32Array(open.length * 4).fill(-1);
  open.forEach((at, i) => {
    const [x, y] = [at % w, Math.floor(at / w)];
    const next = [x > 0 ? at - 1 : -1, x < w - 1 ? at + 1 : -1, y > 0 ? at - w : -1, y < h - 1 ? at + w : -1];
    next.forEach((other, k) => {
      if (other >= 0 && areaOf[other] === areaOf[at]) around[i * 4 + k] = other;
    });
  });
  for (let round = 0; round < rounds; round++) {
    let moved = 0;
    for (let i = 0; i < open.length; i++) {
      const at = open[i] as number;
      for (const plane of colour) {
        let [sum, n] = [0, 0];
        for (let k = 0; k < 4; k++) {
          const other = around[i * 4 + k] as number;
          if (other < 0) continue;
          sum += plane[other] as number;
          n++;
        }
        if (n === 0) continue;
        const step = omega * (sum / n - (plane[at] as number));
        plane[at] = (plane[at] as number) + step;
        moved = Math.max(moved, Math.abs(step));
      }
    }
    if (moved < 1e-5) break;
  }
}
