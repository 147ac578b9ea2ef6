import type { KitSheet, Lesson, Studio } from '@viaticum/contract';
import { kitSheet } from '@viaticum/core/kit';

/** The text of a lesson's document, and what its instructor's studio has. */
export type SheetJob = { text: string; studio: Studio };

export default function work({ text, studio }: SheetJob): KitSheet {
  return kitSheet(JSON.parse(text) as Lesson, studio);
}
