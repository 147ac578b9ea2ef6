import type { Lesson, Mark, MarkKind, MarkTool, Step } from '@viaticum/contract';
import { insideTest, outlineArea } from '../area/index.js';
import { evenly } from '../geometry/index.js';
import { visibleOf } from './areas.js';
import { memo } from './memo.js';

/** The tool that usually goes with a kind of mark (common practice, no published source). */
const usualTool: Record<MarkKind, MarkTool> = {
  lines: 'brush',
  hairs: 'liner',
  dots: 'tip',
  tufts: 'fan',
  scatter: 'tip',
  spatter: 'flick',
  unit: 'brush',
};
export const toolOf = ({ kind, tool }: Pick<Mark, 'kind' | 'tool'>): MarkTool => tool ?? usualTool[kind];

/**
 * How an experienced hand works with a tool: marks (or cm²) to a stroke, seconds a stroke, strokes to a load (or mm of line), seconds to
 * load again, minutes before it all. From common practice, no published source.
 */
const hand: Record<
  MarkTool,
  { marks?: number; cm2?: number; s: number; strokes?: number; mm?: number; loadS: number; before?: number }
> = {
  rake: { marks: 10, s: 1.2, strokes: 6, loadS: 6 },
  liner: { s: 1.5, strokes: 5, loadS: 5 },
  brush: { s: 0.8, mm: 150, loadS: 5 },
  tip: { s: 1, strokes: 6, loadS: 3 },
  handle: { s: 1, strokes: 2, loadS: 2 },
  fan: { s: 1.5, strokes: 8, loadS: 6 },
  flick: { marks: 30, s: 1.5, strokes: 3, loadS: 6, before: 1.5 },
  sponge: { cm2: 9, s: 1.2, strokes: 6, loadS: 5 },
  knife: { cm2: 5, s: 3, strokes: 1, loadS: 5 },
};
/** A line is drawn at so many metres a minute, one that is shorter than this in one movement. */
const LINE_M_PER_MIN = 0.8;
const WHISKER = { mm: 30, s: 3, strokes: 1.5 };
const HALF_ROUND = Math.PI / 4;

/** The marks that a step lays, in its own order. */
export const marksOf = (lesson: Lesson, step: Pick<Step, 'markIds'>): Mark[] =>
  step.markIds.flatMap((id) => lesson.marks.find((mark) => mark.id === id) ?? []);

/** What says where a step is done. */
type Where = Pick<Step, 'markIds' | 'areaIds' | 'wholeCanvas'>;

/** Whether a step lays marks and covers no area beside them. */
export const isOnlyMarks = (step: Where): boolean => !step.wholeCanvas && step.areaIds.length === 0 && step.markIds.length > 0;

/** The areas a step works on: those it names, or those of its marks, or all of them where it is done on the whole canvas. */
export function areasWorkedOn(lesson: Lesson, step: Where): string[] {
  if (step.wholeCanvas) return lesson.areas.map((area) => area.id);
  if (step.areaIds.length > 0) return step.areaIds;
  return [...new Set(marksOf(lesson, step).flatMap((mark) => areasUnder(lesson, mark)))];
}

/** The areas that marks lie on: the one that they belong to, and those that lines drawn one by one cross. */
export const areasUnder = (lesson: Lesson, mark: Mark): string[] =>
  mark.along ? [...new Set([mark.areaId, ...crossed(visibleOf(lesson), mark.along)])] : [mark.areaId];

/** The area that lies under most of some lines; null where they lie outside all of them. */
export const areaUnder = (lesson: Lesson, along: NonNullable<Mark['along']>): string | null =>
  crossed(visibleOf(lesson), along)[0] ?? null;

const EVERY_MM = 1;
/** The areas that lines cross, the one under most of them first. */
const crossed = memo((parts: ReturnType<typeof visibleOf>, along: NonNullable<Mark['along']>): string[] => {
  const points = along.flatMap((line) => evenly(line, EVERY_MM));
  return parts
    .map(({ id, outline }) => {
      const isInside = insideTest(outline);
      return { id, count: points.filter(([x, y]) => isInside(x, y)).length };
    })
    .filter(({ count }) => count > 0)
    .sort((one, other) => other.count - one.count)
    .map(({ id }) => id);
}, 12);

/** The mixes that a step lays on an area: of a passage those that have their place there, otherwise all of them. */
export function mixesOn(
  lesson: Lesson,
  { mixIds, passageId }: Pick<Step, 'mixIds'> & { passageId?: string | undefined },
  areaId: string,
): string[] {
  const passage = passageId === undefined ? undefined : lesson.passages.find((one) => one.id === passageId);
  const own = passage?.places.flatMap((place) => (place.areaId === areaId ? [place.mixId] : [])) ?? [];
  return own.length > 0 ? own : mixIds;
}

/** Painted area of a mark's whole number, in cm². */
export function markAreaCm2({ kind, count, lengthMm, widthMm, taper }: Mark): number {
  const one =
    kind === 'dots' || kind === 'spatter' || kind === 'scatter'
      ? HALF_ROUND * widthMm * widthMm
      : lengthMm * widthMm * (1 - taper / 2);
  return (count * one) / 100;
}

/** Minutes that an experienced hand takes for all of a mark, with loading its tool again; without setting up and mixing. */
export function markMinutes(mark: Mark): number {
  const tool = toolOf(mark);
  const own = hand[tool];
  const { count, lengthMm } = mark;
  if (tool === 'brush') {
    const strokes = (count * own.s) / 60 + (count * lengthMm) / 1000 / LINE_M_PER_MIN;
    return strokes + (Math.ceil((count * lengthMm) / (own.mm as number)) * own.loadS) / 60;
  }
  const isWhisker = tool === 'liner' && lengthMm > WHISKER.mm;
  const strokes = own.cm2 ? Math.ceil(markAreaCm2(mark) / own.cm2) : Math.ceil(count / (own.marks ?? 1));
  const seconds = isWhisker ? WHISKER.s : own.s;
  const loads = Math.ceil(strokes / (isWhisker ? WHISKER.strokes : (own.strokes as number)));
  return (own.before ?? 0) + (strokes * seconds + loads * own.loadS) / 60;
}

/** What is laid on one side of an area takes about half of it. */
const SIDE_SHARE = 0.5;

/** The share of its areas that a step covers: what was said, or what its marks take, or all of it. */
export function coverOf(lesson: Lesson, step: Where & Pick<Step, 'coverShare' | 'side'>): number {
  if (step.coverShare !== undefined) return step.coverShare;
  if (!isOnlyMarks(step)) return step.side ? SIDE_SHARE : 1;
  const areas = new Set(areasWorkedOn(lesson, step));
  const areaCm2 = visibleOf(lesson).reduce((sum, part) => sum + (areas.has(part.id) ? outlineArea(part.outline) / 100 : 0), 0);
  const marked = marksOf(lesson, step).reduce((sum, mark) => sum + markAreaCm2(mark), 0);
  return areaCm2 > 0 ? Math.max(0.01, Math.min(0.95, marked / areaCm2)) : 1;
}

/** Whether a step draws lines, traced or by hand. */
export const drawsLines = ({ kind }: Pick<Step, 'kind'>): boolean => kind === 'transfer' || kind === 'draw';

/** Whether a step lays a coat of paint. */
export const laysPaint = (step: Step): boolean =>
  step.technique !== undefined && (step.kind === 'paint' || step.kind === 'prepare');
