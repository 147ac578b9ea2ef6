import type { Lab, Lesson, Tube } from '@viaticum/contract';
import { deltaE00 } from '@viaticum/kernels/colour';
import { formerPaint } from '@viaticum/kernels/former-pigment';
import { mixColour, type Spectra } from '@viaticum/kernels/mixing';
import { paintOf, recipeParts, type Stock, weakened } from '../mix/index.js';

/** A mix that looks otherwise than when the lesson was written. */
export type Changed = { mixId: string; before: Lab; now: Lab; deltaE: number };
/** Seen side by side. */
const SEEN = 2;

/**
 * The mixes of a lesson that look otherwise by the present table of pigments than by the former one, most changed first; tubes of
 * one's own are as their samples say in both.
 */
export function lookOtherwise(lesson: Lesson): Changed[] {
  const paints = new Map(lesson.tubes.map((tube) => [tube, formerOf(tube)]));
  const { tubes, mixes, finish } = lesson;
  const former: Stock = { tubes, mixes, finish, paint: (tube) => paints.get(tube) ?? paintOf(tube) };
  return lesson.mixes
    .flatMap((mix): Changed[] => {
      const [was, is] = [recipeParts(mix, former), recipeParts(mix, lesson)];
      if (!was || !is) return [];
      const [before, now] = [was, is].map((parts) => mixColour(parts, { finish: lesson.finish }).lab) as [Lab, Lab];
      const deltaE = deltaE00(before, now);
      return deltaE > SEEN ? [{ mixId: mix.id, before, now, deltaE }] : [];
    })
    .sort((one, other) => other.deltaE - one.deltaE);
}

function formerOf(tube: Tube): Spectra {
  const former = tube.own ? null : formerPaint(tube.pigment);
  return former ? weakened(former, tube.grade) : paintOf(tube);
}
