import type { Lesson, Mark, MarkKind, Step } from '@viaticum/contract';
import { outlineArea } from '../area/index.js';
import { visibleOf } from './areas.js';

/** Seconds an experienced hand takes for a mark, beside its length at so many metres a minute (from memory: a tuft or dot 1–2 s, lines 0.8 m/min). */
const hand: Record<MarkKind, { seconds: number; mPerMin: number }> = {
  lines: { seconds: 0.8, mPerMin: 0.8 },
  dots: { seconds: 1, mPerMin: Number.POSITIVE_INFINITY },
  tufts: { seconds: 1.6, mPerMin: Number.POSITIVE_INFINITY },
  scatter: { seconds: 0.4, mPerMin: Number.POSITIVE_INFINITY },
  // Many drops fall with one flick.
  spatter: { seconds: 0.05, mPerMin: Number.POSITIVE_INFINITY },
  unit: { seconds: 2, mPerMin: 0.8 },
};
const HALF_ROUND = Math.PI / 4;

/** The marks that a step lays, in its own order. */
export const marksOf = (lesson: Lesson, step: Pick<Step, 'markIds'>): Mark[] =>
  step.markIds.flatMap((id) => lesson.marks.find((mark) => mark.id === id) ?? []);

/** What says where a step is done. */
type Where = Pick<Step, 'markIds' | 'areaIds' | 'wholeCanvas'>;

/** Whether a step lays marks and covers no area beside them. */
export const isOnlyMarks = (step: Where): boolean => !step.wholeCanvas && step.areaIds.length === 0 && step.markIds.length > 0;

/** The areas a step works on: those it names, or those of its marks, or all of them where it is done on the whole canvas. */
export function areasWorkedOn(lesson: Lesson, step: Where): string[] {
  if (step.wholeCanvas) return lesson.areas.map((area) => area.id);
  if (step.areaIds.length > 0) return step.areaIds;
  return [...new Set(marksOf(lesson, step).map((mark) => mark.areaId))];
}

/** Painted area of a mark's whole number, in cm². */
export function markAreaCm2({ kind, count, lengthMm, widthMm, taper }: Mark): number {
  const one =
    kind === 'dots' || kind === 'spatter' || kind === 'scatter'
      ? HALF_ROUND * widthMm * widthMm
      : lengthMm * widthMm * (1 - taper / 2);
  return (count * one) / 100;
}

/** Minutes that an experienced hand takes for all of a mark. */
export function markMinutes({ kind, count, lengthMm }: Mark): number {
  const { seconds, mPerMin } = hand[kind];
  return count * (seconds / 60 + lengthMm / 1000 / mPerMin);
}

/** What is laid on one side of an area takes about half of it. */
const SIDE_SHARE = 0.5;

/** The share of its areas that a step covers: what was said, or what its marks take, or all of it. */
export function coverOf(lesson: Lesson, step: Where & Pick<Step, 'coverShare' | 'side'>): number {
  if (step.coverShare !== undefined) return step.coverShare;
  if (!isOnlyMarks(step)) return step.side ? SIDE_SHARE : 1;
  const areas = new Set(areasWorkedOn(lesson, step));
  const areaCm2 = visibleOf(lesson).reduce((sum, part) => sum + (areas.has(part.id) ? outlineArea(part.outline) / 100 : 0), 0);
  const marked = marksOf(lesson, step).reduce((sum, mark) => sum + markAreaCm2(mark), 0);
  return areaCm2 > 0 ? Math.max(0.01, Math.min(0.95, marked / areaCm2)) : 1;
}

/** Whether a step lays a coat of paint. */
export const laysPaint = (step: Step): boolean =>
  step.technique !== undefined && (step.kind === 'paint' || step.kind === 'prepare');
