import type { Lab, Lesson, Load, Step } from '@viaticum/contract';
import { deltaE00 } from '@viaticum/kernels/colour';
import { mixColour } from '@viaticum/kernels/mixing';
import { dryFilmUm } from '../coat/index.js';
import { recipeParts } from '../mix/index.js';
import { groundUnder } from './looks.js';

/** What still shows of the ground counts as hidden under this (ΔE00): suggested pictures forgive more than rendered ones (our judgement). */
const HIDDEN_UNDER: Record<Lesson['school']['detail'], number> = { suggest: 3.2, render: 2 };
const MOST_COATS = 4;
export const loadFactor: Record<Load, number> = { thin: 0.6, normal: 1, generous: 1.5 };

/** How far (ΔE00) a number of coats of a mix lies from the mix itself over a ground; null without a recipe. */
function showsThrough(lesson: Lesson, mixId: string, step: Pick<Step, 'technique' | 'load'>, ground: Lab) {
  const mix = lesson.mixes.find((one) => one.id === mixId);
  const parts = mix && recipeParts(mix, lesson);
  if (!parts || !step.technique) return null;
  const { finish } = lesson;
  const dryUm = dryFilmUm({ technique: step.technique }) * loadFactor[step.load ?? 'normal'];
  const own = mixColour(parts, { finish }).lab;
  return (coats: number) => deltaE00(own, mixColour(parts, { finish, film: { dryUm: dryUm * coats }, ground }).lab);
}

/**
 * Coats of a mix until the ground under it no longer shows, at most four: one for good paint over a toned ground, two for student
 * white over a dark (common practice, no published source). One where its recipe is not known.
 */
export function coatsToHide(
  lesson: Lesson,
  mixId: string,
  step: Pick<Step, 'technique' | 'load'>,
  detail = lesson.school.detail,
  ground = groundUnder(lesson, mixId),
): number {
  const shows = showsThrough(lesson, mixId, step, ground);
  if (!shows) return 1;
  for (let coats = 1; coats < MOST_COATS; coats++) if (shows(coats) <= HIDDEN_UNDER[detail]) return coats;
  return MOST_COATS;
}

/** What one further coat over so many of them still changes (ΔE00). */
export function furtherCoatGain(lesson: Lesson, step: Step, laid: number): number {
  const mixId = step.mixIds[0] ?? '';
  const shows = showsThrough(lesson, mixId, step, groundUnder(lesson, mixId));
  return shows ? Math.max(0, shows(laid) - shows(laid + 1)) : 1;
}
