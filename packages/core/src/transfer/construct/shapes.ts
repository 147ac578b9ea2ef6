import type { Outline } from '@viaticum/contract';
import { common, outlineArea, united, without } from '../../area/index.js';
import type { Point } from '../../geometry/index.js';
import { envelope } from './envelope.js';

export type SimpleShape = {
  kind: 'circle' | 'ellipse' | 'square' | 'rectangle' | 'triangle' | 'wedge';
  points: Point[];
  fit: number;
};

/** The simple shape that comes nearest to an area: by what both share over what either covers. Null for an area of nothing. */
export function simpleShape(outline: Outline): SimpleShape | null {
  const whole = united(outline, []);
  const area = outlineArea(whole);
  if (area < 1) return null;
  const { at, long, short, turn } = spread(whole, area);
  const rectangle = boxAlong(whole, turn, area);
  const corners = (kind: SimpleShape['kind'], points: Point[] | undefined) =>
    points && points.length >= 3 ? [{ kind, points }] : [];
  const tried = [
    { kind: long / short < 1.12 ? ('circle' as const) : ('ellipse' as const), points: ellipsePoints(at, long, short, turn) },
    { kind: rectangle.long / rectangle.short < 1.12 ? ('square' as const) : ('rectangle' as const), points: rectangle.points },
    ...corners('triangle', envelope([whole], 3, 0)?.points),
    ...corners('wedge', envelope([whole], 4, 0)?.points),
  ];
  const scored = tried.map((one) => ({ ...one, fit: shared(whole, [[one.points]]) }));
  // Four free corners fit nearly anything: they must be clearly better.
  const worth = (one: SimpleShape) => one.fit - (one.kind === 'wedge' ? 0.06 : 0);
  return scored.sort((a, b) => worth(b) - worth(a))[0] ?? null;
}

function shared(one: Outline, other: Outline): number {
  const both = outlineArea(common(one, other));
  return both / (both + outlineArea(without(one, other)) + outlineArea(without(other, one)) || 1);
}

/** Middle, half-axes and turn of the ellipse with the same area and second moments. */
export function spread(outline: Outline, area: number): { at: Point; long: number; short: number; turn: number } {
  let [sx, sy, xx, yy, xy] = [0, 0, 0, 0, 0];
  for (const polygon of outline)
    polygon.forEach((ring, k) => {
      let [a, ax, ay, axx, ayy, axy] = [0, 0, 0, 0, 0, 0];
      ring.forEach(([x1, y1], i) => {
        const [x2, y2] = ring[(i + 1) % ring.length] as Point;
        const w = x1 * y2 - x2 * y1;
        a += w / 2;
        ax += ((x1 + x2) * w) / 6;
        ay += ((y1 + y2) * w) / 6;
        axx += ((x1 * x1 + x1 * x2 + x2 * x2) * w) / 12;
        ayy += ((y1 * y1 + y1 * y2 + y2 * y2) * w) / 12;
        axy += ((x1 * y2 + 2 * x1 * y1 + 2 * x2 * y2 + x2 * y1) * w) / 24;
      });
      const sign = (a < 0 ? -1 : 1) * (k === 0 ? 1 : -1);
      sx += sign * ax;
      sy += sign * ay;
      xx += sign * axx;
      yy += sign * ayy;
      xy += sign * axy;
    });
  const at: Point = [sx / area, sy / area];
  const [u, v, w] = [xx / area - at[0] ** 2, yy / area - at[1] ** 2, xy / area - at[0] * at[1]];
  const half = Math.hypot((u - v) / 2, w);
  const [most, least] = [(u + v) / 2 + half, Math.max(1e-6, (u + v) / 2 - half)];
  const scale = Math.sqrt(area / (Math.PI * 4 * Math.sqrt(most * least)));
  return { at, long: 2 * Math.sqrt(most) * scale, short: 2 * Math.sqrt(least) * scale, turn: 0.5 * Math.atan2(2 * w, u - v) };
}

const ellipsePoints = ([cx, cy]: Point, long: number, short: number, turn: number): Point[] =>
  Array.from({ length: 64 }, (_, i): Point => {
    const t = (2 * Math.PI * i) / 64;
    const [x, y] = [long * Math.cos(t), short * Math.sin(t)];
    return [cx + x * Math.cos(turn) - y * Math.sin(turn), cy + x * Math.sin(turn) + y * Math.cos(turn)];
  });

/** The box along a direction or upright, whichever holds less; drawn to the area's own size where that is smaller. */
function boxAlong(outline: Outline, turn: number, area: number): { points: Point[]; long: number; short: number } {
  const boxes = [0, turn].map((t) => {
    const [c, s] = [Math.cos(t), Math.sin(t)];
    const turned = outline.flat(2).map(([x, y]): Point => [x * c + y * s, y * c - x * s]);
    const [xs, ys] = [turned.map(([x]) => x), turned.map(([, y]) => y)];
    const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
    const shrink = Math.sqrt(Math.max(0.6, Math.min(1, area / ((x1 - x0) * (y1 - y0)))));
    const [cx, cy] = [(x0 + x1) / 2, (y0 + y1) / 2];
    const [w, h] = [((x1 - x0) / 2) * shrink, ((y1 - y0) / 2) * shrink];
    const points = (
      [
        [-w, -h],
        [w, -h],
        [w, h],
        [-w, h],
      ] as Point[]
    ).map(([x, y]): Point => [(cx + x) * c - (cy + y) * s, (cx + x) * s + (cy + y) * c]);
    return { points, long: Math.max(w, h), short: Math.min(w, h), size: (x1 - x0) * (y1 - y0) };
  });
  return (boxes[0] as (typeof boxes)[0]).size <= (boxes[1] as (typeof boxes)[0]).size * 1.02
    ? (boxes[0] as (typeof boxes)[0])
    : (boxes[1] as (typeof boxes)[0]);
}
