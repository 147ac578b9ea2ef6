import { say } from '@viaticum/contract';
import type { Point } from './point.js';

/**
 * A circle divided in n equal parts, the first point at three o'clock of a circle about the origin. The chord is 2R·sin(π/n);
 * for n = 6 it is the radius (Euclid, Things IV.15). Lengths in mm. Throws where there are fewer than 2 parts or no radius.
 */
export function circleDivision(radiusMm: number, n: number): { chordMm: number; points: Point[] } {
  if (!(radiusMm > 0)) throw new RangeError(say('A circle needs a radius above 0 mm.'));
  if (!Number.isInteger(n) || n < 2) throw new RangeError(say('A circle is divided in 2 parts or more.'));
  return {
    chordMm: 2 * radiusMm * Math.sin(Math.PI / n),
    points: Array.from({ length: n }, (_, i): Point => {
      const t = (2 * Math.PI * i) / n;
      return [radiusMm * Math.cos(t), radiusMm * Math.sin(t)];
    }),
  };
}
