import { photographed, scenes } from '../../../../tools/demo/paint.mjs';
import { type Rgba, rgba } from '../raster/index.js';

/** One of our painted scenes as a picture with its true regions. */
export async function scene(
  name: 'balloons' | 'kettle' | 'star' | 'roofs' | 'lamp' | 'abstract',
  width: number,
  seed: number,
  without: string[] = [],
) {
  const painted = await photographed({ scene: name, width, seed, without });
  return { ...painted, picture: toRgba(painted), zones: scenes[name]?.zones ?? [], canvas: scenes[name]?.canvas };
}

export function toRgba({ width, height, rgb }: { width: number; height: number; rgb: ArrayLike<number> }): Rgba {
  const out = rgba(width, height);
  for (let i = 0; i < width * height; i++) {
    for (let c = 0; c < 3; c++) out.data[i * 4 + c] = rgb[i * 3 + c] as number;
    out.data[i * 4 + 3] = 255;
  }
  return out;
}

/** A picture from a function of the pixel. */
export function drawn(width: number, height: number, colour: (x: number, y: number) => [number, number, number]): Rgba {
  const out = rgba(width, height);
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) out.data.set([...colour(x, y), 255], (y * width + x) * 4);
  return out;
}

/** Mean intersection over union of true regions with found ones, each with the best not yet taken. */
export function meanOverlap(truth: ArrayLike<number>, found: ArrayLike<number>, regions: number, zones: number): number {
  const both = new Map<number, number>();
  const [a, b] = [new Float64Array(regions), new Float64Array(zones)];
  for (let i = 0; i < truth.length; i++) {
    const [r, z] = [truth[i] as number, found[i] as number];
    both.set(r * zones + z, (both.get(r * zones + z) ?? 0) + 1);
    a[r] = (a[r] as number) + 1;
    b[z] = (b[z] as number) + 1;
  }
  const pairs = [...both].map(([key, n]) => {
    const [r, z] = [Math.floor(key / zones), key % zones];
    return { r, z, iou: n / ((a[r] as number) + (b[z] as number) - n) };
  });
  pairs.sort((p, q) => q.iou - p.iou);
  const [taken, given] = [new Set<number>(), new Set<number>()];
  let sum = 0;
  for (const { r, z, iou } of pairs) {
    if (taken.has(r) || given.has(z)) continue;
    taken.add(r);
    given.add(z);
    sum += iou;
  }
  return sum / regions;
}
