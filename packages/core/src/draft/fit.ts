import type { Lesson } from '@viaticum/contract';
import { weightOf } from '../derived/index.js';
import { planLesson } from '../plan/index.js';

/** What leaving out a step takes from the picture, and what it saves. `weight` is cm² times ΔE00 to what lies beneath. */
export type LeftOut = { stepId: string; title: string; weight: number; savedMin: number };

/**
 * Steps to leave out so that a lesson fits into `minutes`: of those that may be left out always the one that takes least from
 * the picture for each minute it saves. The first coat of an area stays. `endMin` is the length that is reached.
 */
export function fitTo(lesson: Lesson, minutes: number): { left: LeftOut[]; lesson: Lesson; endMin: number } {
  let now = lesson;
  let { endMin } = planLesson(now).plan;
  const left: LeftOut[] = [];
  while (endMin > minutes) {
    const choices = now.steps
      .filter((step) => step.mayBeLeftOut)
      .map((step) => {
        const without = { ...now, steps: now.steps.filter((one) => one !== step) };
        const savedMin = endMin - planLesson(without).plan.endMin;
        return { step, without, savedMin, weight: weightOf(now, step.id) };
      })
      .filter((one) => one.savedMin > 0.2)
      .sort((a, b) => a.weight / a.savedMin - b.weight / b.savedMin);
    const chosen = choices[0];
    if (!chosen) break;
    left.push({ stepId: chosen.step.id, title: chosen.step.title, weight: chosen.weight, savedMin: chosen.savedMin });
    now = chosen.without;
    endMin -= chosen.savedMin;
  }
  return { left, lesson: now, endMin };
}
