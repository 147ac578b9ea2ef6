import type { Lesson, OtherRecipes } from '@viaticum/contract';
import { otherRecipesSheet, substitutes } from '@viaticum/core/derived';
import { toEnd } from '@viaticum/kernels/cooperative';

/** The text of a lesson's document, and tubes that a student lacks (those that it does not know are passed over). */
export type RecipesJob = { text: string; lacking: string[] };

export default function work({ text, lacking }: RecipesJob): OtherRecipes {
  const lesson = JSON.parse(text) as Lesson;
  const known = lesson.tubes.filter((tube) => lacking.includes(tube.id)).map((tube) => tube.id);
  return known.length === 0 ? {} : otherRecipesSheet(lesson, toEnd(substitutes(lesson, known)));
}
