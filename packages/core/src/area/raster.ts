import type { Outline } from '@viaticum/contract';
import { type Labels, labels } from '@viaticum/kernels/raster';

/** Pixels of a raster whose centres lie inside an outline (mm): calls `fill(row, from, to)` for every run, `to` inclusive. */
export function scanOutline(
  outline: Outline,
  width: number,
  height: number,
  mmPerPx: number,
  fill: (row: number, from: number, to: number) => void,
): void {
  for (const polygon of outline) {
    let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
    for (const ring of polygon)
      for (const [, y] of ring) {
        low = Math.min(low, y);
        high = Math.max(high, y);
      }
    const first = Math.max(0, Math.floor(low / mmPerPx - 0.5));
    const last = Math.min(height - 1, Math.ceil(high / mmPerPx - 0.5));
    const cuts: number[][] = Array.from({ length: Math.max(0, last - first + 1) }, () => []);
    for (const ring of polygon)
      for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
        const [x1, y1] = ring[j] as [number, number];
        const [x2, y2] = ring[i] as [number, number];
        if (y1 === y2) continue;
        const from = Math.max(first, Math.ceil(Math.min(y1, y2) / mmPerPx - 0.5));
        const to = Math.min(last, Math.ceil(Math.max(y1, y2) / mmPerPx - 0.5) - 1);
        for (let row = from; row <= to; row++) {
          const y = (row + 0.5) * mmPerPx;
          cuts[row - first]?.push((x1 + ((y - y1) / (y2 - y1)) * (x2 - x1)) / mmPerPx - 0.5);
        }
      }
    cuts.forEach((list, k) => {
      list.sort((a, b) => a - b);
      for (let i = 0; i + 1 < list.length; i += 2) {
        const from = Math.max(0, Math.ceil(list[i] as number));
        const to = Math.min(width - 1, Math.floor((list[i + 1] as number) - 1e-9));
        if (from <= to) fill(first + k, from, to);
      }
    });
  }
}

/** Which sheet is seen at every pixel: the number of the frontmost outline, -1 where none lies. Back to front. */
export function labelSheets(sheets: readonly Outline[], width: number, height: number, mmPerPx: number): Labels {
  const map = labels(width, height);
  map.data.fill(-1);
  sheets.forEach((outline, label) => {
    scanOutline(outline, width, height, mmPerPx, (row, from, to) =>
      map.data.fill(label, row * width + from, row * width + to + 1),
    );
  });
  return map;
}
