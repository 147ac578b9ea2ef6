import type { Outline } from '@viaticum/contract';
import { toEnd } from '@viaticum/kernels/cooperative';
import { common, offset, united } from './clip.js';
import { type Box, outlineArea, outlineBox } from './outline.js';
import type { VisiblePart } from './sheets.js';

/** What is painted for an area: its visible part and what it runs under or past, with its area. */
export type Extent = {
  id: string;
  seen: Outline;
  areaCm2: number;
  /** What lies past its edge, by the area there. */
  past: { id: string; outline: Outline }[];
  /** Border in mm along which this area must cut in round paint that is there already and lies in front. */
  cutInMm: number;
};

/**
 * Painted extents from visible parts and the order of painting (`rank`: the area's first step; areas never painted count as
 * last). What is painted first runs past its edge by `overlapMm` where an area comes later, which then cuts it to its outline.
 * Nothing runs off the canvas, where no part lies. Later parts that are listed before in `parts` lie behind.
 */
export function paintedExtents(
  parts: readonly VisiblePart[],
  rank: ReadonlyMap<string, number>,
  overlapMm: number,
  borders: Borders,
): Extent[] {
  return toEnd(paintedExtentsByPart(parts, rank, overlapMm, borders));
}

type Borders = ReadonlyMap<string, ReadonlyMap<string, number>>;

/** {@link paintedExtents}, with a pause before every part, so that a page can answer between two. */
export function* paintedExtentsByPart(
  parts: readonly VisiblePart[],
  rank: ReadonlyMap<string, number>,
  overlapMm: number,
  borders: Borders,
): Generator<void, Extent[]> {
  const rankOf = (id: string) => rank.get(id) ?? Number.POSITIVE_INFINITY;
  const order = new Map(parts.map((part, i) => [part.id, i]));
  const out: Extent[] = [];
  for (const part of parts) {
    yield;
    const later = parts.filter((other) => rankOf(other.id) > rankOf(part.id) && touch(borders, part.id, other.id) > 0);
    const past = later.length > 0 && overlapMm > 0 && part.outline.length > 0 ? yield* pastEdge(part, later, overlapMm) : [];
    const cutInMm = parts.reduce((sum, other) => {
      const isThere = rankOf(other.id) < rankOf(part.id) && (order.get(other.id) as number) > (order.get(part.id) as number);
      return isThere ? sum + touch(borders, part.id, other.id) : sum;
    }, 0);
    const areaCm2 = past.reduce((sum, one) => sum + outlineArea(one.outline) / 100, part.areaCm2);
    out.push({ id: part.id, seen: part.outline, past, areaCm2, cutInMm });
  }
  return out;
}

/**
 * What of a part's surroundings lies within the overlap, by the later area that is seen there. Only the part's border near that
 * area is grown: cut to a box so wide that its own edges cannot reach the area.
 */
function* pastEdge(part: VisiblePart, later: readonly VisiblePart[], overlapMm: number): Generator<void, Extent['past']> {
  const known = pastEdges.get(part.outline);
  const same = known?.overlapMm === overlapMm && known.later.length === later.length;
  if (known && same && later.every((other, i) => known.later[i]?.outline === other.outline && known.later[i]?.id === other.id))
    return known.past;
  const past: Extent['past'] = [];
  const reach = overlapMm + 1;
  for (const other of later) {
    yield;
    const box = outlineBox(other.outline);
    if (!box) continue;
    const near = withinBox(part.outline, {
      x: box.x - reach,
      y: box.y - reach,
      width: box.width + 2 * reach,
      height: box.height + 2 * reach,
    });
    const outline = near.length > 0 ? common(offset(near, overlapMm), other.outline) : [];
    if (outline.length > 0) past.push({ id: other.id, outline });
  }
  pastEdges.set(part.outline, { later, overlapMm, past });
  return past;
}
/** What was worked out for a visible part, for as long as that part is kept. */
const pastEdges = new WeakMap<Outline, { later: readonly VisiblePart[]; overlapMm: number; past: Extent['past'] }>();

/** The edge of what is painted: what is seen with what lies past it. */
export const extentOutline = ({ seen, past }: Extent): Outline =>
  past.length === 0
    ? seen
    : united(
        seen,
        past.flatMap((one) => one.outline),
      );

type Ring = [number, number][];

/**
 * An outline cut to a box, ring by ring (Sutherland and Hodgman 1974): quick, but with edges along the box that lie on each
 * other, so only for cutting on with something inside the box.
 */
function withinBox(outline: Outline, { x, y, width, height }: Box): Outline {
  const cut = (ring: Ring): Ring =>
    [
      [1, 0, x],
      [-1, 0, -x - width],
      [0, 1, y],
      [0, -1, -y - height],
    ].reduce((now, side) => halfPlane(now, side as [number, number, number]), ring);
  return outline.flatMap((polygon) => {
    const [outer, ...holes] = polygon.map(cut);
    return outer && outer.length >= 3 ? [[outer, ...holes.filter((hole) => hole.length >= 3)]] : [];
  });
}

/** The part of a ring where a·x + b·y is at least c. */
function halfPlane(ring: Ring, [a, b, c]: [number, number, number]): Ring {
  const out: Ring = [];
  for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
    const from = ring[j] as [number, number];
    const to = ring[i] as [number, number];
    const before = a * from[0] + b * from[1] - c;
    const after = a * to[0] + b * to[1] - c;
    if (before >= 0 !== after >= 0) {
      const t = before / (before - after);
      out.push([from[0] + t * (to[0] - from[0]), from[1] + t * (to[1] - from[1])]);
    }
    if (after >= 0) out.push(to);
  }
  return out;
}

const touch = (borders: ReadonlyMap<string, ReadonlyMap<string, number>>, a: string, b: string): number =>
  (borders.get(a)?.get(b) ?? 0) + (borders.get(b)?.get(a) ?? 0);

/** Pairs of areas whose painted extents lie on each other, with the area in cm²: `get(a)?.get(b)`, both ways. */
export function overlapsOf(extents: readonly Extent[]): Map<string, Map<string, number>> {
  const out = new Map<string, Map<string, number>>(extents.map((one) => [one.id, new Map()]));
  const add = (a: string, b: string, area: number) => {
    if (area < LEAST_CM2) return;
    for (const [one, other] of [
      [a, b],
      [b, a],
    ] as const)
      out.get(one)?.set(other, (out.get(one)?.get(other) ?? 0) + area);
  };
  extents.forEach((one, i) => {
    // What is seen does not overlap: one lies on another where it runs past its edge, …
    for (const { id, outline } of one.past) add(one.id, id, outlineArea(outline) / 100);
    // … and two on each other where both run past theirs into the same third.
    for (const other of extents.slice(i + 1))
      for (const mine of one.past) {
        const theirs = other.past.find((past) => past.id === mine.id);
        if (theirs && boxesMeet(mine.outline, theirs.outline))
          add(one.id, other.id, outlineArea(common(mine.outline, theirs.outline)) / 100);
      }
  });
  return out;
}
const LEAST_CM2 = 0.01;

function boxesMeet(one: Outline, other: Outline): boolean {
  const [a, b] = [outlineBox(one), outlineBox(other)];
  return a !== null && b !== null && a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;
}
