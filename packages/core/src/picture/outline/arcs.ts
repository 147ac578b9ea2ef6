import type { Labels } from '@viaticum/kernels/raster';

type Point = [number, number];
/** A border between two regions from junction to junction, or a closed one; -1 is outside. Points in pixels, corners of pixels. */
export type Arc = { points: Point[]; left: number; right: number; closed: boolean };

const outside = -1;
/** Steps along the lattice of pixel corners: right, down, left, up. */
const steps: readonly Point[] = [
  [1, 0],
  [0, 1],
  [-1, 0],
  [0, -1],
];

/**
 * All borders of a label map as arcs on the lattice of pixel corners. Every arc ends in a junction (a corner at which three or
 * more regions, or a saddle of two, meet; the outside counts as a region) or is closed. Each border lies in exactly one arc.
 */
export function traceArcs({ width, height, data }: Labels): Arc[] {
  const label = (x: number, y: number) =>
    x < 0 || y < 0 || x >= width || y >= height ? outside : (data[y * width + x] as number);
  const stride = width + 1;
  /** Regions to the left and right of the edge that leaves a corner in a direction. */
  const sides = (x: number, y: number, direction: number): [number, number] => {
    switch (direction) {
      case 0:
        return [label(x, y - 1), label(x, y)];
      case 1:
        return [label(x, y), label(x - 1, y)];
      case 2:
        return [label(x - 1, y), label(x - 1, y - 1)];
      default:
        return [label(x - 1, y - 1), label(x, y - 1)];
    }
  };
  // Bit 0: a border runs from this corner to the right, bit 1: down.
  const edges = new Uint8Array(stride * (height + 1));
  for (let y = 0, at = 0; y < height; y++)
    for (let x = 0; x < width; x++, at++) {
      const corner = y * stride + x;
      const here = data[at];
      if (y === 0 || data[at - width] !== here) edges[corner] = 1;
      if (x === 0 || data[at - 1] !== here) edges[corner] = (edges[corner] as number) | 2;
      if (x === width - 1) edges[corner + 1] = (edges[corner + 1] as number) | 2;
      if (y === height - 1) edges[corner + stride] = (edges[corner + stride] as number) | 1;
    }
  const isEdge = (x: number, y: number, direction: number): boolean => {
    const at = y * stride + x;
    if (direction === 0) return x < width && ((edges[at] as number) & 1) !== 0;
    if (direction === 1) return y < height && ((edges[at] as number) & 2) !== 0;
    if (direction === 2) return x > 0 && ((edges[at - 1] as number) & 1) !== 0;
    return y > 0 && ((edges[at - stride] as number) & 2) !== 0;
  };
  const degree = (x: number, y: number): number => {
    const at = y * stride + x;
    const own = edges[at] as number;
    return (
      (own & 1) + (own >> 1) + (x > 0 ? (edges[at - 1] as number) & 1 : 0) + (y > 0 ? (edges[at - stride] as number) >> 1 : 0)
    );
  };
  const isCorner = (x: number, y: number) => (x === 0 || x === width) && (y === 0 || y === height);
  const done = new Uint8Array(stride * (height + 1)); // bits 0 and 1: the edges to the right and down are traced
  const mark = (x: number, y: number, direction: number): boolean => {
    const at = direction === 2 ? y * stride + x - 1 : direction === 3 ? (y - 1) * stride + x : y * stride + x;
    const bit = direction % 2 === 0 ? 1 : 2;
    if ((done[at] as number) & bit) return false;
    done[at] = (done[at] as number) | bit;
    return true;
  };
  const arcs: Arc[] = [];
  const follow = (x0: number, y0: number, direction0: number): void => {
    if (!isEdge(x0, y0, direction0) || !mark(x0, y0, direction0)) return;
    const [left, right] = sides(x0, y0, direction0);
    const points: Point[] = [[x0, y0]];
    let [x, y, direction] = [x0, y0, direction0];
    for (;;) {
      x += (steps[direction] as Point)[0];
      y += (steps[direction] as Point)[1];
      points.push([x, y]);
      if (x === x0 && y === y0) break;
      if (degree(x, y) !== 2 || isCorner(x, y)) break;
      direction = [(direction + 3) % 4, direction, (direction + 1) % 4].find((turn) => isEdge(x, y, turn)) as number;
      mark(x, y, direction);
    }
    const closed = x === x0 && y === y0 && degree(x0, y0) === 2 && !isCorner(x0, y0);
    if (closed) points.pop();
    arcs.push({ points, left, right, closed });
  };
  // A corner from which no border runs right or down has at most two; nearly all are such.
  for (let y = 0, at = 0; y <= height; y++)
    for (let x = 0; x <= width; x++, at++)
      if (edges[at] !== 0 ? degree(x, y) > 2 || isCorner(x, y) : isCorner(x, y))
        for (let direction = 0; direction < 4; direction++) follow(x, y, direction);
  for (let y = 0, at = 0; y <= height; y++)
    for (let x = 0; x <= width; x++, at++) {
      const open = (edges[at] as number) & ~(done[at] as number);
      if (open & 1) follow(x, y, 0);
      if (open & 2) follow(x, y, 1);
    }
  return arcs;
}
