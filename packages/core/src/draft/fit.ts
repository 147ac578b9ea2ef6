import type { Lesson } from '@viaticum/contract';
import { deltaE00 } from '../colour/index.js';
import { looksOf, visibleOf } from '../derived/index.js';
import { planLesson } from '../plan/index.js';

/** What leaving out a step takes from the picture, and what it saves. `weight` is cm² times ΔE00 to what lies beneath. */
export type LeftOut = { stepId: string; title: string; weight: number; savedMin: number };

/**
 * Steps to leave out so that a lesson fits into `minutes`: of those that may be left out always the one that takes least from
 * the picture for each minute it saves. The first coat of a zone stays. `endMin` is the length that is reached.
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

/** How much of the picture a step changes: the area it covers times the difference to the coat beneath. */
export function weightOf(lesson: Lesson, stepId: string): number {
  const at = lesson.steps.findIndex((step) => step.id === stepId);
  const step = lesson.steps[at];
  if (!step) return 0;
  const looks = looksOf(lesson);
  const parts = new Map(visibleOf(lesson).map((part) => [part.id, part.areaCm2]));
  const colour = (ids: readonly string[]) => looks.get(ids[0] ?? '')?.colour?.lab ?? null;
  const own = colour(step.mixIds);
  return step.zoneIds.reduce((sum, id) => {
    const below = lesson.steps
      .slice(0, at)
      .reverse()
      .find((one) => one.zoneIds.includes(id) && one.mixIds.length > 0);
    const under = below ? colour(below.mixIds) : null;
    const difference = own && under ? deltaE00(own, under) : 10;
    return sum + (parts.get(id) ?? 0) * (step.coverShare ?? 1) * difference;
  }, 0);
}
