import type { Lesson, Step } from '@viaticum/contract';
import { memo } from '../derived/index.js';
import { planLesson } from './lesson-plan.js';

/** Practice on scrap or a walk round: what fills a wait. Mixing is work of its own. */
const onlyFills = (step: Step): boolean => step.kind === 'practise' && step.mixIds.length === 0 && !step.ahead;

/** Minutes for which paint keeps a class from going on, also where practice fills them: what it would wait without it. */
export const heldMin: (lesson: Lesson) => number = memo((lesson: Lesson): number => {
  const gone = new Set(lesson.steps.filter(onlyFills).map((step) => step.id));
  const { waitMin } = planLesson(lesson).plan;
  if (gone.size === 0) return waitMin;
  const pins = lesson.planning.pins.filter((pin) =>
    ('stepId' in pin ? [pin.stepId] : [pin.firstId, pin.thenId]).every((id) => !gone.has(id)),
  );
  const steps = lesson.steps.filter((step) => !gone.has(step.id));
  return Math.max(waitMin, planLesson({ ...lesson, steps, planning: { ...lesson.planning, pins } }).plan.waitMin);
}, 8);
