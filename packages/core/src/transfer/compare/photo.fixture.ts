import type { Lesson } from '@viaticum/contract';
import { seeded } from '@viaticum/kernels/fixtures';
import { blur, type Rgba, rgba } from '@viaticum/kernels/raster';
import { evenly, homography, inverted, mapped, type Point } from '../../geometry/index.js';
import { flattened } from '../bezier.js';
import type { Line } from '../lines/index.js';
import type { Corners } from './index.js';

export type Planted = { wide?: number; high?: number; turnDeg?: number; off?: Point };

/** Where a planted error takes a place of a thing, about the thing's own middle. */
export function planted(
  points: readonly Point[],
  { wide = 1, high = 1, turnDeg = 0, off = [0, 0] }: Planted,
): (p: Point) => Point {
  const [xs, ys] = [points.map(([x]) => x), points.map(([, y]) => y)];
  const [cx, cy] = [(Math.min(...xs) + Math.max(...xs)) / 2, (Math.min(...ys) + Math.max(...ys)) / 2];
  const t = (turnDeg * Math.PI) / 180;
  return ([x, y]) => {
    const [dx, dy] = [(x - cx) * wide, (y - cy) * high];
    return [cx + dx * Math.cos(t) - dy * Math.sin(t) + off[0], cy + dx * Math.sin(t) + dy * Math.cos(t) + off[1]];
  };
}

/** Lines of some things (or of areas that belong to none), by their ids. */
export function linesOf(lesson: Lesson, lines: readonly Line[], ids: readonly string[]): Line[] {
  return lines.filter((line) => {
    const area = lesson.areas.find((one) => one.id === line.areaIds[0]);
    return ids.includes(area?.thingId ?? area?.id ?? '');
  });
}

/** A drawing in pencil on paper, with an error planted in some things as a whole; pixels of `mmPerPx`. */
export function pencilled(
  lesson: Lesson,
  lines: readonly Line[],
  ids: readonly string[] = [],
  error: Planted = {},
  mmPerPx = 0.5,
): Rgba {
  const { widthMm, heightMm } = lesson.support;
  const [width, height] = [Math.round(widthMm / mmPerPx), Math.round(heightMm / mmPerPx)];
  const ink = new Float32Array(width * height);
  const wrong = new Set(linesOf(lesson, lines, ids));
  const move = planted(
    [...wrong].flatMap(({ curve }) => flattened(curve, 2)),
    error,
  );
  for (const line of lines) {
    const put = wrong.has(line) ? move : (p: Point) => p;
    for (const p of evenly(flattened(line.curve, 0.5), 0.25)) {
      const [x, y] = put(p).map((value) => value / mmPerPx) as Point;
      for (let py = Math.floor(y) - 2; py <= Math.floor(y) + 2; py++)
        for (let px = Math.floor(x) - 2; px <= Math.floor(x) + 2; px++) {
          if (px < 0 || py < 0 || px >= width || py >= height) continue;
          const far = Math.hypot(px + 0.5 - x, py + 0.5 - y) * mmPerPx;
          ink[py * width + px] = Math.max(ink[py * width + px] as number, Math.exp(-((far / 0.45) ** 2)));
        }
    }
  }
  const out = rgba(width, height);
  for (let i = 0; i < ink.length; i++) {
    const tone = 238 - 130 * (ink[i] as number);
    out.data.set([tone, tone - 2, tone - 8, 255], i * 4);
  }
  return out;
}

/** A photograph of a flat picture on a table: from an angle, in uneven light, a little blurred and noisy. With its true corners. */
export function photographedFlat(
  flat: Rgba,
  seed: number,
  options: { table?: number; shadow?: number; noise?: number; blurPx?: number; tilt?: number } = {},
): { photo: Rgba; corners: Corners } {
  const { table = 96, shadow = 0.25, noise = 5, blurPx = 0.8, tilt = 0.06 } = options;
  const random = seeded(seed);
  const [width, height] = flat.height >= flat.width ? [800, 1000] : [1000, 800];
  const scale = 0.8 * Math.min(width / flat.width, height / flat.height);
  const [w, h] = [flat.width * scale, flat.height * scale];
  const [ox, oy] = [(width - w) / 2, (height - h) / 2];
  const shake = (x: number, y: number): Point => [
    ox + x + (random() - 0.5) * tilt * 2 * w,
    oy + y + (random() - 0.5) * tilt * 2 * h,
  ];
  const corners: Corners = [shake(0, 0), shake(w, 0), shake(w, h), shake(0, h)];
  const map = homography(
    [
      [0, 0],
      [flat.width, 0],
      [flat.width, flat.height],
      [0, flat.height],
    ],
    corners,
  );
  const back = inverted(map);
  const [sx, sy] = [random() - 0.5, random() - 0.5];
  const grain = () => (random() + random() + random() - 1.5) * 2 * noise;
  const planes = [0, 1, 2].map(() => new Float32Array(width * height));
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [u, v] = mapped(back, [x + 0.5, y + 0.5]);
      const isOn = u >= 0 && v >= 0 && u < flat.width && v < flat.height;
      const at =
        (Math.min(flat.height - 1, Math.max(0, Math.floor(v))) * flat.width +
          Math.min(flat.width - 1, Math.max(0, Math.floor(u)))) *
        4;
      const wood = table + 8 * Math.sin(x / 9 + Math.sin(y / 40) * 3);
      const light = 1 - shadow * (0.5 + sx * (x / width) + sy * (y / height));
      for (const [c, plane] of planes.entries())
        plane[y * width + x] = (isOn ? (flat.data[at + c] as number) : wood - c * 14) * light;
    }
  const out = rgba(width, height);
  for (const [c, data] of planes.entries()) {
    const soft = blur({ width, height, data }, blurPx).data;
    for (let i = 0; i < soft.length; i++) out.data[i * 4 + c] = (soft[i] as number) + grain();
  }
  for (let i = 3; i < out.data.length; i += 4) out.data[i] = 255;
  return { photo: out, corners };
}
