import { say } from '@viaticum/contract';
import { invert3 } from '@viaticum/kernels/colour';
import { cross, minus, type Point } from './point.js';

export type Homography = readonly number[];

/** Solves a small square system by elimination with row exchange; null where it has no single solution. */
export function solved(matrix: readonly (readonly number[])[], right: readonly number[]): number[] | null {
  const n = right.length;
  const rows = matrix.map((row, i) => [...row, right[i] as number]);
  for (let c = 0; c < n; c++) {
    let best = c;
    for (let r = c + 1; r < n; r++) if (Math.abs(rows[r]?.[c] as number) > Math.abs(rows[best]?.[c] as number)) best = r;
    const pivot = rows[best] as number[];
    if (Math.abs(pivot[c] as number) < 1e-12) return null;
    rows[best] = rows[c] as number[];
    rows[c] = pivot;
    for (let r = 0; r < n; r++) {
      if (r === c) continue;
      const row = rows[r] as number[];
      const factor = (row[c] as number) / (pivot[c] as number);
      if (factor !== 0) for (let k = c; k <= n; k++) row[k] = (row[k] as number) - factor * (pivot[k] as number);
    }
  }
  return rows.map((row, i) => (row[n] as number) / (row[i] as number));
}

/**
 * The projective map that takes four points to four others: nine numbers, row by row, the last 1 (direct linear transform with
 * the points brought to a common size first; Hartley and Zisserman 2003, from memory). Throws where three points lie on a line.
 */
export function homography(from: readonly Point[], to: readonly Point[]): number[] {
  if (from.length !== 4 || to.length !== 4) throw new RangeError(say('Four points are needed on either side.'));
  for (const four of [from, to])
    for (let skip = 0; skip < 4; skip++) {
      const [a, b, c] = four.filter((_, i) => i !== skip) as [Point, Point, Point];
      const size = Math.max(Math.hypot(...minus(b, a)), Math.hypot(...minus(c, a)));
      if (Math.abs(cross(minus(b, a), minus(c, a))) < 1e-9 * size * size)
        throw new RangeError(say('Three of the four corners lie on one line. Move one of them.'));
    }
  const [one, other] = [evened(from), evened(to)];
  const rows: number[][] = [];
  const right: number[] = [];
  one.points.forEach(([x, y], i) => {
    const [u, v] = other.points[i] as Point;
    rows.push([x, y, 1, 0, 0, 0, -u * x, -u * y], [0, 0, 0, x, y, 1, -v * x, -v * y]);
    right.push(u, v);
  });
  const found = solved(rows, right);
  if (!found) throw new RangeError(say('These four corners give no picture plane. Move one of them.'));
  const whole = multiplied(multiplied(other.back, [...found, 1]), one.there);
  const last = whole[8] as number;
  if (Math.abs(last) < 1e-12) throw new RangeError(say('These four corners give no picture plane. Move one of them.'));
  return whole.map((value) => value / last);
}

/** Points moved to the middle and to a size of 1, the map there and the map back. */
function evened(points: readonly Point[]): { points: Point[]; there: number[]; back: number[] } {
  const cx = points.reduce((sum, [x]) => sum + x, 0) / points.length;
  const cy = points.reduce((sum, [, y]) => sum + y, 0) / points.length;
  const size = points.reduce((sum, [x, y]) => sum + Math.hypot(x - cx, y - cy), 0) / points.length || 1;
  return {
    points: points.map(([x, y]): Point => [(x - cx) / size, (y - cy) / size]),
    there: [1 / size, 0, -cx / size, 0, 1 / size, -cy / size, 0, 0, 1],
    back: [size, 0, cx, 0, size, cy, 0, 0, 1],
  };
}

/** The map that does first the second and then the first. */
export function multiplied(a: Homography, b: Homography): number[] {
  return Array.from({ length: 9 }, (_, i) => {
    const [row, column] = [Math.floor(i / 3), i % 3];
    return [0, 1, 2].reduce((sum, k) => sum + (a[row * 3 + k] as number) * (b[k * 3 + column] as number), 0);
  });
}

/** Where a projective map takes a point. */
export function mapped(h: Homography, [x, y]: Point): Point {
  const w = (h[6] as number) * x + (h[7] as number) * y + (h[8] as number);
  return [
    ((h[0] as number) * x + (h[1] as number) * y + (h[2] as number)) / w,
    ((h[3] as number) * x + (h[4] as number) * y + (h[5] as number)) / w,
  ];
}

/** The map back. Throws where there is none. */
export const inverted = (h: Homography): number[] => invert3([...h]);
