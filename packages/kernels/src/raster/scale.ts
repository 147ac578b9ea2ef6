import { byteOfLinear, linearOfByte } from './lab.js';
import { type Labels, labels, type Plane, plane, type Rgba, rgba } from './raster.js';

/** For each target cell the first source cell, the number of cells it touches, and their weights. */
function spans(from: number, to: number): { first: Int32Array; count: Int32Array; weights: Float32Array; most: number } {
  const ratio = from / to;
  const most = Math.ceil(ratio) + 1;
  const [first, count] = [new Int32Array(to), new Int32Array(to)];
  const weights = new Float32Array(to * most);
  for (let i = 0; i < to; i++) {
    const [low, high] = [i * ratio, Math.min(from, (i + 1) * ratio)];
    const start = Math.min(from - 1, Math.floor(low));
    first[i] = start;
    let n = 0;
    for (let k = start; k < high - 1e-9 && n < most; k++, n++)
      weights[i * most + n] = (Math.min(high, k + 1) - Math.max(low, k)) / ratio;
    count[i] = Math.max(1, n);
    if (n === 0) weights[i * most] = 1;
  }
  return { first, count, weights, most };
}

/**
 * A smaller picture by averaging areas in linear light, as a lens would. `width` and `height` in pixels, at most the
 * picture's own.
 */
export function shrink(picture: Rgba, width: number, height: number): Rgba {
  if (width === picture.width && height === picture.height) return picture;
  const [across, down] = [spans(picture.width, width), spans(picture.height, height)];
  const out = rgba(width, height);
  const row = new Float32Array(width * 4);
  const sum = new Float32Array(width * 4);
  const { data } = picture;
  let lastRow = -1;
  const readRow = (y: number) => {
    if (y === lastRow) return;
    lastRow = y;
    for (let x = 0; x < width; x++) {
      const start = across.first[x];
      const cells = across.count[x];
      let r = 0;
      let g = 0;
      let b = 0;
      let alpha = 0;
      for (let k = 0; k < cells; k++) {
        const weight = across.weights[x * across.most + k];
        const at = (y * picture.width + start + k) * 4;
        r += weight * linearOfByte[data[at]];
        g += weight * linearOfByte[data[at + 1]];
        b += weight * linearOfByte[data[at + 2]];
        alpha += weight * data[at + 3];
      }
      row[x * 4] = r;
      row[x * 4 + 1] = g;
      row[x * 4 + 2] = b;
      row[x * 4 + 3] = alpha;
    }
  };
  for (let y = 0; y < height; y++) {
    sum.fill(0);
    for (let k = 0; k < down.count[y]; k++) {
      readRow(down.first[y] + k);
      const weight = down.weights[y * down.most + k];
      for (let i = 0; i < sum.length; i++) sum[i] = sum[i] + weight * row[i];
    }
    for (let x = 0; x < width; x++) {
      const at = (y * width + x) * 4;
      for (let c = 0; c < 3; c++) out.data[at + c] = byteOfLinear(sum[x * 4 + c]);
      out.data[at + 3] = Math.round(sum[x * 4 + 3]);
    }
  }
  return out;
}

/** Size of a picture of at most so many pixels with the same proportion. */
export function sizeWithin({ width, height }: { width: number; height: number }, pixels: number) {
  const factor = Math.min(1, Math.sqrt(pixels / (width * height)));
  return { width: Math.max(1, Math.round(width * factor)), height: Math.max(1, Math.round(height * factor)) };
}

/** A plane resampled by areas (smaller) or between neighbours (larger). */
export function resample(from: Plane, width: number, height: number): Plane {
  if (width === from.width && height === from.height) return from;
  const out = plane(width, height);
  if (width <= from.width && height <= from.height) {
    const [across, down] = [spans(from.width, width), spans(from.height, height)];
    const middle = new Float32Array(width * from.height);
    for (let y = 0; y < from.height; y++) {
      for (let x = 0; x < width; x++) {
        let value = 0;
        const start = y * from.width + across.first[x];
        for (let k = 0; k < across.count[x]; k++) value += across.weights[x * across.most + k] * from.data[start + k];
        middle[y * width + x] = value;
      }
    }
    for (let y = 0; y < height; y++) {
      for (let k = 0; k < down.count[y]; k++) {
        const weight = down.weights[y * down.most + k];
        const start = (down.first[y] + k) * width;
        for (let x = 0; x < width; x++) out.data[y * width + x] = out.data[y * width + x] + weight * middle[start + x];
      }
    }
    return out;
  }
  const columns = Array.from({ length: width }, (_, x) => between(((x + 0.5) * from.width) / width - 0.5, from.width));
  for (let y = 0; y < height; y++) {
    const [top, foot, v] = between(((y + 0.5) * from.height) / height - 0.5, from.height);
    for (let x = 0; x < width; x++) {
      const [left, right, u] = columns[x] as [number, number, number];
      const upper = mixed(from.data[top * from.width + left], from.data[top * from.width + right], u);
      const lower = mixed(from.data[foot * from.width + left], from.data[foot * from.width + right], u);
      out.data[y * width + x] = mixed(upper, lower, v);
    }
  }
  return out;
}
const mixed = (a: number, b: number, t: number) => a + (b - a) * t;
const between = (at: number, count: number): [number, number, number] => {
  const low = Math.max(0, Math.min(count - 1, Math.floor(at)));
  return [low, Math.min(count - 1, low + 1), Math.max(0, Math.min(1, at - low))];
};

/** Labels at another size: each pixel takes the nearest. */
export function resampleLabels(from: Labels, width: number, height: number): Labels {
  const out = labels(width, height);
  for (let y = 0; y < height; y++) {
    const row = Math.min(from.height - 1, Math.floor(((y + 0.5) * from.height) / height)) * from.width;
    for (let x = 0; x < width; x++)
      out.data[y * width + x] = from.data[row + Math.min(from.width - 1, Math.floor(((x + 0.5) * from.width) / width))];
  }
  return out;
}
