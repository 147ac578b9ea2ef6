import { blur } from '../raster/index.js';
import type { Scene } from './prepare.js';
import { liveLabels, onlyRinged, type Walked } from './walk.js';

const BAND_PX = 9;
const SWEEPS = 40;
const SMOOTH_PX = 1.6;
const HOLDS = 3.2;
const FLOOR = 0.004;
const START = 0.002;
/** Parts without a mark of their thing join a neighbour below this share of the picture, or below the second once every thing is marked. */
const LEAST_SHARE = { usual: 0.01, allMarked: 0.03 };
/** Smaller than this no part can be painted, marked or not, unless it is all that there is of its thing. */
const PAINTABLE_SHARE = 0.0004;

/**
 * The thing of every pixel: a second walk on pixels in a band along the borders of the first, smoothed a little; rings keep what lies
 * in them, and small parts that nobody marked join a neighbour. For when the hand lifts.
 */
export function refinedLabels(scene: Scene, walked: Walked): Int16Array {
  const { width, height } = scene;
  const coarse = liveLabels(scene, walked);
  const band = bandOf(coarse, width, height);
  const fields = fieldsOf(scene, walked, coarse, band);
  const { right, down } = weightsOf(scene, band);
  const inside: number[] = [];
  for (let i = 0; i < band.length; i++) if (band[i] !== 0) inside.push(i);
  const order = Int32Array.from(inside);
  const back = Int32Array.from(inside.reverse());
  for (const field of fields) relax(field, { order, back, right, down, width });
  holdRings(fields, walked, coarse, width, height);
  const labels = largest(fields, width, height);
  return withoutCrumbs(labels, scene, walked);
}

/** Pixels within some reach of where two things meet. */
function bandOf(labels: Int16Array, width: number, height: number): Uint8Array {
  const edge = new Uint8Array(labels.length);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const at = y * width + x;
      const meets = (x + 1 < width && labels[at + 1] !== labels[at]) || (y + 1 < height && labels[at + width] !== labels[at]);
      if (meets) edge[at] = 1;
    }
  return spread(spread(edge, height, width, width, 1), width, height, 1, width);
}

/** A mask widened along lines: `lines` of `length` pixels, `step` apart within a line and `jump` from line to line. */
function spread(mask: Uint8Array, length: number, lines: number, step: number, jump: number): Uint8Array {
  const out = new Uint8Array(mask.length);
  for (let k = 0; k < lines; k++) {
    let until = -1;
    for (let i = -BAND_PX; i < length; i++) {
      if (i + BAND_PX < length && mask[k * jump + (i + BAND_PX) * step] !== 0) until = i + 2 * BAND_PX;
      if (i >= 0 && i <= until) out[k * jump + i * step] = 1;
    }
  }
  return out;
}

function fieldsOf({ map }: Scene, { things, chance }: Walked, coarse: Int16Array, band: Uint8Array): Float32Array[] {
  const fields = Array.from({ length: things }, () => new Float32Array(map.length));
  for (let i = 0; i < map.length; i++) {
    if (band[i] === 0) fields[coarse[i]][i] = 1;
    else for (let thing = 0; thing < things; thing++) fields[thing][i] = chance[thing][map[i]];
  }
  return fields;
}

/** How strongly pixels of the band hold to their right and lower neighbour. */
function weightsOf({ lab, width, height }: Scene, band: Uint8Array) {
  const right = new Float32Array(band.length);
  const down = new Float32Array(band.length);
  const hold = (i: number, j: number) => {
    const apart = (lab.l[i] - lab.l[j]) ** 2 + (lab.a[i] - lab.a[j]) ** 2 + (lab.b[i] - lab.b[j]) ** 2;
    return Math.exp((-4 * apart) / (2 * HOLDS * HOLDS)) + FLOOR;
  };
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      if (x + 1 < width && (band[i] !== 0 || band[i + 1] !== 0)) right[i] = hold(i, i + 1);
      if (y + 1 < height && (band[i] !== 0 || band[i + width] !== 0)) down[i] = hold(i, i + width);
    }
  return { right, down };
}

type Grid = { order: Int32Array; back: Int32Array; right: Float32Array; down: Float32Array; width: number };
function relax(field: Float32Array, { order, back, right, down, width }: Grid): void {
  const start = Float32Array.from(field);
  const size = field.length;
  for (let round = 0; round < SWEEPS; round++)
    for (const i of round % 2 === 1 ? back : order) {
      const x = i % width;
      let sum = START * start[i];
      let degree = START;
      if (x + 1 < width) {
        sum += right[i] * field[i + 1];
        degree += right[i];
      }
      if (x > 0) {
        sum += right[i - 1] * field[i - 1];
        degree += right[i - 1];
      }
      if (i + width < size) {
        sum += down[i] * field[i + width];
        degree += down[i];
      }
      if (i >= width) {
        sum += down[i - width] * field[i - width];
        degree += down[i - width];
      }
      field[i] = sum / degree;
    }
}

/** Within a ring its thing is sure; a thing that is marked by rings alone lies nowhere else. */
function holdRings(fields: Float32Array[], walked: Walked, coarse: Int16Array, width: number, height: number): void {
  const { covered } = walked;
  const rings = covered.filter(({ mark }) => mark.kind === 'ring');
  const ringed = onlyRinged(walked);
  const things = new Set(rings.map(({ mark }) => mark.thing));
  for (const thing of things) {
    const data = new Float32Array(coarse.length);
    for (const { mark, pixels } of rings) if (mark.thing === thing) for (const pixel of pixels) data[pixel] = 1;
    const soft = blur({ width, height, data }, 3).data;
    for (let i = 0; i < soft.length; i++) {
      if (soft[i] > 0.93)
        fields.forEach((field, other) => {
          field[i] = other === thing ? Math.max(field[i], 0.9) : field[i] * 0.1;
        });
      else if (soft[i] < 0.03 && ringed.has(thing)) fields[thing][i] = 0;
    }
  }
}

function largest(fields: readonly Float32Array[], width: number, height: number): Int16Array {
  const out = new Int16Array(width * height);
  const best = new Float32Array(width * height).fill(-1);
  fields.forEach((field, thing) => {
    const soft = blur({ width, height, data: field }, SMOOTH_PX).data;
    for (let i = 0; i < out.length; i++)
      if (soft[i] > best[i]) {
        best[i] = soft[i];
        out[i] = thing;
      }
  });
  return out;
}

/** Small parts without a mark of their thing go to the neighbour that they touch most; parts that are marked always stay. Changes the labels. */
function withoutCrumbs(labels: Int16Array, { width }: Scene, { covered, things }: Walked): Int16Array {
  const marked = new Int16Array(labels.length).fill(-1);
  for (const { mark, pixels } of covered) for (const pixel of pixels) marked[pixel] = mark.thing;
  const isAllMarked = new Set(covered.map(({ mark }) => mark.thing)).size === things;
  const least = labels.length * (isAllMarked ? LEAST_SHARE.allMarked : LEAST_SHARE.usual);
  const part = new Int32Array(labels.length).fill(-1);
  const parts: { thing: number; pixels: number[]; around: Map<number, number>; isMarked: boolean }[] = [];
  const stack: number[] = [];
  for (let from = 0, id = 0; from < labels.length; from++) {
    if (part[from] >= 0) continue;
    const thing = labels[from];
    const pixels: number[] = [];
    const around = new Map<number, number>();
    let isMarked = false;
    part[from] = id;
    stack.push(from);
    while (stack.length > 0) {
      const i = stack.pop() as number;
      pixels.push(i);
      if (marked[i] === thing) isMarked = true;
      const x = i % width;
      for (const j of [x > 0 ? i - 1 : -1, x + 1 < width ? i + 1 : -1, i - width, i + width]) {
        if (j < 0 || j >= labels.length) continue;
        if (labels[j] !== thing) around.set(labels[j], (around.get(labels[j]) ?? 0) + 1);
        else if (part[j] < 0) {
          part[j] = id;
          stack.push(j);
        }
      }
    }
    id++;
    parts.push({ thing, pixels, around, isMarked });
  }
  const largestOf = new Map<number, number>();
  for (const { thing, pixels } of parts) largestOf.set(thing, Math.max(largestOf.get(thing) ?? 0, pixels.length));
  const crumbs = parts
    .filter(({ thing, pixels, isMarked }) => {
      if (pixels.length === largestOf.get(thing)) return false;
      return pixels.length < (isMarked ? PAINTABLE_SHARE * labels.length : least);
    })
    .sort((a, b) => a.pixels.length - b.pixels.length);
  for (const { pixels, around } of crumbs) {
    const [[next] = []] = [...around].sort((a, b) => b[1] - a[1]);
    if (next !== undefined) for (const i of pixels) labels[i] = next;
  }
  return labels;
}
