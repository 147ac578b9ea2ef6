import type { Eye, Lesson } from '@viaticum/contract';

/** The eye as it was set, or a usual one: before the middle, horizon at two fifths, as far off as the canvas is long twice over. */
export function eyeOf({ drawing, support }: Lesson): Eye {
  return (
    drawing.eye ?? {
      xMm: support.widthMm / 2,
      horizonMm: support.heightMm * 0.4,
      distanceMm: 2 * Math.hypot(support.widthMm, support.heightMm),
    }
  );
}
