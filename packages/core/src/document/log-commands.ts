import { commandErrors, type Learnt, type Lesson } from '@viaticum/contract';
import { between, type D, setOrClear } from './command-tools.js';

/** What of a lesson follows from classes that were taught. */
export const logCommands = {
  /** Takes over what classes taught, in place of what was taken over of the same matter before. */
  takeLearnt: (lesson: D, { learnt }: { learnt: Learnt }) => {
    lesson.learnt = [...(lesson.learnt ?? []).filter(({ key }) => key !== learnt.key), learnt];
  },
  /** Reckons without it again. */
  dropLearnt: (lesson: D, { key }: { key: string }) => {
    const left = (lesson.learnt ?? []).filter((one) => one.key !== key);
    setOrClear<Lesson, 'learnt'>(lesson as Lesson, 'learnt', left.length > 0 ? left : null);
  },
  /** How long one means to take the next time; null: nothing is meant. */
  setTarget: (lesson: D, { minutes }: { minutes: number | null }) => {
    if (minutes !== null) between(minutes, 1, 10_000, commandErrors.wantedOutOfRange);
    setOrClear<Lesson, 'targetMin'>(lesson as Lesson, 'targetMin', minutes);
  },
};
