import { dropSmallParts, type Labels, type LabRaster, labels, type Plane, resampleLabels } from '../raster/index.js';

const BAND_PX = 8;

/**
 * Labels at the size of a finer picture: up-sampled, and within a band of 8 pixels (of the finer picture) round every border
 * decided anew by flooding from both sides up to the crest of the gradient (watershed by priority flood; Meyer 1994, from memory).
 */
export function sharpenBorders(coarse: Labels, lab: LabRaster, bandPx = BAND_PX): Labels {
  const { width, height } = lab;
  const map = resampleLabels(coarse, width, height);
  const undecided = nearBorder(map, bandPx);
  const slopes = slopesWithin(lab, undecided);
  const { data } = map;
  // An area that lies wholly within the band would be lost: keep its innermost pixels.
  const kept = new Map<number, number>();
  for (let at = 0; at < data.length; at++) if (!undecided[at]) kept.set(data[at], (kept.get(data[at]) ?? 0) + 1);
  const thin = new Set<number>();
  for (let at = 0; at < data.length; at++) if (undecided[at] && (kept.get(data[at]) ?? 0) < 40) thin.add(data[at]);
  if (thin.size > 0) {
    const closer = nearBorder(map, Math.max(1, bandPx >> 2));
    for (let at = 0; at < data.length; at++) if (thin.has(data[at]) && !closer[at]) undecided[at] = 0;
    const still = new Set(thin);
    for (let at = 0; at < data.length; at++) if (!undecided[at]) still.delete(data[at]);
    for (let at = 0; at < data.length; at++) if (still.has(data[at])) undecided[at] = 0;
  }
  flood(map, undecided, slopes);
  return map;
}

/** Length of the Lab gradient by Sobel's operator, where the mask is set. */
function slopesWithin({ width, height, l, a, b }: LabRaster, mask: Uint8Array): Plane {
  const data = new Float32Array(l.length);
  const squared = (plane: Float32Array, up: number, row: number, down: number, left: number, x: number, right: number) => {
    const upLeft = plane[up + left];
    const upRight = plane[up + right];
    const downLeft = plane[down + left];
    const downRight = plane[down + right];
    const dx = upRight + downRight - upLeft - downLeft + 2 * (plane[row + right] - plane[row + left]);
    const dy = downLeft + downRight - upLeft - upRight + 2 * (plane[down + x] - plane[up + x]);
    return dx * dx + dy * dy;
  };
  for (let y = 0; y < height; y++) {
    const row = y * width;
    const up = y > 0 ? row - width : row;
    const down = y < height - 1 ? row + width : row;
    for (let x = 0; x < width; x++) {
      if (!mask[row + x]) continue;
      const left = x > 0 ? x - 1 : x;
      const right = x < width - 1 ? x + 1 : x;
      const sum =
        squared(l, up, row, down, left, x, right) +
        squared(a, up, row, down, left, x, right) +
        squared(b, up, row, down, left, x, right);
      data[row + x] = Math.sqrt(sum) / 8;
    }
  }
  return { width, height, data };
}

/** 1 for every pixel within `reach` (chessboard steps) of a pixel with another label. */
function nearBorder({ width, height, data }: Labels, reach: number): Uint8Array {
  const edge = new Uint8Array(width * height);
  for (let y = 0, at = 0; y < height; y++)
    for (let x = 0; x < width; x++, at++) {
      const label = data[at];
      if (x + 1 < width && data[at + 1] !== label) edge[at] = edge[at + 1] = 1;
      if (y + 1 < height && data[at + width] !== label) edge[at] = edge[at + width] = 1;
    }
  return grow(edge, width, height, reach - 1);
}

/** A mask widened by so many pixels in all eight directions. */
export function grow(mask: Uint8Array, width: number, height: number, reach: number): Uint8Array {
  if (reach <= 0) return mask;
  const rows = new Uint8Array(mask.length);
  for (let y = 0; y < height; y++) {
    let until = -1;
    for (let x = -reach; x < width; x++) {
      if (x + reach < width && mask[y * width + x + reach]) until = x + 2 * reach;
      if (x >= 0 && x <= until) rows[y * width + x] = 1;
    }
  }
  const out = new Uint8Array(mask.length);
  const until = new Int32Array(width).fill(-1);
  for (let y = -reach; y < height; y++)
    for (let x = 0; x < width; x++) {
      if (y + reach < height && rows[(y + reach) * width + x]) until[x] = y + 2 * reach;
      if (y >= 0 && y <= until[x]) out[y * width + x] = 1;
    }
  return out;
}

/** Gives undecided pixels the label of the first decided neighbour from which a flood reaches them, lowest gradient first. */
function flood({ width, height, data }: Labels, undecided: Uint8Array, slopes: Plane): void {
  const LEVELS = 1024;
  const next = new Int32Array(width * height);
  const heads = new Int32Array(LEVELS).fill(-1);
  const tails = new Int32Array(LEVELS).fill(-1);
  const level = (at: number) => Math.min(LEVELS - 1, Math.floor(slopes.data[at] * 32));
  let low = LEVELS;
  const waiting = new Uint8Array(width * height);
  const push = (at: number, floor: number) => {
    const bin = Math.max(floor, level(at));
    next[at] = -1;
    if (heads[bin] === -1) heads[bin] = at;
    else next[tails[bin]] = at;
    tails[bin] = at;
    if (bin < low) low = bin;
  };
  const take = (other: number, label: number, floor: number) => {
    if (!undecided[other] || waiting[other]) return;
    waiting[other] = 1;
    data[other] = label;
    push(other, floor);
  };
  const spread = (at: number, floor: number) => {
    const x = at % width;
    const label = data[at];
    if (x > 0) take(at - 1, label, floor);
    if (x < width - 1) take(at + 1, label, floor);
    if (at >= width) take(at - width, label, floor);
    if (at + width < data.length) take(at + width, label, floor);
  };
  for (let at = 0; at < data.length; at++) if (!undecided[at]) spread(at, 0);
  while (low < LEVELS) {
    const at = heads[low];
    if (at === -1) {
      low++;
      continue;
    }
    heads[low] = next[at];
    if (heads[low] === -1) tails[low] = -1;
    undecided[at] = 0;
    spread(at, low);
  }
}

/** Every pixel takes the label most frequent in the square of side 2·radius + 1 about it (its own on a tie). */
export function modeFilter({ width, height, data }: Labels, radius: number): Labels {
  const out = labels(width, height);
  out.data.set(data);
  const edge = nearBorder({ width, height, data }, radius + 1);
  let greatest = 0;
  for (let at = 0; at < data.length; at++) if (data[at] > greatest) greatest = data[at];
  const counts = new Int32Array(greatest + 1);
  const side = 2 * radius + 1;
  const seen = new Int32Array(side * side);
  for (let y = 0, at = 0; y < height; y++)
    for (let x = 0; x < width; x++, at++) {
      if (!edge[at]) continue;
      let n = 0;
      for (let dy = -radius; dy <= radius; dy++) {
        const row = Math.min(height - 1, Math.max(0, y + dy)) * width;
        for (let dx = -radius; dx <= radius; dx++) {
          const label = data[row + Math.min(width - 1, Math.max(0, x + dx))];
          counts[label] = counts[label] + 1;
          seen[n++] = label;
        }
      }
      let best = data[at];
      let most = counts[best];
      for (let i = 0; i < n; i++) {
        const label = seen[i];
        if (counts[label] > most) {
          best = label;
          most = counts[label];
        }
      }
      for (let i = 0; i < n; i++) counts[seen[i]] = 0;
      out.data[at] = best;
    }
  return out;
}

/** Sharpened labels without single pixels, ragged rims and parts too small to paint. */
export function finish(coarse: Labels, lab: LabRaster, leastPx: (label: number) => number): Labels {
  const sharp = modeFilter(sharpenBorders(coarse, lab), 3);
  dropSmallParts(sharp, leastPx);
  return sharp;
}
