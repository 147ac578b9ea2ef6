import type { Lesson } from '@viaticum/contract';
import { mixColour } from '@viaticum/kernels/mixing';
import type { LabRaster } from '@viaticum/kernels/raster';
import { memo } from '../derived/index.js';
import { stockOf } from '../mix/index.js';

/** The darkest and the lightest L* that a lesson's tubes reach, dry. */
export type Reach = { dark: number; light: number };

const reaches = memo((tubes: Lesson['tubes'], finish: Lesson['finish']) => reachOfTubes(tubes, finish), 4);
/** What the tubes reach: the darkest of all mixtures of two, and the lightest tube; 15 to 96 where there are none. */
export const reachOf = (lesson: Lesson): Reach => reaches(lesson.tubes, lesson.finish);

function reachOfTubes(tubes: Lesson['tubes'], finish: Lesson['finish']): Reach {
  const paints = stockOf({ tubes, mixes: [] });
  if (paints.length === 0) return { dark: 15, light: 96 };
  let [dark, light] = [100, 0];
  paints.forEach((one, i) => {
    light = Math.max(light, mixColour([{ pigment: one, parts: 1 }], { finish }).lab[0]);
    for (const other of paints.slice(i)) {
      const parts = [
        { pigment: one, parts: 1 },
        { pigment: other, parts: 1 },
      ];
      dark = Math.min(dark, mixColour(parts, { finish }).lab[0]);
    }
  });
  return { dark, light };
}

/** Ends of the picture's own range: a thousandth of it may lie beyond. */
function endsOf(l: Float32Array): { low: number; high: number } {
  const counts = new Uint32Array(1001);
  for (const value of l) {
    const bin = Math.max(0, Math.min(1000, Math.round(value * 10)));
    counts[bin] = (counts[bin] as number) + 1;
  }
  const few = l.length / 1000;
  let [low, high, below, above] = [0, 1000, 0, 0];
  for (; low < 1000 && below + (counts[low] as number) <= few; low++) below += counts[low] as number;
  for (; high > low && above + (counts[high] as number) <= few; high--) above += counts[high] as number;
  return { low: low / 10, high: high / 10 };
}

/** A picture moved into the palette's reach: where its darkest darks or lightest lights lie beyond, its values are drawn together evenly. */
export function movedIntoReach(picture: LabRaster, { dark, light }: Reach): LabRaster {
  const { low, high } = endsOf(picture.l);
  const [from, to] = [Math.max(low, dark), Math.min(high, light)];
  if (from <= low && to >= high) return picture;
  const scale = high > low ? (to - from) / (high - low) : 1;
  const l = picture.l.map((value) => Math.max(from, Math.min(to, from + (value - low) * scale)));
  return { ...picture, l };
}
