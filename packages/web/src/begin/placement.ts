import type { Placement } from '@viaticum/contract';
import { coverWhenTurned, fillPlacement } from '@viaticum/core/picture';

export type Pixels = { widthPx: number; heightPx: number };
export type Size = { widthMm: number; heightMm: number; unit: 'in' | 'cm' };
/** How a picture was moved under its canvas, from where it just fills it. */
export type Moved = { dxMm: number; dyMm: number; zoom: number; turnDeg: number };
export const unmoved: Moved = { dxMm: 0, dyMm: 0, zoom: 1, turnDeg: 0 };

const scaleOf = (pixels: Pixels, size: Size, { zoom, turnDeg }: Moved): number =>
  fillPlacement(pixels, size).mmPerPx * zoom * coverWhenTurned(turnDeg, size);

/** Moved no farther than the picture reaches: the canvas is never left bare. */
export function held(pixels: Pixels, size: Size, moved: Moved): Moved {
  const mmPerPx = scaleOf(pixels, size, moved);
  const within = (by: number, px: number, mm: number) => {
    const most = Math.max(0, (px * mmPerPx - mm) / 2);
    return Math.max(-most, Math.min(most, by));
  };
  return {
    ...moved,
    dxMm: within(moved.dxMm, pixels.widthPx, size.widthMm),
    dyMm: within(moved.dyMm, pixels.heightPx, size.heightMm),
  };
}

/** Where a picture lies under a canvas that it fills, moved, larger and turned. */
export function placementOf(pixels: Pixels, size: Size, moved: Moved): Placement {
  const { dxMm, dyMm, turnDeg } = held(pixels, size, moved);
  const mmPerPx = scaleOf(pixels, size, moved);
  return {
    mmPerPx,
    xMm: (size.widthMm - pixels.widthPx * mmPerPx) / 2 + dxMm,
    yMm: (size.heightMm - pixels.heightPx * mmPerPx) / 2 + dyMm,
    rotationDeg: turnDeg,
    flip: false,
  };
}

/** A canvas as it is sold, lying or standing. */
export const turnedSize = ({ widthMm, heightMm, unit }: Size, isLying: boolean): Size =>
  isLying === widthMm > heightMm ? { widthMm, heightMm, unit } : { widthMm: heightMm, heightMm: widthMm, unit };
