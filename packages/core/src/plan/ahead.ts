import type { Lesson, Step } from '@viaticum/contract';
import { laysPaint } from '../derived/index.js';
import type { LessonPlan } from './lesson-plan.js';

/** A step done before the class: how long before it to begin at the latest, how long it takes, and how long it dries then; minutes. */
export type AtHome = { step: Step; beginMin: number; takesMin: number; driesMin: number };

/**
 * What is done before the class on its own clock, planned backwards from its beginning: each is touch-dry before the next is done, and the
 * last before the class begins. In the room's air; minutes before the class.
 */
export function doneAtHome(lesson: Lesson, plan: Pick<LessonPlan, 'minutes' | 'laid'>): AtHome[] {
  const steps = lesson.steps.filter((step) => step.ahead);
  const found: AtHome[] = [];
  let clock = 0;
  for (const step of [...steps].reverse()) {
    const own = plan.minutes.get(step.id);
    const takesMin = (own?.showMin ?? 0) + (own?.doMin ?? 0);
    const times = plan.laid.filter((one) => one.step.id === step.id).map((one) => one.times.touchDryMin);
    const driesMin = laysPaint(step) ? Math.max(0, ...times) : 0;
    clock += takesMin + driesMin;
    found.unshift({ step, beginMin: clock, takesMin, driesMin });
  }
  return found;
}
