import { connectedParts, type Labels, type LabRaster, labels, median, type Plane } from '../raster/index.js';

/**
 * Lab with a gain in the darks, where the eye still tells masses apart that the numbers bring close: L' = 100 · (L/100)^0.6,
 * a and b by the same local slope, at most 2.5 times.
 */
export function liftDarks({ width, height, l, a, b }: LabRaster): LabRaster {
  const out = { width, height, l: new Float32Array(l.length), a: new Float32Array(l.length), b: new Float32Array(l.length) };
  for (let i = 0; i < l.length; i++) {
    const bin = (l[i] * LIFT_STEPS + 0.5) | 0;
    const slope = liftSlope[bin];
    out.l[i] = lifted[bin];
    out.a[i] = a[i] * slope;
    out.b[i] = b[i] * slope;
  }
  return out;
}
const LIFT_STEPS = 20; // a unit of L*
const lifted = Float32Array.from({ length: 100 * LIFT_STEPS + 2 }, (_, i) => 100 * (i / (100 * LIFT_STEPS)) ** 0.6);
const liftSlope = Float32Array.from({ length: 100 * LIFT_STEPS + 2 }, (_, i) =>
  Math.min(2.5, 0.6 * Math.max(0.0001, i / (100 * LIFT_STEPS)) ** -0.4),
);

/** Every plane smoothed by its median, so that grain and texture go and edges stay. */
export function calm(lab: LabRaster, radius: number): LabRaster {
  const { width, height } = lab;
  const smooth = (data: Float32Array, rowStep: number) => median({ width, height, data }, radius, radius > 3 ? rowStep : 1).data;
  // Edges of colour are softer than those of light: every third row will do for them.
  return { width, height, l: smooth(lab.l, 2), a: smooth(lab.a, 3), b: smooth(lab.b, 3) };
}

/** Length of the Lab gradient a pixel (central differences, ΔE a pixel). */
export function gradient({ width, height, l, a, b }: LabRaster): Plane {
  const data = new Float32Array(l.length);
  for (let y = 0; y < height; y++) {
    const up = y > 0 ? -width : 0;
    const down = y < height - 1 ? width : 0;
    for (let x = 0; x < width; x++) {
      const at = y * width + x;
      const left = x > 0 ? at - 1 : at;
      const right = x < width - 1 ? at + 1 : at;
      const lx = l[right] - l[left];
      const ly = l[at + down] - l[at + up];
      const ax = a[right] - a[left];
      const ay = a[at + down] - a[at + up];
      const bx = b[right] - b[left];
      const by = b[at + down] - b[at + up];
      data[at] = Math.sqrt(lx * lx + ly * ly + ax * ax + ay * ay + bx * bx + by * by) / 2;
    }
  }
  return { width, height, data };
}

/**
 * Superpixels: about `count` small connected regions of one colour each, by local k-means over colour and place
 * (SLIC: Achanta et al. 2012, from memory). `compactness` weighs place against colour; numbers run from 0 without gaps.
 */
export function superpixels(lab: LabRaster, count: number, compactness = 10, rounds = 6): { map: Labels; count: number } {
  const { width, height, l, a, b } = lab;
  const step = Math.max(2, Math.sqrt((width * height) / count));
  const [across, down] = [Math.max(1, Math.round(width / step)), Math.max(1, Math.round(height / step))];
  const n = across * down;
  const slopes = gradient(lab).data;
  const centre = new Float64Array(n * 5);
  for (let k = 0; k < n; k++) {
    let x = Math.min(width - 1, Math.floor(((k % across) + 0.5) * (width / across)));
    let y = Math.min(height - 1, Math.floor((Math.floor(k / across) + 0.5) * (height / down)));
    let best = slopes[y * width + x];
    const [cx, cy] = [x, y];
    for (let dy = -1; dy <= 1; dy++)
      for (let dx = -1; dx <= 1; dx++) {
        const [px, py] = [cx + dx, cy + dy];
        if (px < 0 || py < 0 || px >= width || py >= height) continue;
        const slope = slopes[py * width + px];
        if (slope < best) [best, x, y] = [slope, px, py];
      }
    const at = y * width + x;
    centre.set([l[at], a[at], b[at], x, y], k * 5);
  }
  const map = labels(width, height);
  const nearest = new Float32Array(width * height);
  const weight = (compactness / step) ** 2;
  const reach = Math.ceil(step);
  for (let round = 0; round < rounds; round++) {
    nearest.fill(Number.POSITIVE_INFINITY);
    for (let k = 0; k < n; k++) {
      const cl = centre[k * 5];
      const ca = centre[k * 5 + 1];
      const cb = centre[k * 5 + 2];
      const cx = centre[k * 5 + 3];
      const cy = centre[k * 5 + 4];
      const x0 = Math.max(0, Math.floor(cx - reach));
      const x1 = Math.min(width - 1, Math.ceil(cx + reach));
      const y0 = Math.max(0, Math.floor(cy - reach));
      const y1 = Math.min(height - 1, Math.ceil(cy + reach));
      for (let y = y0; y <= y1; y++) {
        const dy = weight * (y - cy) * (y - cy);
        for (let at = y * width + x0, x = x0; x <= x1; x++, at++) {
          const least = nearest[at];
          const dl = l[at] - cl;
          const near = dl * dl + dy;
          if (near >= least) continue;
          const da = a[at] - ca;
          const db = b[at] - cb;
          const distance = near + da * da + db * db + weight * (x - cx) * (x - cx);
          if (distance < least) {
            nearest[at] = distance;
            map.data[at] = k;
          }
        }
      }
    }
    const sums = new Float64Array(n * 6);
    for (let at = 0, y = 0; y < height; y++)
      for (let x = 0; x < width; x++, at++) {
        const k = map.data[at] * 6;
        sums[k] = sums[k] + l[at];
        sums[k + 1] = sums[k + 1] + a[at];
        sums[k + 2] = sums[k + 2] + b[at];
        sums[k + 3] = sums[k + 3] + x;
        sums[k + 4] = sums[k + 4] + y;
        sums[k + 5] = sums[k + 5] + 1;
      }
    for (let k = 0; k < n; k++) {
      const size = sums[k * 6 + 5];
      if (size > 0) for (let c = 0; c < 5; c++) centre[k * 5 + c] = sums[k * 6 + c] / size;
    }
  }
  return connect(map, (width * height) / n / 4);
}

/** Makes every label one connected region: small stray parts go to a neighbour. */
function connect(map: Labels, least: number): { map: Labels; count: number } {
  const { width } = map;
  const { parts, sizeOf, count } = connectedParts(map);
  const into = new Int32Array(count).fill(-1);
  const seen = new Uint8Array(count);
  for (let at = 0; at < parts.data.length; at++) {
    const part = parts.data[at];
    if (seen[part]) continue;
    seen[part] = 1;
    if (sizeOf[part] >= least) continue;
    const left = at % width > 0 ? parts.data[at - 1] : -1;
    const up = at >= width ? parts.data[at - width] : -1;
    into[part] = up >= 0 ? up : left;
  }
  const number = new Int32Array(count).fill(-1);
  let used = 0;
  const rootOf = (part: number): number => {
    let at = part;
    for (let guard = 0; guard < count && into[at] >= 0 && into[at] !== at; guard++) at = into[at];
    return at;
  };
  const out = labels(map.width, map.height);
  for (let at = 0; at < out.data.length; at++) {
    const root = rootOf(parts.data[at]);
    if (number[root] === -1) number[root] = used++;
    out.data[at] = number[root];
  }
  return { map: out, count: used };
}
