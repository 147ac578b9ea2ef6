import type { Lesson, Step } from '@viaticum/contract';
import { drawsLines, marksOf } from '../../derived/index.js';
import { heapMinutes, type StepMinutes } from '../../step/index.js';
import { type Piece, pieceOf } from '../kinds.js';
import { filmedLesson } from './film-plan.js';

/** Seconds (our judgement): the stroke shown once, its share of the work, the least that a take runs. */
const KEY_MOST_S = 20;
const KEY_SHARE = 0.25;
export const LEAST_S = 15;

/** Seconds of a step's doing that go into its heaps, which are filmed by themselves. */
export function mixedSeconds(lesson: Lesson, step: Step, { doMin }: StepMinutes): number {
  const at = lesson.steps.indexOf(step);
  const before = new Set(lesson.steps.slice(0, at).flatMap(({ mixIds }) => mixIds));
  const fresh = step.mixIds.filter((id) => !before.has(id));
  return Math.min(heapMinutes(filmedLesson(lesson), step, fresh), doMin / 2) * 60;
}

/** The pieces of a step's own work: the stroke shown, its edges, and the rest. */
export function doing(lesson: Lesson, step: Step, minutes: StepMinutes | undefined): Piece[] {
  if (step.kind === 'look') return [];
  const allS = Math.max(LEAST_S, (minutes?.doMin ?? 1) * 60 - (minutes ? mixedSeconds(lesson, step, minutes) : 0));
  if (drawsLines(step))
    return [
      pieceOf(`${step.id}/key`, step.id, 'key', Math.min(KEY_MOST_S, allS * KEY_SHARE)),
      pieceOf(`${step.id}/rest`, step.id, 'tracing', allS * (1 - KEY_SHARE)),
    ];
  const marks = marksOf(lesson, step);
  const edgeS = Math.min(allS * 0.5, (minutes?.edgeMin ?? 0) * 60);
  const strokes = Math.max(1, marks.length);
  const keyS = Math.min(KEY_MOST_S, ((allS - edgeS) * KEY_SHARE) / strokes);
  const isTwofold = step.loading !== undefined || step.passageId !== undefined || step.stroke === 'cut-in';
  const keys = Array.from({ length: strokes }, (_, k) =>
    pieceOf(strokes > 1 ? `${step.id}/key/${k}` : `${step.id}/key`, step.id, 'key', keyS, isTwofold ? 4 : 3),
  );
  const restS = allS - edgeS - keyS * strokes;
  const isAgain = step.repeat !== undefined || marks.length > 0;
  return [
    ...keys,
    ...(edgeS > 5 ? [pieceOf(`${step.id}/edge`, step.id, 'edge', edgeS)] : []),
    pieceOf(`${step.id}/rest`, step.id, isAgain ? 'repeat' : 'filling', edgeS > 5 ? restS : restS + edgeS),
  ];
}
