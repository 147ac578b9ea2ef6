import { type Area, type Lesson, letters, limits, type Outline, say, type TwinOf } from '@viaticum/contract';
import { common, outlineArea, outlineBox, outlineFault, repaired } from '../area/index.js';
import { mirrorLine } from '../geometry/index.js';
import type { D } from './command-tools.js';
import { letGo } from './references.js';

/** A short id for the area of a twin that follows another area; always the same. */
function twinId(thingId: string, areaId: string): string {
  let [a, b] = [0x811c9dc5, 0x1b873593];
  for (const letter of `${thingId}/${areaId}`) {
    a = Math.imul(a ^ (letter.codePointAt(0) as number), 0x01000193);
    b = Math.imul(b ^ a, 0x2c1b3c6d);
  }
  return `tw${(a >>> 0).toString(36)}${(b >>> 0).toString(36)}`;
}

const round = (value: number) => Math.round(value * 100) / 100;

/** Where the water's surface lies below a thing on the canvas; its own foot where that cannot be. */
export function lineOf({ kind, baseMm, horizonMm, bankM, eyeM }: TwinOf): number {
  if (kind === 'pull') return baseMm;
  try {
    return mirrorLine({ baseMm, horizonMm, bankM, eyeM });
  } catch {
    return baseMm;
  }
}

/** An outline mirrored about a level line, as far as it lies above it; empty where it lies below. */
export function reflected(outline: Outline, lineMm: number): Outline {
  const above = aboveLine(outline, lineMm);
  return sound(
    above.map((polygon) => polygon.map((ring) => ring.map(([x, y]): [number, number] => [round(x), round(2 * lineMm - y)]))),
  );
}
/** Corners that lie close together can cross when they are rounded. */
const sound = (outline: Outline): Outline => (outlineFault(outline) ? repaired(outline) : outline);

const FAR = 40_000;
const aboveLine = (outline: Outline, lineMm: number): Outline =>
  common(outline, [
    [
      [
        [-FAR, -FAR],
        [FAR, -FAR],
        [FAR, lineMm],
        [-FAR, lineMm],
      ],
    ],
  ]);

const COLUMNS = 48;
/** Paint pulled straight down from a level line: every column as long as a share of how high the thing stands there. */
export function pulled(outline: Outline, lineMm: number, share: number): Outline {
  const above = aboveLine(outline, lineMm);
  const box = outlineBox(above);
  if (!box || box.width <= 0) return [];
  const rings = above.flat();
  const tops = Array.from({ length: COLUMNS + 1 }, (_, i): [number, number] => {
    const at = box.x + (box.width * i) / COLUMNS;
    // The rim itself is looked at a hair within.
    const x = box.x + (box.width * Math.min(COLUMNS - 0.01, Math.max(0.01, i))) / COLUMNS;
    let top = lineMm;
    for (const ring of rings)
      for (let k = 0; k < ring.length; k++) {
        const [[x1, y1], [x2, y2]] = [ring[k], ring[(k + 1) % ring.length]] as [[number, number], [number, number]];
        if (x1 > x === x2 > x) continue;
        top = Math.min(top, y1 + ((x - x1) / (x2 - x1)) * (y2 - y1));
      }
    return [round(at), round(lineMm + (lineMm - top) * share)];
  });
  const [first, last] = [tops[0], tops.at(-1)] as [[number, number], [number, number]];
  const ring: [number, number][] = [[first[0], round(lineMm)], ...tops, [last[0], round(lineMm)]];
  const whole: Outline = [[ring.filter((p, i) => i === 0 || p[0] !== ring[i - 1]?.[0] || p[1] !== ring[i - 1]?.[1])]];
  return outlineArea(whole) < 1 ? [] : sound(whole);
}

/**
 * Brings all twins of a lesson up to their objects: one area for each area of the object, mirrored or pulled, with its target and
 * direction; steps of its own paint it, each after the object's, and the same mixes serve it. Called after every command.
 */
export function followTwins(lesson: D): void {
  const twins = lesson.things.filter((thing) => thing.twinOf);
  const wanted = new Map<string, Area>();
  for (const thing of twins) {
    const twinOf = thing.twinOf as TwinOf;
    if (!lesson.things.some((other) => other.id === twinOf.thingId)) {
      lesson.things = lesson.things.filter((other) => other.id !== thing.id);
      continue;
    }
    const line = lineOf(twinOf);
    const bank = new Set(twinOf.kind === 'reflection' ? (twinOf.bankAreaIds ?? []) : []);
    // A mirror of a mirror is none.
    const sources = lesson.areas.filter((area) => area.thingId === twinOf.thingId || (bank.has(area.id) && !area.twinOfId));
    const ids = new Map(sources.map((area) => [area.id, twinId(thing.id, area.id)]));
    for (const source of sources) {
      const outline =
        twinOf.kind === 'pull' ? pulled(source.outline, line, twinOf.share ?? 0.6) : reflected(source.outline, line);
      if (outline.length === 0 || outlineArea(outline) < 1) continue;
      const id = ids.get(source.id) as string;
      wanted.set(id, {
        id,
        name: `${source.name}, ${twinOf.kind === 'pull' ? say('pulled down') : say('reflected')}`.slice(0, letters.name),
        thingId: thing.id,
        twinOfId: source.id,
        outline,
        ...(source.targetLab && { targetLab: source.targetLab }),
        ...(source.directionDeg !== undefined && { directionDeg: source.directionDeg === 0 ? 0 : -source.directionDeg }),
        ...(source.edges && {
          edges: source.edges.flatMap((edge) => {
            const other = ids.get(edge.with);
            return other ? [{ ...edge, with: other }] : [];
          }),
        }),
      });
    }
  }
  if (twins.length === 0 && !lesson.areas.some((area) => area.twinOfId)) return;
  for (const { id } of lesson.areas.filter((area) => area.twinOfId && !wanted.has(area.id))) {
    lesson.areas = lesson.areas.filter((area) => area.id !== id);
    letGo(lesson, 'areas', id);
  }
  for (const [id, area] of wanted) {
    const at = lesson.areas.findIndex((one) => one.id === id);
    if (at < 0) lesson.areas.splice(placeFor(lesson, area), 0, area);
    else if (JSON.stringify(lesson.areas[at]) !== JSON.stringify(area)) lesson.areas[at] = area;
    alongside(lesson, area);
  }
}

/** In front of the area that it lies on and of its own object, and behind what comes after. */
function placeFor(lesson: D, area: Area): number {
  const twinOf = lesson.things.find((thing) => thing.id === area.thingId)?.twinOf;
  const source = lesson.areas.findIndex((one) => one.id === area.twinOfId);
  const on = lesson.areas.findIndex((one) => one.id === twinOf?.onAreaId);
  const own = lesson.areas.reduce((last, one, i) => (one.thingId === area.thingId ? i : last), -1);
  return Math.max(source, on, own) + 1;
}

/**
 * A twin that no step paints yet gets a step of its own after each that paints the object's area: its thing must be there before it is
 * mirrored. The mixes of the object's area serve the twin's as well.
 */
function alongside(lesson: D, { id, name, twinOfId }: Area): void {
  const source = twinOfId as string;
  const isPainted = lesson.steps.some((step) => step.areaIds.includes(id));
  const own = isPainted ? [] : lesson.steps.filter((step) => step.areaIds.includes(source));
  for (const step of own) {
    if (lesson.steps.length >= limits.steps) break;
    const { photoSha256: _, passageId: __, ...same } = step;
    // A step of the twin that lost its area meanwhile finds it again.
    const orphan = lesson.steps.find((other) => other.id === twinId(step.id, id));
    if (orphan) {
      orphan.areaIds = [...orphan.areaIds, id];
      continue;
    }
    const at = lesson.steps.indexOf(step) + 1;
    lesson.steps.splice(at, 0, {
      ...(JSON.parse(JSON.stringify(same)) as typeof step),
      id: twinId(step.id, id),
      title: `${name.charAt(0).toUpperCase()}${name.slice(1)}`.slice(0, letters.name),
      areaIds: [id],
      markIds: [],
    });
  }
  // A mirror that has mixes of its own takes no others.
  if (lesson.mixes.some((mix) => mix.areaId === id)) return;
  for (const mix of lesson.mixes)
    if ((mix.areaId === source || mix.alsoAreaIds?.includes(source)) && !mix.alsoAreaIds?.includes(id))
      mix.alsoAreaIds = [...(mix.alsoAreaIds ?? []), id];
}

/** Whether an area is kept by the lesson itself, being part of a twin. */
export const isTwin = (lesson: Lesson, areaId: string): boolean =>
  lesson.areas.some((area) => area.id === areaId && area.twinOfId !== undefined);
