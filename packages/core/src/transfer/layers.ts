import { type Lesson, noWords, type Step } from '@viaticum/contract';
import { bordersBetween, coverOf, laysPaint } from '../derived/index.js';
import type { Line } from './lines/decided.js';

/** A time at which lines come onto the canvas: a step that draws or transfers, or (null) before the first step. */
export type Moment = { stepId: string | null; title: string; at: number };
/** A line with its moment, the step that needs it (by its number), and the step that buries it before, if one does. */
export type PlacedLine<T> = { line: T; moment: Moment; neededAt: number; buriedAt: number | null };

const thin: ReadonlySet<Step['technique']> = new Set(['wash', 'glaze', 'under-film', 'spatter']);
const MOST_OPEN = 0.6;

/** All times at which lines are drawn, in order; where no step draws, one before everything. */
export function momentsOf(lesson: Lesson): Moment[] {
  const found = lesson.steps.flatMap((step, at): Moment[] =>
    step.kind === 'transfer' || step.kind === 'draw' ? [{ stepId: step.id, title: step.title, at }] : [],
  );
  return found.length > 0 ? found : [{ stepId: null, title: 'Before the first step', at: -1 }];
}

/** The number of the step before which a line must be there; the number of steps where none needs it. */
export function neededAt(lesson: Lesson, line: Pick<Line, 'kind' | 'areaIds' | 'stepId'>): number {
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
export function placedLines<T extends Pick<Line, 'kind' | 'areaIds' | 'stepId'>>(
  lesson: Lesson,
  lines: readonly T[],
): PlacedLine<T>[] {
  const moments = momentsOf(lesson);
  return lines.map((line) => {
    const needed = neededAt(lesson, line);
    const moment = moments.filter((one) => one.at < needed).at(-1) ?? (moments[0] as Moment);
    return { line, moment, neededAt: needed, buriedAt: buriedAt(lesson, line.areaIds, moment.at, needed) };
  });
}

/** A second transfer that lines need: before which step, and which pairs of areas border there. */
export type SecondTransfer = { beforeAt: number; beforeId: string; pairs: [string, string][] };

/**
 * Borders that will be painted over before they are used, and the fewest further transfers that bring them all back in time: each
 * lies after the last step that buries a line and not later than the step that needs it. Reckoned from the areas alone, without drawing
 * lines; borders shorter than `leastMm` are left out. Empty where no step transfers at all.
 */
export function secondTransfers(lesson: Lesson, leastMm = 20): SecondTransfer[] {
  if (momentsOf(lesson)[0]?.stepId === null) return [];
  const borders = bordersBetween(lesson);
  const ids = lesson.areas.map((area) => area.id);
  const lost: { pair: [string, string]; after: number; until: number }[] = [];
  for (const [i, one] of ids.entries())
    for (const other of ids.slice(i + 1)) {
      if ((borders.get(one)?.get(other) ?? 0) < leastMm) continue;
      const [placed] = placedLines(lesson, [{ kind: 'border' as const, areaIds: [other, one] }]);
      if (!placed || placed.buriedAt === null || placed.neededAt >= lesson.steps.length) continue;
      let after = placed.buriedAt;
      for (let next = buriedAt(lesson, [other, one], after, placed.neededAt); next !== null; ) {
        after = next;
        next = buriedAt(lesson, [other, one], after, placed.neededAt);
      }
      lost.push({ pair: [other, one], after, until: placed.neededAt });
    }
  // The earliest end first: a transfer there serves every line that is lost before it and needed after it.
  const out: SecondTransfer[] = [];
  for (const { pair, after, until } of lost.sort((a, b) => a.until - b.until)) {
    const known = out.find(({ beforeAt }) => beforeAt > after && beforeAt <= until);
    if (known) known.pairs.push(pair);
    else out.push({ beforeAt: until, beforeId: (lesson.steps[until] as Step).id, pairs: [pair] });
  }
  return out;
}

/** The step that transfers such lines again; it stands directly before the one that needs them. */
export function againStep(lesson: Lesson, { beforeAt, pairs }: SecondTransfer, id: string, title: string): Step {
  return {
    id,
    stageId: (lesson.steps[beforeAt] as Step).stageId,
    kind: 'transfer',
    title: title.slice(0, 120),
    areaIds: [...new Set(pairs.map(([front]) => front))],
    markIds: [],
    mixIds: [],
    needs: 'touchDry',
    ...noWords,
  };
}
