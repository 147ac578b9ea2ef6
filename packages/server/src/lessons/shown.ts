import type { Lesson, LessonOnCard } from '@viaticum/contract';
import { findableIn } from '@viaticum/core/derived';
import { lessonCard } from '@viaticum/core/plan';

/** What lists show of a lesson and what it is found by, so that they read no document. */
export type ShownLesson = { title: string; card: LessonOnCard; words: string };

export const shown = (lesson: Lesson): ShownLesson => ({
  title: lesson.title,
  card: lessonCard(lesson),
  words: JSON.stringify(findableIn(lesson)),
});
