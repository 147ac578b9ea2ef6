import {
  byId,
  type FollowSheet,
  type Lesson,
  type OtherRecipes,
  type PaintLayer,
  type SheetMix,
  type SheetStep,
  type Step,
} from '@viaticum/contract';
import { cssRgb } from '@viaticum/kernels/colour';
import { outlineBox, outlinePath } from '../area/index.js';
import { brushInMetric, brushInWords, brushOf } from '../brush/index.js';
import { type MixLook, shortTubeName, tubeRgb } from '../mix/index.js';
import { plainWords } from '../text/index.js';
import { visibleOf } from './areas.js';
import { looksOf } from './looks.js';
import { areasWorkedOn, coverOf, drawsLines, marksOf, mixesOn } from './marks.js';
import { memo } from './memo.js';
import { passageInWords } from './passage-words.js';
import type { OtherRecipe } from './substitute.js';

/** The bare support: primed canvas or board, paper. */
const bare = { canvas: 'rgb(240 238 232)', board: 'rgb(236 234 228)', paper: 'rgb(246 245 242)' } as const;

/** The traced line: dark enough for a pale ground, grey enough to be painted over. */
const LINE = 'rgb(88 80 74)';

/** How a step changes what is seen: one layer an area (all areas where the step names none). Empty for steps that leave no trace. */
export function paintLayers(lesson: Lesson, step: Step): PaintLayer[] {
  if (drawsLines(step)) {
    return areasWorkedOn(lesson, step).map((areaId) => ({ areaId, kind: 'line', colours: [LINE], share: 1 }));
  }
  if (!step.technique || step.mixIds.length === 0) return [];
  const looks = looksOf(lesson);
  const share = coverOf(lesson, step);
  return areasWorkedOn(lesson, step).map((areaId) => {
    const colours = mixesOn(lesson, step, areaId).flatMap((id) => looks.get(id)?.rgb ?? []);
    const kind = share < 0.95 ? 'broken' : step.technique === 'blend' && colours.length > 1 ? 'blend' : 'flat';
    return { areaId, kind, colours, share };
  });
}

function sheetStep(lesson: Lesson, step: Step, number: number): SheetStep {
  const looks = looksOf(lesson);
  const brush = brushOf(step.brushId);
  return {
    number,
    title: step.title,
    kind: step.kind,
    lines: [passageInWords(lesson, step) ?? [], sentences(plainWords(step.say)).slice(0, 3)].flat(),
    checkpoint: plainWords(step.checkpoint),
    brush: brush && brushInWords(brush),
    brushMetric: brush && brushInMetric(brush),
    technique: step.technique ?? null,
    stroke: step.stroke ?? null,
    counts: countsOf(lesson, step),
    areaIds: step.areaIds,
    mixes: step.mixIds.flatMap((id) => looks.get(id) ?? []).map(sheetMix),
    layers: paintLayers(lesson, step),
  };
}

/** What is to be counted while a step is done: marks of a number that can be counted, and rounds of a repeat. */
function countsOf(lesson: Lesson, step: Step): { name: string; count: number; until: string }[] {
  const marks = marksOf(lesson, step)
    .filter((mark) => mark.kind !== 'spatter' && mark.kind !== 'scatter' && mark.count <= MOST_TICKS)
    .map((mark) => ({ name: mark.name, count: mark.count, until: '' }));
  const { repeat } = step;
  return repeat && repeat.most <= MOST_TICKS ? [...marks, { name: step.title, count: repeat.most, until: repeat.until }] : marks;
}
const MOST_TICKS = 48;

const sheetMix = (look: MixLook): SheetMix => ({
  id: look.mix.id,
  name: look.mix.name,
  rgb: look.rgb,
  wetRgb: look.wetRgb,
  words: look.words,
  parts: look.parts.map(({ name, rgb, weight }) => ({ name, rgb, weight })),
});

/** Text cut into sentences. */
function sentences(text: string): string[] {
  return (text.match(/[^.!?]+[.!?]+["”’]?|[^.!?]+$/g) ?? []).map((sentence) => sentence.trim()).filter(Boolean);
}

/** What is needed to show a lesson without computing anything more: outlines, layers, words, recipes and their colours. */
export const followSheet = memo((lesson: Lesson): FollowSheet => {
  const areas = visibleOf(lesson).map((part) => {
    const box = outlineBox(part.outline);
    const name = lesson.areas.find((area) => area.id === part.id)?.name ?? '';
    return { id: part.id, name, path: outlinePath(part.outline), top: box?.y ?? 0, bottom: box ? box.y + box.height : 0 };
  });
  const grid = lesson.drawing.constructions.flatMap((one) => (one.kind === 'grid' ? [one] : []))[0];
  return {
    title: lesson.title,
    canvas: { widthMm: lesson.support.widthMm, heightMm: lesson.support.heightMm, bareRgb: bare[lesson.support.kind] },
    areas,
    tubes: lesson.tubes
      .filter((tube) => tube.students !== false)
      .map((tube) => ({ id: tube.id, name: shortTubeName(tube), rgb: cssRgb(tubeRgb(tube, lesson.finish)) })),
    steps: byId(lesson.steps.map((step, i) => [step.id, sheetStep(lesson, step, i + 1)] as const)),
    stepCount: lesson.steps.length,
    ...(lesson.film?.films && { films: lesson.film.films }),
    ...(grid && { grid: { columns: grid.columns, rows: grid.rows } }),
  };
}, 3);

/** Other recipes as a phone shows them. */
export const otherRecipesSheet = (lesson: Lesson, others: readonly OtherRecipe[]): OtherRecipes =>
  byId(
    others.map(({ mixId, rgb, wetRgb, words, parts, off }): [string, SheetMix] => [
      mixId,
      {
        id: mixId,
        name: lesson.mixes.find((mix) => mix.id === mixId)?.name ?? '',
        rgb,
        wetRgb,
        words,
        parts: parts.map(({ name, rgb, weight }) => ({ name, rgb, weight })),
        instead: off,
      },
    ]),
  );
