import { say } from '@viaticum/contract';
import { blur, connectedParts, labels, labRaster, type Rgba, shrink, sizeWithin } from '@viaticum/kernels/raster';
import { convexHull, cross, crossing, distance, fromSegment, minus, type Point } from '../../geometry/index.js';

export type Corners = [Point, Point, Point, Point];

const PIXELS = 200_000;
const RING = 0.03;
const LEAST_SHARE = 0.08;
const LEAST_FILLED = 0.93;
const LEAST_JOINED = 0.8;
/** Parts that are joined have at least such a share of the largest. */
const LEAST_PART = 0.06;

/** Limits that are tried, as shares of the one that parts best in two: a canvas may have a strip that is nearly the table's colour. */
const LIMITS = [1, 0.7, 0.5, 0.35];
const LEAST_LIMIT = 6;
/** Sides whose proportion is off by more than this (a logarithm) are those of something else. */
const MOST_OFF = 0.35;
/** Those that are off by less may be it, as far as perspective goes. */
const ALIKE = 0.15;

/**
 * The four corners of a canvas or sheet in a photograph (its pixels; upper left, upper right, lower right, lower left as seen), found
 * as what differs from the rim of the photograph. `proportion`: its width over its height, where that is known; of several that may be it, the
 * largest is taken whose sides are like it, lying or standing. Null where no clear four-cornered thing is seen: then they are picked by
 * hand.
 */
export function findCorners(photo: Rgba, proportion?: number): Corners | null {
  const { width, height } = sizeWithin(photo, PIXELS);
  const small = shrink(photo, width, height);
  const lab = labRaster(small);
  const soft = [lab.l, lab.a, lab.b].map((data) => blur({ width, height, data }, 1.5).data) as [
    Float32Array,
    Float32Array,
    Float32Array,
  ];
  const away = fromRim(soft, width, height);
  const limit = otsu(away);
  if (limit < LEAST_LIMIT) return null;
  const limits = proportion === undefined ? [limit] : LIMITS.map((share) => share * limit).filter((one) => one >= LEAST_LIMIT);
  const takes = proportion === undefined ? [false] : [false, true];
  const found = limits.flatMap((one) =>
    takes.flatMap((isJoined) => {
      const four = fourBeyond(away, { limit: one, isJoined }, width, height);
      return four ? [{ four, off: proportion === undefined ? 0 : offBy(four, proportion) }] : [];
    }),
  );
  // Of those that may be it the largest: a part of a canvas may by chance have the canvas's own proportion.
  const alike = found.filter(({ off }) => off <= ALIKE).sort((a, b) => quadArea(b.four) - quadArea(a.four));
  const best = alike[0] ?? found.filter(({ off }) => off <= MOST_OFF).sort((a, b) => a.off - b.off)[0];
  if (!best) return null;
  const scale = photo.width / width;
  return ordered(best.four.map(([x, y]): Point => [x * scale, y * (photo.height / height)]) as Corners);
}

/** How far the proportion of four sides is from a known one, lying or standing, as a logarithm. */
function offBy(four: Corners, proportion: number): number {
  const [a, b, c, d] = ordered(four);
  const is = Math.log((distance(a, b) + distance(d, c)) / (distance(b, c) + distance(a, d)));
  const should = Math.log(proportion);
  return Math.min(Math.abs(is - should), Math.abs(is + should));
}

/**
 * The four corners of the largest thing that differs from the rim by more than a limit, or of all large ones together (`isJoined`: a strip of
 * the table's own colour may part a canvas in two); null where it is no four-cornered one.
 */
function fourBeyond(
  away: Float32Array,
  { limit, isJoined }: { limit: number; isJoined: boolean },
  width: number,
  height: number,
): Corners | null {
  const map = labels(width, height);
  for (let i = 0; i < away.length; i++) map.data[i] = (away[i] as number) > limit ? 1 : 0;
  const blob = largestPart(map, width, height, isJoined);
  if (!blob || blob.length < LEAST_SHARE * width * height) return null;
  const hull = convexHull(rimOf(blob, width));
  const four = toFour(hull);
  if (!four) return null;
  const fine = refined(four, hull);
  // A thing with holes or with a fifth corner does not fill its four.
  if (blob.length < (isJoined ? LEAST_JOINED : LEAST_FILLED) * quadArea(fine) || !isSound(fine)) return null;
  return fine.some(([x, y]) => x < 1 || y < 1 || x > width - 1 || y > height - 1) ? null : fine;
}

/** How far every pixel's colour is from the nearest of a few colours of the rim. */
function fromRim([l, a, b]: [Float32Array, Float32Array, Float32Array], width: number, height: number): Float32Array {
  const ring = Math.max(2, Math.round(Math.min(width, height) * RING));
  const at: number[] = [];
  for (let y = 0; y < height; y += 2)
    for (let x = 0; x < width; x += 2)
      if (x < ring || y < ring || x >= width - ring || y >= height - ring) at.push(y * width + x);
  // A few colours along the rim, by its quarters: a shadow that falls across changes it slowly.
  const sorted = [...at].sort((p, q) => (l[p] as number) - (l[q] as number));
  const centres = [0.1, 0.3, 0.5, 0.7, 0.9].map((share) => {
    const some = sorted.slice(Math.floor((share - 0.1) * sorted.length), Math.ceil((share + 0.1) * sorted.length));
    const mean = (data: Float32Array) => some.reduce((sum, i) => sum + (data[i] as number), 0) / some.length;
    return [mean(l), mean(a), mean(b)] as const;
  });
  return l.map((value, i) => {
    let least = Number.POSITIVE_INFINITY;
    for (const [cl, ca, cb] of centres)
      least = Math.min(least, Math.hypot(value - cl, (a[i] as number) - ca, (b[i] as number) - cb));
    return least;
  });
}

/** The limit that parts values best in two (Otsu 1979). */
function otsu(values: Float32Array): number {
  const bins = new Float64Array(128);
  for (const value of values) bins[Math.min(127, Math.floor(value))] = (bins[Math.min(127, Math.floor(value))] as number) + 1;
  let [all, sum] = [0, 0];
  bins.forEach((n, i) => {
    all += n;
    sum += n * i;
  });
  let [low, lowSum, best, most] = [0, 0, 0, -1];
  for (let i = 0; i < 127; i++) {
    low += bins[i] as number;
    lowSum += (bins[i] as number) * i;
    if (low === 0 || low === all) continue;
    const apart = (low * (all - low) * (lowSum / low - (sum - lowSum) / (all - low)) ** 2) / all;
    if (apart > most) [best, most] = [i + 1, apart];
  }
  return best;
}

/** The largest connected part of what is marked, or all large ones (`isJoined`), their holes filled. */
function largestPart(
  map: { width: number; height: number; data: Int32Array },
  width: number,
  height: number,
  isJoined: boolean,
): number[] | null {
  const { parts, labelOf, sizeOf } = connectedParts(map);
  let [best, most] = [-1, 0];
  sizeOf.forEach((size, part) => {
    if (size > most && labelOf[part] === 1) [best, most] = [part, size];
  });
  if (best < 0) return null;
  const isTaken = (part: number) =>
    part === best || (isJoined && labelOf[part] === 1 && (sizeOf[part] ?? 0) >= LEAST_PART * most);
  const inside = parts.data.map((part) => (isTaken(part) ? 1 : 0));
  // Row by row from its first to its last pixel where that holds column by column too: holes and lines within are filled.
  const [firstX, lastX] = [new Int32Array(height).fill(width), new Int32Array(height).fill(-1)];
  const [firstY, lastY] = [new Int32Array(width).fill(height), new Int32Array(width).fill(-1)];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      if (inside[y * width + x] === 0) continue;
      if (x < (firstX[y] as number)) firstX[y] = x;
      lastX[y] = x;
      if (y < (firstY[x] as number)) firstY[x] = y;
      lastY[x] = y;
    }
  const out: number[] = [];
  for (let y = 0; y < height; y++)
    for (let x = firstX[y] as number; x <= (lastX[y] as number); x++)
      if (y >= (firstY[x] as number) && y <= (lastY[x] as number)) out.push(y * width + x);
  return out;
}
/** First and last pixel of every row: corners of pixels, so that the rim is not half a pixel too small. */
function rimOf(blob: readonly number[], width: number): Point[] {
  const rows = new Map<number, [number, number]>();
  for (const i of blob) {
    const [x, y] = [i % width, Math.floor(i / width)];
    const row = rows.get(y);
    if (!row) rows.set(y, [x, x]);
    else {
      if (x < row[0]) row[0] = x;
      if (x > row[1]) row[1] = x;
    }
  }
  return [...rows].flatMap(([y, [from, to]]): Point[] => [
    [from, y],
    [to + 1, y],
    [from, y + 1],
    [to + 1, y + 1],
  ]);
}

/** A hull with all but four of its sides taken away, always the one whose loss adds least area. */
function toFour(hull: readonly Point[]): Corners | null {
  let ring = [...hull];
  while (ring.length > 4) {
    let best: { cost: number; ring: Point[] } | null = null;
    for (let i = 0; i < ring.length; i++) {
      const n = ring.length;
      const [before, a, b, after] = [ring[(i + n - 1) % n], ring[i], ring[(i + 1) % n], ring[(i + 2) % n]] as Corners;
      const meeting = crossing(before, a, after, b);
      if (!meeting || cross(minus(b, a), minus(meeting, a)) >= 0) continue;
      const cost = Math.abs(cross(minus(b, a), minus(meeting, a))) / 2;
      if (!best || cost < best.cost)
        best = { cost, ring: ring.map((p, k) => (k === i ? meeting : p)).filter((_, k) => k !== (i + 1) % n) };
    }
    if (!best) return null;
    ring = best.ring;
  }
  return ring.length === 4 ? (ring as Corners) : null;
}

/** Every side fitted to what lies along it, but for its ends, and the corners where these lines meet. */
function refined(four: Corners, hull: readonly Point[]): Corners {
  const dense = hull.flatMap((a, i): Point[] => {
    const b = hull[(i + 1) % hull.length] as Point;
    const count = Math.max(1, Math.round(distance(a, b)));
    return Array.from({ length: count }, (_, k) => [a[0] + ((b[0] - a[0]) * k) / count, a[1] + ((b[1] - a[1]) * k) / count]);
  });
  const sides = four.map((a, i) => {
    const b = four[(i + 1) % 4] as Point;
    const size = distance(a, b);
    const near = dense.filter(
      (p) => fromSegment(p, a, b) < 0.03 * size && distance(p, a) > 0.08 * size && distance(p, b) > 0.08 * size,
    );
    if (near.length < 8) return [a, b] as const;
    const [cx, cy] = [near.reduce((s, [x]) => s + x, 0) / near.length, near.reduce((s, [, y]) => s + y, 0) / near.length];
    let [xx, xy, yy] = [0, 0, 0];
    for (const [x, y] of near) {
      xx += (x - cx) ** 2;
      xy += (x - cx) * (y - cy);
      yy += (y - cy) ** 2;
    }
    const angle = 0.5 * Math.atan2(2 * xy, xx - yy);
    return [[cx, cy] as Point, [cx + Math.cos(angle), cy + Math.sin(angle)] as Point] as const;
  });
  return four.map((p, i) => {
    const [one, other] = [sides[(i + 3) % 4], sides[i]] as [readonly [Point, Point], readonly [Point, Point]];
    const meeting = crossing(...one, ...other);
    return meeting && distance(meeting, p) < 30 ? meeting : p;
  }) as Corners;
}

const quadArea = (q: Corners): number => Math.abs(q.reduce((sum, a, i) => sum + cross(a, q[(i + 1) % 4] as Point), 0)) / 2;
/** Convex, no side far shorter than the others, no corner sharper than 45 degrees. */
function isSound(q: Corners): boolean {
  const sides = q.map((a, i) => distance(a, q[(i + 1) % 4] as Point));
  if (Math.min(...sides) < 0.2 * Math.max(...sides)) return false;
  return q.every((p, i) => {
    const [a, b] = [minus(q[(i + 3) % 4] as Point, p), minus(q[(i + 1) % 4] as Point, p)];
    const angle = Math.abs(Math.atan2(cross(a, b), a[0] * b[0] + a[1] * b[1]));
    return angle > Math.PI / 4 && angle < (3 * Math.PI) / 4;
  });
}

/** Corners from the upper left one on, clockwise as seen. */
export function ordered(corners: Corners): Corners {
  const [cx, cy] = [corners.reduce((s, [x]) => s + x, 0) / 4, corners.reduce((s, [, y]) => s + y, 0) / 4];
  const round = [...corners].sort((a, b) => Math.atan2(a[1] - cy, a[0] - cx) - Math.atan2(b[1] - cy, b[0] - cx));
  const first = round.reduce((best, p, i) => (p[0] + p[1] < (round[best] as Point)[0] + (round[best] as Point)[1] ? i : best), 0);
  return [...round.slice(first), ...round.slice(0, first)] as Corners;
}

/** Why four picked corners cannot be used, as a sentence; null where they can. */
export function cornersFault(corners: readonly Point[]): string | null {
  if (corners.length !== 4) return say('Pick all four corners of the canvas.');
  const four = corners as Corners;
  const turns = four.map((p, i) => Math.sign(cross(minus(p, four[(i + 3) % 4] as Point), minus(four[(i + 1) % 4] as Point, p))));
  if (turns.some((turn) => turn === 0)) return say('Three of the four corners lie on one line. Move one of them.');
  if (turns.some((turn) => turn !== turns[0]))
    return say('The corners cross over each other. Pick them in turn round the canvas.');
  return isSound(four) ? null : say('This is seen too much from the side to measure. Photograph it from the front.');
}
