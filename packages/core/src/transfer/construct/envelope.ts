import type { Outline } from '@viaticum/contract';
import { offset, outlineArea, ringArea, united } from '../../area/index.js';
import { convexHull, cross, crossing, distance, fromSegment, minus, type Point } from '../../geometry/index.js';

/** A gap between an envelope and the line drawn tightly round it: its opening, and the corner farthest in with its angle. */
export type Wedge = { points: Point[]; deepest: Point; angleDeg: number; sidesMm: [number, number] };
/** `parts`: the rims of what lies apart within it. */
export type Envelope = { points: Point[]; wedges: Wedge[]; parts: Point[][] };

/**
 * A few straight sides round a group of areas: thin bits that stick out are left out (opened by `thinMm`), then sides are taken away
 * one at a time, each time the one whose loss adds least area, until `sides` are left and none is too short to be drawn. It holds all of
 * what is left and may be concave. Points in mm; null where nothing is left of the group.
 */
export function envelope(outlines: readonly Outline[], sides: number, thinMm: number): Envelope | null {
  const whole = united(outlines.flat(), []);
  const opened = thinMm > 0 ? offset(offset(whole, -thinMm / 2), thinMm / 2) : whole;
  const kept = opened.length > 0 && outlineArea(opened) > outlineArea(whole) * 0.05 ? opened : whole;
  if (kept.length === 0) return null;
  // What lies apart is held together by the tight line round all of it.
  const outer = kept.length === 1 ? (kept[0]?.[0] as Point[]) : convexHull(kept.flat(2) as Point[]);
  const ring = withoutShort(withFewerSides(thinned(oriented(outer)), sides));
  return { points: ring, wedges: wedgesOf(ring), parts: kept.map(([rim]) => rim as Point[]) };
}

/** The ring so that it turns left where it is convex (y up). */
const oriented = (ring: readonly Point[]): Point[] => (ringArea(ring) > 0 ? [...ring] : [...ring].reverse());

const CRUMB_MM = 0.4;
/** Without points that hardly differ from the line between their neighbours; concave ones go first, so that nothing is cut off. */
function thinned(ring: readonly Point[]): Point[] {
  return ring.filter((p, i) => {
    const [a, b] = [ring[(i + ring.length - 1) % ring.length] as Point, ring[(i + 1) % ring.length] as Point];
    return !(turn(a, p, b) <= 0 && fromSegment(p, a, b) < CRUMB_MM);
  });
}
const turn = (a: Point, b: Point, c: Point): number => cross(minus(b, a), minus(c, b));

type Removal = { cost: number; ring: Point[] };
function withFewerSides(start: Point[], sides: number): Point[] {
  let ring = start;
  while (ring.length > Math.max(3, sides)) {
    let best: Removal | null = null;
    for (let i = 0; i < ring.length; i++) {
      for (const one of [withoutNotch(ring, i), withoutSide(ring, i)]) if (one && (!best || one.cost < best.cost)) best = one;
    }
    if (!best) return ring;
    ring = best.ring;
  }
  return ring;
}

/** Sides shorter than this share of the whole are no help to a hand, and are joined with their neighbours. */
const USABLE_SHARE = 0.05;
function withoutShort(start: Point[]): Point[] {
  let ring = start;
  const size = Math.max(
    ...[0, 1].map((axis) => Math.max(...start.map((p) => p[axis] as number)) - Math.min(...start.map((p) => p[axis] as number))),
  );
  while (ring.length > 4) {
    const lengths = ring.map((p, i) => distance(p, ring[(i + 1) % ring.length] as Point));
    const short = lengths.indexOf(Math.min(...lengths));
    if ((lengths[short] as number) >= USABLE_SHARE * size) return ring;
    const ways = [withoutSide(ring, short), withoutNotch(ring, short), withoutNotch(ring, (short + 1) % ring.length)];
    const best = ways.flatMap((one) => one ?? []).sort((a, b) => a.cost - b.cost)[0];
    if (!best) return ring;
    ring = best.ring;
  }
  return ring;
}

/** A concave corner left out: the notch is filled. */
function withoutNotch(ring: Point[], i: number): Removal | null {
  const n = ring.length;
  const [a, b, c] = [ring[(i + n - 1) % n], ring[i], ring[(i + 1) % n]] as [Point, Point, Point];
  const twice = turn(a, b, c);
  return twice <= 0 ? { cost: -twice / 2, ring: ring.filter((_, k) => k !== i) } : null;
}

/** A side left out: its neighbours are drawn on until they meet. */
function withoutSide(ring: Point[], i: number): Removal | null {
  const n = ring.length;
  const [before, a, b, after] = [ring[(i + n - 1) % n], ring[i], ring[(i + 1) % n], ring[(i + 2) % n]] as [
    Point,
    Point,
    Point,
    Point,
  ];
  if (turn(before, a, b) <= 0 || turn(a, b, after) <= 0) return null;
  const meeting = crossing(before, a, after, b);
  if (!meeting) return null;
  // Beyond the side, on the outside.
  if (turn(a, b, meeting) >= 0 || cross(minus(a, before), minus(meeting, a)) > 1e-6 * distance(a, meeting)) return null;
  const cost = Math.abs(ringArea([a, meeting, b]));
  if (distance(a, meeting) > 4 * distance(a, b) + 400) return null;
  const out = ring.map((p, k) => (k === i ? meeting : p));
  return { cost, ring: out.filter((_, k) => k !== (i + 1) % n) };
}

function wedgesOf(ring: readonly Point[]): Wedge[] {
  const hull = convexHull(ring);
  const onHull = new Set(hull.map(([x, y]) => `${x},${y}`));
  const first = ring.findIndex(([x, y]) => onHull.has(`${x},${y}`));
  const turned = [...ring.slice(first), ...ring.slice(0, first), ring[first] as Point];
  const out: Wedge[] = [];
  let now: Point[] = [];
  for (const p of turned) {
    now.push(p);
    if (!onHull.has(`${p[0]},${p[1]}`) || now.length === 1) continue;
    if (now.length > 2) out.push(wedge(now));
    now = [p];
  }
  return out;
}

function wedge(points: Point[]): Wedge {
  const [from, to] = [points[0], points.at(-1)] as [Point, Point];
  let [at, far] = [1, -1];
  for (let i = 1; i < points.length - 1; i++) {
    const here = fromSegment(points[i] as Point, from, to);
    if (here > far) [at, far] = [i, here];
  }
  const deepest = points[at] as Point;
  const [a, b] = [minus(from, deepest), minus(to, deepest)];
  const angle = Math.abs((Math.atan2(cross(a, b), a[0] * b[0] + a[1] * b[1]) * 180) / Math.PI);
  return { points, deepest, angleDeg: angle, sidesMm: [Math.hypot(...a), Math.hypot(...b)] };
}
