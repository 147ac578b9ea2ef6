import type { Lab, Lesson } from '@viaticum/contract';
import { deltaE00 } from '@viaticum/kernels/colour';
import { mixColour } from '@viaticum/kernels/mixing';
import { looksOf } from '../derived/index.js';
import { paintOf } from '../mix/index.js';
import type { KitPaint } from './paint.js';
import { tubeShares } from './volumes.js';

/** A ground may be so dark and so light, L* (judged). */
const GROUND_L = { from: 35, to: 75 };
/** A left-over is as good as a mix within so much, ΔE00. */
const AS_GOOD = 3;

/** What is left on one painter's palette after the lesson, all of it mixed: how much, its colour, and whether it is a ground for the next. */
export type ScrapGrey = { ml: number; lab: Lab; rgb: readonly [number, number, number]; isGround: boolean };

/** All heaps that are left, mixed by volume; null where nothing is. */
export function scrapGrey(lesson: Lesson, { mixes }: KitPaint): ScrapGrey | null {
  const byTube = new Map<string, number>();
  let ml = 0;
  for (const { volume, premix } of mixes) {
    // What was kept for corrections and what was mixed more than needed; what lies on the palette cannot be had again.
    const left = volume.kept + (premix.batch ? 0 : Math.max(0, volume.growth));
    ml += left;
    for (const [tubeId, share] of tubeShares(lesson, volume.mixId)) byTube.set(tubeId, (byTube.get(tubeId) ?? 0) + left * share);
  }
  const parts = lesson.tubes.flatMap((tube) => {
    const part = byTube.get(tube.id) ?? 0;
    return part > 0 ? [{ pigment: paintOf(tube), parts: part }] : [];
  });
  if (parts.length === 0) return null;
  const { lab, srgb } = mixColour(parts, { finish: lesson.finish });
  return { ml, lab, rgb: srgb, isGround: lab[0] >= GROUND_L.from && lab[0] <= GROUND_L.to };
}

/** Mixes of the same lesson that a left-over of another one would do for: pairs within what nobody tells apart at an easel. */
export function standsInFor(lesson: Lesson, { mixes }: KitPaint): { left: string; for: string; deltaE: number }[] {
  const looks = looksOf(lesson);
  const found: { left: string; for: string; deltaE: number }[] = [];
  mixes.forEach(({ premix: one }, i) => {
    for (const { premix: other } of mixes.slice(i + 1)) {
      const [a, b] = [looks.get(one.mix.id)?.colour?.lab, looks.get(other.mix.id)?.colour?.lab];
      const deltaE = a && b ? deltaE00(a, b) : Number.POSITIVE_INFINITY;
      if (deltaE <= AS_GOOD) found.push({ left: one.mix.name, for: other.mix.name, deltaE });
    }
  });
  return found.sort((one, other) => one.deltaE - other.deltaE);
}
