import type { Outline } from '@viaticum/contract';
import type { Labels } from '@viaticum/kernels/raster';
import { insideOutline, ringArea } from '../../area/index.js';
import { type Arc, traceArcs } from './arcs.js';
import { simplifyArcs } from './simplify.js';

type Point = [number, number];

/** The borders of a label map as simplified arcs in mm, from which outlines of any set of regions follow without clipping. */
export type Borders = { arcs: Arc[]; areas: number };

/** How far borders are softened along themselves, how far they may move for it, and from which angle within which reach a corner stays. */
const CURVE = { sigmaMm: 2, keepMm: 0.9, reachMm: 5, cornerDeg: 50 };

/** Arcs of a map (traced already, where several tolerances are tried), in mm; `toleranceMm` is how far a simplified border may lie from the true one. */
export function bordersOf(
  map: Labels,
  areas: number,
  mmPerPx: number,
  toleranceMm: number,
  traced = traceArcs(map),
  isCurved = false,
): Borders {
  const curved = isCurved
    ? {
        sigmaPx: CURVE.sigmaMm / mmPerPx,
        keepPx: CURVE.keepMm / mmPerPx,
        reachPx: CURVE.reachMm / mmPerPx,
        cornerDeg: CURVE.cornerDeg,
      }
    : null;
  const arcs = simplifyArcs(traced, toleranceMm / mmPerPx, Math.max(map.width, map.height), curved);
  const mm = (value: number) => Math.round(value * mmPerPx * 1000) / 1000;
  return { areas, arcs: arcs.map((arc) => ({ ...arc, points: arc.points.map(([x, y]): Point => [mm(x), mm(y)]) })) };
}

const key = ([x, y]: Point) => `${x},${y}`;

/** The outline of a set of regions: the arcs that have exactly one side in it, joined to rings. Empty for an empty set. */
export function outlineOf({ arcs }: Borders, inside: (area: number) => boolean): Outline {
  const within = (area: number) => area >= 0 && inside(area);
  const rings: Point[][] = [];
  type Piece = { points: Point[]; used: boolean };
  const from = new Map<string, Piece[]>();
  const pieces: Piece[] = [];
  for (const arc of arcs) {
    const left = within(arc.left);
    if (left === within(arc.right)) continue;
    const points = left ? arc.points : [...arc.points].reverse(); // the set lies to the left
    if (arc.closed) {
      rings.push(points);
      continue;
    }
    const piece = { points, used: false };
    pieces.push(piece);
    const start = key(points[0] as Point);
    from.set(start, [...(from.get(start) ?? []), piece]);
  }
  for (const piece of pieces) {
    if (piece.used) continue;
    const ring: Point[] = [];
    let now: Piece | undefined = piece;
    while (now && !now.used) {
      now.used = true;
      ring.push(...now.points.slice(0, -1));
      const end = now.points.at(-1) as Point;
      const choices: Piece[] = (from.get(key(end)) ?? []).filter((one) => !one.used);
      now = choices.length < 2 ? choices[0] : sharpest(now.points.at(-2) as Point, end, choices);
    }
    if (ring.length >= 3) rings.push(ring);
  }
  return nest(rings);
}

/** At a corner where the set touches itself: the next piece that keeps closest to the set, so that rings do not cross. */
function sharpest<T extends { points: Point[] }>(before: Point, at: Point, choices: T[]): T {
  const back = Math.atan2(before[1] - at[1], before[0] - at[0]);
  const turn = (piece: T) => {
    const [x, y] = piece.points[1] as Point;
    const angle = Math.atan2(y - at[1], x - at[0]) - back;
    return ((angle % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI);
  };
  return choices.reduce((best, one) => (turn(one) < turn(best) ? one : best));
}

/** Rings into polygons: those that run one way round are outer, the others holes of the smallest outer one about them. */
function nest(rings: Point[][]): Outline {
  const measured = rings.map((ring) => ({ ring, area: ringArea(ring) })).filter((one) => Math.abs(one.area) > 1e-6);
  // With the set to the left and y down, outer rings run counter-clockwise on screen: negative area.
  const outer = measured.filter((one) => one.area < 0).map((one) => ({ ...one, polygon: [one.ring] }));
  for (const hole of measured.filter((one) => one.area > 0)) {
    const homes = outer.filter((one) => Math.abs(one.area) > hole.area && holds(one.ring, hole.ring));
    homes.sort((a, b) => Math.abs(a.area) - Math.abs(b.area))[0]?.polygon.push(hole.ring);
  }
  return outer.map((one) => one.polygon);
}

/** Whether most points of a ring lie in another (they may touch). */
function holds(outer: Point[], inner: Point[]): boolean {
  let count = 0;
  for (let i = 0; i < inner.length; i++) {
    const [p, q] = [inner[i] as Point, inner[(i + 1) % inner.length] as Point];
    if (insideOutline([[outer]], (p[0] + q[0]) / 2, (p[1] + q[1]) / 2)) count++;
  }
  return count * 2 > inner.length;
}

/** Which areas touch which, by length of common border in mm: `get(i)?.get(j)`, both ways. */
export function contacts({ arcs, areas }: Borders): Map<number, number>[] {
  const out: Map<number, number>[] = Array.from({ length: areas }, () => new Map());
  for (const { points, left, right, closed } of arcs) {
    if (left < 0 || right < 0) continue;
    let length = 0;
    for (let i = 1; i < points.length; i++) length += apart(points[i - 1] as Point, points[i] as Point);
    if (closed) length += apart(points.at(-1) as Point, points[0] as Point);
    for (const [i, j] of [
      [left, right],
      [right, left],
    ] as const)
      out[i]?.set(j, (out[i]?.get(j) ?? 0) + length);
  }
  return out;
}
const apart = (p: Point, q: Point) => Math.hypot(p[0] - q[0], p[1] - q[1]);

/**
 * Stacked sheets from a map and an order back to front: each area together with all areas in front that hang together with it.
 * What is seen of sheet i (it less all in front) is region i exactly: no gap, no sliver.
 */
export function sheetsOf(borders: Borders, backToFront: readonly number[]): Outline[] {
  const touching = contacts(borders);
  const rank = new Map(backToFront.map((area, i) => [area, i]));
  return backToFront.map((area, at) => {
    const set = new Set([area]);
    const open = [area];
    for (let next = open.pop(); next !== undefined; next = open.pop())
      for (const [other] of touching[next] ?? [])
        if (!set.has(other) && (rank.get(other) as number) > at) {
          set.add(other);
          open.push(other);
        }
    return outlineOf(borders, (one) => set.has(one));
  });
}
