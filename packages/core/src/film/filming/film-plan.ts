import type { Lesson } from '@viaticum/contract';
import { memo } from '../../derived/index.js';
import { type LessonPlan, planOf } from '../../plan/index.js';
import { forStudents } from '../../step/index.js';

/** The lesson as its instructor paints it before the camera: at the pace of an experienced hand. */
export const filmedLesson = memo((lesson: Lesson): Lesson => forStudents(lesson, 'experienced'), 3);
export const filmPlan = (lesson: Lesson): LessonPlan => planOf(filmedLesson(lesson));

/** How long the class waits for paint before each step that it waits for, whole minutes; `isNight` where it goes on another day. */
export function driedBefore({ items }: LessonPlan['plan']): Map<string, { minutes: number; isNight: boolean }> {
  const found = new Map<string, { minutes: number; isNight: boolean }>();
  let [waited, isNight] = [0, false];
  for (const { kind, stepId, startMin, endMin } of items) {
    if (kind === 'pause') waited += endMin - startMin;
    else if (kind === 'break' && endMin <= startMin) isNight = true;
    else if (stepId) {
      if (waited > 0 || isNight) found.set(stepId, { minutes: Math.max(1, Math.ceil(waited)), isNight });
      [waited, isNight] = [0, false];
    }
  }
  return found;
}
