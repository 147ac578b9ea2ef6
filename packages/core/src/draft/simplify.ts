import type { Lesson } from '@viaticum/contract';
import { deltaE00 } from '@viaticum/kernels/colour';
import { brushes, brushOf } from '../brush/index.js';
import { bordersBetween, looksOf, nearTwins, visibleOf } from '../derived/index.js';
import { type CommandArgs, carryOut, startHistory } from '../document/index.js';
import { planLesson } from '../plan/index.js';

/** How far a lesson is simplified: 1 larger brushes and fewer mixes, 2 small areas joined as well, 3 half of the areas and one detail each. */
export type Amount = 1 | 2 | 3;
/** A simpler lesson, with the command that makes it so, and what it saves. */
export type Simpler = {
  lesson: Lesson;
  args: CommandArgs<'simplify'>;
  fewer: { areas: number; mixes: number; steps: number; minutes: number };
};

/** Mixes nearer than this (ΔE00) become one, by the amount. */
const ALIKE: Record<Amount, number> = { 1: 5, 2: 7, 3: 9 };
const AREAS_KEPT: Record<Amount, number> = { 1: 1, 2: 0.7, 3: 0.5 };
const LARGER = 1.9;

/**
 * A lesson made simpler for beginners: areas of least visual weight (area times difference from the neighbour they go to) joined, mixes
 * that are nearly alike made one, brushes a size larger, and at the last amount only one later coat an area. The subject stays.
 */
export function simplify(lesson: Lesson, amount: Amount): Simpler {
  let now = startHistory(lesson);
  const merge: { id: string; into: string }[] = [];
  const remove: string[] = [];
  const join: { keep: string; drop: string }[] = [];
  const wanted = Math.max(2, Math.ceil(visible(lesson).length * AREAS_KEPT[amount]));
  while (visible(now.lesson).length > wanted) {
    const pair = lightest(now.lesson);
    if (!pair) break;
    const paints = (id: string) => now.lesson.steps.filter((step) => step.areaIds.length === 1 && step.areaIds[0] === id);
    const gone = paints(pair.into).length > 0 ? paints(pair.id).map((step) => step.id) : [];
    const args = { merge: [pair], join: [], remove: gone, brushes: [] };
    now = carryOut(now, 'simplify', args);
    merge.push(pair);
    remove.push(...gone);
  }
  if (amount === 3) {
    const later = laterCoats(now.lesson);
    now = carryOut(now, 'simplify', { merge: [], join: [], remove: later, brushes: [] });
    remove.push(...later);
  }
  for (;;) {
    const [twin] = nearTwins(now.lesson, ALIKE[amount]);
    if (!twin) break;
    const one = { keep: twin.one.id, drop: twin.other.id };
    now = carryOut(now, 'simplify', { merge: [], join: [one], remove: [], brushes: [] });
    join.push(one);
  }
  const larger = now.lesson.steps.flatMap((step) => {
    const brush = brushOf(step.brushId);
    if (!brush || step.kind !== 'paint') return [];
    const next = brushes
      .filter((one) => one.type === brush.type && one.widthMm > brush.widthMm && one.widthMm <= brush.widthMm * LARGER)
      .sort((a, b) => a.widthMm - b.widthMm)[0];
    return next ? [{ id: step.id, brushId: next.id }] : [];
  });
  const args = { merge, join, remove, brushes: larger };
  const simpler = carryOut(startHistory(lesson), 'simplify', args).lesson;
  const end = (one: Lesson) => planLesson(one).plan.endMin;
  return {
    lesson: simpler,
    args,
    fewer: {
      areas: lesson.areas.length - simpler.areas.length,
      mixes: used(lesson) - used(simpler),
      steps: lesson.steps.length - simpler.steps.length,
      minutes: end(lesson) - end(simpler),
    },
  };
}

const visible = (lesson: Lesson) => visibleOf(lesson).filter((part) => part.areaCm2 > 0);
const used = (lesson: Lesson) => new Set(lesson.steps.flatMap((step) => step.mixIds)).size;

/** The area whose joining to a neighbour takes least from the picture. */
function lightest(lesson: Lesson): { id: string; into: string } | null {
  const borders = bordersBetween(lesson);
  const areas = new Map(visible(lesson).map((part) => [part.id, part.areaCm2]));
  const looks = looksOf(lesson);
  const colour = (id: string) =>
    lesson.areas.find((area) => area.id === id)?.targetLab ??
    lesson.steps.flatMap((step) =>
      step.areaIds.length === 1 && step.areaIds[0] === id ? step.mixIds.flatMap((mix) => looks.get(mix)?.colour ?? []) : [],
    )[0]?.lab;
  let best: { id: string; into: string; weight: number } | null = null;
  for (const [id, area] of areas) {
    if (id === lesson.subjectAreaId) continue;
    for (const [into, mm] of borders.get(id) ?? []) {
      if (mm < 5 || (areas.get(into) ?? 0) < area) continue;
      const [one, other] = [colour(id), colour(into)];
      const weight = area * (one && other ? deltaE00(one, other) : 10);
      if (best === null || weight < best.weight) best = { id, into, weight };
    }
  }
  return best && { id: best.id, into: best.into };
}

/** All later coats of an area but the last, which may be left out. */
function laterCoats(lesson: Lesson): string[] {
  const byArea = new Map<string, string[]>();
  for (const step of lesson.steps) {
    if (!step.mayBeLeftOut || step.areaIds.length !== 1) continue;
    const id = step.areaIds[0] as string;
    byArea.set(id, [...(byArea.get(id) ?? []), step.id]);
  }
  return [...byArea.values()].flatMap((ids) => ids.slice(0, -1));
}
