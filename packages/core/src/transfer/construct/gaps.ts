import { convexHull, cross, distance, fromSegment, minus, type Point } from '../../geometry/index.js';

/**
 * The gap between two things that lie apart: its two openings (the outer tangents round both), how wide it is where it is narrowest, the straight
 * sides with which the things face each other (between the points where their inner tangents touch them; null where one faces the other with
 * a tip), the angle by which these open, and where they would meet; null where they run side by side.
 */
export type Gap = {
  /** From the first thing to the second. */
  openings: [[Point, Point], [Point, Point]];
  narrowestMm: number;
  sides: [[Point, Point], [Point, Point]] | null;
  angleDeg: number;
  meets: Point | null;
};

/** Sides that differ by less than this run side by side, degrees. */
const PARALLEL_DEG = 2;
/** A side shorter than this share of its thing is a tip. */
const TIP_SHARE = 0.12;
const ON_LINE = 1e-9;

const sideOf = (a: Point, b: Point, p: Point): number => cross(minus(b, a), minus(p, a));

/** Lines that touch both rings: with both on one side (`outer`), or one on either; from the first ring to the second, the nearest of several. */
function tangents(one: readonly Point[], other: readonly Point[], outer: boolean): [Point, Point][] {
  const found: { line: [Point, Point]; turn: number }[] = [];
  for (const p of one)
    for (const q of other) {
      const [a, b] = [one.map((r) => sideOf(p, q, r)), other.map((r) => sideOf(p, q, r))];
      for (const sign of [1, -1])
        if (a.every((s) => s * sign >= -ON_LINE) && b.every((s) => s * (outer ? sign : -sign) >= -ON_LINE))
          found.push({ line: [p, q], turn: sign });
    }
  // Where a side lies on the line several points touch it: what is between the two things counts.
  return [1, -1].flatMap((turn) => {
    const own = found.filter((one) => one.turn === turn).sort((x, y) => distance(...x.line) - distance(...y.line));
    return own[0] ? [own[0].line] : [];
  });
}

/** The gap between two groups of points whose hulls lie apart; null where they meet, or one lies within the other. */
export function gapBetween(one: readonly Point[], other: readonly Point[]): Gap | null {
  const [a, b] = [convexHull(one), convexHull(other)];
  const [outer, inner] = [tangents(a, b, true), tangents(a, b, false)];
  if (outer.length !== 2 || inner.length !== 2) return null;
  const [first, second] = inner as [[Point, Point], [Point, Point]];
  const sides: [[Point, Point], [Point, Point]] = [
    [first[0], second[0]],
    [first[1], second[1]],
  ];
  const far = { openings: outer as Gap['openings'], narrowestMm: narrowest(a, b) };
  const isTip = [a, b].some((ring, k) => distance(...(sides[k] as [Point, Point])) < TIP_SHARE * sizeOf(ring));
  if (isTip) return { ...far, sides: null, angleDeg: 0, meets: null };
  const [u, v] = sides.map(([from, to]) => minus(to, from)) as [Point, Point];
  // Inner tangents cross: the second side runs the other way round.
  const turned = cross(u, v);
  const open = (Math.abs(Math.atan2(turned, u[0] * v[0] + u[1] * v[1])) * 180) / Math.PI;
  const angleDeg = Math.min(open, 180 - open);
  if (angleDeg < PARALLEL_DEG) return { ...far, sides, angleDeg, meets: null };
  const along = cross(minus(sides[1][0], sides[0][0]), v) / turned;
  return { ...far, sides, angleDeg, meets: [sides[0][0][0] + u[0] * along, sides[0][0][1] + u[1] * along] };
}

const sizeOf = (ring: readonly Point[]): number => Math.max(...ring.map((p) => Math.max(...ring.map((q) => distance(p, q)))));
function narrowest(a: readonly Point[], b: readonly Point[]): number {
  const to = (from: readonly Point[], ring: readonly Point[]) =>
    Math.min(...from.map((p) => Math.min(...ring.map((q, i) => fromSegment(p, q, ring[(i + 1) % ring.length] as Point)))));
  return Math.min(to(a, b), to(b, a));
}
