import type { Lesson, PackOptions, PackPart, Studio } from '@viaticum/contract';
import { looksOf, visibleOf } from '@viaticum/core/derived';
import { groupOf, type KitLine, type KitPaint, kitLines, kitPaint } from '@viaticum/core/kit';
import type { MixLook } from '@viaticum/core/mix';
import { type LessonPlan, planLesson } from '@viaticum/core/plan';
import { drawing } from './parts/drawing.js';
import { before, cautions, needed } from './parts/lists.js';
import { palette } from './parts/palette.js';
import { practice } from './parts/practice.js';
import { cards, steps, summary } from './parts/steps.js';
import { contents, title, way } from './parts/title.js';
import { Sheet } from './sheet.js';

/** What belongs to the instructor alone: money, amounts for the class, what is prepared. */
const instructorOnly: ReadonlySet<PackPart> = new Set(['before']);

/** All that the parts of a pack are made from. */
export type Pack = {
  sheet: Sheet;
  lesson: Lesson;
  plan: LessonPlan;
  paint: KitPaint;
  lines: readonly KitLine[];
  studio: Studio;
  looks: ReadonlyMap<string, MixLook>;
  parts: ReturnType<typeof visibleOf>;
  heads: number;
  isCopy: boolean;
  /** The canvas after each step (JPEG), by its id. */
  pictures: ReadonlyMap<string, Uint8Array>;
  /** The number of each step. */
  numbers: ReadonlyMap<string, number>;
};

const HANDOUT_SCALE = 1.18;
const LARGE_SCALE = 1.5;

/**
 * A lesson as a file to print (PDF, tagged, fonts embedded): the parts asked for in their order. A handout has neither money nor what the
 * instructor prepares. Throws a sentence where the lesson has no steps.
 */
export async function packPdf(
  lesson: Lesson,
  studio: Studio,
  pictures: ReadonlyMap<string, Uint8Array>,
  { kind, paper, isLarge, parts }: PackOptions,
): Promise<{ bytes: Uint8Array; pages: number }> {
  if (lesson.steps.length === 0) throw new RangeError('This lesson has no steps yet. Add some, then make its pack.');
  const plan = planLesson(lesson);
  const kit = kitPaint(lesson, plan.plan, studio);
  const isCopy = kind === 'instructor';
  const usual = isCopy || kind === 'summary' || kind === 'cards' ? 1 : HANDOUT_SCALE;
  const sheet = new Sheet({
    title: `${lesson.title}: ${{ instructor: 'instructor’s copy', handout: 'handout', summary: 'on one page', cards: 'cards' }[kind]}`,
    language: lesson.language,
    paper,
    scale: isLarge ? LARGE_SCALE : usual,
    head: lesson.title,
  });
  const pack: Pack = {
    sheet,
    lesson,
    plan,
    paint: kit,
    lines: kitLines(lesson, plan, kit, studio.sinks),
    studio,
    looks: looksOf(lesson),
    parts: visibleOf(lesson),
    heads: groupOf(lesson).heads,
    isCopy,
    pictures,
    numbers: new Map(lesson.steps.map((step, i) => [step.id, i + 1])),
  };
  if (kind === 'summary') summary(pack);
  else if (kind === 'cards') cards(pack);
  else {
    const make = { title, way, palette, steps, practice, drawing, needed, before, cautions } as const;
    let fillContents: (() => void) | null = null;
    for (const part of parts) {
      if (!isCopy && instructorOnly.has(part)) continue;
      if (part === 'way') fillContents = contents(pack);
      else make[part](pack);
    }
    fillContents?.();
  }
  if (sheet.pageCount === 0) throw new RangeError('Choose at least one part of the pack.');
  return sheet.finish(kind === 'instructor' || kind === 'handout');
}
