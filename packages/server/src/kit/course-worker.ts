import '../language.js';
import type { CourseKit, Lesson, Measures, Studio } from '@viaticum/contract';
import { upgradeLesson } from '@viaticum/core/document';
import { courseKit } from '@viaticum/core/kit';
import { setMeasures } from '@viaticum/core/units';

/** Texts of the documents of a course, in its order, and what its instructor's studio has. */
export type CourseJob = { texts: string[]; studio: Studio; measures: Measures };

export default function work({ texts, studio, measures }: CourseJob): CourseKit {
  setMeasures(measures);
  return courseKit(
    texts.map((text): Lesson => upgradeLesson(JSON.parse(text))),
    studio,
  );
}
