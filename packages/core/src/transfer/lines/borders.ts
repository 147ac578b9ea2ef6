import type { Lesson, Outline } from '@viaticum/contract';
import { type Labels, labels } from '@viaticum/kernels/raster';
import { scanOutline } from '../../area/index.js';
import { visibleOf } from '../../derived/index.js';
import { evenly, lengthOf, type Point } from '../../geometry/index.js';
import { traceArcs } from '../../picture/index.js';
import { corners, cutAt, softened } from './chains.js';

/** A border between two areas, or of one and bare canvas (`back` null), as a line of even points in canvas mm; `front` lies before `back`. */
export type Border = { front: string; back: string | null; points: Point[]; closed: boolean };

/** What is seen of every area as a map of numbers, -1 where none lies. */
export function areaMap(parts: readonly { outline: Outline }[], width: number, height: number, mmPerPx: number): Labels {
  const out = labels(width, height);
  out.data.fill(-1);
  parts.forEach(({ outline }, i) => {
    if (outline.length > 0)
      scanOutline(outline, width, height, mmPerPx, (row, from, to) => out.data.fill(i, row * width + from, row * width + to + 1));
  });
  return out;
}

/** Even distance of the points of a line, in mm. */
export const STEP_MM = 0.5;
const SOFT_MM = 0.55;
const CRACK_PX = 1.2;
/** A turn of more than so many degrees between what lies within so many mm on either side is a corner, and stays one. */
export const CORNER_DEG = 32;
export const CORNER_MM = 3.5;

/** The borders between what is seen of a lesson's areas: cracks between pixels followed, split where three areas meet, softened along. */
export function bordersOf(lesson: Lesson, map: Labels, mmPerPx: number): Border[] {
  const parts = visibleOf(lesson);
  const out: Border[] = [];
  for (const arc of traceArcs({ ...map, data: map.data.map((value) => value + 1) })) {
    // Label 0 is bare canvas, -1 the outside: the edge of the canvas itself is not drawn.
    if (arc.left < 0 || arc.right < 0 || arc.left === arc.right) continue;
    const [low, high] = [Math.min(arc.left, arc.right) - 1, Math.max(arc.left, arc.right) - 1];
    const raw = arc.points.map(([x, y]): Point => [x * mmPerPx, y * mmPerPx]);
    const ways = low < 0 ? withoutRim(lesson, raw, arc.closed) : [{ points: raw, closed: arc.closed }];
    for (const way of ways) {
      const own = softenedBetweenCorners(way.points, way.closed, mmPerPx);
      if (own.length < 2) continue;
      out.push({ front: parts[high]?.id as string, back: parts[low]?.id ?? null, points: own, closed: way.closed });
    }
  }
  return out;
}

/** Bare canvas narrower than this along its rim is where an area ends a hair early: no edge is drawn there. */
const RIM_MM = 2;
/** What of an edge beside bare canvas does not run along the rim; its ends reach the rim where it comes from there. */
function withoutRim(
  { support: { widthMm, heightMm } }: Lesson,
  raw: readonly Point[],
  isClosed: boolean,
): { points: Point[]; closed: boolean }[] {
  const isAway = ([x, y]: Point) => Math.min(x, y, widthMm - x, heightMm - y) > RIM_MM;
  const first = raw.findIndex((p) => !isAway(p));
  if (first < 0) return [{ points: [...raw], closed: isClosed }];
  // A closed one is begun at the rim, so that no run is cut where it happened to begin.
  const line = isClosed ? [...raw.slice(first, -1), ...raw.slice(0, first + 1)] : [...raw];
  const gone = new Uint8Array(line.length);
  for (let from = 0; from < line.length; from++) {
    if (isAway(line[from] as Point)) continue;
    let to = from;
    while (to + 1 < line.length && !isAway(line[to + 1] as Point)) to++;
    // Straight out to the rim is short; along it is long, and only what leads to it stays.
    const long = lengthOf(line.slice(from, to + 1));
    if (long > 3 * RIM_MM) {
      for (let k = from; k <= to; k++) {
        const leads = (at: number) =>
          at > 0 && at < line.length - 1 && lengthOf(line.slice(Math.min(at, k), Math.max(at, k) + 1)) <= RIM_MM;
        if (!leads(from) && !leads(to)) gone[k] = 1;
      }
    }
    from = to;
  }
  const runs: Point[][] = [];
  line.forEach((p, i) => {
    if (gone[i]) return;
    if (i > 0 && !gone[i - 1] && runs.length > 0) runs.at(-1)?.push(p);
    else runs.push([p]);
  });
  return runs.flatMap((points) => (points.length > 1 ? [{ points, closed: false }] : []));
}

/** A line softened along, but for its corners and ends; as even points. A closed one that has corners begins at one of them. */
function softenedBetweenCorners(raw: Point[], isClosed: boolean, mmPerPx: number): Point[] {
  const sigma = Math.max(SOFT_MM / mmPerPx, CRACK_PX);
  const reach = Math.max(2, Math.round(CORNER_MM / mmPerPx));
  const between = (line: Point[], places: number[]) =>
    cutAt(line, places).flatMap((part, i) => evenly(softened(part, sigma), STEP_MM).slice(i === 0 ? 0 : 1));
  if (!isClosed) return between(raw, corners(softened(raw, sigma), reach, CORNER_DEG));
  // Run on across the beginning, so that it is seen like any other place.
  const around = raw.slice(0, -1);
  const extra = Math.min(around.length - 1, reach + Math.ceil(4 * sigma));
  const long = [...around.slice(-extra), ...around, ...around.slice(0, extra)];
  const soft = softened(long, sigma);
  const found = corners(soft, reach, CORNER_DEG)
    .map((i) => i - extra)
    .filter((i) => i >= 0 && i < around.length);
  const [first] = found;
  if (first === undefined) {
    const own = soft.slice(extra, extra + around.length);
    return evenly([...own, own[0] as Point], STEP_MM);
  }
  const turned = [...around.slice(first), ...around.slice(0, first), around[first] as Point];
  return between(
    turned,
    found.slice(1).map((i) => i - first),
  );
}
