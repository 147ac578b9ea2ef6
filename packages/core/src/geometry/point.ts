export type Point = [number, number];

export const minus = (a: Point, b: Point): Point => [a[0] - b[0], a[1] - b[1]];
export const plus = (a: Point, b: Point): Point => [a[0] + b[0], a[1] + b[1]];
export const times = (a: Point, by: number): Point => [a[0] * by, a[1] * by];
export const dot = (a: Point, b: Point): number => a[0] * b[0] + a[1] * b[1];
export const cross = (a: Point, b: Point): number => a[0] * b[1] - a[1] * b[0];
export const length = (a: Point): number => Math.hypot(a[0], a[1]);
export const distance = (a: Point, b: Point): number => Math.hypot(a[0] - b[0], a[1] - b[1]);
export const between = (a: Point, b: Point, t: number): Point => [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t];

/** Length of a line through points. */
export function lengthOf(points: readonly Point[]): number {
  let sum = 0;
  for (let i = 1; i < points.length; i++) sum += distance(points[i - 1] as Point, points[i] as Point);
  return sum;
}

/** Points along a line at even distances, both ends kept. */
export function evenly(points: readonly Point[], stepMm: number): Point[] {
  const whole = lengthOf(points);
  const count = Math.max(1, Math.round(whole / stepMm));
  const out: Point[] = [points[0] as Point];
  let gone = 0;
  let next = 1;
  for (let i = 1; i < points.length; i++) {
    const [a, b] = [points[i - 1] as Point, points[i] as Point];
    const here = distance(a, b);
    while (next < count && (next * whole) / count <= gone + here) {
      const t = here === 0 ? 0 : ((next * whole) / count - gone) / here;
      out.push([a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t]);
      next++;
    }
    gone += here;
  }
  out.push(points.at(-1) as Point);
  return out;
}

/** How far a point lies from a segment. */
export function fromSegment(p: Point, a: Point, b: Point): number {
  const way = minus(b, a);
  const square = dot(way, way);
  const t = square === 0 ? 0 : Math.max(0, Math.min(1, dot(minus(p, a), way) / square));
  return distance(p, between(a, b, t));
}

/** Where two lines through two points each meet; null where they are parallel. */
export function crossing(a: Point, b: Point, c: Point, d: Point): Point | null {
  const [one, other] = [minus(b, a), minus(d, c)];
  const way = cross(one, other);
  if (Math.abs(way) < 1e-12 * (length(one) * length(other) || 1)) return null;
  return plus(a, times(one, cross(minus(c, a), other) / way));
}
