import type { Lesson, Mix, School, Step } from '@viaticum/contract';
import { looksOf, schoolFor } from '../derived/index.js';

/** Minutes of the experienced hand for a heap of paint that is new, by the way of mixing (common practice, no published source). */
const mixed: Record<School['mixing'], number> = { palette: 1.5, 'on-the-brush': 0.3, 'on-the-canvas': 0.8, 'all-premixed': 1.5 };
export const NEW_MIX_MIN = mixed.palette;
/** From three primaries and white a colour is sought longer; from a rich palette it often comes out of one tube. */
const sought: Record<School['palette'], number> = { smallest: 1, 'primaries-and-white': 4 / 3, rich: 1 };
const OUT_OF_TUBE_MIN = 0.5;
/** Minutes that a change of colours takes beyond wiping the brush. */
const changed: Record<School['brushCare'], number> = { wipe: 0, wash: 0.3, 'several-brushes': -0.1 };
const DARK = 35;

/** Minutes of the experienced hand that go into the heaps of a step: those that are new, and passing from one to the next. */
export function heapMinutes(lesson: Lesson, step: Step, fresh: readonly string[]): number {
  const school = schoolFor(lesson, step);
  const mixes = fresh.flatMap((id) => lesson.mixes.find((mix) => mix.id === id) ?? []);
  const unknown = fresh.length - mixes.length;
  const heaps = mixes.reduce((sum, mix) => sum + heapMin(lesson, school, mix), unknown * mixed[school.mixing]);
  return Math.max(0, heaps + Math.max(0, step.mixIds.length - 1) * changed[school.brushCare]);
}

function heapMin(lesson: Lesson, school: School, mix: Mix): number {
  const isOneTube = mix.recipe.length === 1 && (mix.mixedFrom?.length ?? 0) === 0;
  if (school.palette === 'rich' && isOneTube) return Math.min(OUT_OF_TUBE_MIN, mixed[school.mixing]);
  if (school.black !== 'mixed-darks' && isDarkest(lesson, mix)) return Math.min(OUT_OF_TUBE_MIN, mixed[school.mixing]);
  return mixed[school.mixing] * sought[school.palette];
}

/** The darkest mix of a lesson, if it is a dark at all: a tube of near black stands for it where the school has one. */
function isDarkest(lesson: Lesson, mix: Mix): boolean {
  const looks = looksOf(lesson);
  const lightness = ({ id, targetLab }: Mix) => looks.get(id)?.colour?.lab[0] ?? targetLab?.[0] ?? 100;
  const own = lightness(mix);
  return own < DARK && lesson.mixes.every((other) => lightness(other) >= own);
}
