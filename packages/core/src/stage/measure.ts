import type { Lab } from '@viaticum/contract';
import { deltaE00 } from '../colour/index.js';
import { blur, type LabRaster, labRaster, type Plane, type Rgba, shrink } from '../raster/index.js';

/** Half-closed eyes: a blur of this width. */
const SQUINT_MM = 6;
const CELL_MM = 3;

/**
 * How far a painted canvas lies from the picture when both are looked at with half-closed eyes (a blur of 6 mm in linear light is
 * taken as an average over cells and a blur of Lab): mean and 95th percentile of ΔE00.
 */
export function squintedOff(picture: Rgba, painted: Rgba, widthMm: number): { mean: number; p95: number } {
  const width = Math.max(4, Math.round(widthMm / CELL_MM));
  const height = Math.max(4, Math.round((width * painted.height) / painted.width));
  const [one, other] = [picture, painted].map((raster) =>
    squinted(labRaster(shrink(raster, Math.min(width, raster.width), Math.min(height, raster.height)))),
  ) as [LabRaster, LabRaster];
  const count = Math.min(one.l.length, other.l.length);
  const at = ({ l, a, b }: LabRaster, i: number): Lab => [l[i] as number, a[i] as number, b[i] as number];
  const offs = Float64Array.from({ length: count }, (_, i) => deltaE00(at(one, i), at(other, i))).sort();
  return { mean: offs.reduce((sum, off) => sum + off, 0) / Math.max(1, count), p95: offs[Math.floor(count * 0.95)] ?? 0 };
}

function squinted({ width, height, l, a, b }: LabRaster): LabRaster {
  const soft = (data: Float32Array): Float32Array => blur({ width, height, data } as Plane, SQUINT_MM / CELL_MM).data;
  return { width, height, l: soft(l), a: soft(a), b: soft(b) };
}
