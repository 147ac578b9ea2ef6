import type { Labels, LabRaster } from '@viaticum/kernels/raster';
import { traceArcs } from './outline/index.js';

type Point = [number, number];
export type EdgeKind = 'hard' | 'soft' | 'lost';
/** A shared border as the picture has it: 10–90 % width in mm across it, contrast in ΔE (Lab), length in mm. */
export type EdgeMeasure = { one: number; other: number; widthMm: number; contrast: number; lengthMm: number; kind: EdgeKind };

const REACH_MM = 9;
const STEP_MM = 2.4;
const NEIGHBOURS = 9;
const HARD_BELOW_MM = 1.8;
const LOST_FROM_MM = 6.5;
const LOST_CONTRAST = 3.5;
/** 10–90 % width of a step blurred by a Gaussian, in standard deviations. */
const WIDTH_OF_SIGMA = 2.5631;

/** Hard, soft or lost, from width and contrast. The limits are common practice, no published source. */
export function edgeKind(widthMm: number, contrast: number): EdgeKind {
  if (contrast < LOST_CONTRAST || widthMm >= LOST_FROM_MM) return 'lost';
  return widthMm < HARD_BELOW_MM ? 'hard' : 'soft';
}

/** erf to 1.5e-7 (Abramowitz and Stegun 7.1.26). */
export function erf(x: number): number {
  const t = 1 / (1 + 0.3275911 * Math.abs(x));
  const y =
    1 - ((((1.061405429 * t - 1.453152027) * t + 1.421413741) * t - 0.284496736) * t + 0.254829592) * t * Math.exp(-x * x);
  return x < 0 ? -y : y;
}

/** Places along a border, evenly spaced, with the direction across it from left to right; the staircase is smoothed first. */
function stations(points: readonly Point[], closed: boolean, stepPx: number): { at: Point; across: Point }[] {
  const span = Math.max(2, Math.round(stepPx));
  const n = points.length;
  const mean = (i: number): Point => {
    let [x, y, count] = [0, 0, 0];
    for (let k = -span; k <= span; k++) {
      const j = i + k;
      if (!closed && (j < 0 || j >= n)) continue;
      const [px, py] = points[((j % n) + n) % n] as Point;
      x += px;
      y += py;
      count++;
    }
    return [x / count, y / count];
  };
  const out: { at: Point; across: Point }[] = [];
  for (let i = closed ? 0 : span; i < (closed ? n : n - span); i += span) {
    const [before, at, after] = [mean(i - span), mean(i), mean(i + span)];
    const [tx, ty] = [after[0] - before[0], after[1] - before[1]];
    const length = Math.hypot(tx, ty);
    if (length < 1e-6) continue;
    out.push({ at, across: [-ty / length, tx / length] });
  }
  return out;
}

/** Fits c0 + c1·erf((t − t0)/(σ√2)) to samples at t (mm) by trying σ and t0 and solving c0, c1; gives σ. */
export function fitStep(ts: ArrayLike<number>, values: ArrayLike<number>): { sigmaMm: number; height: number; misfit: number } {
  let best = { sigmaMm: 0, height: 0, misfit: Number.POSITIVE_INFINITY };
  const n = ts.length;
  const attempt = (sigma: number, shift: number) => {
    let [se, see, sv, sev, svv] = [0, 0, 0, 0, 0];
    for (let i = 0; i < n; i++) {
      const e = erf(((ts[i] as number) - shift) / (sigma * Math.SQRT2));
      const v = values[i] as number;
      se += e;
      see += e * e;
      sv += v;
      sev += e * v;
      svv += v * v;
    }
    const det = n * see - se * se;
    if (det < 1e-9) return;
    const c1 = (n * sev - se * sv) / det;
    const c0 = (sv - c1 * se) / n;
    const misfit = svv - c0 * sv - c1 * sev;
    if (misfit < best.misfit) best = { sigmaMm: sigma, height: 2 * c1, misfit };
  };
  for (let sigma = 0.12; sigma < 6; sigma *= 1.25) for (let shift = -2; shift <= 2; shift += 0.5) attempt(sigma, shift);
  const coarse = best.sigmaMm;
  for (let sigma = coarse / 1.25; sigma <= coarse * 1.25; sigma *= 1.05)
    for (let shift = -2; shift <= 2; shift += 0.25) attempt(sigma, shift);
  return best;
}

/** Softness of every border between two regions of a map (labels of at least 0), from profiles across it averaged nine by nine. */
export function measureEdges(map: Labels, lab: LabRaster, mmPerPx: number, leastMm = 12): EdgeMeasure[] {
  const half = Math.round(REACH_MM / mmPerPx);
  const pairs = new Map<string, { one: number; other: number; lengthPx: number; widths: number[]; contrasts: number[] }>();
  for (const arc of traceArcs(map)) {
    if (arc.left < 0 || arc.right < 0 || arc.points.length * mmPerPx < leastMm / 2) continue;
    const flip = arc.left > arc.right;
    const [one, other] = flip ? [arc.right, arc.left] : [arc.left, arc.right];
    const key = `${one}-${other}`;
    let pair = pairs.get(key);
    if (!pair) {
      pair = { one, other, lengthPx: 0, widths: [], contrasts: [] };
      pairs.set(key, pair);
    }
    pair.lengthPx += arc.points.length * 0.9; // a staircase is longer than the line it stands for
    const places = stations(arc.points, arc.closed, STEP_MM / mmPerPx);
    for (let from = 0; from < places.length; from += NEIGHBOURS) {
      const fitted = profile(map, lab, places.slice(from, from + NEIGHBOURS), half, mmPerPx, arc.left, arc.right);
      if (!fitted) continue;
      pair.widths.push(fitted.widthMm);
      pair.contrasts.push(fitted.contrast);
    }
  }
  return [...pairs.values()]
    .filter((pair) => pair.lengthPx * mmPerPx >= leastMm && pair.widths.length > 0)
    .map(({ one, other, lengthPx, widths, contrasts }) => {
      const [widthMm, contrast] = [middle(widths), middle(contrasts)];
      return { one, other, widthMm, contrast, lengthMm: lengthPx * mmPerPx, kind: edgeKind(widthMm, contrast) };
    });
}

const middle = (list: number[]): number => [...list].sort((a, b) => a - b)[list.length >> 1] as number;

/** The mean profile across some stations, cut off where a third region begins; null where too little is left. */
function profile(
  map: Labels,
  lab: LabRaster,
  places: { at: Point; across: Point }[],
  half: number,
  mmPerPx: number,
  left: number,
  right: number,
): { widthMm: number; contrast: number } | null {
  const { width, height } = map;
  const size = 2 * half + 1;
  const [l, a, b, count] = [new Float64Array(size), new Float64Array(size), new Float64Array(size), new Float64Array(size)];
  const add = (k: number, at: number) => {
    l[k] = (l[k] as number) + (lab.l[at] as number);
    a[k] = (a[k] as number) + (lab.a[at] as number);
    b[k] = (b[k] as number) + (lab.b[at] as number);
    count[k] = (count[k] as number) + 1;
  };
  for (const { at, across } of places) {
    for (const side of [-1, 1]) {
      for (let k = side < 0 ? 1 : 0; k <= half; k++) {
        const x = Math.floor(at[0] + across[0] * k * side);
        const y = Math.floor(at[1] + across[1] * k * side);
        if (x < 0 || y < 0 || x >= width || y >= height) break;
        const label = map.data[y * width + x] as number;
        if (label !== left && label !== right) break;
        if (k > 3 && label !== (side < 0 ? left : right)) break;
        add(half + side * k, y * width + x);
      }
    }
  }
  const ts: number[] = [];
  const used: number[] = [];
  for (let k = 0; k < size; k++)
    if ((count[k] as number) >= Math.max(1, places.length * 0.5)) {
      ts.push((k - half) * mmPerPx);
      used.push(k);
    }
  if (ts.length < 8 || (ts[0] as number) > -1.2 || (ts.at(-1) as number) < 1.2) return null;
  const mean = (plane: Float64Array, ks: number[]) =>
    ks.reduce((sum, k) => sum + (plane[k] as number) / (count[k] as number), 0) / ks.length;
  const end = Math.max(2, Math.round(used.length * 0.2));
  const [first, last] = [used.slice(0, end), used.slice(-end)];
  const axis = [l, a, b].map((plane) => mean(plane, last) - mean(plane, first));
  const contrast = Math.hypot(...axis);
  if (contrast < 0.5) return { widthMm: 0, contrast };
  const values = used.map((k) =>
    [l, a, b].reduce(
      (sum, plane, c) => sum + (((plane[k] as number) / (count[k] as number)) * (axis[c] as number)) / contrast,
      0,
    ),
  );
  const { sigmaMm } = fitStep(ts, values);
  // What the pixel grid itself blurs is taken off.
  const own = 0.45 * mmPerPx;
  return { widthMm: WIDTH_OF_SIGMA * Math.sqrt(Math.max(0, sigmaMm ** 2 - own ** 2)), contrast };
}
