import type { Lesson, Step } from '@viaticum/contract';
import { pinsAmong } from '../document/index.js';
import { type LessonPlan, planLesson } from './lesson-plan.js';

/** Practice on scrap or a walk round: what fills a wait. Mixing is work of its own. */
const onlyFills = (step: Step): boolean => step.kind === 'practise' && step.mixIds.length === 0 && !step.ahead;

/**
 * Minutes for which paint keeps a class from going on, also where practice fills them: what it would wait without it. Where even all practice
 * together stays below `atLeast`, only the pauses are given, and nothing is planned anew.
 */
export function heldMin(lesson: Lesson, { plan, minutes }: Pick<LessonPlan, 'plan' | 'minutes'>, atLeast = 0): number {
  const fillers = lesson.steps.filter(onlyFills);
  const most = fillers.reduce((sum, step) => sum + (minutes.get(step.id)?.doMin ?? 0), plan.waitMin);
  if (fillers.length === 0 || most < atLeast) return plan.waitMin;
  const gone = new Set(fillers.map((step) => step.id));
  const pins = pinsAmong(lesson.planning.pins, (id) => !gone.has(id));
  const steps = lesson.steps.filter((step) => !gone.has(step.id));
  return Math.max(plan.waitMin, planLesson({ ...lesson, steps, planning: { ...lesson.planning, pins } }).plan.waitMin);
}
