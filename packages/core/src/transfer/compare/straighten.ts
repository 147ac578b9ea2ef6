import { blur, labRaster, type Rgba, rgba } from '@viaticum/kernels/raster';
import { type Homography, homography, mapped, type Point } from '../../geometry/index.js';
import { type Corners, cornersFault } from './corners.js';

/** Size of a pixel of a straightened photograph, at most so many pixels. */
const PX_MM = 0.7;
const MOST_PIXELS = 700_000;

/** From canvas mm to pixels of a photograph, by its corners. Throws a sentence where they give no picture plane. */
export function canvasToPhoto(canvas: { widthMm: number; heightMm: number }, corners: Corners): Homography {
  const fault = cornersFault(corners);
  if (fault) throw new RangeError(fault);
  const { widthMm: w, heightMm: h } = canvas;
  return homography(
    [
      [0, 0],
      [w, 0],
      [w, h],
      [0, h],
    ],
    corners,
  );
}

export type Straight = { picture: Rgba; mmPerPx: number };

/** A photograph as it looks straight from the front: the canvas alone, its corners in the corners. */
export function straightened(photo: Rgba, canvas: { widthMm: number; heightMm: number }, corners: Corners): Straight {
  const mmPerPx = Math.max(
    PX_MM,
    Math.sqrt((canvas.widthMm * canvas.heightMm) / MOST_PIXELS),
    Math.min(canvas.widthMm, canvas.heightMm) / 2000,
  );
  const [width, height] = [
    Math.max(16, Math.round(canvas.widthMm / mmPerPx)),
    Math.max(16, Math.round(canvas.heightMm / mmPerPx)),
  ];
  const map = canvasToPhoto(canvas, corners);
  const out = rgba(width, height);
  const [sx, sy] = [canvas.widthMm / width, canvas.heightMm / height];
  // Where the photograph is finer than the result, four places of each pixel are averaged.
  const [a, b] = [mapped(map, [0, 0]), mapped(map, [sx, sy])];
  const parts = Math.hypot(b[0] - a[0], b[1] - a[1]) > 2.5 ? [0.25, 0.75] : [0.5];
  const sum = [0, 0, 0];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      sum.fill(0);
      for (const v of parts)
        for (const u of parts) {
          const [px, py] = mapped(map, [(x + u) * sx, (y + v) * sy]);
          add(photo, px - 0.5, py - 0.5, sum);
        }
      const to = (y * width + x) * 4;
      for (let c = 0; c < 3; c++) out.data[to + c] = Math.round((sum[c] as number) / parts.length ** 2);
      out.data[to + 3] = 255;
    }
  return { picture: out, mmPerPx: sx };
}

function add({ width, height, data }: Rgba, x: number, y: number, sum: number[]): void {
  const [x0, y0] = [Math.max(0, Math.min(width - 2, Math.floor(x))), Math.max(0, Math.min(height - 2, Math.floor(y)))];
  const [fx, fy] = [Math.max(0, Math.min(1, x - x0)), Math.max(0, Math.min(1, y - y0))];
  for (let c = 0; c < 3; c++) {
    const at = (y0 * width + x0) * 4 + c;
    const top = (data[at] as number) * (1 - fx) + (data[at + 4] as number) * fx;
    const low = (data[at + width * 4] as number) * (1 - fx) + (data[at + width * 4 + 4] as number) * fx;
    sum[c] = (sum[c] as number) + top * (1 - fy) + low * fy;
  }
}

const SIGMA_MM = 1;
/** Seen through three times the blur, a sharp line loses more than half; one that was blurred already loses nothing. */
const COARSE = 3;
const LEAST_SHARPNESS = { lines: 0.8, paint: 0.35 } as const;
/** The least step in L* that is told from noise. */
const LEAST_STEP = { lines: 1.2, paint: 1 } as const;
const EDGE_SHARE = 0.09;
const STRONG_SHARE = 0.015;

export type Seen = {
  /** Places where a line or edge is seen (mm), and its direction there (radians, 0 to π). */
  points: Point[];
  turns: number[];
  /** Whether the photograph is sharp enough, and shows enough, to be measured. */
  isClear: boolean;
};

/** Lines (dark on light, or light on dark) or edges of paint in a straightened photograph. */
export function seenIn({ picture, mmPerPx }: Straight, what: 'lines' | 'paint'): Seen {
  const { width, height } = picture;
  const { l } = labRaster(picture);
  const sigma = SIGMA_MM / mmPerPx;
  const fine = strengthOf(blur({ width, height, data: l }, sigma).data, width, height, what);
  const coarse = strengthOf(blur({ width, height, data: l }, sigma * COARSE).data, width, height, what);
  // Measured by the blur's own size, so that both can be compared.
  const gain = what === 'lines' ? COARSE * COARSE : COARSE;
  const sorted = Float32Array.from(fine.strength).sort();
  const [one, other] = [at(sorted, 1 - STRONG_SHARE), at(Float32Array.from(coarse.strength).sort(), 1 - STRONG_SHARE) * gain];
  const step = one * (what === 'lines' ? sigma * sigma : sigma);
  const limit = Math.max(at(sorted, 1 - EDGE_SHARE), at(sorted, 0.5) * 3);
  return {
    ...picked(fine, limit, width, height, mmPerPx),
    isClear: one > other * LEAST_SHARPNESS[what] && step > LEAST_STEP[what],
  };
}

const at = (sorted: Float32Array, share: number): number =>
  sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] as number;

type Strength = { strength: Float32Array; normal: Float32Array };
/** At every pixel how strong a line or edge is, and the direction across it. Lines are all dark or all light: beside a dark one lie two pale shadows of it. */
function strengthOf(l: Float32Array, width: number, height: number, what: 'lines' | 'paint'): Strength {
  if (what === 'paint') return edges(l, width, height);
  const [dark, light] = [bends(l, width, height, 1), bends(l, width, height, -1)];
  const strong = ({ strength }: Strength) => at(Float32Array.from(strength).sort(), 1 - STRONG_SHARE);
  return strong(dark) >= strong(light) ? dark : light;
}

function edges(l: Float32Array, width: number, height: number): Strength {
  const [strength, normal] = [new Float32Array(width * height), new Float32Array(width * height)];
  for (let y = 2; y < height - 2; y++)
    for (let x = 2; x < width - 2; x++) {
      const i = y * width + x;
      const dx = ((l[i + 1] as number) - (l[i - 1] as number)) / 2;
      const dy = ((l[i + width] as number) - (l[i - width] as number)) / 2;
      strength[i] = Math.hypot(dx, dy);
      normal[i] = Math.atan2(dy, dx);
    }
  return { strength, normal };
}

/** How much lightness bends upwards across a dark line (sign 1), or downwards across a light one (−1). */
function bends(l: Float32Array, width: number, height: number, sign: 1 | -1): Strength {
  const [strength, normal] = [new Float32Array(width * height), new Float32Array(width * height)];
  for (let y = 2; y < height - 2; y++)
    for (let x = 2; x < width - 2; x++) {
      const i = y * width + x;
      const here = l[i] as number;
      const xx = sign * ((l[i - 1] as number) - 2 * here + (l[i + 1] as number));
      const yy = sign * ((l[i - width] as number) - 2 * here + (l[i + width] as number));
      const xy =
        (sign *
          ((l[i + width + 1] as number) -
            (l[i + width - 1] as number) -
            (l[i - width + 1] as number) +
            (l[i - width - 1] as number))) /
        4;
      strength[i] = Math.max(0, (xx + yy) / 2 + Math.hypot((xx - yy) / 2, xy));
      normal[i] = 0.5 * Math.atan2(2 * xy, xx - yy);
    }
  return { strength, normal };
}

function picked(
  { strength, normal }: Strength,
  limit: number,
  width: number,
  height: number,
  mmPerPx: number,
): Pick<Seen, 'points' | 'turns'> {
  const [points, turns]: [Point[], number[]] = [[], []];
  for (let y = 3; y < height - 3; y++)
    for (let x = 3; x < width - 3; x++) {
      const i = y * width + x;
      const here = strength[i] as number;
      if (here < limit || here <= 0) continue;
      const [dx, dy] = [Math.cos(normal[i] as number), Math.sin(normal[i] as number)];
      const [before, after] = [-1, 1].map((k) => strength[Math.round(y + k * dy) * width + Math.round(x + k * dx)] as number) as [
        number,
        number,
      ];
      if (before > here || after >= here) continue;
      const bend = before - 2 * here + after;
      const shift = bend < -1e-9 ? Math.max(-0.5, Math.min(0.5, (before - after) / (2 * bend))) : 0;
      points.push([(x + 0.5 + shift * dx) * mmPerPx, (y + 0.5 + shift * dy) * mmPerPx]);
      turns.push(((((normal[i] as number) + Math.PI / 2) % Math.PI) + Math.PI) % Math.PI);
    }
  return { points, turns };
}
