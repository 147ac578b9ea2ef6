import type { Lesson, Outline } from '@viaticum/contract';
import { type Labels, labels } from '@viaticum/kernels/raster';
import { scanOutline } from '../../area/index.js';
import { visibleOf } from '../../derived/index.js';
import { evenly, type Point } from '../../geometry/index.js';
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
    const own = softenedBetweenCorners(raw, arc.closed, mmPerPx);
    if (own.length < 2) continue;
    out.push({
      front: parts[high]?.id as string,
      back: parts[low]?.id ?? null,
      points: own,
      closed: arc.closed,
    });
  }
  return out;
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
