import { blur, type LabRaster } from '../raster/index.js';
import { cosine, sine, TURN, turnOfVector } from './chance.js';
import { turnAt } from './direction.js';
import type { StageArea, StageInput } from './scene.js';

/** Which way a surface runs at every cell of the coarse map, in 1/1024 turns. */
export type Run = { width: number; height: number; factor: number; turn: Uint16Array };

/** Structure of the picture: doubled directions and how sure they are, on the coarse map. */
type Tensor = { cos: Float32Array; sin: Float32Array; sure: Float32Array };
const tensors = new WeakMap<LabRaster, Tensor>();

const REACH_MM = 4;
const FAR = 3;
const FAR_WEIGHT = 0.15;
const FINE_MM = 0.7;

/** The structure tensor of the picture's lightness (Förstner and Gülch 1987, from memory), gathered on the coarse map. */
function tensorOf({ width, height, factor, mmPerPx, fine }: StageInput): Tensor | null {
  if (!fine) return null;
  const known = tensors.get(fine.aim);
  if (known) return known;
  const { aim } = fine;
  const [w, h] = [Math.ceil(width / factor), Math.ceil(height / factor)];
  const scale = mmPerPx * fine.factor;
  const soft = blur({ width: aim.width, height: aim.height, data: aim.l }, FINE_MM / scale).data;
  const planes = [0, 1, 2].map(() => new Float32Array(w * h));
  const [xx, xy, yy] = planes as [Float32Array, Float32Array, Float32Array];
  const per = factor / fine.factor;
  for (let y = 1; y < aim.height - 1; y++) {
    const row = Math.min(h - 1, Math.floor(y / per)) * w;
    for (let x = 1; x < aim.width - 1; x++) {
      const at = y * aim.width + x;
      const [gx, gy] = [soft[at + 1] - soft[at - 1], soft[at + aim.width] - soft[at - aim.width]];
      const cell = row + Math.min(w - 1, Math.floor(x / per));
      xx[cell] = xx[cell] + gx * gx;
      xy[cell] = xy[cell] + gx * gy;
      yy[cell] = yy[cell] + gy * gy;
    }
  }
  const reach = REACH_MM / (mmPerPx * factor);
  const [a, b, c] = planes.map((data) => {
    const [near, far] = [reach, FAR * reach].map((sigma) => blur({ width: w, height: h, data }, sigma).data);
    return near?.map((value, i) => value + FAR_WEIGHT * (far?.[i] ?? 0));
  }) as [Float32Array, Float32Array, Float32Array];
  const out = { cos: new Float32Array(w * h), sin: new Float32Array(w * h), sure: new Float32Array(w * h) };
  for (let i = 0; i < a.length; i++) {
    const [x, y, sum] = [a[i] - c[i], 2 * b[i], a[i] + c[i]];
    const length = Math.sqrt(x * x + y * y);
    // Strokes run across the steepest way: the doubled direction is turned by half a turn.
    out.cos[i] = length > 1e-9 ? -x / length : 1;
    out.sin[i] = length > 1e-9 ? -y / length : 0;
    out.sure[i] = length / (sum + 1e-6);
  }
  tensors.set(fine.aim, out);
  return out;
}

const COMB_NEAR = 400;
const TRUST_BESIDE_COMB = 0.4;
/**
 * How a surface runs on an area: as it was combed, as its picture shows where that is clear, otherwise as the area's strokes do. Mean of
 * doubled directions, so that a stroke there and back are the same.
 */
export function runOf(input: StageInput, area: StageArea, isByPicture = false): Run {
  const { width, height, factor } = input;
  const [w, h] = [Math.ceil(width / factor), Math.ceil(height / factor)];
  const turn = new Uint16Array(w * h);
  const tensor = area.run === 'along' && (isByPicture || !area.flow) ? tensorOf(input) : null;
  const strokes = area.combed.map(([x0, y0, x1, y1]) => {
    const doubled = 2 * turnOfVector(x1 - x0, y1 - y0);
    return { x: (x0 + x1) / 2, y: (y0 + y1) / 2, cos: cosine(doubled) / 4096, sin: sine(doubled) / 4096 };
  });
  const { from, to } = area.rows;
  for (let cy = Math.max(0, Math.floor(from / factor)); cy < Math.min(h, Math.ceil((to + 1) / factor)); cy++)
    for (let cx = 0; cx < w; cx++) {
      const cell = cy * w + cx;
      const [x, y] = [(cx + 0.5) * factor, (cy + 0.5) * factor];
      const own = 2 * (area.run === 'level' ? 0 : area.run === 'up' ? (3 * TURN) / 4 : turnAt(area, x, y));
      let [cos, sin] = [cosine(own) / 4096, sine(own) / 4096];
      if (strokes.length > 0) {
        [cos, sin] = [0, 0];
        for (const stroke of strokes) {
          const far = (stroke.x - x) * (stroke.x - x) + (stroke.y - y) * (stroke.y - y) + COMB_NEAR;
          const weight = 1 / (far * Math.sqrt(far));
          cos += weight * stroke.cos;
          sin += weight * stroke.sin;
        }
        const length = Math.sqrt(cos * cos + sin * sin) || 1;
        [cos, sin] = [cos / length, sin / length];
      }
      if (tensor) {
        const trust = tensor.sure[cell] * (strokes.length > 0 ? TRUST_BESIDE_COMB : 1);
        cos = cos * (1 - trust) + tensor.cos[cell] * trust;
        sin = sin * (1 - trust) + tensor.sin[cell] * trust;
      }
      turn[cell] = turnOfVector(cos, sin) >> 1;
    }
  return { width: w, height: h, factor, turn };
}
