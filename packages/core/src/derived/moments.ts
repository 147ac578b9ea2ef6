import type { Lesson, Step } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { coverOf, drawsLines, laysPaint } from './marks.js';

/** A line of the drawing as far as it says when it is needed: a border between two areas, or a line within one. */
export type NeededLine = { kind: string; areaIds: readonly string[]; stepId?: string };
/** A time at which lines come onto the canvas: a step that draws or transfers, or (null) before the first step. */
export type Moment = { stepId: string | null; title: string; at: number };
/** A line with its moment, the step that needs it (by its number), and the step that buries it before, if one does. */
export type PlacedLine<T> = { line: T; moment: Moment; neededAt: number; buriedAt: number | null };

const thin: ReadonlySet<Step['technique']> = new Set(['wash', 'glaze', 'under-film', 'spatter']);
const MOST_OPEN = 0.6;

/** All times at which lines are drawn, in order; where no step draws, one before everything. */
export function momentsOf(lesson: Lesson): Moment[] {
  const found = lesson.steps.flatMap((step, at): Moment[] =>
    drawsLines(step) ? [{ stepId: step.id, title: step.title, at }] : [],
  );
  return found.length > 0 ? found : [{ stepId: null, title: say('Before the first step'), at: -1 }];
}

/** The number of the step before which a line must be there; the number of steps where none needs it. */
export function neededAt(lesson: Lesson, line: NeededLine): number {
  const { steps } = lesson;
  const own = line.stepId === undefined ? -1 : steps.findIndex((step) => step.id === line.stepId);
  if (own >= 0) return own;
  const coats = (areaId: string) =>
    steps.flatMap((step, i) => (laysPaint(step) && step.kind === 'paint' && step.areaIds.includes(areaId) ? [i] : []));
  const firsts = line.areaIds.map((id) => coats(id)[0] ?? -1);
  // What lies within an area is needed when it is worked into; its first coat goes over all of it.
  if (line.kind !== 'border') return coats(line.areaIds[0] ?? '')[1] ?? coats(line.areaIds[0] ?? '')[0] ?? steps.length;
  // A border is needed by whichever of its two areas is painted later: that one is cut to it.
  const last = Math.max(...firsts, -1);
  return last < 0 ? steps.length : last;
}

/** The first step after `from` and before `until` that lays paint over a line through which it does not show; null where none does. */
export function buriedAt(lesson: Lesson, areaIds: readonly string[], from: number, until: number): number | null {
  for (let i = from + 1; i < until; i++) {
    const step = lesson.steps[i] as Step;
    if (!laysPaint(step) || thin.has(step.technique) || coverOf(lesson, step) <= MOST_OPEN) continue;
    if (step.wholeCanvas || areaIds.some((id) => step.areaIds.includes(id))) return i;
  }
  return null;
}

/** Every line at the last moment before it is needed (or the first there is), and whether paint buries it in between. */
export function placedLines<T extends NeededLine>(lesson: Lesson, lines: readonly T[]): PlacedLine<T>[] {
  const moments = momentsOf(lesson);
  return lines.map((line) => {
    const needed = neededAt(lesson, line);
    const moment = moments.filter((one) => one.at < needed).at(-1) ?? (moments[0] as Moment);
    return { line, moment, neededAt: needed, buriedAt: buriedAt(lesson, line.areaIds, moment.at, needed) };
  });
}
