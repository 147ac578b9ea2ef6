import type { CourseKit, Lesson, Studio } from '@viaticum/contract';
import { upgradeLesson } from '@viaticum/core/document';
import { courseKit } from '@viaticum/core/kit';

/** Texts of the documents of a course, in its order, and what its instructor's studio has. */
export type CourseJob = { texts: string[]; studio: Studio };

export default function work({ texts, studio }: CourseJob): CourseKit {
  return courseKit(
    texts.map((text): Lesson => upgradeLesson(JSON.parse(text))),
    studio,
  );
}
