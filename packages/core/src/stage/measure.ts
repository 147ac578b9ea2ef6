import type { Lab, Lesson } from '@viaticum/contract';
import { deltaE00 } from '@viaticum/kernels/colour';
import { blur, type LabRaster, labRaster, type Plane, type Rgba, shrink } from '@viaticum/kernels/raster';
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
