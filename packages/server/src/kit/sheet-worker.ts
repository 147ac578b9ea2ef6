import '../language.js';
import { type KitSheet, type Lesson, languageOf, type Measures, type Studio } from '@viaticum/contract';
import { kitSheet } from '@viaticum/core/kit';
import { setMeasures } from '@viaticum/core/units';

/** The text of a lesson's document, and what its instructor's studio has. */
export type SheetJob = { text: string; studio: Studio; measures: Measures };

export default function work({ text, studio, measures }: SheetJob): KitSheet {
  const lesson = JSON.parse(text) as Lesson;
  setMeasures({ ...measures, language: languageOf(lesson.language) });
  return kitSheet(lesson, studio);
}
