import type { Lab, Lesson, RecipePart } from '@viaticum/contract';
import type { OtherRecipe } from '@viaticum/core/derived';
import type { Changed } from '@viaticum/core/former';
import type { FamilyMember, Palette, Suggestion } from '@viaticum/core/mix';

/** Where the tubes of a palette may come from: those of the lesson, or the table's usual ones as well. */
export type PaletteFrom = 'lesson' | 'table';
export type FamilyKind = 'ladder' | 'greys' | 'gradient' | 'shadow-light';

/** What the paint worker can be asked, with what it answers. Lessons come as they are: what is worked out of them is kept. */
export type PaintJobs = {
  /** The best recipe for a mix's target and its alternatives; `whole` while only whole parts have been looked through. */
  suggest: { args: { lesson: Lesson; mixId: string; quick: boolean }; answer: { found: Suggestion[]; isWhole: boolean } };
  /** Tubes of the table that would bring a target within reach. */
  reach: { args: { lesson: Lesson; target: Lab }; answer: { pigment: string; deltaE: number; lab: Lab }[] };
  palette: {
    args: { lesson: Lesson; tolerance: number; from: PaletteFrom; must: string[]; mustNot: string[] };
    answer: Palette & { targets: string[] };
  };
  /** Recipes for every target from other tubes, so that a palette can be taken over. */
  recipes: { args: { lesson: Lesson; tubes: Lesson['tubes'] }; answer: { id: string; recipe: RecipePart[]; deltaE: number }[] };
  /** The mixes of an older lesson that look otherwise with the present table of pigments. */
  former: { args: { lesson: Lesson }; answer: Changed[] };
  without: { args: { lesson: Lesson; lacking: string[] }; answer: OtherRecipe[] };
  family: {
    args: { lesson: Lesson; kind: FamilyKind; mixId: string; otherId: string | null; steps: number; lightness: number };
    answer: { members: FamilyMember[]; parents: string[] };
  };
};
