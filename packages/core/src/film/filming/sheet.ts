import type { Lesson, ShootSheet } from '@viaticum/contract';
import { shootingList } from './list.js';
import { type Noted, takesOf } from './takes.js';

/** The shooting list as a phone beside the easel shows it, in the order of filming. */
export function shootSheet(lesson: Lesson, noted?: Noted): ShootSheet {
  const takes = takesOf(lesson, noted);
  const byId = new Map(takes.map((take) => [take.id, take]));
  const { order } = shootingList(lesson, takes, true);
  return {
    title: lesson.title,
    takes: order.flatMap(({ takeId }) => {
      const take = byId.get(takeId);
      if (!take) return [];
      const { id, slate, title, place, light, rawS, mustSee, mustSay, notes, afterStepId } = take;
      const after = lesson.steps.find((step) => step.id === afterStepId);
      return [{ id, slate, title, place, light, minutes: rawS / 60, mustSee, mustSay, notes, startsAfter: after?.title ?? null }];
    }),
  };
}
