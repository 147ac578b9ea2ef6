import '../language.js';
import type { KitSheet, Lesson, Measures, Studio } from '@viaticum/contract';
import { kitSheet } from '@viaticum/core/kit';
import { setMeasures } from '@viaticum/core/units';

/** The text of a lesson's document, and what its instructor's studio has. */
export type SheetJob = { text: string; studio: Studio; measures: Measures };

export default function work({ text, studio, measures }: SheetJob): KitSheet {
  setMeasures(measures);
  return kitSheet(JSON.parse(text) as Lesson, studio);
}
