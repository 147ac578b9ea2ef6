import type { Lesson } from '@viaticum/contract';
import {
  borderPieces,
  type Extent,
  outlineArea,
  overlapsOf,
  paintedExtents,
  paintedExtentsByPart,
  sharedBorders,
  type VisiblePart,
  visibleParts,
} from '../area/index.js';
import { memo } from './memo.js';

const seenParts = memo((areas: Lesson['areas'], hidden: string, support: Lesson['support']) => {
  const gone = new Set(hidden.split(' '));
  const shown = areas.filter((area) => !area.thingId || !gone.has(area.thingId));
  const parts = new Map(visibleParts(shown, support).map((part) => [part.id, part]));
  return areas.map((area): VisiblePart => parts.get(area.id) ?? { id: area.id, outline: [], areaCm2: 0 });
}, 4);

/** What is seen of every area of a lesson, with its area; a dropped thing shows nothing. Worked out again only when areas, things or the canvas change. */
export const visibleOf = (lesson: Lesson): VisiblePart[] => {
  const dropped = lesson.things.filter((thing) => thing.fate === 'dropped').map((thing) => thing.id);
  return seenParts(lesson.areas, dropped.join(' '), lesson.support);
};

const shared = memo((parts: VisiblePart[]) => sharedBorders(parts), 4);

const bothWays = memo((borders: ReturnType<typeof sharedBorders>) => {
  const out = new Map([...borders.keys()].map((id) => [id, new Map(borders.get(id))]));
  for (const [front, lengths] of borders) for (const [back, mm] of lengths) out.get(back)?.set(front, mm);
  return out;
}, 4);
/** How far what is seen of two areas shares an edge, in mm: `get(a)?.get(b)`, both ways. */
export const bordersBetween = (lesson: Lesson): Map<string, Map<string, number>> => bothWays(shared(visibleOf(lesson)));

/** Where what is seen of two areas meets, as pieces with both their ends in mm. */
export function borderLine(lesson: Lesson, one: string, other: string): [[number, number], [number, number]][] {
  const parts = visibleOf(lesson);
  const rank = (id: string) => parts.findIndex((part) => part.id === id);
  const [front, back] = rank(one) > rank(other) ? [one, other] : [other, one];
  const [a, b] = [front, back].map((id) => parts.find((part) => part.id === id));
  return a && b ? borderPieces(a, b) : [];
}

/** The number of the first step that paints an area, by area: the order of painting. Steps on the whole canvas do not count. */
const paintingRank = memo((steps: Lesson['steps']) => {
  const rank = new Map<string, number>();
  steps.forEach((step, i) => {
    if (step.kind === 'paint') for (const id of step.areaIds) if (!rank.has(id)) rank.set(id, i);
  });
  return [...rank].map(([id, i]) => `${id}:${i}`).join(' ');
}, 4);
const rankOf = (ranks: string): ReadonlyMap<string, number> =>
  new Map(
    ranks.split(' ').flatMap((entry) => {
      const [id, at] = entry.split(':');
      return id && at ? [[id, Number(at)] as const] : [];
    }),
  );
const extents = memo(
  (parts: VisiblePart[], ranks: string, overlapMm: number) => paintedExtents(parts, rankOf(ranks), overlapMm, shared(parts)),
  4,
);

/** Works out areas, borders and extents of a lesson piece by piece, so that a page can answer in between; afterwards they are at hand. */
export function* workOutAreas(lesson: Lesson): Generator<void, void> {
  const parts = visibleOf(lesson);
  yield;
  shared(parts);
  yield;
  yield* paintedExtentsByPart(parts, rankOf(paintingRank(lesson.steps)), lesson.overlapMm, shared(parts));
}

/** Whether two lessons have the same areas on the same canvas. */
export const sameAreas = (one: Lesson, other: Lesson): boolean =>
  one.areas === other.areas && one.things === other.things && one.overlapMm === other.overlapMm && one.support === other.support;

/** What is painted for every area, under and past its neighbours, by the order of painting. */
export const extentsOf = (lesson: Lesson): Extent[] => extents(visibleOf(lesson), paintingRank(lesson.steps), lesson.overlapMm);

const overlaps = memo(overlapsOf, 4);
/** Which painted areas lie on which, with the area in cm²: `get(a)?.get(b)`, both ways. */
export const overlapsBetween = (lesson: Lesson) => overlaps(extentsOf(lesson));

/** Less than this is a crumb at a corner, for which nobody waits. */
const LEAST_LAP_CM2 = 0.25;
const laps = memo((all: Extent[]) => {
  const out = new Map<string, Set<string>>(all.map((one) => [one.id, new Set()]));
  for (const one of all)
    for (const past of one.past) {
      if (outlineArea(past.outline) / 100 < LEAST_LAP_CM2) continue;
      out.get(one.id)?.add(past.id);
      out.get(past.id)?.add(one.id);
    }
  return out;
}, 4);

/**
 * The areas whose paint shows at an edge under or over an area's own: where either runs past its edge into the other. What two
 * areas lay on each other within a third is covered by it later, and nobody waits for it.
 */
export const restsOn = (lesson: Lesson, areaId: string): string[] => [...(laps(extentsOf(lesson)).get(areaId) ?? [])];

/** What is known of the border of one area with another, whichever of the two holds it. */
export const edgeBetween = ({ areas }: Lesson, one: string, other: string) =>
  areas.find((area) => area.id === one)?.edges?.find((entry) => entry.with === other) ??
  areas.find((area) => area.id === other)?.edges?.find((entry) => entry.with === one);
