import type { Lesson } from '@viaticum/contract';
import { offAfter, relationsOf } from './value-relations.js';

/** The stage at whose end the canvas looks worst beside what it shall be. */
export type RoughStage = {
  stageId: string;
  name: string;
  /** Its first step, where it is announced. */
  stepId: string;
  /** Mean ΔE00 from the goal at its end, and at the end of all. */
  off: number;
  endOff: number;
};

const WORTH_SAYING = 7;
const ABOVE_END = 1.5;

/**
 * The stage that looks worst once the canvas is covered, where it is clearly worse than the end: by the measured differences of the
 * stage pictures where there are some (ΔE00 by step), otherwise by the mixes' mean colours. Null where none is.
 */
export function roughestStage(lesson: Lesson, measured?: ReadonlyMap<string, number>): RoughStage | null {
  const relations = measured ? null : relationsOf(lesson);
  const offOf = (stepId: string) =>
    measured ? (measured.get(stepId) ?? null) : relations && offAfter(lesson, relations, stepId);
  const ends = lesson.stages.flatMap((stage) => {
    const steps = lesson.steps.filter((step) => step.stageId === stage.id);
    const [first, last] = [steps[0], steps.at(-1)];
    const off = last ? offOf(last.id) : null;
    const isPainted = steps.some((step) => step.kind === 'paint');
    return first && last && off !== null && isPainted ? [{ stageId: stage.id, name: stage.name, stepId: first.id, off }] : [];
  });
  const end = ends.at(-1);
  if (!end || ends.length < 2) return null;
  const worst = ends.slice(0, -1).reduce((most, one) => (one.off > most.off ? one : most));
  if (worst.off < WORTH_SAYING || worst.off < ABOVE_END * end.off) return null;
  return { ...worst, endOff: end.off };
}
