import type { Lesson, Step } from '@viaticum/contract';
import {
  areasWorkedOn,
  bordersBetween,
  coverOf,
  drawsLines,
  isOnlyMarks,
  laysPaint,
  marksOf,
  placedLines,
  schoolFor,
} from '../derived/index.js';
import type { LaidCoat, StepMinutes } from '../step/index.js';
import type { ContactKind } from './asked.js';
import { type Act, type Contact, contactBetween } from './contact.js';
import { marksMeet } from './marks.js';

/** A border shorter than this is met by nobody. */
export const LEAST_EDGE_MM = 8;
const OPAQUE_SHARE = 0.9;
const seeThrough: ReadonlySet<Step['technique']> = new Set(['glaze', 'wash', 'scumble', 'dry-brush', 'spatter', 'under-film']);

/** Whether a coat hides all that lies under it, on the areas of its step. */
export const hides = (lesson: Lesson, step: Step): boolean =>
  laysPaint(step) && !seeThrough.has(step.technique) && !isOnlyMarks(step) && coverOf(lesson, step) >= OPAQUE_SHARE;

/** The coats of an area that can be touched: the topmost, and those that show beside it. */
function topmost(lesson: Lesson, coats: readonly LaidCoat[]): LaidCoat[] {
  let first = coats.length - 1;
  while (first > 0 && !hides(lesson, (coats[first] as LaidCoat).step)) first--;
  return coats.slice(Math.max(0, first)).filter(({ step }) => !step.ahead);
}

/** Whether a step waits for nothing that lies there: it may go on wet paint, or the school paints all of it in one wet session. */
export const asksNothing = (lesson: Lesson, step: Step): boolean =>
  step.needs === 'any' ||
  step.needs === 'wet' ||
  step.needs === 'damp' ||
  (step.needs === 'auto' && schoolFor(lesson, step).layers === 'one-wet-session');

export type Laid = ReadonlyMap<string, readonly LaidCoat[]>;

/**
 * The contacts of a step with the paint that lies before it: coats of its own areas that it lies on, and those of areas beside
 * them that it cuts in along. `laid` holds the coats of every area, first to last; `wetUmOn` says what film the step lays on an area.
 * Contacts that later paint hides are left out, but for those that fail by nature.
 */
export function contactsOf(
  lesson: Lesson,
  step: Step,
  laid: Laid,
  minutes: ReadonlyMap<string, StepMinutes>,
  wetUmOn: (areaId: string) => number,
): Contact[] {
  if (asksNothing(lesson, step)) return [];
  const isLines = drawsLines(step);
  if (!laysPaint(step) && !isLines && step.needs === 'auto') return [];
  const own = minutes.get(step.id) as StepMinutes;
  const found: Contact[] = [];
  const meet = (act: Act, below: LaidCoat, kind: ContactKind, lengthMm?: number) => {
    const contact = contactBetween(lesson, below, minutes.get(below.step.id) as StepMinutes, act, kind, lengthMm);
    if (contact.byNature || !hiddenLater(lesson, step, act.areaId)) found.push(contact);
  };
  const borders = bordersBetween(lesson);
  const asksAll = step.needs === 'firm' || step.needs === 'cured';
  const crossed = isOnlyMarks(step) ? mirrorsOn(lesson, areasWorkedOn(lesson, step)) : [];
  for (const areaId of crossed) {
    const act: Act = { step, areaId, minutes: own, wetUm: wetUmOn(areaId) };
    for (const below of topmost(lesson, laid.get(areaId) ?? [])) if (below.step !== step) meet(act, below, 'crossing');
  }
  for (const areaId of isLines ? linedAreas(lesson, step) : areasWorkedOn(lesson, step)) {
    const act: Act = { step, areaId, minutes: own, wetUm: laysPaint(step) ? wetUmOn(areaId) : 0 };
    const here = laid.get(areaId) ?? [];
    for (const below of asksAll ? here.filter((one) => !one.step.ahead) : topmost(lesson, here))
      if (below.step !== step && !areApart(lesson, below.step, step)) meet(act, below, 'over');
    if (step.wholeCanvas || isLines || !reachesEdge(step)) continue;
    for (const [beside, lengthMm] of borders.get(areaId) ?? []) {
      if (lengthMm < LEAST_EDGE_MM || step.areaIds.includes(beside)) continue;
      for (const below of topmost(lesson, laid.get(beside) ?? []))
        if (below.step !== step && reachesEdge(below.step)) meet(act, below, 'edge', lengthMm);
    }
  }
  return found;
}

/** Marks, touches strewn over a part of an area, and what leaves a gap keep away from its border. */
export const reachesEdge = (step: Step): boolean =>
  laysPaint(step) && !isOnlyMarks(step) && (step.coverShare ?? 1) >= OPAQUE_SHARE && !step.side && step.laying !== 'gap';

/** The mirrors that lie on some areas: marks on these, ripples mostly, run across them. */
const mirrorsOn = (lesson: Lesson, areaIds: readonly string[]): string[] => {
  const twins = new Set(
    lesson.things.flatMap((thing) => (thing.twinOf?.onAreaId && areaIds.includes(thing.twinOf.onAreaId) ? [thing.id] : [])),
  );
  return lesson.areas.flatMap((area) => (area.twinOfId && area.thingId && twins.has(area.thingId) ? [area.id] : []));
};

/** Marks of both steps that lie at known places and never touch each other. */
export const areApart = (lesson: Lesson, one: Step, other: Step): boolean =>
  isOnlyMarks(one) && isOnlyMarks(other) && !marksMeet(marksOf(lesson, one), marksOf(lesson, other), lesson.level);

/** Whether a later step lays an opaque coat over the whole of an area, so that nobody sees what happened there. */
export function hiddenLater(lesson: Lesson, step: Step, areaId: string): boolean {
  const at = lesson.steps.indexOf(step);
  return lesson.steps
    .slice(at + 1)
    .some((later) => hides(lesson, later) && (later.wholeCanvas || later.areaIds.includes(areaId)));
}

/** The areas on which lines of a drawing step run: on both sides of every border that it draws. */
function linedAreas(lesson: Lesson, step: Step): string[] {
  const borders = bordersBetween(lesson);
  const worked = areasWorkedOn(lesson, step);
  const pairs = lesson.areas.flatMap((one, i) =>
    lesson.areas
      .slice(i + 1)
      .flatMap((other): [string, string][] =>
        (borders.get(one.id)?.get(other.id) ?? 0) >= LEAST_EDGE_MM ? [[other.id, one.id]] : [],
      ),
  );
  const due = placedLines(
    lesson,
    pairs.map((areaIds) => ({ kind: 'border' as const, areaIds })),
  ).filter((placed) => placed.moment.stepId === step.id);
  const lined = new Set(due.flatMap((placed) => placed.line.areaIds));
  return worked.filter((id) => lined.has(id));
}
