import { outlineArea, outlineBox } from '../area/index.js';
import { type Borders, contacts, outlineOf } from './outline/index.js';

type Point = [number, number];
/** What is known of a region's place: shares of the canvas and of its edges. */
type Seat = { area: number; bottom: number; top: number; touchesTop: number; touchesBottom: number; touchesSides: number };

const MOST_EXACT = 14;

/**
 * A proposed order of regions, back to front, from what their borders tell: where three meet, the one whose edge runs straight
 * on lies in front; what is enclosed lies in front; the side on which a border bulges lies in front; what reaches lower lies in
 * front of what it touches, what spans the top or is larger lies behind. The order that agrees best with all pairs is found
 * exactly for up to 14 regions, by exchanges above that. `widthMm`, `heightMm` of the canvas.
 */
export function depthOrder(borders: Borders, widthMm: number, heightMm: number): number[] {
  const n = borders.areas;
  const front = Array.from({ length: n }, () => new Float64Array(n)); // front[i][j]: how much speaks for i in front of j
  const vote = (i: number, j: number, weight: number) => {
    const row = front[i] as Float64Array;
    row[j] = (row[j] as number) + weight;
  };
  const seats = Array.from({ length: n }, (_, area) => seatOf(borders, area, widthMm, heightMm));
  const touching = contacts(borders);
  for (let i = 0; i < n; i++)
    for (const [j, shared] of touching[i] as Map<number, number>) {
      if (j <= i) continue;
      const [a, b] = [seats[i] as Seat, seats[j] as Seat];
      // Enclosed: nearly all of the border is with the other.
      for (const [p, q, own] of [
        [i, j, a],
        [j, i, b],
      ] as const) {
        const whole = [...(touching[p] as Map<number, number>).values()].reduce((sum, length) => sum + length, 0);
        const edge = own.touchesTop + own.touchesBottom + own.touchesSides;
        const share = shared / (whole + edge * Math.max(widthMm, heightMm));
        if (share > 0.6) vote(p, q, 3 * share);
        // What lies free of the canvas's edge stands before what runs out of the picture.
        const beyond = (p === i ? b : a) as Seat;
        if (edge === 0 && beyond.touchesTop + beyond.touchesBottom + beyond.touchesSides > 0) vote(p, q, 1.2);
      }
      vote(a.bottom > b.bottom ? i : j, a.bottom > b.bottom ? j : i, 1.2 * Math.min(1, Math.abs(a.bottom - b.bottom) * 4));
      vote(a.top > b.top ? i : j, a.top > b.top ? j : i, 0.5 * Math.min(1, Math.abs(a.top - b.top) * 4));
      vote(a.area < b.area ? i : j, a.area < b.area ? j : i, 0.8 * Math.min(1, Math.abs(Math.log(a.area / b.area)) / 2));
      if (a.touchesTop !== b.touchesTop)
        vote(
          a.touchesTop < b.touchesTop ? i : j,
          a.touchesTop < b.touchesTop ? j : i,
          1.5 * Math.abs(a.touchesTop - b.touchesTop),
        );
    }
  for (const { points, left, right } of borders.arcs) {
    if (left < 0 || right < 0) continue;
    const bulge = bulgeOf(points);
    if (bulge !== 0) vote(bulge > 0 ? left : right, bulge > 0 ? right : left, Math.min(0.8, Math.abs(bulge) * 2));
  }
  // A pattern makes many such corners along the rim of the thing that carries it: a pair is heard once.
  const heard = new Set<string>();
  for (const [through, stem] of tJunctions(borders))
    for (const area of stem) {
      if (area === through || heard.has(`${through},${area}`)) continue;
      heard.add(`${through},${area}`);
      vote(through, area, 0.9);
    }
  return n <= MOST_EXACT ? exactOrder(front, n) : exchangedOrder(front, n);
}

function seatOf(borders: Borders, area: number, width: number, height: number): Seat {
  const outline = outlineOf(borders, (one) => one === area);
  const box = outlineBox(outline) ?? { x: 0, y: 0, width: 0, height: 0 };
  let [top, bottom, sides] = [0, 0, 0];
  for (const { points, left, right } of borders.arcs) {
    if (!((left === area && right < 0) || (right === area && left < 0))) continue;
    for (let i = 1; i < points.length; i++) {
      const [[x1, y1], [x2, y2]] = [points[i - 1] as Point, points[i] as Point];
      const length = Math.hypot(x2 - x1, y2 - y1);
      if (y1 < 0.01 && y2 < 0.01) top += length / width;
      else if (y1 > height - 0.5 && y2 > height - 0.5) bottom += length / width;
      else sides += length / (2 * height);
    }
  }
  return {
    area: Math.max(1e-9, outlineArea(outline) / (width * height)),
    top: box.y / height,
    bottom: (box.y + box.height) / height,
    touchesTop: top,
    touchesBottom: bottom,
    touchesSides: sides,
  };
}

/** How far a border bulges to its right, as a share of its chord: positive when the region on its left bulges out. */
function bulgeOf(points: readonly Point[]): number {
  const [a, b] = [points[0] as Point, points.at(-1) as Point];
  const chord = Math.hypot(b[0] - a[0], b[1] - a[1]);
  if (points.length < 3 || chord < 1) return 0;
  let area = 0;
  for (let i = 0; i < points.length; i++) {
    const [p, q] = [points[i] as Point, points[(i + 1) % points.length] as Point];
    area += p[0] * q[1] - q[0] * p[1];
  }
  return -area / 2 / (chord * chord) / 1;
}

/** At corners of three regions: the one whose two borders make nearly a straight line, and the other two. */
function tJunctions({ arcs }: Borders): [number, number[]][] {
  const ends = new Map<string, { angle: number; left: number; right: number }[]>();
  const add = (at: Point, towards: Point, left: number, right: number) => {
    const key = `${at[0]},${at[1]}`;
    const angle = Math.atan2(towards[1] - at[1], towards[0] - at[0]);
    ends.set(key, [...(ends.get(key) ?? []), { angle, left, right }]);
  };
  for (const { points, left, right, closed } of arcs) {
    if (closed || points.length < 2) continue;
    add(points[0] as Point, aim(points, false), left, right);
    add(points.at(-1) as Point, aim(points, true), right, left);
  }
  const found: [number, number[]][] = [];
  for (const list of ends.values()) {
    if (list.length !== 3) continue;
    const areas = [...new Set(list.flatMap((one) => [one.left, one.right]))];
    if (areas.length !== 3 || areas.includes(-1)) continue;
    for (const area of areas) {
      const own = list.filter((one) => one.left === area || one.right === area);
      if (own.length !== 2) continue;
      const between = Math.abs(Math.cos(((own[0]?.angle ?? 0) - (own[1]?.angle ?? 0)) / 2));
      if (between < 0.26) found.push([area, areas]); // within 30° of straight on
    }
  }
  return found;
}

/** A place some way along an arc, so that its direction is not that of the last pixel. */
function aim(points: readonly Point[], fromEnd: boolean): Point {
  const line = fromEnd ? [...points].reverse() : points;
  const [x0, y0] = line[0] as Point;
  return (line.find(([x, y]) => Math.hypot(x - x0, y - y0) > 4) ?? line.at(-1)) as Point;
}

/** The order with the greatest sum of votes agreed with, by dynamic programming over subsets. */
function exactOrder(front: readonly Float64Array[], n: number): number[] {
  const size = 1 << n;
  const best = new Float64Array(size).fill(Number.NEGATIVE_INFINITY);
  const last = new Int8Array(size);
  best[0] = 0;
  for (let set = 0; set < size; set++)
    for (let area = 0; area < n; area++) {
      if (set & (1 << area)) continue;
      let gain = best[set] as number;
      for (let behind = 0; behind < n; behind++) if (set & (1 << behind)) gain += front[area]?.[behind] as number;
      const next = set | (1 << area);
      if (gain > (best[next] as number)) {
        best[next] = gain;
        last[next] = area;
      }
    }
  const order: number[] = [];
  for (let set = size - 1; set > 0; set ^= 1 << (last[set] as number)) order.unshift(last[set] as number);
  return order;
}

/** From the order of net votes, exchanges of neighbours while they gain. */
function exchangedOrder(front: readonly Float64Array[], n: number): number[] {
  const net = (i: number) => front.reduce((sum, row, j) => sum + (front[i]?.[j] as number) - (row[i] as number), 0);
  const order = Array.from({ length: n }, (_, i) => i).sort((a, b) => net(a) - net(b));
  for (let changed = true; changed; ) {
    changed = false;
    for (let k = 0; k + 1 < n; k++) {
      const [a, b] = [order[k] as number, order[k + 1] as number];
      if ((front[a]?.[b] as number) > (front[b]?.[a] as number) + 1e-12) {
        [order[k], order[k + 1]] = [b, a];
        changed = true;
      }
    }
  }
  return order;
}
