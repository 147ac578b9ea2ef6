import type { Lab, Lesson } from '@viaticum/contract';
import { type LabRaster, labRaster, type Rgba, resampleLabels, shrink } from '@viaticum/kernels/raster';
import { looksOf, visibleOf } from '../../derived/index.js';
import { lengthOf, type Point } from '../../geometry/index.js';
import { type Curve, fitCurve, nodesOf } from '../bezier.js';
import { areaMap, type Border, bordersOf, CORNER_DEG, CORNER_MM, STEP_MM } from './borders.js';
import { corners, cutAt } from './chains.js';
import { innerLines } from './inner.js';

/** One line of the drawing. `weight` is how much the eye needs it; lines are given heaviest first. */
export type DrawnLine = {
  id: string;
  kind: 'border' | 'inner' | 'own';
  /** The area it is the edge of or lies in, and for a border the one behind it; beside bare canvas there is none. */
  areaIds: string[];
  curve: Curve;
  lengthMm: number;
  deltaE: number;
  weight: number;
};

const PIXELS = 2_000_000;
/** Size of a pixel where lines within areas are looked for: the softening is 2 px then. */
const INNER_MM = 0.55;
const INNER_PIXELS = 1_000_000;
const CLEAR_MM = 1.8;
const TOLERANCE_MM = 0.4;
const STRAIGHT_MM = 0.28;
const INNER_SHARE = 0.55;
const PARALLEL_DEG = 12;
const BESIDE_MM = 1.2;
const LONGEST_BESIDE_MM = 5;
const LEAST_MM = 3;
/** A step where nothing is known of the colours. */
const UNKNOWN_DELTA_E = 20;
const importance = { hard: 1, soft: 0.6, lost: 0.25 } as const;
const SUBJECT = 1.3;

/**
 * The line drawing of a lesson: borders of its areas and, within them, lines where the picture steps; linked, thinned of doubles,
 * fitted with Bézier curves and weighed, heaviest first. `picture` is the picture as it will be painted, over the whole face of the
 * canvas, or null. Yields between its parts. Method and figures: *Line drawing* in the models (Canny 1986, Schneider 1990).
 */
export function* drawLines(lesson: Lesson, picture: Rgba | null): Generator<void, DrawnLine[]> {
  const { widthMm, heightMm } = lesson.support;
  const parts = visibleOf(lesson);
  // A pixel is square, and the map not larger than what it is drawn from needs.
  const wide = Math.min(picture?.width ?? 1600, Math.round(Math.sqrt((PIXELS * widthMm) / heightMm)));
  const [width, height] = [Math.max(8, wide), Math.max(8, Math.round((wide * heightMm) / widthMm))];
  const mmPerPx = widthMm / width;
  const map = areaMap(parts, width, height, mmPerPx);
  yield;
  const borders = bordersOf(lesson, map, mmPerPx);
  yield;
  const innerWide = Math.min(
    width,
    Math.max(8, Math.round(widthMm / INNER_MM)),
    Math.round(Math.sqrt((INNER_PIXELS * widthMm) / heightMm)),
  );
  const lab = picture
    ? labRaster(
        shrink(
          picture,
          Math.min(picture.width, innerWide),
          Math.max(1, Math.min(picture.height, Math.round((innerWide * heightMm) / widthMm))),
        ),
      )
    : null;
  yield;
  const weighed: Weighed[] = [...weighBorders(lesson, borders, lab)];
  if (lab) {
    const own = widthMm / lab.width;
    const small = resampleLabels(map, lab.width, lab.height);
    const forbidden = nearBorders(small.data, lab.width, lab.height, CLEAR_MM / own);
    yield;
    const inner = innerLines(lab, own, forbidden);
    yield;
    weighed.push(
      ...weighInner(lesson, inner, (x, y) => {
        const at = Math.min(lab.height - 1, Math.floor(y / own)) * lab.width + Math.min(lab.width - 1, Math.floor(x / own));
        return parts[small.data[at] as number]?.id ?? null;
      }),
    );
  }
  yield;
  const lines = withoutDoubles(
    weighed.sort((a, b) => b.weight - a.weight || a.id.localeCompare(b.id)),
    widthMm,
    heightMm,
  );
  yield;
  return lines.flatMap(({ points, ...line }): DrawnLine[] => {
    const curve = fitted(points);
    return curve.length >= 4 ? [{ ...line, curve, lengthMm: lengthOf(points) }] : [];
  });
}

/** Fewest curves through an even line of points, cut at its corners. */
export function fitted(points: readonly Point[], toleranceMm = TOLERANCE_MM): Curve {
  const out: Curve = [];
  for (const part of cutAt(points, corners(points, Math.round(CORNER_MM / STEP_MM), CORNER_DEG))) {
    const curve = fitCurve(part, { toleranceMm: toleranceMm * 0.85, straightMm: Math.min(STRAIGHT_MM, toleranceMm) });
    out.push(...(out.length > 0 ? curve.slice(1) : curve));
  }
  return out;
}

type Weighed = Omit<DrawnLine, 'curve' | 'lengthMm'> & { points: Point[] };
const weightOf = (deltaE: number, lengthMm: number, share: number): number =>
  (Math.min(deltaE, 40) + 6) * lengthMm ** 0.6 * share;

/** The edge of one thing shares one weight: its whole length and mean step. */
function weighBorders(lesson: Lesson, borders: readonly Border[], lab: LabRaster | null): Weighed[] {
  const known = labsOf(lesson);
  const things = new Map<string, { border: Border; deltaE: number; length: number; id: string }[]>();
  const count = new Map<string, number>();
  for (const border of borders) {
    const pair = `${border.front}~${border.back ?? ''}`;
    const n = count.get(pair) ?? 0;
    count.set(pair, n + 1);
    const area = lesson.areas.find((one) => one.id === border.front);
    const thing = area?.thingId ?? border.front;
    const deltaE =
      (lab && besides(border.points, lab, lesson.support.widthMm)) ??
      apart(known.get(border.front), known.get(border.back ?? ''));
    const list = things.get(thing) ?? [];
    list.push({ border, deltaE, length: lengthOf(border.points), id: `${pair}~${n}` });
    things.set(thing, list);
  }
  return [...things.values()].flatMap((list) => {
    const whole = list.reduce((sum, one) => sum + one.length, 0);
    const mean = list.reduce((sum, one) => sum + one.deltaE * one.length, 0) / (whole || 1);
    return list.map(({ border, deltaE, id }): Weighed => {
      const front = lesson.areas.find((area) => area.id === border.front);
      const back = lesson.areas.find((area) => area.id === border.back);
      const kind =
        front?.edges?.find((edge) => edge.with === border.back)?.kind ??
        back?.edges?.find((edge) => edge.with === border.front)?.kind ??
        'hard';
      const share = importance[kind] * (lesson.subjectAreaId === border.front ? SUBJECT : 1);
      return {
        id,
        kind: 'border',
        areaIds: border.back === null ? [border.front] : [border.front, border.back],
        points: border.points,
        deltaE,
        weight: weightOf(mean, whole, share),
      };
    });
  });
}

/** What areas are to look like: their own target, else the first mix found for them. */
function labsOf(lesson: Lesson): Map<string, Lab> {
  const looks = looksOf(lesson);
  const out = new Map<string, Lab>();
  for (const mix of lesson.mixes) {
    const lab = looks.get(mix.id)?.colour?.lab ?? mix.targetLab;
    for (const id of [mix.areaId, ...(mix.alsoAreaIds ?? [])]) if (id && lab && !out.has(id)) out.set(id, [...lab]);
  }
  for (const area of lesson.areas) if (area.targetLab) out.set(area.id, area.targetLab);
  return out;
}
const apart = (one: Lab | undefined, other: Lab | undefined): number =>
  one && other ? Math.hypot(one[0] - other[0], 0.7 * (one[1] - other[1]), 0.7 * (one[2] - other[2])) : UNKNOWN_DELTA_E;

const ASIDE_MM = 2;
/** The mean step between what lies on either side of a line. */
function besides(points: readonly Point[], lab: LabRaster, widthMm: number): number {
  const px = lab.width / widthMm;
  const look = (x: number, y: number) => {
    const [ix, iy] = [Math.floor(x * px), Math.floor(y * px)];
    return ix < 0 || iy < 0 || ix >= lab.width || iy >= lab.height ? -1 : iy * lab.width + ix;
  };
  let [sum, count] = [0, 0];
  for (let i = 3; i < points.length - 3; i += 4) {
    const [[x0, y0], [x1, y1], [x, y]] = [points[i - 3], points[i + 3], points[i]] as [Point, Point, Point];
    const size = Math.hypot(x1 - x0, y1 - y0) || 1;
    const [nx, ny] = [((y0 - y1) / size) * ASIDE_MM, ((x1 - x0) / size) * ASIDE_MM];
    const [one, other] = [look(x + nx, y + ny), look(x - nx, y - ny)];
    if (one < 0 || other < 0) continue;
    const at = (k: number): Lab => [lab.l[k] as number, lab.a[k] as number, lab.b[k] as number];
    sum += apart(at(one), at(other));
    count++;
  }
  return count > 0 ? sum / count : UNKNOWN_DELTA_E;
}

/** 1 within so many pixels of a border between numbers, or of the rim. */
function nearBorders(data: Int32Array, width: number, height: number, reachPx: number): Uint8Array {
  const reach = Math.ceil(reachPx);
  const out = new Uint8Array(width * height);
  const stamp = (x: number, y: number) => {
    for (let dy = -reach; dy <= reach; dy++)
      for (let dx = -reach; dx <= reach; dx++) {
        const [px, py] = [x + dx, y + dy];
        if (px >= 0 && py >= 0 && px < width && py < height && dx * dx + dy * dy <= reachPx * reachPx) out[py * width + px] = 1;
      }
  };
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const at = y * width + x;
      const isRim = x === 0 || y === 0 || x === width - 1 || y === height - 1;
      if (isRim || data[at] !== data[at + 1] || data[at] !== data[at + width]) stamp(x, y);
    }
  return out;
}

/** Lines that run alike in one area share one weight, so that they come and go together. */
function weighInner(
  lesson: Lesson,
  inner: readonly { points: Point[]; deltaE: number }[],
  areaAt: (x: number, y: number) => string | null,
): Weighed[] {
  const groups: { area: string; turn: number; members: { points: Point[]; deltaE: number; own: number }[] }[] = [];
  for (const { points, deltaE } of inner) {
    const [mx, my] = points[points.length >> 1] as Point;
    const area = areaAt(mx, my);
    if (!area) continue;
    const [[x0, y0], [x1, y1]] = [points[0], points.at(-1)] as [Point, Point];
    const turn = ((Math.atan2(y1 - y0, x1 - x0) * 180) / Math.PI + 180) % 180;
    const own = weightOf(deltaE, lengthOf(points), INNER_SHARE * (lesson.subjectAreaId === area ? SUBJECT : 1));
    const group = groups.find((one) => one.area === area && Math.abs(((one.turn - turn + 270) % 180) - 90) <= PARALLEL_DEG);
    if (group) group.members.push({ points, deltaE, own });
    else groups.push({ area, turn, members: [{ points, deltaE, own }] });
  }
  const count = new Map<string, number>();
  return groups.flatMap(({ area, members }) => {
    const mean = members.reduce((sum, one) => sum + one.own, 0) / members.length;
    return members.map(({ points, deltaE }): Weighed => {
      const n = count.get(area) ?? 0;
      count.set(area, n + 1);
      return { id: `in~${area}~${n}`, kind: 'inner', areaIds: [area], points, deltaE, weight: mean };
    });
  });
}

/** Takes out runs of more than a few mm that lie beside a heavier line. Lines come heaviest first. */
function withoutDoubles(lines: readonly Weighed[], widthMm: number, heightMm: number): Weighed[] {
  const cell = 0.6;
  const [width, height] = [Math.ceil(widthMm / cell) + 1, Math.ceil(heightMm / cell) + 1];
  const taken = new Uint8Array(width * height);
  const reach = Math.ceil(BESIDE_MM / cell);
  const at = ([x, y]: Point) =>
    Math.max(0, Math.min(height - 1, Math.floor(y / cell))) * width + Math.max(0, Math.min(width - 1, Math.floor(x / cell)));
  const put = (point: Point) => {
    const middle = at(point);
    const [cx, cy] = [middle % width, Math.floor(middle / width)];
    for (let dy = -reach; dy <= reach; dy++)
      for (let dx = -reach; dx <= reach; dx++) {
        const [px, py] = [cx + dx, cy + dy];
        if (px >= 0 && py >= 0 && px < width && py < height && dx * dx + dy * dy <= reach * reach) taken[py * width + px] = 1;
      }
  };
  return lines.flatMap((line) => {
    const keep = line.kind === 'border' ? [line.points] : clearRuns(line.points, (p) => taken[at(p)] === 1);
    for (const run of keep) for (const point of run) put(point);
    return keep.map((points, i) => ({ ...line, id: i === 0 ? line.id : `${line.id}.${i}`, points }));
  });
}

/** The pieces of a line that remain when long runs beside others are taken out. */
function clearRuns(points: readonly Point[], isTaken: (point: Point) => boolean): Point[][] {
  const out: Point[][] = [];
  let now: Point[] = [];
  for (let i = 0; i < points.length; ) {
    const state = isTaken(points[i] as Point);
    let to = i;
    while (to < points.length && isTaken(points[to] as Point) === state) to++;
    const run = points.slice(i, to);
    if (state && (run.length - 1) * STEP_MM > LONGEST_BESIDE_MM) {
      out.push(now);
      now = [];
    } else now.push(...run);
    i = to;
  }
  out.push(now);
  return out.filter((run) => run.length > 1 && (run.length - 1) * STEP_MM >= LEAST_MM);
}

/** Amounts of drawing: what a beginner needs, the middle, every fold. */
export const amounts = { beginner: 0.3, middle: 0.65, every: 1 } as const;

/**
 * The lines up to an amount (0-1): heaviest first, by their length added up, so that a larger amount holds all of a smaller one.
 * At the middle amount as much is drawn as all borders of areas are long, at 1 everything. Lines of one's own are always there; one line
 * is in any case.
 */
export function upToAmount(lines: readonly DrawnLine[], amount: number): DrawnLine[] {
  const computed = lines.filter((line) => line.kind !== 'own');
  const long = (some: readonly DrawnLine[]) => some.reduce((sum, line) => sum + line.lengthMm, 0);
  const [borders, whole] = [long(computed.filter((line) => line.kind === 'border')), long(computed)];
  const { middle } = amounts;
  const wanted =
    amount <= middle ? (borders * amount) / middle : borders + ((whole - borders) * (amount - middle)) / (1 - middle);
  let gone = 0;
  const kept = new Set<DrawnLine>();
  for (const line of computed) {
    if (kept.size > 0 && gone + line.lengthMm > wanted + 1e-6) break;
    gone += line.lengthMm;
    kept.add(line);
  }
  return lines.filter((line) => line.kind === 'own' || kept.has(line));
}

/** How many points would have to be drawn for some lines. */
export const nodesIn = (lines: readonly DrawnLine[]): number => lines.reduce((sum, { curve }) => sum + nodesOf(curve), 0);
