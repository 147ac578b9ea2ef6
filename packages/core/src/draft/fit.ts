import type { Lesson } from '@viaticum/contract';
import { toEnd } from '@viaticum/kernels/cooperative';
import { weightOf } from '../derived/index.js';
import { carryOut, startHistory } from '../document/index.js';
import { planLesson } from '../plan/index.js';

/** What leaving out a step takes from the picture, and what it saves. `weight` is cm² times ΔE00 to what lies beneath. */
export type LeftOut = { stepId: string; title: string; weight: number; savedMin: number };
/** A lesson's lengths: whole, and after each step that is left out, always the one that takes least from the picture for its minutes. */
export type LengthLadder = { wholeMin: number; notches: (LeftOut & { endMin: number })[] };

/** A lesson with all that was left out of it. */
export const withAllBack = (lesson: Lesson): Lesson =>
  lesson.leftOut.length === 0
    ? lesson
    : carryOut(startHistory(lesson), 'bringBack', { ids: lesson.leftOut.map(({ step }) => step.id) }).lesson;

const WORTH_MIN = 0.2;

/**
 * In which order steps are left out to make a lesson shorter, down to what must stay: the first coat of every area, drawings, looks.
 * `untilMin` ends it at a length. Yields after every step found.
 */
export function* lengthLadder(lesson: Lesson, untilMin = 0): Generator<number, LengthLadder> {
  let now = lesson;
  let { endMin } = planLesson(now).plan;
  const ladder: LengthLadder = { wholeMin: endMin, notches: [] };
  while (endMin > untilMin) {
    const choices = now.steps
      .filter((step) => step.mayBeLeftOut)
      .map((step) => {
        const without = { ...now, steps: now.steps.filter((one) => one !== step) };
        const savedMin = endMin - planLesson(without).plan.endMin;
        return { step, without, savedMin, weight: weightOf(now, step.id) };
      })
      .filter((one) => one.savedMin > WORTH_MIN)
      .sort((a, b) => a.weight / a.savedMin - b.weight / b.savedMin);
    const chosen = choices[0];
    if (!chosen) break;
    now = chosen.without;
    endMin -= chosen.savedMin;
    const { step, weight, savedMin } = chosen;
    ladder.notches.push({ stepId: step.id, title: step.title, weight, savedMin, endMin });
    yield ladder.notches.length;
  }
  return ladder;
}

/**
 * Steps to leave out so that a lesson fits into `minutes`: of those that may be left out always the one that takes least from
 * the picture for each minute it saves. The first coat of an area stays. `endMin` is the length that is reached.
 */
export function fitTo(lesson: Lesson, minutes: number): { left: LeftOut[]; lesson: Lesson; endMin: number } {
  const { wholeMin, notches } = toEnd(lengthLadder(lesson, minutes));
  const out = new Set(notches.map((one) => one.stepId));
  return {
    left: notches.map(({ endMin: _, ...one }) => one),
    lesson: { ...lesson, steps: lesson.steps.filter((step) => !out.has(step.id)) },
    endMin: notches.at(-1)?.endMin ?? wholeMin,
  };
}
