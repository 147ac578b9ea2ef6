import { between, distance, dot, length, minus, type Point, plus, times } from '../geometry/index.js';

/** Cubic Bézier curves in a row: 3n + 1 points, every third one on the line, the others its handles. */
export type Curve = Point[];

/** The four points of piece `i` of a curve. */
const piece = (curve: Curve, i: number) => curve.slice(3 * i, 3 * i + 4) as [Point, Point, Point, Point];
export const piecesOf = (curve: Curve): number => Math.max(0, Math.floor((curve.length - 1) / 3));
/** The number of points that a person would have to draw: ends and joints. */
export const nodesOf = (curve: Curve): number => piecesOf(curve) + 1;

function at([a, b, c, d]: readonly [Point, Point, Point, Point], t: number): Point {
  const s = 1 - t;
  const [i, j, k, l] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t];
  return [i * a[0] + j * b[0] + k * c[0] + l * d[0], i * a[1] + j * b[1] + k * c[1] + l * d[1]];
}

const isStraight = ([a, b, c, d]: readonly [Point, Point, Point, Point]): boolean => {
  const way = minus(d, a);
  const size = length(way) || 1;
  const off = (p: Point) => Math.abs((p[0] - a[0]) * way[1] - (p[1] - a[1]) * way[0]) / size;
  return off(b) < 1e-6 && off(c) < 1e-6;
};

/** A curve as points no farther apart than `stepMm` (both ends of every piece among them; a straight piece keeps its ends alone). */
export function flattened(curve: Curve, stepMm = 1): Point[] {
  if (curve.length < 4) return curve.slice(0, 1);
  const out: Point[] = [curve[0] as Point];
  for (let i = 0; i < piecesOf(curve); i++) {
    const four = piece(curve, i);
    const [a, b, c, d] = four;
    const count = isStraight(four) ? 1 : Math.max(2, Math.ceil((distance(a, b) + distance(b, c) + distance(c, d)) / stepMm));
    for (let k = 1; k <= count; k++) out.push(k === count ? d : at(four, k / count));
  }
  return out;
}

/** Points joined by straight pieces, as a curve. */
export function straightCurve(points: readonly Point[]): Curve {
  return points.flatMap((point, i) => {
    const before = points[i - 1];
    return before ? [between(before, point, 1 / 3), between(before, point, 2 / 3), point] : [point];
  });
}

/** A smooth curve through points, in their order (Catmull and Rom 1974). */
export function throughPoints(points: readonly Point[]): Curve {
  if (points.length < 3) return straightCurve(points);
  return points.flatMap((p, i): Point[] => {
    const before = points[i - 1];
    if (!before) return [p];
    const [first, last] = [points[i - 2] ?? before, points[i + 1] ?? p];
    return [plus(before, times(minus(p, first), 1 / 6)), minus(p, times(minus(last, before), 1 / 6)), p];
  });
}

/** A curve as another map shows it, by its points: exact for moves, turns, mirrors and scales. */
export const curveThrough = (curve: Curve, map: (point: Point) => Point): Curve => curve.map(map);

export type FitOptions = {
  /** How far the curve may lie from the points. */
  toleranceMm: number;
  /** One straight piece is taken where it lies within this. */
  straightMm?: number;
};

/**
 * Fewest cubic Bézier curves through a line of points within a tolerance: least squares with the parameters found again
 * (Schneider 1990, *Graphics Gems*). Points of the line should lie evenly; tangents are taken over seven of them.
 */
export function fitCurve(points: readonly Point[], { toleranceMm, straightMm = toleranceMm }: FitOptions): Curve {
  const line = points.filter((p, i) => i === 0 || distance(p, points[i - 1] as Point) > 1e-9);
  if (line.length < 2) return [];
  const [first, last] = [line[0] as Point, line.at(-1) as Point];
  if (distance(first, last) > 1e-9 && line.every((p) => offLine(p, first, last) <= straightMm))
    return straightCurve([first, last]);
  const out: Curve = [first];
  fitPart(line, 0, line.length - 1, tangent(line, 0, 1), tangent(line, line.length - 1, -1), toleranceMm, out);
  return out;
}

const offLine = (p: Point, a: Point, b: Point): number => {
  const way = minus(b, a);
  return Math.abs((p[0] - a[0]) * way[1] - (p[1] - a[1]) * way[0]) / (length(way) || 1);
};

const TANGENT_POINTS = 7;
/** The direction in which a line leaves a point, over some of its neighbours. */
function tangent(line: readonly Point[], from: number, way: 1 | -1): Point {
  const to = Math.max(0, Math.min(line.length - 1, from + way * TANGENT_POINTS));
  const d = minus(line[to] as Point, line[from] as Point);
  const size = length(d);
  if (size > 1e-9) return times(d, 1 / size);
  const near = minus(line[Math.max(0, Math.min(line.length - 1, from + way))] as Point, line[from] as Point);
  return times(near, 1 / (length(near) || 1));
}
const unit = (a: Point): Point => times(a, 1 / (length(a) || 1));

function fitPart(
  line: readonly Point[],
  from: number,
  to: number,
  left: Point,
  right: Point,
  tolerance: number,
  out: Curve,
): void {
  const [a, d] = [line[from] as Point, line[to] as Point];
  if (to - from === 1) {
    out.push(...straightCurve([a, d]).slice(1));
    return;
  }
  let u = byLength(line, from, to);
  let best = leastSquares(line, from, to, u, left, right);
  let worst = farthest(line, from, to, best, u);
  for (let round = 0; round < 4 && worst.off > tolerance && worst.off < tolerance * 6; round++) {
    u = u.map((t, i) => nearer(best, line[from + i] as Point, t));
    best = leastSquares(line, from, to, u, left, right);
    worst = farthest(line, from, to, best, u);
  }
  if (worst.off <= tolerance) {
    out.push(best[1], best[2], best[3]);
    return;
  }
  const split = Math.max(from + 1, Math.min(to - 1, worst.at));
  const before = tangent(line.slice(from, to + 1), split - from, -1);
  const after = tangent(line.slice(from, to + 1), split - from, 1);
  // Smooth through the split, unless the line has a corner there.
  const isCorner = dot(before, after) > -0.5;
  const way = unit(minus(after, before));
  fitPart(line, from, split, left, isCorner ? before : times(way, -1), tolerance, out);
  fitPart(line, split, to, isCorner ? after : way, right, tolerance, out);
}

function byLength(line: readonly Point[], from: number, to: number): number[] {
  const u = [0];
  for (let i = from + 1; i <= to; i++) u.push((u.at(-1) as number) + distance(line[i] as Point, line[i - 1] as Point));
  const whole = u.at(-1) as number;
  return u.map((value) => value / whole);
}

type Four = [Point, Point, Point, Point];
function leastSquares(line: readonly Point[], from: number, to: number, u: readonly number[], left: Point, right: Point): Four {
  const [a, d] = [line[from] as Point, line[to] as Point];
  let [c00, c01, c11, x0, x1] = [0, 0, 0, 0, 0];
  for (const [i, t] of u.entries()) {
    const s = 1 - t;
    const [b1, b2] = [3 * s * s * t, 3 * s * t * t];
    const [one, two] = [times(left, b1), times(right, b2)];
    c00 += dot(one, one);
    c01 += dot(one, two);
    c11 += dot(two, two);
    const [ba, bd] = [s * s * s + b1, t * t * t + b2];
    const rest = minus(line[from + i] as Point, plus(times(a, ba), times(d, bd)));
    x0 += dot(one, rest);
    x1 += dot(two, rest);
  }
  const det = c00 * c11 - c01 * c01;
  const chord = distance(a, d);
  let [alpha, beta] = Math.abs(det) > 1e-12 ? [(x0 * c11 - x1 * c01) / det, (c00 * x1 - c01 * x0) / det] : [0, 0];
  // Handles that point backwards or run away make loops: a third of the way is taken in their place.
  const least = chord * 1e-3;
  let length = 0;
  for (let i = from + 1; i <= to; i++) length += distance(line[i] as Point, line[i - 1] as Point);
  if (!(alpha > least && alpha < length * 1.5)) alpha = length / 3;
  if (!(beta > least && beta < length * 1.5)) beta = length / 3;
  return [a, plus(a, times(left, alpha)), plus(d, times(right, beta)), d];
}

/** One step of Newton towards the parameter at which a curve comes nearest to a point. */
function nearer(four: Four, p: Point, t: number): number {
  const [a, b, c, d] = four;
  const s = 1 - t;
  const off = minus(at(four, t), p);
  const first = plus(plus(times(minus(b, a), 3 * s * s), times(minus(c, b), 6 * s * t)), times(minus(d, c), 3 * t * t));
  const second = plus(times(plus(minus(c, times(b, 2)), a), 6 * s), times(plus(minus(d, times(c, 2)), b), 6 * t));
  const down = dot(first, first) + dot(off, second);
  if (Math.abs(down) < 1e-12) return t;
  return Math.max(0, Math.min(1, t - dot(off, first) / down));
}

function farthest(
  line: readonly Point[],
  from: number,
  to: number,
  four: Four,
  u: readonly number[],
): { off: number; at: number } {
  let [off, where] = [0, (from + to) >> 1];
  for (let i = from + 1; i < to; i++) {
    const here = distance(at(four, u[i - from] as number), line[i] as Point);
    if (here > off) {
      off = here;
      where = i;
    }
  }
  return { off, at: where };
}

/** A curve as SVG path data in mm, to a thousandth. */
export function pathData(curve: Curve): string {
  const show = ([x, y]: Point) => `${Math.round(x * 1000) / 1000} ${Math.round(y * 1000) / 1000}`;
  if (curve.length < 4) return '';
  let out = `M${show(curve[0] as Point)}`;
  for (let i = 0; i < piecesOf(curve); i++) {
    const four = piece(curve, i);
    out += isStraight(four) ? `L${show(four[3])}` : `C${show(four[1])} ${show(four[2])} ${show(four[3])}`;
  }
  return out;
}
