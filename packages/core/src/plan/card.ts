import type { Lesson, LessonOnCard } from '@viaticum/contract';
import { planOf } from './lesson-plan.js';

/** What the shelf shows of a lesson: its size, its steps, how long it takes (null where it cannot be planned), its picture. */
export function lessonCard(lesson: Lesson): LessonOnCard {
  const { support, units, steps, references } = lesson;
  const base = {
    widthMm: support.widthMm,
    heightMm: support.heightMm,
    units,
    steps: steps.length,
    pictureSha256: references[0]?.pictureSha256 ?? null,
    lastStepId: steps.at(-1)?.id ?? null,
  };
  try {
    const { endMin, waitMin, never } = planOf(lesson).plan;
    return {
      ...base,
      endMin: steps.length > 0 ? endMin : null,
      waitMin,
      ...(never ? { never } : {}),
      ...(lesson.planning.cautious ? { cautious: true } : {}),
    };
  } catch {
    return { ...base, endMin: null, waitMin: 0 };
  }
}
