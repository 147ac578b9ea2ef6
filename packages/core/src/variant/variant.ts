import type { Lesson, Outline, Step, Variant } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { pigmentOf } from '@viaticum/kernels/pigment';
import { brushes, brushInWords, brushOf } from '../brush/index.js';
import { substitutesFor } from '../brush-plan/index.js';
import type { OtherRecipe } from '../derived/index.js';
import { shortTubeName } from '../mix/index.js';
import { forStudents } from '../step/index.js';
import { sizeInWords } from '../units/index.js';

/** A lesson as it is for others, with what differs in words, and what could not be done. */
export type Variation = { lesson: Lesson; differences: string[]; open: string[] };

/** For children minutes are half as long again as for beginners, and no step needs a dryer, a knife or spatter (common practice, no published source). */
const CHILDREN = 1.5;

/**
 * The lesson for others, worked out from the lesson as it stands: another canvas, students, hand or kit. `others` are recipes from the
 * tubes that are there (from `substitutes`); without them mixes that lack a tube are named as open.
 */
export function withVariant(lesson: Lesson, variant: Variant, others: readonly OtherRecipe[] = []): Variation {
  const differences: string[] = [];
  const open: string[] = [];
  let now: Lesson = { ...lesson, variants: [] };
  if (variant.support) now = resized(now, variant.support, differences, open);
  const level = variant.children ? 'beginner' : variant.level;
  if (level && level !== now.level) {
    now = forStudents(now, level);
    differences.push(
      say`For ${level === 'improver' ? say('improvers') : level === 'beginner' ? say('beginners') : say('experienced hands')}.`,
    );
  }
  if (variant.handed && variant.handed !== (lesson.handed ?? 'right')) now = mirrored(now, variant.handed, differences);
  now = leftOut(now, variant, differences);
  if (variant.children) now = forChildren(now, differences);
  now = withoutTubes(now, variant, others, differences, open);
  now = withoutBrushes(now, variant.withoutBrushIds ?? [], differences, open);
  const changes = new Map(variant.changes.map((change) => [change.stepId, change.step]));
  const steps = now.steps.map((step): Step => {
    const change = changes.get(step.id);
    if (change) differences.push(say`${step.title}: changed by hand.`);
    return change ? { ...step, ...change, id: step.id } : step;
  });
  return { lesson: { ...now, steps }, differences, open };
}

/** What differs, in sentences. */
export const differencesOf = (lesson: Lesson, variant: Variant): string[] => withVariant(lesson, variant).differences;

const scaled = (outline: Outline, x: number, y: number): Outline =>
  outline.map((polygon) => polygon.map((ring) => ring.map(([px, py]): [number, number] => [px * x, py * y])));

/** Everything on another canvas: outlines are stretched to its proportion, marks by its size. */
function resized(
  lesson: Lesson,
  { widthMm, heightMm }: NonNullable<Variant['support']>,
  differences: string[],
  open: string[],
): Lesson {
  const [x, y] = [widthMm / lesson.support.widthMm, heightMm / lesson.support.heightMm];
  const size = Math.sqrt(x * y);
  differences.push(say`On a canvas of ${sizeInWords(widthMm, heightMm, lesson.units)}.`);
  const stretch = Math.max(x / y, y / x);
  if (stretch > 1.02)
    open.push(
      say`Its proportion is another one: everything is stretched by ${Math.round((stretch - 1) * 100)} %. Crop the picture anew where that shows.`,
    );
  const at = ([px, py]: [number, number]): [number, number] => [px * x, py * y];
  return {
    ...lesson,
    support: { ...lesson.support, widthMm, heightMm },
    overlapMm: lesson.overlapMm * size,
    areas: lesson.areas.map((area) => ({
      ...area,
      outline: scaled(area.outline, x, y),
      ...(area.combed ? { combed: area.combed.map((line) => line.map(at)) } : {}),
      ...(area.form?.edge ? { form: { ...area.form, edge: at(area.form.edge as [number, number]) } } : {}),
      ...(area.flow ? { flow: { ...area.flow, at: at(area.flow.at) } } : {}),
    })),
    marks: lesson.marks.map((mark) => ({
      ...mark,
      lengthMm: mark.lengthMm * size,
      widthMm: mark.widthMm * size,
      ...(mark.along ? { along: mark.along.map((line) => line.map(at)) } : {}),
      ...(mark.round ? { round: { at: at(mark.round.at), radiusMm: mark.round.radiusMm * size } } : {}),
    })),
    references: lesson.references.map((one) => ({
      ...one,
      placement: {
        ...one.placement,
        mmPerPx: one.placement.mmPerPx * size,
        xMm: one.placement.xMm * x,
        yMm: one.placement.yMm * y,
      },
    })),
    steps: lesson.steps.map((step) => {
      const brush = brushOf(step.brushId);
      const fits = brush && brushes.filter((one) => one.type === brush.type);
      const nearest = fits?.reduce((best, one) =>
        Math.abs(one.widthMm - (brush as { widthMm: number }).widthMm * size) <
        Math.abs(best.widthMm - (brush as { widthMm: number }).widthMm * size)
          ? one
          : best,
      );
      const { doMin, ...rest } = step;
      // Minutes typed for painting one size are stretched by the length of the brush's way.
      const minutes = doMin === undefined || step.kind !== 'paint' ? doMin : Math.max(0.5, Math.round(doMin * size * 2) / 2);
      return { ...rest, ...(minutes === undefined ? {} : { doMin: minutes }), ...(nearest ? { brushId: nearest.id } : {}) };
    }),
  };
}

/** Where a working direction or a hand is meant. */
const WORKING = /\bfrom (?:the )?(?:left|right) to (?:the )?(?:left|right)\b|\b(?:left|right)[- ]hand(?:ed)?\b/gi;
/** For the other hand: sides named in working directions are swapped where they speak of the hand, and of nothing else. */
function mirrored(lesson: Lesson, handed: 'left' | 'right', differences: string[]): Lesson {
  differences.push(
    say`For a ${handed === 'left' ? say('left') : say('right')} hand: work from ${handed === 'left' ? say('right to left') : say('left to right')}.`,
  );
  const turn = (text: string) =>
    text.replace(WORKING, (part) =>
      part.replace(/\b(left|right)\b/gi, (side) => (side.toLowerCase() === 'left' ? 'right' : 'left')),
    );
  return { ...lesson, handed, steps: lesson.steps.map((step) => ({ ...step, say: turn(step.say), watch: turn(step.watch) })) };
}

function leftOut(lesson: Lesson, { leaveOutStepIds = [] }: Variant, differences: string[]): Lesson {
  const gone = lesson.steps.filter((step) => leaveOutStepIds.includes(step.id));
  if (gone.length === 0) return lesson;
  differences.push(say`Without ${gone.map((step) => `“${step.title}”`).join(', ')}.`);
  return { ...lesson, steps: lesson.steps.filter((step) => !leaveOutStepIds.includes(step.id)) };
}

function forChildren(lesson: Lesson, differences: string[]): Lesson {
  differences.push(say('For children: only materials labelled for them, no hair dryer, no knife, no spatter; more time.'));
  const spatters = new Set(lesson.marks.flatMap((mark) => (mark.kind === 'spatter' ? [mark.id] : [])));
  const steps = lesson.steps
    .filter((step) => step.technique !== 'spatter' && !(step.areaIds.length === 0 && step.markIds.some((id) => spatters.has(id))))
    .map(
      ({ dryer: _, ...step }): Step => ({
        ...step,
        ...(brushOf(step.brushId)?.type === 'knife' ? { brushId: 'flat-3-4-in' } : {}),
        ...(step.doMin === undefined ? {} : { doMin: Math.min(600, Math.round(step.doMin * CHILDREN * 2) / 2) }),
      }),
    );
  return { ...lesson, steps };
}

function withoutTubes(
  lesson: Lesson,
  { withoutTubeIds = [], children }: Variant,
  others: readonly OtherRecipe[],
  differences: string[],
  open: string[],
): Lesson {
  const lacking = new Set([...withoutTubeIds, ...(children ? lackingForChildren(lesson) : [])]);
  const gone = lesson.tubes.filter((tube) => lacking.has(tube.id));
  if (gone.length === 0) return lesson;
  differences.push(say`Without ${gone.map(shortTubeName).join(', ')}.`);
  const mixes = lesson.mixes.map((mix) => {
    if (!mix.recipe.some((part) => lacking.has(part.tubeId))) return mix;
    const other = others.find((one) => one.mixId === mix.id);
    if (!other) {
      open.push(say`${mix.name} needs a tube that is not there.`);
      return mix;
    }
    differences.push(`${mix.name}: ${other.words} (${other.off}).`);
    return { ...mix, recipe: other.parts.map(({ tubeId, parts }) => ({ tubeId, parts })) };
  });
  // A tube that some mix still needs stays on the list.
  const needed = new Set(mixes.flatMap((mix) => mix.recipe.map((part) => part.tubeId)));
  return { ...lesson, mixes, tubes: lesson.tubes.filter((tube) => !lacking.has(tube.id) || needed.has(tube.id)) };
}

const HARMFUL = /cadmium|cobalt|chrom|nickel|manganese|lead/i;
/** Tubes with a harmful metal are none for children; whether the others are labelled for them, the label says. */
export const lackingForChildren = (lesson: Lesson): string[] =>
  lesson.tubes.filter((tube) => pigmentOf(tube.pigment).metals.some((metal) => HARMFUL.test(metal))).map((tube) => tube.id);

function withoutBrushes(lesson: Lesson, ids: readonly string[], differences: string[], open: string[]): Lesson {
  if (ids.length === 0) return lesson;
  const instead = new Map<string, string>();
  for (const id of ids) {
    const brush = brushOf(id);
    if (!brush || !lesson.steps.some((step) => step.brushId === id)) continue;
    const other = substitutesFor(brush).find((one) => !ids.includes(one.id));
    if (other) {
      instead.set(id, other.id);
      differences.push(say`${brushInWords(other)} for the ${brushInWords(brush)}.`);
    } else open.push(say`Nothing in the table stands in for the ${brushInWords(brush)}.`);
  }
  return {
    ...lesson,
    steps: lesson.steps.map((step) => {
      const other = step.brushId && instead.get(step.brushId);
      return other ? { ...step, brushId: other } : step;
    }),
  };
}
