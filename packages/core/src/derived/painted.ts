import type { Lab, Lesson, Step } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { visibleOf } from './areas.js';
import { looksOf } from './looks.js';
import { areasWorkedOn, coverOf, laysPaint } from './marks.js';

/** The areas that are seen, back to front. */
export const seenAreas = (lesson: Lesson): Lesson['areas'] => {
  const seen = new Set(visibleOf(lesson).flatMap((part) => (part.areaCm2 > 0 ? [part.id] : [])));
  return lesson.areas.filter((area) => seen.has(area.id));
};

/** The first step that paints an area by itself, or -1: steps on the whole canvas do not count. */
export const firstPaints = (lesson: Lesson, areaId: string): number =>
  lesson.steps.findIndex((step) => step.kind === 'paint' && laysPaint(step) && step.areaIds.includes(areaId));

/** Mean Lab of the mixes of a step, dry; null where none is mixed. */
export function colourOf(lesson: Lesson, step: Pick<Step, 'mixIds'>): Lab | null {
  const looks = looksOf(lesson);
  const labs = step.mixIds.flatMap((id) => looks.get(id)?.colour?.lab ?? []);
  if (labs.length === 0) return null;
  const count = labs.length / 3;
  const sums = [0, 0, 0];
  labs.forEach((value, i) => {
    sums[i % 3] = (sums[i % 3] as number) + value;
  });
  return sums.map((sum) => sum / count) as unknown as Lab;
}

/** The colour that lies on an area before a step: of the last coat that covers it, or null on bare ground. */
export function colourBeneath(lesson: Lesson, at: number, areaId: string): Lab | null {
  for (let i = at - 1; i >= 0; i--) {
    const step = lesson.steps[i] as Step;
    if (!laysPaint(step) || !areasWorkedOn(lesson, step).includes(areaId) || coverOf(lesson, step) < 0.6) continue;
    const lab = colourOf(lesson, step);
    if (lab) return lab;
  }
  return null;
}

export const areaName = (lesson: Lesson, id: string): string => lesson.areas.find((area) => area.id === id)?.name ?? say('area');

/** Chroma of a colour, and how far two hues lie apart, 0-180 degrees. */
export const chroma = ([, a, b]: Lab): number => Math.hypot(a, b);
const hue = ([, a, b]: Lab) => (Math.atan2(b, a) * 180) / Math.PI;
export const huesApart = (one: Lab, other: Lab): number => Math.abs(((hue(one) - hue(other) + 540) % 360) - 180);
