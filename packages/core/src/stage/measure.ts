import type { Lab, Lesson } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { deltaE00 } from '@viaticum/kernels/colour';
import { blur, type LabRaster, labRaster, type Plane, type Rgba, shrink } from '@viaticum/kernels/raster';
import { labelSheets } from '../area/index.js';
import { visibleOf } from '../derived/index.js';
import { movedIntoReach, reachOf } from './reach.js';

/** Half-closed eyes: a blur of this width. */
const SQUINT_MM = 6;
const CELL_MM = 3;

export type Off = { mean: number; p95: number };
type SquintedPicture = { lab: LabRaster; of: Rgba };

/**
 * How far a painted canvas lies from the picture when both are looked at with half-closed eyes (a blur of 6 mm in linear light is
 * taken as an average over cells and a blur of Lab): mean and 95th percentile of ΔE00. With a lesson the picture is first moved into
 * the reach of its tubes.
 */
export function squintedOff(picture: Rgba, painted: Rgba, widthMm: number, lesson?: Lesson): Off {
  return offFrom(asSquinted(picture, widthMm, lesson), painted, widthMm);
}

/** {@link squintedOff} of every painted canvas, in the order of the steps. */
export function offBySteps(lesson: Lesson, picture: Rgba, canvases: ReadonlyMap<string, Rgba>): (Off & { stepId: string })[] {
  const { widthMm } = lesson.support;
  const aim = asSquinted(picture, widthMm, lesson);
  return lesson.steps.flatMap(({ id }) => {
    const canvas = canvases.get(id);
    return canvas ? [{ stepId: id, ...offFrom(aim, canvas, widthMm) }] : [];
  });
}

/** How an area of a painted canvas lies from the picture, half-closed eyes: mean ΔE00, the mean colours of both, and where in it that is worst. */
export type AreaOff = { areaId: string; share: number; mean: number; painted: Lab; pictured: Lab; where: string | null };

/** {@link squintedOff} of one painted canvas, area by area as they are seen. */
export function offByAreas(lesson: Lesson, picture: Rgba, canvas: Rgba): AreaOff[] {
  const { widthMm } = lesson.support;
  const { lab: aim } = asSquinted(picture, widthMm, lesson);
  const other = squinted(labRaster(inCells(canvas, widthMm)));
  const parts = visibleOf(lesson);
  const sheets = labelSheets(
    parts.map((part) => part.outline),
    aim.width,
    aim.height,
    widthMm / aim.width,
  ).data;
  const at = ({ l, a, b }: LabRaster, i: number): Lab => [l[i] as number, a[i] as number, b[i] as number];
  const meanOf = (raster: LabRaster, places: readonly number[]): Lab =>
    [0, 1, 2].map((c) => places.reduce((sum, i) => sum + (at(raster, i)[c] as number), 0) / places.length) as Lab;
  return parts.flatMap(({ id }, k): AreaOff[] => {
    const places: number[] = [];
    sheets.forEach((label, i) => {
      if (label === k && i < other.l.length) places.push(i);
    });
    if (places.length === 0) return [];
    const offs = places.map((i) => deltaE00(at(aim, i), at(other, i)));
    return [
      {
        areaId: id,
        share: places.length / sheets.length,
        mean: offs.reduce((sum, off) => sum + off, 0) / offs.length,
        painted: meanOf(other, places),
        pictured: meanOf(aim, places),
        where: worstSide(places, offs, aim.width),
      },
    ];
  });
}

/** A side of an area is worst where it lies so much farther off than the opposite one. */
const CLEARLY = 1.5;
/** On which side of itself an area is worst; null where none is clearly worse. */
function worstSide(places: readonly number[], offs: readonly number[], width: number): string | null {
  const [xs, ys] = [places.map((i) => i % width), places.map((i) => Math.floor(i / width))];
  const middle = (list: readonly number[]) => [...list].sort((a, b) => a - b)[list.length >> 1] as number;
  const [cx, cy] = [middle(xs), middle(ys)];
  const mean = (isThere: (k: number) => boolean) => {
    const own = offs.filter((_, k) => isThere(k));
    return own.length < 3 ? null : own.reduce((sum, off) => sum + off, 0) / own.length;
  };
  const sides = [
    [say('at the top'), mean((k) => (ys[k] as number) < cy), mean((k) => (ys[k] as number) > cy)],
    [say('at the bottom'), mean((k) => (ys[k] as number) > cy), mean((k) => (ys[k] as number) < cy)],
    [say('on the left'), mean((k) => (xs[k] as number) < cx), mean((k) => (xs[k] as number) > cx)],
    [say('on the right'), mean((k) => (xs[k] as number) > cx), mean((k) => (xs[k] as number) < cx)],
  ] as const;
  const worst = sides
    .flatMap(([side, own, opposite]) => (own !== null && opposite !== null ? [{ side, by: own / Math.max(0.1, opposite) }] : []))
    .sort((one, other) => other.by - one.by)[0];
  return worst && worst.by > CLEARLY ? worst.side : null;
}

function asSquinted(picture: Rgba, widthMm: number, lesson?: Lesson): SquintedPicture {
  const small = inCells(picture, widthMm);
  const lab = labRaster(small);
  return { lab: squinted(lesson ? movedIntoReach(lab, reachOf(lesson)) : lab), of: picture };
}

function inCells(raster: Rgba, widthMm: number): Rgba {
  const width = Math.max(4, Math.round(widthMm / CELL_MM));
  const height = Math.max(4, Math.round((width * raster.height) / raster.width));
  return shrink(raster, Math.min(width, raster.width), Math.min(height, raster.height));
}

function offFrom({ lab: one, of }: SquintedPicture, painted: Rgba, widthMm: number): Off {
  const small = inCells(painted, widthMm);
  const other = squinted(labRaster(small));
  if (other.width !== one.width || Math.abs(other.height - one.height) > 1)
    throw new RangeError(
      `A canvas of ${painted.width} × ${painted.height} cannot be held beside a picture of ${of.width} × ${of.height}.`,
    );
  const count = Math.min(one.l.length, other.l.length);
  const at = ({ l, a, b }: LabRaster, i: number): Lab => [l[i] as number, a[i] as number, b[i] as number];
  const offs = Float64Array.from({ length: count }, (_, i) => deltaE00(at(one, i), at(other, i))).sort();
  return { mean: offs.reduce((sum, off) => sum + off, 0) / Math.max(1, count), p95: offs[Math.floor(count * 0.95)] ?? 0 };
}

function squinted({ width, height, l, a, b }: LabRaster): LabRaster {
  const soft = (data: Float32Array): Float32Array => blur({ width, height, data } as Plane, SQUINT_MM / CELL_MM).data;
  return { width, height, l: soft(l), a: soft(a), b: soft(b) };
}
