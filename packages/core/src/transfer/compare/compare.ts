import type { Lesson } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { labRaster, type Rgba } from '@viaticum/kernels/raster';
import { scanOutline } from '../../area/index.js';
import { visibleOf } from '../../derived/index.js';
import { distance, evenly, type Point, solved } from '../../geometry/index.js';
import { flattened } from '../bezier.js';
import { fromLine, type Line } from '../lines/decided.js';
import { type Corners, ordered } from './corners.js';
import { type Affine, type Fit, fitThing, glance, nearestIn, reaches } from './match.js';
import { type Seen, type Straight, seenIn, straightened } from './straighten.js';

/** A thing or area that is drawn otherwise than the template has it, in words and numbers. */
export type ThingError = {
  id: string;
  name: string;
  widthShare: number;
  heightShare: number;
  turnDeg: number;
  offMm: [number, number];
  /** It runs out of the canvas: neither its size nor its place can be told. */
  atEdge: boolean;
  words: string[];
};
export type ValueError = { areaId: string; name: string; steps: number; words: string };
export type AreaOff = { areaId: string; name: string; dL: number; da: number; db: number };
export type FoundLandmark = { id: string; name: string; should: Point; is: Point; offMm: number; isOff: boolean };
export type DrawingCheck = {
  straight: Straight;
  things: ThingError[];
  landmarks: FoundLandmark[];
  values: ValueError[];
  /** Things of which too little was found. */
  notFound: string[];
  /** Of a painted canvas how every area differs from `expected`, in CIELAB units against all the others. */
  areas: AreaOff[];
  /** How much of the template is seen in the photograph: 0 nothing, 1 all of it. */
  seenShare: number;
  /** The photograph was taken on its side: quarter turns to the right that it needed. */
  quarterTurns: number;
};

const POINT_MM = 1.5;
/** Lightness of one step of a scale of ten values. */
export const VALUE_STEP = 10;
const LEAST_STEPS = 0.4;

/**
 * Compares a photograph of a drawing or canvas with the template: straightened by its four corners, every thing's lines fitted to
 * what is seen, landmarks taken along; of a painted canvas also the values, area by area against all the others, with `expected` as
 * the canvas should look. Errors come in words: "the kettle is 8 % too wide". Throws a sentence where it cannot be measured.
 */
export function checkDrawing(
  lesson: Lesson,
  lines: readonly Line[],
  photo: Rgba,
  corners: Corners,
  options: { what: 'lines' | 'paint'; expected?: Rgba | null } = { what: 'lines' },
): DrawingCheck {
  const things = thingsOf(lesson, lines);
  if (things.length === 0) throw new RangeError(say('There are no lines to compare with. Draw the template first.'));
  const { straight, seen, quarterTurns, seenShare } = turnedRight(lesson, things, photo, corners, options.what);
  if (seen.points.length < 40 || !seen.isClear)
    throw new RangeError(
      'This photograph is too blurred or too pale to measure. Hold the camera still, with more light, and take it again.',
    );
  const nearest = nearestIn(seen);
  const fits = new Map<string, Fit>();
  const notFound: string[] = [];
  for (const thing of things) {
    const fit = bestFit(thing, nearest);
    if (fit) fits.set(thing.id, fit);
    else notFound.push(thing.name);
  }
  const errors = things.flatMap((thing): ThingError[] => {
    const fit = fits.get(thing.id);
    return fit ? [inWords(lesson, thing, fit)] : [];
  });
  const areas = options.what === 'paint' && options.expected ? areasOff(lesson, straight, options.expected, things, fits) : [];
  return {
    straight,
    things: errors,
    landmarks: landmarksIn(lesson, lines, things, fits, nearest),
    values: valueErrors(areas),
    areas,
    notFound,
    seenShare,
    quarterTurns,
  };
}

type Thing = {
  id: string;
  name: string;
  areaIds: Set<string>;
  line: { at: Point; turn: number }[];
  widthMm: number;
  heightMm: number;
};

/** Lines by the thing (or area) in front that they are the edge of. */
function thingsOf(lesson: Lesson, lines: readonly Line[]): Thing[] {
  const out = new Map<string, Thing>();
  for (const line of lines) {
    const area = lesson.areas.find((one) => one.id === line.areaIds[0]);
    const whole = lesson.things.find((one) => one.id === area?.thingId);
    const id = whole?.id ?? area?.id;
    if (!id || !area) continue;
    const thing = out.get(id) ?? {
      id,
      name: (whole ?? area).name,
      areaIds: new Set<string>(),
      line: [],
      widthMm: 0,
      heightMm: 0,
    };
    thing.areaIds.add(area.id);
    thing.line.push(...directed(evenly(flattened(line.curve, 0.8), POINT_MM)));
    out.set(id, thing);
  }
  return [...out.values()].map((thing) => {
    const [xs, ys] = [thing.line.map(({ at }) => at[0]), thing.line.map(({ at }) => at[1])];
    const span = (list: number[]) =>
      list.reduce((a, b) => Math.max(a, b), 0) - list.reduce((a, b) => Math.min(a, b), Number.POSITIVE_INFINITY);
    return { ...thing, widthMm: span(xs), heightMm: span(ys) };
  });
}

const directed = (points: readonly Point[]): { at: Point; turn: number }[] =>
  points.map((at, i) => {
    const [a, b] = [points[Math.max(0, i - 1)], points[Math.min(points.length - 1, i + 1)]] as [Point, Point];
    return { at, turn: (Math.atan2(b[1] - a[1], b[0] - a[0]) + Math.PI) % Math.PI };
  });

const SURE_SCORE = 0.62;
/** The photograph may have been taken on its side: the quarter turn at which most of the template is seen is taken. */
function turnedRight(lesson: Lesson, things: readonly Thing[], photo: Rgba, corners: Corners, what: 'lines' | 'paint') {
  const round = ordered(corners);
  let best: { straight: Straight; seen: Seen; quarterTurns: number; score: number; seenShare: number } | null = null;
  for (let quarterTurns = 0; quarterTurns < 4; quarterTurns++) {
    const turned = [...round.slice(quarterTurns), ...round.slice(0, quarterTurns)] as Corners;
    const straight = straightened(photo, lesson.support, turned);
    const seen = seenIn(straight, what);
    const nearest = nearestIn(seen);
    let [score, count] = [0, 0];
    for (const { line } of things)
      for (let i = 0; i < line.length; i += 3) {
        const { at, turn } = line[i] as Thing['line'][0];
        score += 1 - (nearest(at, turn, 8)?.far ?? 8) / 8;
        count++;
      }
    const seenShare = score / Math.max(1, count);
    score = seenShare + (quarterTurns === 0 ? 0.04 : 0);
    if (!best || score > best.score) best = { straight, seen, quarterTurns, score, seenShare };
    if (score > SURE_SCORE) break;
  }
  return best as NonNullable<typeof best>;
}

/** So much of a thing found so near is right as it is; nothing else is looked for. */
const SURE_FOUND = 0.96;
const SURE_REST_MM = 0.12;
const SEARCH_POINTS = 170;
const GLANCE_POINTS = 40;
const GLANCE_MM = 3.5;
const BEGINNINGS = 6;
/** Shapes and places from which a thing is looked for: lines that lie beside each other hold a search that begins at the wrong one. */
const sizes = [0.88, 0.92, 0.96, 1, 1.04, 1.08, 1.12];
const shapes: readonly (readonly [number, number, number, number])[] = [
  ...sizes.flatMap((wide) => sizes.map((high) => [wide, 0, 0, high] as const)),
  ...[-6, -3, 3, 6].map((deg) => {
    const t = (deg * Math.PI) / 180;
    return [Math.cos(t), -Math.sin(t), Math.sin(t), Math.cos(t)] as const;
  }),
];
const offs = [-9, -6, -3, 0, 3, 6, 9];
const places = offs.flatMap((dx) => offs.map((dy) => [dx, dy] as const));
const evenlyOf = <T>(list: readonly T[], count: number): T[] => {
  const every = Math.max(1, Math.floor(list.length / count));
  return list.filter((_, i) => i % every === 0);
};
/** All beginnings are glanced at with a few points; from the best the thing is fitted, and the fit that finds most and lies nearest is taken. */
function bestFit({ line }: Thing, nearest: ReturnType<typeof nearestIn>): Fit | null {
  const asItIs = fitThing(line, nearest, [1, 0, 0, 1, 0, 0], reaches.near);
  if (asItIs && asItIs.found > SURE_FOUND && asItIs.restMm < SURE_REST_MM) return asItIs;
  const few = evenlyOf(line, GLANCE_POINTS);
  const ranked = shapes
    .map((shape) => {
      let [best, most]: [Affine, number] = [[...shape, 0, 0], -1];
      for (const [dx, dy] of places) {
        const start: Affine = [...shape, dx, dy];
        const share = glance(few, line, nearest, start, GLANCE_MM) - 0.0015 * Math.hypot(dx, dy);
        if (share > most) [best, most] = [start, share];
      }
      return { start: best, share: most };
    })
    .sort((one, other) => other.share - one.share)
    .slice(0, BEGINNINGS);
  const some = evenlyOf(line, SEARCH_POINTS);
  const score = (fit: Fit) => fit.found - 0.4 * fit.restMm;
  let best: Fit | null = null;
  for (const { start } of ranked) {
    const fit = fitThing(some, nearest, start, reaches.near);
    if (fit && (!best || score(fit) > score(best))) best = fit;
  }
  best ??= fitThing(some, nearest, [1, 0, 0, 1, 0, 0], reaches.far);
  return best && (fitThing(line, nearest, best.affine, reaches.near) ?? best);
}

const EDGE_MM = 3;
const runsOut = ({ support: { widthMm, heightMm } }: Lesson, { line }: Thing): boolean =>
  line.some(({ at: [x, y] }) => x < EDGE_MM || y < EDGE_MM || x > widthMm - EDGE_MM || y > heightMm - EDGE_MM);

const percent = (share: number): string => `${Math.abs(Math.round((share - 1) * 100))} %`;
const MOST_TURN_DEG = 2;

function inWords(lesson: Lesson, thing: Thing, fit: Fit): ThingError {
  const { toleranceMm } = lesson.drawing;
  const words: string[] = [];
  const isOff = (share: number, mm: number) => Math.abs(share - 1) * mm > toleranceMm && Math.abs(share - 1) > 0.02;
  const [wide, high] = [isOff(fit.wide, thing.widthMm), isOff(fit.high, thing.heightMm)];
  if (wide && high && Math.abs(fit.wide - fit.high) < 0.025)
    words.push(say`${percent((fit.wide + fit.high) / 2)} too ${fit.wide > 1 ? say('large') : say('small')}`);
  else {
    if (wide) words.push(say`${percent(fit.wide)} too ${fit.wide > 1 ? say('wide') : say('narrow')}`);
    if (high) words.push(say`${percent(fit.high)} too ${fit.high > 1 ? say('size|tall') : say('size|short')}`);
  }
  if (Math.abs(fit.turnDeg) > MOST_TURN_DEG)
    words.push(say`leaning ${Math.round(Math.abs(fit.turnDeg))}° to the ${fit.turnDeg > 0 ? say('right') : say('left')}`);
  const [dx, dy] = fit.offMm;
  if (Math.abs(dx) > toleranceMm)
    words.push(say`${Math.round(Math.abs(dx))} mm too far to the ${dx > 0 ? say('right') : say('left')}`);
  if (Math.abs(dy) > toleranceMm)
    words.push(say`${Math.round(Math.abs(dy))} mm too far ${dy > 0 ? say('place|down') : say('place|up')} on the canvas`);
  return {
    id: thing.id,
    name: thing.name,
    widthShare: fit.wide,
    heightShare: fit.high,
    turnDeg: fit.turnDeg,
    offMm: fit.offMm,
    atEdge: runsOut(lesson, thing),
    words,
  };
}

/** Landmarks go along with the thing whose line passes nearest. */
function landmarksIn(
  lesson: Lesson,
  lines: readonly Line[],
  things: readonly Thing[],
  fits: ReadonlyMap<string, Fit>,
  nearest: ReturnType<typeof nearestIn>,
): FoundLandmark[] {
  const depthOf = (line: Line) => lesson.areas.findIndex((area) => area.id === line.areaIds[0]);
  return lesson.drawing.landmarks.flatMap((landmark): FoundLandmark[] => {
    const should: Point = [...landmark.at];
    const near = [...lines]
      .map((line) => ({ line, far: fromLine(line, should) }))
      // At a joint of several lines it goes with what lies in front.
      .sort((a, b) => Math.round(a.far) - Math.round(b.far) || depthOf(b.line) - depthOf(a.line))
      .find(({ line }) => things.some((thing) => fits.has(thing.id) && thing.areaIds.has(line.areaIds[0] ?? '')));
    const thing = near && things.find((one) => fits.has(one.id) && one.areaIds.has(near.line.areaIds[0] ?? ''));
    const fit = thing && fits.get(thing.id);
    if (!fit) return [];
    const is = shiftedTo(fit, should, thing.line, nearest);
    const offMm = distance(is, should);
    return [{ id: landmark.id, name: landmark.name, should, is, offMm, isOff: offMm > lesson.drawing.toleranceMm }];
  });
}

const AROUND_MM = 30;
const NEAR_MM = 1.2;
/** Where a place of a thing lies: as the whole thing is fitted, then moved by what its lines nearby still lie off. */
function shiftedTo(fit: Fit, should: Point, line: Thing['line'], nearest: ReturnType<typeof nearestIn>): Point {
  const [a, b, c, d] = fit.affine;
  const turned = Math.atan2(c - b, a + d);
  // Held to where it is unless enough is seen around it.
  const m = [
    [4, 0],
    [0, 4],
  ];
  const right = [0, 0];
  for (const { at, turn } of line) {
    if (distance(at, should) > AROUND_MM) continue;
    const p = fit.map(at);
    const seen = nearest(p, turn + turned, NEAR_MM);
    if (!seen) continue;
    const normal = [-Math.sin(turn + turned), Math.cos(turn + turned)];
    const off = (seen.at[0] - p[0]) * (normal[0] as number) + (seen.at[1] - p[1]) * (normal[1] as number);
    for (const i of [0, 1]) {
      right[i] = (right[i] as number) + off * (normal[i] as number);
      for (const k of [0, 1])
        (m[i] as number[])[k] = ((m[i] as number[])[k] as number) + (normal[i] as number) * (normal[k] as number);
    }
  }
  const [dx, dy] = solved(m, right) ?? [0, 0];
  const [x, y] = fit.map(should);
  return [x + (dx as number), y + (dy as number)];
}

/**
 * How much lighter, darker or otherwise in hue every area is than it should be, against all the others: a slope of light over the whole canvas,
 * its general brightness and the colour of the light are taken out first, by least squares in which areas that are off count little.
 */
function areasOff(
  lesson: Lesson,
  straight: Straight,
  expected: Rgba,
  things: readonly Thing[],
  fits: ReadonlyMap<string, Fit>,
): AreaOff[] {
  const { picture, mmPerPx } = straight;
  const [is, should] = [labRaster(picture), labRaster(expected)];
  const axes = ['l', 'a', 'b'] as const;
  const rows = visibleOf(lesson).flatMap(({ id, outline, areaCm2 }) => {
    if (outline.length === 0 || areaCm2 < 1) return [];
    const fit = fits.get(things.find((thing) => thing.areaIds.has(id))?.id ?? '');
    const differences = axes.map((): number[][] => [[], []]);
    let [sx, sy, n] = [0, 0, 0];
    scanOutline(outline, picture.width, picture.height, mmPerPx, (row, from, to) => {
      for (let x = from + 2; x <= to - 2; x += 2) {
        const at: Point = [(x + 0.5) * mmPerPx, (row + 0.5) * mmPerPx];
        const [px, py] = (fit ? fit.map(at) : at).map((value) => Math.floor(value / mmPerPx)) as [number, number];
        if (px < 0 || py < 0 || px >= picture.width || py >= picture.height) continue;
        const [ex, ey] = [Math.floor((x * should.width) / picture.width), Math.floor((row * should.height) / picture.height)];
        const there = Math.min(should.height - 1, ey) * should.width + Math.min(should.width - 1, ex);
        axes.forEach((axis, i) => {
          differences[i]?.[0]?.push(is[axis][py * picture.width + px] as number);
          differences[i]?.[1]?.push(should[axis][there] as number);
        });
        sx += at[0];
        sy += at[1];
        n++;
      }
    });
    if (n < 12) return [];
    const offs = differences.map(([found = [], wanted = []]) => median(found) - median(wanted));
    return [{ id, offs, x: sx / n, y: sy / n, weight: Math.sqrt(areaCm2) }];
  });
  const lights = axes.map((_, i) => slope(rows.map(({ offs, ...row }) => ({ ...row, off: offs[i] as number }))));
  return rows.map(({ id, offs, x, y }) => {
    const [dL = 0, da = 0, db = 0] = offs.map((off, i) => off - (lights[i]?.(x, y) ?? 0));
    return { areaId: id, name: lesson.areas.find((area) => area.id === id)?.name ?? '', dL, da, db };
  });
}

/** What is off by enough to be told, in steps of a scale of ten values. */
const valueErrors = (areas: readonly AreaOff[]): ValueError[] =>
  areas.flatMap(({ areaId, name, dL }): ValueError[] => {
    const steps = dL / VALUE_STEP;
    if (Math.abs(steps) < LEAST_STEPS) return [];
    const said = Math.round(Math.abs(steps) * 2) / 2 || 0.5;
    return [
      {
        areaId,
        name,
        steps,
        words: say`${said} ${said === 1 ? say('step') : say('steps')} too ${steps > 0 ? say('value|light') : say('value|dark')}`,
      },
    ];
  });

function median(list: number[]): number {
  const sorted = list.sort((a, b) => a - b);
  return sorted[sorted.length >> 1] as number;
}

/** A plane through values, by least squares with what is far off counted little (Huber 1964); flat where there are few. */
function slope(rows: readonly { off: number; x: number; y: number; weight: number }[]): (x: number, y: number) => number {
  const ordered = [...rows].sort((a, b) => a.off - b.off);
  const whole = rows.reduce((sum, row) => sum + row.weight, 0);
  let [gone, flat] = [0, 0];
  for (const row of ordered) {
    gone += row.weight;
    flat = row.off;
    if (gone >= whole / 2) break;
  }
  if (rows.length < 6) return () => flat;
  let plane: [number, number, number] = [flat, 0, 0];
  const [mx, my] = [rows.reduce((s, row) => s + row.x, 0) / rows.length, rows.reduce((s, row) => s + row.y, 0) / rows.length];
  for (let round = 0; round < 12; round++) {
    const m = [0, 1, 2].map(() => [0, 0, 0]);
    const right = [0, 0, 0];
    for (const { off, x, y, weight } of rows) {
      const v = [1, (x - mx) / 100, (y - my) / 100];
      const rest = Math.abs(off - v.reduce((s, value, i) => s + value * (plane[i] as number), 0));
      const w = weight * Math.min(1, 2 / Math.max(1e-6, rest)) ** 2;
      for (let i = 0; i < 3; i++) {
        right[i] = (right[i] as number) + w * (v[i] as number) * off;
        for (let k = 0; k < 3; k++)
          (m[i] as number[])[k] = ((m[i] as number[])[k] as number) + w * (v[i] as number) * (v[k] as number);
      }
    }
    // A slope is held to little, so that few areas do not bend the light.
    for (const i of [1, 2]) (m[i] as number[])[i] = ((m[i] as number[])[i] as number) + whole * 0.02;
    const next = solved(m, right);
    if (!next) break;
    plane = next as [number, number, number];
  }
  return (x, y) => plane[0] + (plane[1] * (x - mx)) / 100 + (plane[2] * (y - my)) / 100;
}
