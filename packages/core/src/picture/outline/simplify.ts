import type { Arc } from './arcs.js';

type Point = [number, number];

/** Rounds off the staircase of an arc: every inner point moves to the weighted middle of its neighbours, some times. */
function smooth(points: Point[], closed: boolean, rounds: number): Point[] {
  let now = points;
  for (let round = 0; round < rounds; round++) {
    const n = now.length;
    now = now.map((point, i) => {
      if (!closed && (i === 0 || i === n - 1)) return point;
      const before = now[(i - 1 + n) % n] as Point;
      const after = now[(i + 1) % n] as Point;
      return [(before[0] + 2 * point[0] + after[0]) / 4, (before[1] + 2 * point[1] + after[1]) / 4];
    });
  }
  return now;
}

/** How a border is drawn as a painter would: softened along itself, but for its true corners, and never far from where it was. Pixels. */
export type Curved = { sigmaPx: number; keepPx: number; reachPx: number; cornerDeg: number };

/** A line softened along itself between its corners (1 2 1 kernels: half a pixel of variance each round), held near to where it was. */
function softened(points: Point[], closed: boolean, { sigmaPx, keepPx, reachPx, cornerDeg }: Curved): Point[] {
  const n = points.length;
  const corners = cornersOf(points, closed, reachPx, cornerDeg);
  let now = points;
  for (let round = 0; round < Math.round(2 * sigmaPx * sigmaPx); round++) {
    const before = now;
    now = before.map((point, i) => {
      if (corners.has(i) || (!closed && (i === 0 || i === n - 1))) return point;
      const [p, q] = [before[(i - 1 + n) % n] as Point, before[(i + 1) % n] as Point];
      return [(p[0] + 2 * point[0] + q[0]) / 4, (p[1] + 2 * point[1] + q[1]) / 4];
    });
  }
  return now.map(([x, y], i) => {
    const [ox, oy] = points[i] as Point;
    const off = Math.hypot(x - ox, y - oy);
    return off <= keepPx ? [x, y] : [ox + ((x - ox) * keepPx) / off, oy + ((y - oy) * keepPx) / off];
  });
}

/** Places where a line turns sharply within its reach, each the sharpest of its neighbourhood. */
function cornersOf(points: readonly Point[], closed: boolean, reachPx: number, cornerDeg: number): Set<number> {
  const n = points.length;
  const reach = Math.max(2, Math.round(reachPx));
  const turns = points.map((at, i) => {
    if (!closed && (i < reach || i >= n - reach)) return 0;
    if (closed && n < 4 * reach) return 0;
    const [p, q] = [points[(i - reach + n) % n] as Point, points[(i + reach) % n] as Point];
    const [a, b] = [Math.atan2(at[1] - p[1], at[0] - p[0]), Math.atan2(q[1] - at[1], q[0] - at[0])];
    const by = Math.abs(((b - a + 3 * Math.PI) % (2 * Math.PI)) - Math.PI);
    return (by * 180) / Math.PI;
  });
  const found = new Set<number>();
  turns.forEach((turn, i) => {
    if (turn < cornerDeg) return;
    for (let k = -reach; k <= reach; k++) {
      const j = closed ? (i + k + n) % n : i + k;
      const other = turns[j] ?? 0;
      if (other > turn || (other === turn && k < 0)) return;
    }
    found.add(i);
  });
  return found;
}

/** Fewest points of a line that stays within a tolerance of it (Douglas and Peucker 1973). */
export function douglasPeucker(points: readonly Point[], tolerance: number): Point[] {
  if (points.length < 3) return [...points];
  const keep = new Uint8Array(points.length);
  keep[0] = keep[points.length - 1] = 1;
  const stack: [number, number][] = [[0, points.length - 1]];
  for (let span = stack.pop(); span; span = stack.pop()) {
    const [from, to] = span;
    const [ax, ay] = points[from] as Point;
    const [bx, by] = points[to] as Point;
    const length = Math.hypot(bx - ax, by - ay);
    let far = tolerance;
    let at = -1;
    for (let i = from + 1; i < to; i++) {
      const [x, y] = points[i] as Point;
      const off = length < 1e-9 ? Math.hypot(x - ax, y - ay) : Math.abs((bx - ax) * (ay - y) - (ax - x) * (by - ay)) / length;
      if (off > far) {
        far = off;
        at = i;
      }
    }
    if (at < 0) continue;
    keep[at] = 1;
    stack.push([from, at], [at, to]);
  }
  return points.filter((_, i) => keep[i]);
}

function simple(arc: Arc, tolerance: number, curved: Curved | null): Point[] {
  const { points, closed } = arc;
  const onEdge = arc.left === -1 || arc.right === -1;
  if (tolerance <= 0) return points;
  if (onEdge && !closed) return [points[0] as Point, points.at(-1) as Point];
  const plain = smooth(points, closed, 3);
  const isLoop = !closed && straightLoop(points);
  const round = curved ? softened(plain, closed, curved) : plain;
  if (!closed) return isLoop ? douglasPeuckerLoop(round.slice(0, -1), tolerance) : douglasPeucker(round, tolerance);
  return douglasPeuckerLoop(round, tolerance);
}
const straightLoop = (points: Point[]) =>
  (points[0] as Point)[0] === (points.at(-1) as Point)[0] && (points[0] as Point)[1] === (points.at(-1) as Point)[1];

/** A closed line: cut at its first point and at the farthest from it. */
function douglasPeuckerLoop(points: Point[], tolerance: number): Point[] {
  const [x0, y0] = points[0] as Point;
  let [far, at] = [0, 0];
  points.forEach(([x, y], i) => {
    const distance = Math.hypot(x - x0, y - y0);
    if (distance > far) [far, at] = [distance, i];
  });
  const first = douglasPeucker(points.slice(0, at + 1), tolerance);
  const second = douglasPeucker([...points.slice(at), points[0] as Point], tolerance);
  const loop = [...first.slice(0, -1), ...second.slice(0, -1)];
  return loop.length >= 3 ? loop : points;
}

/** Pairs of arcs (by index) with segments that meet elsewhere than in a common end. */
function crossings(lines: readonly Point[][], closed: readonly boolean[], size: number): Set<number> {
  const cell = Math.max(4, size / 64);
  const grid = new Map<number, number[]>();
  const segments: { arc: number; a: Point; b: Point }[] = [];
  const bad = new Set<number>();
  for (const [arc, line] of lines.entries()) {
    const count = closed[arc] ? line.length : line.length - 1;
    for (let i = 0; i < count; i++) {
      const [a, b] = [line[i] as Point, line[(i + 1) % line.length] as Point];
      const number = segments.length;
      segments.push({ arc, a, b });
      const [x0, x1] = [Math.floor(Math.min(a[0], b[0]) / cell), Math.floor(Math.max(a[0], b[0]) / cell)];
      const [y0, y1] = [Math.floor(Math.min(a[1], b[1]) / cell), Math.floor(Math.max(a[1], b[1]) / cell)];
      const tested = new Set<number>();
      for (let y = y0; y <= y1; y++)
        for (let x = x0; x <= x1; x++) {
          const key = y * 100003 + x;
          const there = grid.get(key);
          if (!there) {
            grid.set(key, [number]);
            continue;
          }
          for (const other of there) {
            if (tested.has(other)) continue;
            tested.add(other);
            const one = segments[other] as { arc: number; a: Point; b: Point };
            if (meet(a, b, one.a, one.b)) bad.add(arc).add(one.arc);
          }
          there.push(number);
        }
    }
  }
  return bad;
}

const same = (p: Point, q: Point) => p[0] === q[0] && p[1] === q[1];
const turn = (p: Point, q: Point, r: Point) => (q[0] - p[0]) * (r[1] - p[1]) - (q[1] - p[1]) * (r[0] - p[0]);
const within = (p: Point, q: Point, r: Point) =>
  Math.min(p[0], q[0]) <= r[0] && r[0] <= Math.max(p[0], q[0]) && Math.min(p[1], q[1]) <= r[1] && r[1] <= Math.max(p[1], q[1]);

/** Whether two segments meet anywhere but in an end that both have. */
function meet(a: Point, b: Point, c: Point, d: Point): boolean {
  const common = [same(a, c), same(a, d), same(b, c), same(b, d)].filter(Boolean).length;
  if (common === 2) return true;
  const [t1, t2, t3, t4] = [turn(a, b, c), turn(a, b, d), turn(c, d, a), turn(c, d, b)];
  if (common === 1) {
    // From the common end both could run along each other.
    const [end, one, other] = same(a, c) ? [a, b, d] : same(a, d) ? [a, b, c] : same(b, c) ? [b, a, d] : [b, a, c];
    return turn(end, one, other) === 0 && (one[0] - end[0]) * (other[0] - end[0]) + (one[1] - end[1]) * (other[1] - end[1]) > 0;
  }
  if (((t1 > 0 && t2 < 0) || (t1 < 0 && t2 > 0)) && ((t3 > 0 && t4 < 0) || (t3 < 0 && t4 > 0))) return true;
  return (
    (t1 === 0 && within(a, b, c)) ||
    (t2 === 0 && within(a, b, d)) ||
    (t3 === 0 && within(c, d, a)) ||
    (t4 === 0 && within(c, d, b))
  );
}

/**
 * Arcs rounded off (or drawn as curves) and with few points, none crossing another: where two would, their tolerance is halved until they do not;
 * the untouched lattice, which cannot cross, is the last resort. Junctions and the picture's edge stay in place.
 */
export function simplifyArcs(arcs: readonly Arc[], tolerancePx: number, size: number, curved: Curved | null = null): Arc[] {
  const tolerance = arcs.map(() => tolerancePx);
  const lines = arcs.map((arc) => simple(arc, tolerancePx, curved));
  const closed = arcs.map((arc) => arc.closed || straightLoop(arc.points));
  for (let round = 0; round < 12; round++) {
    const shown = lines.map((line, i) => (closed[i] && straightLoop(line) ? line.slice(0, -1) : line));
    const bad = crossings(shown, closed, size);
    if (bad.size === 0) break;
    for (const i of bad) {
      tolerance[i] = (tolerance[i] as number) / 2;
      if ((tolerance[i] as number) < tolerancePx / 8 || round >= 8) tolerance[i] = 0;
      // The untouched line, a little rounded off, before the lattice.
      lines[i] = simple(arcs[i] as Arc, tolerance[i] as number, round < 4 ? curved : null);
    }
  }
  return arcs.map((arc, i) => {
    const line = lines[i] as Point[];
    if (arc.closed) return { ...arc, points: line };
    // A loop from a junction to itself keeps its end.
    return { ...arc, points: straightLoop(arc.points) && !straightLoop(line) ? [...line, line[0] as Point] : line };
  });
}
