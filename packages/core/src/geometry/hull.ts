import { cross, minus, type Point } from './point.js';

/**
 * The convex hull of points, counter-clockwise where y points up, without points on its sides (Andrew 1979, monotone chain).
 * Fewer than three different points are given back as they are, once each.
 */
export function convexHull(points: readonly Point[]): Point[] {
  const sorted = [...points]
    .sort((a, b) => a[0] - b[0] || a[1] - b[1])
    .filter((p, i, all) => i === 0 || p[0] !== all[i - 1]?.[0] || p[1] !== all[i - 1]?.[1]);
  if (sorted.length < 3) return sorted;
  const half = (list: readonly Point[]): Point[] => {
    const chain: Point[] = [];
    for (const p of list) {
      while (chain.length >= 2) {
        const [a, b] = [chain.at(-2) as Point, chain.at(-1) as Point];
        if (cross(minus(b, a), minus(p, a)) > 0) break;
        chain.pop();
      }
      chain.push(p);
    }
    return chain.slice(0, -1);
  };
  return [...half(sorted), ...half([...sorted].reverse())];
}
