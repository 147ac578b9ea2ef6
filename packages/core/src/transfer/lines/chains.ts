import { minus, type Point } from '../../geometry/index.js';

/** Gaussian means along a line; ends stay where they are, and a constant run stays what it is. */
export function softened(points: readonly Point[], sigmaPoints: number): Point[] {
  const reach = Math.ceil(sigmaPoints * 3);
  if (reach < 1 || points.length < 3) return [...points];
  const weights = Array.from({ length: reach + 1 }, (_, k) => Math.exp(-(k * k) / (2 * sigmaPoints * sigmaPoints)));
  const last = points.length - 1;
  return points.map((point, i) => {
    // Near an end the window shrinks evenly, so that the end itself stays.
    const near = Math.min(reach, i, last - i);
    if (near === 0) return point;
    let [x, y, sum] = [0, 0, 0];
    for (let k = -near; k <= near; k++) {
      const weight = weights[Math.abs(k)] as number;
      const [px, py] = points[i + k] as Point;
      x += weight * px;
      y += weight * py;
      sum += weight;
    }
    return [x / sum, y / sum] as Point;
  });
}

/** Where a line turns by more than so many degrees between what lies `reach` points before and after: the sharpest place of each run. */
export function corners(points: readonly Point[], reach: number, degrees: number): number[] {
  const limit = Math.cos((degrees * Math.PI) / 180);
  const turns = points.map((point, i) => {
    if (i < reach || i > points.length - 1 - reach) return 1;
    const [before, after] = [minus(point, points[i - reach] as Point), minus(points[i + reach] as Point, point)];
    return (before[0] * after[0] + before[1] * after[1]) / (Math.hypot(...before) * Math.hypot(...after) || 1);
  });
  const found: number[] = [];
  for (let i = 0; i < turns.length; i++) {
    if ((turns[i] as number) > limit) continue;
    let best = i;
    for (; i < turns.length && (turns[i] as number) <= limit; i++) if ((turns[i] as number) < (turns[best] as number)) best = i;
    found.push(best);
  }
  return found;
}

/** A line cut at some of its points. */
export function cutAt(points: readonly Point[], places: readonly number[]): Point[][] {
  const cuts = [0, ...places.filter((i) => i > 0 && i < points.length - 1), points.length - 1];
  return cuts.slice(1).map((to, k) => points.slice(cuts[k], to + 1));
}
