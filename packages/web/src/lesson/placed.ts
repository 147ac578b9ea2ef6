import type { Placement } from '@viaticum/contract';

/** A picture of so many px as SVG lays it under a canvas in mm: turned about its own middle. */
export const placedTransform = (
  { widthPx, heightPx }: { widthPx: number; heightPx: number },
  { mmPerPx, xMm, yMm, rotationDeg, flip }: Placement,
): string =>
  `translate(${xMm + (widthPx * mmPerPx) / 2} ${yMm + (heightPx * mmPerPx) / 2}) rotate(${rotationDeg}) scale(${flip ? -mmPerPx : mmPerPx} ${mmPerPx}) translate(${-widthPx / 2} ${-heightPx / 2})`;
