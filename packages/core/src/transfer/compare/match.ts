import { type Point, solved } from '../../geometry/index.js';
import type { Seen } from './straighten.js';

/** How one thing is drawn against how it should be, about its own middle. */
export type Fit = {
  /** Its width and height over what they should be. */
  wide: number;
  high: number;
  /** Turned to the right, in degrees. */
  turnDeg: number;
  /** Its middle, off to the right and down, in mm. */
  offMm: [number, number];
  /** Share of its line that was found, and how far that lies off after all of this, in mm. */
  found: number;
  restMm: number;
  /** The map itself, about the middle and in half-sizes of the thing. */
  affine: Affine;
  /** Where a place of the template lies in the drawing. */
  map: (point: Point) => Point;
};

/** How far the nearest line is looked for, round by round: for what is nearly right, and for what is far off. */
export const reaches = {
  near: [6, 5, 4, 3.5, 3, 2.5, 2.5, 1.5],
  far: [16, 16, 13, 13, 10, 10, 8, 6, 5, 4, 3, 3, 2.5, 2.5, 1.5],
} as const;
const SAME_WAY = Math.cos((32 * Math.PI) / 180);
const LEAST_POINTS = 24;
const LEAST_FOUND = 0.35;
/** How much a thing holds to its shape: more while much of what is near may be something else. */
const stiffAt = (reach: number): number => (reach > 5 ? 0.012 : 0.002);

const SIZE = 3;
/** What is seen, by squares, so that the nearest that runs the same way is found quickly. */
export function nearestIn({ points, turns }: Pick<Seen, 'points' | 'turns'>) {
  const xs = Float64Array.from(points, ([x]) => x);
  const ys = Float64Array.from(points, ([, y]) => y);
  const [width, height] = [xs, ys].map((list) => Math.floor(list.reduce((a, b) => Math.max(a, b), 0) / SIZE) + 1) as [
    number,
    number,
  ];
  const start = new Int32Array(width * height + 1);
  const cell = (i: number) => Math.floor((ys[i] as number) / SIZE) * width + Math.floor((xs[i] as number) / SIZE);
  for (let i = 0; i < xs.length; i++) start[cell(i) + 1] = (start[cell(i) + 1] as number) + 1;
  for (let k = 0; k < width * height; k++) start[k + 1] = (start[k + 1] as number) + (start[k] as number);
  const order = new Int32Array(xs.length);
  const filled = start.slice();
  for (let i = 0; i < xs.length; i++) {
    const k = cell(i);
    order[filled[k] as number] = i;
    filled[k] = (filled[k] as number) + 1;
  }
  const [cosines, sines] = [Float64Array.from(turns, Math.cos), Float64Array.from(turns, Math.sin)];
  return ([x, y]: Point, turn: number, reach: number): { at: Point; far: number } | null => {
    const [c, s] = [Math.cos(turn), Math.sin(turn)];
    const [cx, cy] = [Math.floor(x / SIZE), Math.floor(y / SIZE)];
    const most = Math.ceil(reach / SIZE);
    let [best, least] = [-1, reach * reach];
    // Ring by ring: what lies farther than the best cannot be nearer.
    for (let ring = 0; ring <= most && (Math.max(0, ring - 1) * SIZE) ** 2 <= least; ring++)
      for (let gy = cy - ring; gy <= cy + ring; gy++) {
        if (gy < 0 || gy >= height) continue;
        const isRim = gy === cy - ring || gy === cy + ring;
        for (let gx = cx - ring; gx <= cx + ring; gx += isRim || ring === 0 ? 1 : 2 * ring) {
          if (gx < 0 || gx >= width) continue;
          const k = gy * width + gx;
          for (let n = start[k] as number; n < (start[k + 1] as number); n++) {
            const i = order[n] as number;
            const far = ((xs[i] as number) - x) ** 2 + ((ys[i] as number) - y) ** 2;
            if (far >= least || Math.abs((cosines[i] as number) * c + (sines[i] as number) * s) < SAME_WAY) continue;
            [best, least] = [i, far];
          }
        }
      }
    return best < 0 ? null : { at: points[best] as Point, far: Math.sqrt(least) };
  };
}

export type Affine = [number, number, number, number, number, number];

type Placed = { at: Point; turn: number };
const frames = new WeakMap<readonly Placed[], { middle: Point; size: number }>();
/** The middle of a thing's box, and half its diagonal. */
function frameOf(line: readonly Placed[]): { middle: Point; size: number } {
  const known = frames.get(line);
  if (known) return known;
  const [xs, ys] = [line.map(({ at }) => at[0]), line.map(({ at }) => at[1])];
  const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const frame = { middle: [(x0 + x1) / 2, (y0 + y1) / 2] as Point, size: Math.max(8, Math.hypot(x1 - x0, y1 - y0) / 2) };
  frames.set(line, frame);
  return frame;
}

/** How near some points of a thing lie to what is seen from a beginning, without fitting: 1 on it, 0 none within `reach`. */
export function glance(
  few: readonly Placed[],
  line: readonly Placed[],
  nearest: ReturnType<typeof nearestIn>,
  start: Affine,
  reach: number,
): number {
  const { middle, size } = frameOf(line);
  const turned = Math.atan2(start[2] - start[1], start[0] + start[3]);
  let sum = 0;
  for (const { at, turn } of few) {
    const p = put(start, [(at[0] - middle[0]) / size, (at[1] - middle[1]) / size], middle, size);
    const seen = nearest(p, turn + turned, reach);
    if (seen) sum += 1 - seen.far / reach;
  }
  return sum / Math.max(1, few.length);
}

/**
 * Fits the lines of one thing to what is seen: nearest lines that run the same way, closer and closer (iterated closest points, Besl
 * and McKay 1992), each time the affine map of least squares, held a little to the shape it has. `line` are even points with
 * directions. Null where too little of it is found.
 */
export function fitThing(
  line: readonly Placed[],
  nearest: ReturnType<typeof nearestIn>,
  start: Affine,
  rounds: readonly number[],
): Fit | null {
  if (line.length < LEAST_POINTS) return null;
  const { middle, size } = frameOf(line);
  let now = start;
  let [found, rest] = [0, 0];
  for (const reach of rounds) {
    const pairs: { from: Point; to: Point; normal: Point; weight: number }[] = [];
    const turned = Math.atan2(now[2] - now[1], now[0] + now[3]);
    for (const { at, turn } of line) {
      const from: Point = [(at[0] - middle[0]) / size, (at[1] - middle[1]) / size];
      const seen = nearest(put(now, from, middle, size), turn + turned, reach);
      if (!seen) continue;
      const t = turn + turned;
      pairs.push({ from, to: seen.at, normal: [-Math.sin(t), Math.cos(t)], weight: 1 / (1 + (seen.far / (reach / 2)) ** 2) });
    }
    found = pairs.length / line.length;
    if (found < LEAST_FOUND) return null;
    const next = leastSquares(pairs, middle, size, stiffAt(reach));
    if (!next) return null;
    now = next;
    rest =
      pairs.reduce((sum, { from, to, normal }) => {
        const p = put(now, from, middle, size);
        return sum + Math.abs((p[0] - to[0]) * normal[0] + (p[1] - to[1]) * normal[1]);
      }, 0) / pairs.length;
  }
  const [a, b, c, d, tx, ty] = now;
  const turn = Math.atan2(c - b, a + d);
  const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
  return {
    wide: a * cos + c * sin,
    high: d * cos - b * sin,
    turnDeg: (turn * 180) / Math.PI,
    offMm: [tx, ty],
    found,
    restMm: rest,
    affine: now,
    map: (p) => put(now, [(p[0] - middle[0]) / size, (p[1] - middle[1]) / size], middle, size),
  };
}

function put([a, b, c, d, tx, ty]: Affine, [x, y]: Point, middle: Point, size: number): Point {
  return [middle[0] + tx + size * (a * x + b * y), middle[1] + ty + size * (c * x + d * y)];
}

/** Distances across the lines alone count, so that lines may slide along themselves; a thing keeps its shape where nothing says otherwise. */
function leastSquares(
  pairs: readonly { from: Point; to: Point; normal: Point; weight: number }[],
  middle: Point,
  size: number,
  stiffness: number,
): Affine | null {
  const m = Array.from({ length: 6 }, () => new Array<number>(6).fill(0));
  const right = new Array<number>(6).fill(0);
  const equation = (row: readonly number[], value: number, weight: number) => {
    for (let i = 0; i < 6; i++) {
      right[i] = (right[i] as number) + weight * (row[i] as number) * value;
      for (let k = 0; k < 6; k++)
        (m[i] as number[])[k] = ((m[i] as number[])[k] as number) + weight * (row[i] as number) * (row[k] as number);
    }
  };
  let all = 0;
  for (const {
    from: [x, y],
    to,
    normal: [nx, ny],
    weight,
  } of pairs) {
    all += weight;
    equation(
      [nx * x, nx * y, ny * x, ny * y, nx / size, ny / size],
      (nx * (to[0] - middle[0]) + ny * (to[1] - middle[1])) / size,
      weight,
    );
  }
  const stiff = stiffness * all;
  const held: [number[], number, number][] = [
    [[1, 0, 0, -1, 0, 0], 0, stiff * 0.5], // as wide as high
    [[0, 1, 1, 0, 0, 0], 0, stiff], // no shear
    [[1, 0, 0, 1, 0, 0], 2, stiff * 0.1],
    [[0, -1, 1, 0, 0, 0], 0, stiff * 0.1],
    [[0, 0, 0, 0, 1 / size, 0], 0, stiff * 0.02],
    [[0, 0, 0, 0, 0, 1 / size], 0, stiff * 0.02],
  ];
  for (const [row, value, weight] of held) equation(row, value, weight);
  const found = solved(m, right);
  return found && (found as Affine);
}
