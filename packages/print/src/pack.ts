import type { Lesson, PackOptions, PackPart, Studio } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { looksOf, visibleOf } from '@viaticum/core/derived';
import { groupOf, kitLines, kitPaint } from '@viaticum/core/kit';
import { planLesson } from '@viaticum/core/plan';
import type { Pack } from './model.js';
import { drawing } from './parts/drawing.js';
import { before, cautions, needed } from './parts/lists.js';
import { palette } from './parts/palette.js';
import { practice } from './parts/practice.js';
import { cards, steps, summary } from './parts/steps.js';
import { contents, title } from './parts/title.js';
import { lacking, Sheet } from './sheet.js';

/** What belongs to the instructor alone: money, amounts for the class, what is prepared. */
const instructorOnly: ReadonlySet<PackPart> = new Set(['before']);

const HANDOUT_SCALE = 1.18;
const LARGE_SCALE = 1.5;

/**
 * A lesson as a file to print (PDF, tagged, fonts embedded): the parts asked for in their order. A handout has neither money nor what the
 * instructor prepares. `lacks`: signs that the fonts do not have, shown as question marks. Throws a sentence where the lesson has no steps.
 */
export async function packPdf(
  lesson: Lesson,
  studio: Studio,
  pictures: ReadonlyMap<string, Uint8Array>,
  { kind, paper, isLarge, parts }: PackOptions,
): Promise<{ bytes: Uint8Array; pages: number; lacks: string[] }> {
  if (lesson.steps.length === 0) throw new RangeError(say('This lesson has no steps yet. Add some, then make its pack.'));
  const plan = planLesson(lesson);
  const kit = kitPaint(lesson, plan.plan, studio);
  const isCopy = kind === 'instructor';
  const usual = isCopy || kind === 'summary' || kind === 'cards' ? 1 : HANDOUT_SCALE;
  const sheet = new Sheet({
    title: `${lesson.title}: ${{ instructor: say('instructor’s copy'), handout: say('handout'), summary: say('on one page'), cards: say('cards') }[kind]}`,
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
    const make = { title, palette, steps, practice, drawing, needed, before, cautions } as const;
    let fillContents: (() => void) | null = null;
    for (const part of parts) {
      if (!isCopy && instructorOnly.has(part)) continue;
      if (part === 'way') fillContents = contents(pack);
      else make[part](pack);
    }
    fillContents?.();
  }
  if (sheet.pageCount === 0) throw new RangeError(say('Choose at least one part of the pack.'));
  const made = await sheet.finish(kind === 'instructor' || kind === 'handout');
  const said = lesson.steps.flatMap((step) => [step.title, step.say, step.watch, step.checkpoint, step.finish]);
  return {
    ...made,
    lacks: lacking([lesson.title, ...said, ...lesson.areas.map(({ name }) => name), ...lesson.mixes.map(({ name }) => name)]),
  };
}
