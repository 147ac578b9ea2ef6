import { type Labels, type LabRaster, labels } from '@viaticum/kernels/raster';
import { modeFilter } from '@viaticum/kernels/segment';
import { ringArea } from '../area/index.js';
import { bordersOf, outlineOf } from './outline/index.js';

/**
 * The connected region about a pixel whose colours lie within a tolerance (ΔE, Lab) of the colour there, as a mask. The colour
 * is that of a small disc, so that grain does not decide.
 */
export function growRegion({ width, height, l, a, b }: LabRaster, x: number, y: number, tolerance: number): Labels {
  const map = labels(width, height);
  const [sx, sy] = [Math.min(width - 1, Math.max(0, Math.floor(x))), Math.min(height - 1, Math.max(0, Math.floor(y)))];
  let [sl, sa, sb, n] = [0, 0, 0, 0];
  for (let dy = -2; dy <= 2; dy++)
    for (let dx = -2; dx <= 2; dx++) {
      const [px, py] = [sx + dx, sy + dy];
      if (px < 0 || py < 0 || px >= width || py >= height) continue;
      const at = py * width + px;
      sl += l[at] as number;
      sa += a[at] as number;
      sb += b[at] as number;
      n++;
    }
  sl /= n;
  sa /= n;
  sb /= n;
  const most = tolerance * tolerance;
  const near = (at: number) => {
    const dl = (l[at] as number) - sl;
    const da = (a[at] as number) - sa;
    const db = (b[at] as number) - sb;
    return dl * dl + da * da + db * db <= most;
  };
  const stack = new Int32Array(width * height);
  let top = 0;
  const visit = (at: number) => {
    if (map.data[at] === 1 || !near(at)) return;
    map.data[at] = 1;
    stack[top++] = at;
  };
  const start = sy * width + sx;
  map.data[start] = 1;
  stack[top++] = start;
  while (top > 0) {
    const at = stack[--top] as number;
    const px = at % width;
    if (px > 0) visit(at - 1);
    if (px < width - 1) visit(at + 1);
    if (at >= width) visit(at - width);
    if (at + width < map.data.length) visit(at + width);
  }
  return map;
}

/** A mask's outline in mm, smoothed and with few points; holes under `leastMm2` are closed. Empty for an empty mask. */
export function maskOutline(mask: Labels, mmPerPx: number, toleranceMm = 0.5, leastMm2 = 20) {
  const outline = outlineOf(bordersOf(modeFilter(mask, 2), 2, mmPerPx, toleranceMm), (area) => area === 1);
  const area = (ring: [number, number][]) => Math.abs(ringArea(ring));
  return outline.flatMap((polygon) => {
    const [outer, ...holes] = polygon;
    if (!outer || area(outer) < leastMm2) return [];
    return [[outer, ...holes.filter((hole) => area(hole) >= leastMm2)]];
  });
}
