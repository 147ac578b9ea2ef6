import { blur, type LabRaster, labRaster, type Rgba, shrink, sizeWithin } from '../raster/index.js';
import { calm, liftDarks, superpixels } from '../segment/superpixels.js';

/** Small regions of one colour, with the means of what is seen in them and how strongly neighbours hold together. */
export type Superpixels = {
  count: number;
  /** Pixels of each. */
  size: Float32Array;
  /** Means of each: L, a, b of the calmed picture with lifted darks, detail on a scale like theirs, x and y (px). */
  means: readonly [Float32Array, Float32Array, Float32Array, Float32Array, Float32Array, Float32Array];
  /** Neighbours of k: `to[start[k] … start[k + 1])`, with the weight of each; `degree` is their sum. */
  start: Int32Array;
  to: Int32Array;
  weight: Float32Array;
  degree: Float32Array;
  /** Of each of these borders its length (px) and the mean step of colour across it (ΔE). */
  length: Float32Array;
  step: Float32Array;
};

/** What is worked out once for a picture, from which things are told apart by marks. */
export type Scene = {
  width: number;
  height: number;
  /** Calmed, with lifted darks. */
  lab: LabRaster;
  /** The superpixel of every pixel. */
  map: Int32Array;
  pixels: Superpixels;
  /** How sharply every superpixel is in focus, whatever its contrast; on a scale of its own. */
  focus: Float32Array;
};

const SUPERPIXELS = 2400;
/** A median of this radius keeps eyes and stems. */
const CALM_PX = 3;
const COMPACTNESS = 8;
const ROUNDS = 5;
/** Contrast (ΔE) at which a border holds. */
const HOLDS = 5.5;
const FLOOR = 0.002;
const DETAIL_WEIGHT = 0.5;
/** A soft border counts too: steps are measured over so many pixels on either side. */
const ACROSS_PX = 3;
const FINE_PX = 1.2;
const SPREAD_PX = 4;

/** Prepares a picture for marks: shrunk to `pixels` in linear light. Yields the share done (0-1). */
export function* prepareScene(picture: Rgba, pixels = 400_000): Generator<number, Scene> {
  const size = sizeWithin(picture, pixels);
  const small = shrink(picture, size.width, size.height);
  yield 0.15;
  const lifted = liftDarks(labRaster(small));
  yield 0.3;
  const lab = calm(lifted, CALM_PX);
  yield 0.55;
  const { map, count } = superpixels(
    lab,
    Math.min(SUPERPIXELS, Math.max(1, (size.width * size.height) / 16)),
    COMPACTNESS,
    ROUNDS,
  );
  yield 0.8;
  const detail = detailOf(lifted);
  const data = Int32Array.from(map.data);
  const grown = grouped(lab, detail, data, count);
  yield 0.9;
  return { width: size.width, height: size.height, lab, map: data, pixels: grown, focus: focusOf(lifted, data, grown) };
}

/** 1 for every superpixel that comes nearer to the rim of the picture than so many pixels. */
export function rimOf({ map, width, height, pixels }: Scene, px: number): Uint8Array {
  const rim = new Uint8Array(pixels.count);
  for (let y = 0; y < height; y++) {
    const isRow = y < px || y >= height - px;
    for (let x = 0; x < width; x++) if (isRow || x < px || x >= width - px) rim[map[y * width + x]] = 1;
  }
  return rim;
}

const FOCUS_SPREAD_SHARE = 0.02;
/** What a fine blur takes away against what a wider one takes beyond it, carried over each place by its edges. */
function focusOf({ width, height, l }: LabRaster, map: Int32Array, { count, size }: Superpixels): Float32Array {
  const at = (sigma: number, data: Float32Array) => blur({ width, height, data }, sigma).data;
  const [fine, wide] = [at(1, l), at(4, l)];
  const spread = FOCUS_SPREAD_SHARE * Math.hypot(width, height);
  const sharp = at(
    spread,
    l.map((value, i) => Math.abs(value - fine[i])),
  );
  const broad = at(
    spread,
    fine.map((value, i) => Math.abs(value - wide[i])),
  );
  const out = new Float32Array(count);
  for (let i = 0; i < map.length; i++)
    out[map[i]] = out[map[i]] + Math.log(0.06 + sharp[i]) + 0.5 * Math.log((0.05 + sharp[i]) / (0.3 + broad[i]));
  return out.map((sum, k) => sum / Math.max(1, size[k]));
}

/** How much a fine blur takes away, spread a little: high in texture and focus, low where all is soft. */
function detailOf({ width, height, l }: LabRaster): Float32Array {
  const fine = blur({ width, height, data: l }, FINE_PX).data;
  return blur({ width, height, data: l.map((value, i) => Math.abs(value - fine[i])) }, SPREAD_PX).data;
}

function grouped(lab: LabRaster, detail: Float32Array, map: Int32Array, count: number): Superpixels {
  const { width, height } = lab;
  const size = new Float32Array(count);
  const means = [0, 1, 2, 3, 4, 5].map(() => new Float32Array(count)) as unknown as [
    Float32Array,
    Float32Array,
    Float32Array,
    Float32Array,
    Float32Array,
    Float32Array,
  ];
  const borders = Array.from({ length: count }, () => new Map<number, { length: number; steps: number }>());
  const meet = (one: number, other: number, step: number) => {
    const known = borders[one].get(other) ?? { length: 0, steps: 0 };
    borders[one].set(other, { length: known.length + 1, steps: known.steps + step });
  };
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const at = y * width + x;
      const own = map[at];
      size[own] = size[own] + 1;
      const values = [lab.l[at], lab.a[at], lab.b[at], detail[at], x, y];
      for (let c = 0; c < 6; c++) means[c][own] = means[c][own] + values[c];
      for (const stride of [1, width]) {
        if (stride === 1 ? x + 1 >= width : y + 1 >= height) continue;
        const next = at + stride;
        if (map[next] === own) continue;
        const before = Math.max(0, at - ACROSS_PX * stride);
        const behind = Math.min(map.length - 1, next + ACROSS_PX * stride);
        const step = Math.hypot(lab.l[before] - lab.l[behind], lab.a[before] - lab.a[behind], lab.b[before] - lab.b[behind]);
        meet(own, map[next], step);
        meet(map[next], own, step);
      }
    }
  for (let k = 0; k < count; k++) for (let c = 0; c < 6; c++) means[c][k] = means[c][k] / Math.max(1, size[k]);
  // Detail on a scale like Lab's.
  for (let k = 0; k < count; k++) means[3][k] = 9 * Math.log(0.15 + means[3][k]);
  return { count, size, means, ...linked(borders, means[3]) };
}

function linked(
  borders: readonly ReadonlyMap<number, { length: number; steps: number }>[],
  detail: Float32Array,
): Pick<Superpixels, 'start' | 'to' | 'weight' | 'degree' | 'length' | 'step'> {
  const count = borders.length;
  const start = new Int32Array(count + 1);
  borders.forEach((list, k) => {
    start[k + 1] = start[k] + list.size;
  });
  const to = new Int32Array(start[count]);
  const weight = new Float32Array(start[count]);
  const degree = new Float32Array(count);
  const lengths = new Float32Array(start[count]);
  const across = new Float32Array(start[count]);
  borders.forEach((list, k) => {
    let e = start[k];
    for (const [other, { length, steps }] of list) {
      const step = steps / length;
      lengths[e] = length;
      across[e] = step;
      const apart = detail[k] - detail[other];
      to[e] = other;
      weight[e] = length * Math.exp(-(step * step + DETAIL_WEIGHT * apart * apart) / (2 * HOLDS * HOLDS)) + FLOOR;
      degree[k] = degree[k] + weight[e];
      e++;
    }
  });
  return { start, to, weight, degree, length: lengths, step: across };
}
