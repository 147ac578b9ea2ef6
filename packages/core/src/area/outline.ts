import type { Outline } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import Flatbush from 'flatbush';

type Ring = [number, number][];

/** Signed area of a ring in mm² by the shoelace formula (positive when it runs clockwise on screen, y down). */
export function ringArea(ring: readonly (readonly [number, number])[]): number {
  let twice = 0;
  for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
    const [x1, y1] = ring[j] as readonly [number, number];
    const [x2, y2] = ring[i] as readonly [number, number];
    twice += x1 * y2 - x2 * y1;
  }
  return twice / 2;
}

/** Area of an outline in mm²: the outer rings less their holes. Parts must not overlap. */
export function outlineArea(outline: Outline): number {
  let area = 0;
  for (const polygon of outline) {
    polygon.forEach((ring, i) => {
      area += (i === 0 ? 1 : -1) * Math.abs(ringArea(ring));
    });
  }
  return area;
}

/** Length of all borders of an outline in mm. */
export function outlineLength(outline: Outline): number {
  let length = 0;
  for (const ring of outline.flat()) {
    for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
      const [x1, y1] = ring[j] as [number, number];
      const [x2, y2] = ring[i] as [number, number];
      length += Math.hypot(x2 - x1, y2 - y1);
    }
  }
  return length;
}

/** Smallest box round an outline in mm, or null where there is none. */
export function outlineBox(outline: Outline): { x: number; y: number; width: number; height: number } | null {
  let [x0, y0, x1, y1] = [Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (const [x, y] of outline.flat(2)) {
    x0 = Math.min(x0, x);
    y0 = Math.min(y0, y);
    x1 = Math.max(x1, x);
    y1 = Math.max(y1, y);
  }
  return x0 <= x1 ? { x: x0, y: y0, width: x1 - x0, height: y1 - y0 } : null;
}

export type Box = { x: number; y: number; width: number; height: number };
/** Whether two boxes have an inside in common. */
export const meets = (a: Box, b: Box): boolean =>
  a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;

/** An outline as an SVG path in mm, to be filled by the even-odd rule. */
export function outlinePath(outline: Outline): string {
  const short = (value: number) => String(Math.round(value * 10) / 10);
  return outline
    .flat()
    .map((ring) => `M${ring.map(([x, y]) => `${short(x)} ${short(y)}`).join('L')}Z`)
    .join('');
}

/**
 * What is wrong with an outline, as a sentence, or null where it is sound: every ring needs three different points, an area,
 * and must not cross itself or another ring of the same area.
 */
export function outlineFault(outline: Outline): string | null {
  const rings = outline.flat();
  if (rings.length === 0) return say('This area has no outline. Draw at least three points.');
  for (const ring of rings) {
    if (new Set(ring.map(([x, y]) => `${x},${y}`)).size < 3)
      return say('An outline needs at least three different points. Add another.');
    if (Math.abs(ringArea(ring)) < 0.01) return say('This outline encloses nothing. Move a point so that it has an inside.');
  }
  const found = crossing(rings);
  if (found === 'crosses') return say('The outline crosses itself. Move the crossing point, or take it back.');
  if (found === 'too-intricate') return say('This outline is too intricate to be checked. Smooth it, or divide the area.');
  return null;
}

type Edge = { ring: number; i: number; count: number; a: [number, number]; b: [number, number] };

/** Pairs of edges that are compared before an outline is called too intricate: real ones need about as many as they have points. */
const MOST_PAIRS = 4_000_000;

/**
 * Whether any two edges of the rings cross (edges that share an end do not count). Only edges whose boxes meet are compared, found
 * through a packed R-tree: about n log n for outlines that anybody draws; what would be quadratic is given up.
 */
function crossing(rings: Ring[]): 'crosses' | 'too-intricate' | null {
  const edges: Edge[] = rings.flatMap((points, ring) =>
    points.map((a, i) => ({ ring, i, count: points.length, a, b: points[(i + 1) % points.length] as [number, number] })),
  );
  const tree = new Flatbush(edges.length);
  const boxes = edges.map(({ a, b }) => [
    Math.min(a[0], b[0]),
    Math.min(a[1], b[1]),
    Math.max(a[0], b[0]),
    Math.max(a[1], b[1]),
  ]) as [number, number, number, number][];
  for (const box of boxes) tree.add(...box);
  tree.finish();
  let pairs = 0;
  let crosses = false;
  for (let i = 0; i < edges.length && !crosses && pairs <= MOST_PAIRS; i++) {
    const one = edges[i] as Edge;
    tree.search(...(boxes[i] as [number, number, number, number]), (j) => {
      if (j <= i || crosses || pairs > MOST_PAIRS) return false;
      pairs += 1;
      const other = edges[j] as Edge;
      if (one.ring === other.ring && areNeighbours(one, other)) return false;
      if (edgesMeet(one.a, one.b, other.a, other.b)) crosses = true;
      return false;
    });
  }
  if (crosses) return 'crosses';
  return pairs > MOST_PAIRS ? 'too-intricate' : null;
}

function areNeighbours(one: Edge, other: Edge): boolean {
  const apart = Math.abs(one.i - other.i);
  return apart === 1 || apart === one.count - 1;
}

/** Edges that reach past each other by less than this only touch: clipping rounds to a tenth of it. */
const TOUCH_MM = 0.001;

function edgesMeet(a: [number, number], b: [number, number], c: [number, number], d: [number, number]): boolean {
  const side = (p: [number, number], q: [number, number], r: [number, number]) => {
    const [ux, uy] = [q[0] - p[0], q[1] - p[1]];
    const across = ux * (r[1] - p[1]) - uy * (r[0] - p[0]);
    return Math.abs(across) <= TOUCH_MM * Math.hypot(ux, uy) ? 0 : Math.sign(across);
  };
  return side(a, b, c) * side(a, b, d) < 0 && side(c, d, a) * side(c, d, b) < 0;
}
