import type { AreaRole, Surface } from '@viaticum/contract';
import { blur, type Labels, type LabRaster, type Plane } from '@viaticum/kernels/raster';
import { solved } from '../geometry/index.js';

/** What the picture shows of a thing: how much fine detail it has all over, what a slow slope does not explain, and how it runs. */
export type Look = {
  /** Median of what a blur of 2 mm takes away (L*). */
  detail: number;
  /** Lightness that a surface of second degree leaves unexplained, rms of L*. */
  unexplained: number;
  /** How far its detail runs one way, 0–1, and the share of it that runs level. */
  coherence: number;
  level: number;
  /** Mean hue in degrees and mean chroma (CIELAB). */
  hue: number;
  chroma: number;
};
/** What a thing may be made of by its look, and how sure one may be of it, 0–1; null for what asks for no strokes of its own. */
export type SurfaceGuess = { surface: Surface | null; sure: number };

const DETAIL_MM = 2;
const RUN_MM = 6;
const RIM_MM = 3;
const INSIDE = 0.93;
/** A thing of fewer pixels than this shows nothing of its surface. */
const LEAST_PX = 60;

/**
 * What every label of a map looks like inside, a rim of some mm left out: its borders are no detail of its own. Structure tensor after
 * Bigün and Granlund 1987 (from memory). `mmPerPx` is the scale of the map; null where too little of a thing is seen.
 */
export function looksOfThings(
  map: Labels,
  { l, a, b, width, height }: LabRaster,
  count: number,
  mmPerPx: number,
): (Look | null)[] {
  const lightness: Plane = { width, height, data: l };
  const soft = blur(lightness, Math.max(1, DETAIL_MM / mmPerPx)).data;
  const tensor = [0, 1, 2].map(() => new Float32Array(l.length));
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      const dx = (l[i + 1] as number) - (l[i - 1] as number);
      const dy = (l[i + width] as number) - (l[i - width] as number);
      (tensor[0] as Float32Array)[i] = dx * dx;
      (tensor[1] as Float32Array)[i] = dx * dy;
      (tensor[2] as Float32Array)[i] = dy * dy;
    }
  const [xx, xy, yy] = tensor.map((data) => blur({ width, height, data }, RUN_MM / mmPerPx).data) as [
    Float32Array,
    Float32Array,
    Float32Array,
  ];
  return Array.from({ length: count }, (_, label) => {
    const own = new Float32Array(l.length);
    for (let i = 0; i < own.length; i++) own[i] = map.data[i] === label ? 1 : 0;
    const inner = blur({ width, height, data: own }, RIM_MM / mmPerPx).data;
    const places: number[] = [];
    for (let i = 0; i < own.length; i++) if (map.data[i] === label && (inner[i] as number) > INSIDE) places.push(i);
    if (places.length < LEAST_PX) return null;
    const detail = places.map((i) => Math.abs((l[i] as number) - (soft[i] as number))).sort((one, other) => one - other);
    let [apart, whole, level, sumA, sumB] = [0, 0, 0, 0, 0];
    for (const i of places) {
      const [p, q, r] = [xx[i] as number, xy[i] as number, yy[i] as number];
      apart += Math.hypot(p - r, 2 * q);
      whole += p + r;
      level += r;
      sumA += a[i] as number;
      sumB += b[i] as number;
    }
    const [meanA, meanB] = [sumA / places.length, sumB / places.length];
    return {
      detail: detail[detail.length >> 1] as number,
      unexplained: unexplainedBySlope(places, soft, width, height),
      coherence: whole > 0 ? apart / whole : 0,
      level: whole > 0 ? level / whole : 0,
      hue: (Math.atan2(meanB, meanA) * 180) / Math.PI,
      chroma: Math.hypot(meanA, meanB),
    };
  });
}

const EVERY = 3;
/** What a least-squares surface of second degree leaves of some values, rms. */
function unexplainedBySlope(places: readonly number[], values: Float32Array, width: number, height: number): number {
  const chosen = places.filter((_, k) => k % EVERY === 0);
  const rows = chosen.map((i) => {
    const [x, y] = [(i % width) / width - 0.5, Math.floor(i / width) / height - 0.5];
    return [1, x, y, x * x, x * y, y * y];
  });
  const size = 6;
  const matrix = Array.from({ length: size }, (_, r) =>
    Array.from({ length: size }, (_, c) =>
      rows.reduce((sum, row) => sum + (row[r] as number) * (row[c] as number), r === c ? 1e-6 : 0),
    ),
  );
  const right = Array.from({ length: size }, (_, r) =>
    rows.reduce((sum, row, k) => sum + (row[r] as number) * (values[chosen[k] as number] as number), 0),
  );
  const fit = solved(matrix, right);
  if (!fit) return 0;
  const squares = rows.reduce((sum, row, k) => {
    const value = row.reduce((total, one, c) => total + one * (fit[c] as number), 0);
    return sum + ((values[chosen[k] as number] as number) - value) ** 2;
  }, 0);
  return Math.sqrt(squares / Math.max(1, rows.length));
}

/** Below the first there is nothing in a thing but slow change, below the second shapes at most; above there is texture. */
const SMOOTH = 0.5;
const SHAPES = 1.15;
const UNEVEN = 4.5;
const FURRY = 1.25;
const CROWDED = 4.5;
const isGreen = ({ hue, chroma }: Look): boolean => hue > 85 && hue < 150 && chroma > 8;

/**
 * What a thing may be made of, by what it is and how it looks (rules of thumb, tuned on a few photographs): an offer to somebody who sees
 * the picture, never a decision.
 */
export function guessByLook(role: AreaRole, look: Look | null): SurfaceGuess {
  if (role === 'feature') return { surface: null, sure: 0.9 };
  if (!look) return { surface: null, sure: 0.3 };
  const { detail, unexplained, coherence, level, chroma } = look;
  if (role === 'water') return { surface: 'ripples', sure: detail > SMOOTH || level > 0.6 ? 0.8 : 0.5 };
  if (role === 'sky') {
    if (unexplained < UNEVEN) return { surface: null, sure: 0.9 };
    return { surface: 'clouds', sure: Math.min(0.8, 0.4 + (unexplained - UNEVEN) / 15) };
  }
  if (role === 'foliage') return { surface: 'leaves', sure: detail > SHAPES ? 0.85 : 0.5 };
  if (detail < SMOOTH) return { surface: null, sure: 0.85 };
  if (detail < SHAPES) return { surface: null, sure: 0.6 };
  const clear = Math.min(1, (detail - SHAPES) / 1.5);
  if (isGreen(look) && coherence < 0.45) return { surface: role === 'ground' ? 'grass' : 'leaves', sure: 0.5 + 0.3 * clear };
  if (role === 'background') return { surface: null, sure: 0.5 };
  if (role === 'ground') return coherence > 0.6 ? { surface: 'boards', sure: 0.5 } : { surface: null, sure: 0.4 };
  // Much detail that runs no one way is a thing of many parts, whose shapes are drawn.
  if (role === 'made' || detail < FURRY || detail > CROWDED) return { surface: null, sure: 0.4 };
  if (chroma > 36) return { surface: 'petals', sure: 0.4 + 0.2 * clear };
  return { surface: 'short-fur', sure: coherence > 0.5 ? 0.5 : 0.35 };
}
