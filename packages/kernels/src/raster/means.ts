import type { Labels, LabRaster } from './raster.js';

/** Mean L*, a*, b* of each label from 0 to `count` − 1; null where a label has no pixel. Other labels are left out. */
export function labelMeans({ data }: Labels, { l, a, b }: LabRaster, count: number): ([number, number, number] | null)[] {
  const sums = new Float64Array(count * 4);
  for (let at = 0; at < data.length; at++) {
    const label = data[at];
    if (label < 0 || label >= count) continue;
    const k = label * 4;
    sums[k] = sums[k] + l[at];
    sums[k + 1] = sums[k + 1] + a[at];
    sums[k + 2] = sums[k + 2] + b[at];
    sums[k + 3] = sums[k + 3] + 1;
  }
  return Array.from({ length: count }, (_, label) => {
    const [sl, sa, sb, n] = sums.subarray(label * 4, label * 4 + 4) as unknown as [number, number, number, number];
    return n > 0 ? [sl / n, sa / n, sb / n] : null;
  });
}
