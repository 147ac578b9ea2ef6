import type { Outline, Placement } from '@viaticum/contract';
import { clipToCanvas, outlineArea } from '../area/index.js';
import { MM_PER_INCH } from '../units/index.js';

type Size = { widthMm: number; heightMm: number };
type Pixels = { widthPx: number; heightPx: number };

/** The placement in which a picture just fills a canvas, centred. */
export function fillPlacement({ widthPx, heightPx }: Pixels, { widthMm, heightMm }: Size): Placement {
  const mmPerPx = Math.max(widthMm / widthPx, heightMm / heightPx);
  return {
    mmPerPx,
    xMm: (widthMm - widthPx * mmPerPx) / 2,
    yMm: (heightMm - heightPx * mmPerPx) / 2,
    rotationDeg: 0,
    flip: false,
  };
}

/** How small and how large a picture may lie, as factors of just filling the canvas. */
export const pictureSizes = { least: 0.3, most: 4 } as const;

/**
 * A placed picture as large as `mmPerPx`, with what lies at `about` (canvas mm) staying there. The picture turns about its own middle, so
 * that its turn makes no difference.
 */
export function scaledAbout(
  { widthPx, heightPx }: Pixels,
  placement: Placement,
  mmPerPx: number,
  [x, y]: readonly [number, number],
): Placement {
  const ratio = mmPerPx / placement.mmPerPx;
  const [halfW, halfH] = [(widthPx * placement.mmPerPx) / 2, (heightPx * placement.mmPerPx) / 2];
  return {
    ...placement,
    mmPerPx,
    xMm: x + (placement.xMm + halfW - x) * ratio - halfW * ratio,
    yMm: y + (placement.yMm + halfH - y) * ratio - halfH * ratio,
  };
}

/** Where a pixel of a placed picture lies on the canvas, in mm. The picture turns about its own middle. */
export function pixelToCanvas(
  { widthPx, heightPx }: Pixels,
  placement: Placement,
  [px, py]: readonly [number, number],
): [number, number] {
  const { mmPerPx, xMm, yMm, rotationDeg, flip } = placement;
  const turn = (rotationDeg * Math.PI) / 180;
  const [dx, dy] = [((flip ? widthPx - px : px) - widthPx / 2) * mmPerPx, (py - heightPx / 2) * mmPerPx];
  return [
    xMm + (widthPx / 2) * mmPerPx + dx * Math.cos(turn) - dy * Math.sin(turn),
    yMm + (heightPx / 2) * mmPerPx + dx * Math.sin(turn) + dy * Math.cos(turn),
  ];
}

/** The pixel of a placed picture that lies under a place on the canvas, in mm; may lie outside the picture. */
export function canvasToPixel(
  { widthPx, heightPx }: Pixels,
  placement: Placement,
  [x, y]: readonly [number, number],
): [number, number] {
  const { mmPerPx, xMm, yMm, rotationDeg, flip } = placement;
  const turn = (-rotationDeg * Math.PI) / 180;
  const [dx, dy] = [x - xMm - (widthPx / 2) * mmPerPx, y - yMm - (heightPx / 2) * mmPerPx];
  const px = (dx * Math.cos(turn) - dy * Math.sin(turn)) / mmPerPx + widthPx / 2;
  const py = (dx * Math.sin(turn) + dy * Math.cos(turn)) / mmPerPx + heightPx / 2;
  return [flip ? widthPx - px : px, py];
}

/** The corners of a placed picture on the canvas as an outline in mm. */
export function pictureOutline(picture: Pixels, placement: Placement): Outline {
  const corners: [number, number][] = [
    [0, 0],
    [picture.widthPx, 0],
    [picture.widthPx, picture.heightPx],
    [0, picture.heightPx],
  ];
  return [[corners.map((corner) => pixelToCanvas(picture, placement, corner))]];
}

/**
 * What a crop costs: the share of the picture that falls off the canvas, the share of the canvas without a picture under it
 * (both 0-1), and the picture's dots per inch at this size.
 */
export function cropMeasures(
  picture: Pixels,
  placement: Placement,
  canvas: Size,
): { lostShare: number; bareShare: number; dpi: number } {
  const outline = pictureOutline(picture, placement);
  const seen = outlineArea(clipToCanvas(outline, canvas));
  const tiny = (share: number) => (share < 1e-6 ? 0 : share);
  return {
    lostShare: tiny(1 - seen / outlineArea(outline)),
    bareShare: tiny(1 - seen / (canvas.widthMm * canvas.heightMm)),
    dpi: MM_PER_INCH / placement.mmPerPx,
  };
}

/** Blur in mm on the canvas by which squinting loses detail: what 1 arc minute blurs at a distance (m), times ten for half-closed eyes. */
export function squintBlurMm(distanceM: number): number {
  const ARC_MINUTE = 0.000291; // rad; visual acuity, common in optics
  const HALF_CLOSED = 10; // from memory
  return distanceM * 1000 * ARC_MINUTE * HALF_CLOSED;
}

/** A canvas as it is sold, lying or standing as the picture does, and the share of the picture that it cuts off. */
export type FittingSize<S extends Size> = { size: S; isLying: boolean; lostShare: number };
/** Middle of what classes paint on, mm². */
const USUAL_MM2 = 14 * 18 * MM_PER_INCH * MM_PER_INCH;
/** Losses that differ by no more than this are alike. */
const ALIKE_LOSS = 0.01;

/**
 * Canvases by what they cut off of a picture, least first; of those that lose as much, the one that is neither small nor large. 1 − the smaller
 * proportion over the larger is lost when a picture fills a canvas.
 */
export function fittingSizes<S extends Size>({ widthPx, heightPx }: Pixels, sizes: readonly S[]): FittingSize<S>[] {
  const isLying = widthPx > heightPx;
  const long = Math.max(widthPx, heightPx) / Math.min(widthPx, heightPx);
  const unusual = ({ widthMm, heightMm }: Size) => Math.abs(Math.log((widthMm * heightMm) / USUAL_MM2));
  const rows = sizes.map((size): FittingSize<S> => {
    const own = Math.max(size.widthMm, size.heightMm) / Math.min(size.widthMm, size.heightMm);
    return { size, isLying: isLying && size.widthMm !== size.heightMm, lostShare: 1 - Math.min(own, long) / Math.max(own, long) };
  });
  const least = Math.min(...rows.map((row) => row.lostShare));
  const step = (row: FittingSize<S>) => Math.floor((row.lostShare - least) / ALIKE_LOSS);
  return rows.sort((a, b) => step(a) - step(b) || unusual(a.size) - unusual(b.size));
}

/** By how much a picture that is turned by `deg` must be larger to cover its canvas still. */
export function coverWhenTurned(deg: number, { widthMm, heightMm }: Size): number {
  const turn = (Math.abs(deg) * Math.PI) / 180;
  const ratio = Math.max(widthMm / heightMm, heightMm / widthMm);
  return Math.cos(turn) + ratio * Math.sin(turn);
}
