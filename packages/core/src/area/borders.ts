import type { Outline } from '@viaticum/contract';
import { outlineBox } from './outline.js';
import type { VisiblePart } from './sheets.js';

const PROBE_MM = 0.3;
const PIECE_MM = 5;

/** Whether a point lies inside an outline (even-odd rule). */
export function insideOutline(outline: Outline, x: number, y: number): boolean {
  let inside = false;
  for (const ring of outline.flat()) {
    for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
      const [x1, y1] = ring[j] as [number, number];
      const [x2, y2] = ring[i] as [number, number];
      if (y1 > y !== y2 > y && x < x1 + ((y - y1) / (y2 - y1)) * (x2 - x1)) inside = !inside;
    }
  }
  return inside;
}

const ROW_MM = 4;
/** The edges of an outline by rows of some mm, so that a point is tested only against those beside it. */
function byRows(outline: Outline): Map<number, Float64Array> {
  const rows = new Map<number, number[]>();
  for (const ring of outline.flat()) {
    for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
      const [x1, y1] = ring[j] as [number, number];
      const [x2, y2] = ring[i] as [number, number];
      if (y1 === y2) continue;
      for (let row = Math.floor(Math.min(y1, y2) / ROW_MM); row <= Math.floor(Math.max(y1, y2) / ROW_MM); row++) {
        const list = rows.get(row);
        if (list) list.push(x1, y1, x2, y2);
        else rows.set(row, [x1, y1, x2, y2]);
      }
    }
  }
  return new Map([...rows].map(([row, list]) => [row, Float64Array.from(list)]));
}

/** {@link insideOutline} for many points: the outline is made ready once. */
export function insideTest(outline: Outline): (x: number, y: number) => boolean {
  const box = outlineBox(outline);
  if (!box) return () => false;
  const rows = byRows(outline);
  return (x, y) => {
    const edges = x < box.x || x > box.x + box.width ? undefined : rows.get(Math.floor(y / ROW_MM));
    if (!edges) return false;
    let inside = false;
    for (let i = 0; i < edges.length; i += 4) {
      const y1 = edges[i + 1] as number;
      const y2 = edges[i + 3] as number;
      if (y1 > y === y2 > y) continue;
      const x1 = edges[i] as number;
      if (x < x1 + ((y - y1) / (y2 - y1)) * ((edges[i + 2] as number) - x1)) inside = !inside;
    }
    return inside;
  };
}

/** The pieces of the border that two visible parts share, each as its two ends in mm; found along the edges of the first. */
export function borderPieces(one: VisiblePart, other: VisiblePart): [Point, Point][] {
  const isInside = insideTest(other.outline);
  const found: [Point, Point][] = [];
  eachEdgePiece(one.outline, (from, to, probes) => {
    if (probes.some(([x, y]) => isInside(x, y))) found.push([from, to]);
  });
  return found;
}
type Point = [number, number];

/** Goes along all edges of an outline in pieces of at most 5 mm, each with a probe just beside it on either side. */
function eachEdgePiece(outline: Outline, visit: (from: Point, to: Point, probes: [Point, Point]) => void): void {
  for (const ring of outline.flat())
    for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
      const [x1, y1] = ring[j] as Point;
      const [x2, y2] = ring[i] as Point;
      const length = Math.hypot(x2 - x1, y2 - y1);
      if (length < 1e-6) continue;
      const [nx, ny] = [((y2 - y1) / length) * PROBE_MM, ((x1 - x2) / length) * PROBE_MM];
      const pieces = Math.ceil(length / PIECE_MM);
      const at = (part: number): Point => [x1 + (x2 - x1) * part, y1 + (y2 - y1) * part];
      for (let piece = 0; piece < pieces; piece++) {
        const [x, y] = at((piece + 0.5) / pieces);
        visit(at(piece / pieces), at((piece + 1) / pieces), [
          [x + nx, y + ny],
          [x - nx, y - ny],
        ]);
      }
    }
}

/**
 * Length in mm of the border that each visible part shares with each part behind it: `get(front)?.get(back)`. Parts in the
 * order of the areas, back to front. Probes just outside every
 * edge of the front part, in pieces of at most 5 mm.
 */
export function sharedBorders(parts: readonly VisiblePart[]): Map<string, Map<string, number>> {
  const inside = parts.map((part) => insideTest(part.outline));
  const shared = new Map<string, Map<string, number>>();
  const behindAt = (x: number, y: number, rank: number): string | null => {
    for (let back = 0; back < rank; back++) {
      if (inside[back]?.(x, y)) return (parts[back] as VisiblePart).id;
    }
    return null;
  };
  parts.forEach((front, rank) => {
    const lengths = new Map<string, number>();
    eachEdgePiece(front.outline, ([x1, y1], [x2, y2], probes) => {
      for (const [x, y] of probes) {
        const back = behindAt(x, y, rank);
        if (back) lengths.set(back, (lengths.get(back) ?? 0) + Math.hypot(x2 - x1, y2 - y1));
      }
    });
    shared.set(front.id, lengths);
  });
  return shared;
}
