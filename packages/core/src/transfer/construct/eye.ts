import type { Eye, Lesson } from '@viaticum/contract';

/** The eye as it was set, or a usual one: before the middle, horizon at two fifths, as far off as the canvas is long twice over. */
export function eyeOf({ drawing, support }: Lesson): Eye {
  if (drawing.eye) return drawing.eye;
  // Where edges were said to vanish, there is the horizon.
  const points = drawing.constructions.flatMap((one) => (one.kind === 'vanishing' ? one.points : []));
  const mean = (axis: 0 | 1) => points.reduce((sum, point) => sum + point[axis], 0) / points.length;
  return {
    xMm: points.length > 0 ? Math.min(support.widthMm, Math.max(0, mean(0))) : support.widthMm / 2,
    horizonMm: points.length > 0 ? mean(1) : support.heightMm * 0.4,
    distanceMm: 2 * Math.hypot(support.widthMm, support.heightMm),
  };
}
