import { blur, type LabRaster, type Plane, plane } from '@viaticum/kernels/raster';
import { evenly, lengthOf, type Point } from '../../geometry/index.js';
import { STEP_MM } from './borders.js';
import { softened } from './chains.js';

export type Inner = { points: Point[]; deltaE: number };

const SIGMA_MM = 1.1;
const HIGH = 9;
const LOW = 4;
const LEAST_MM = 8;
const BRIDGE_PX = 4;

/**
 * Lines within a picture where its colour steps: edges after Canny (1986) on L*, a* and b* (the last two at 0.7), a step of ΔE 9
 * begins a line and of 4 carries it on. `forbidden` (1 a pixel) is left out. Points in mm, evenly spaced, with the mean step.
 */
export function innerLines(lab: LabRaster, mmPerPx: number, forbidden: Uint8Array): Inner[] {
  const { width, height } = lab;
  const sigma = SIGMA_MM / mmPerPx;
  const soft = (data: Float32Array) => blur({ width, height, data }, sigma);
  const planes: [Plane, number][] = [
    [soft(lab.l), 1],
    [soft(lab.a), 0.7],
    [soft(lab.b), 0.7],
  ];
  const { strength, across, down } = steps(planes, sigma);
  const thin = thinned(strength, across, down, forbidden);
  return chains(thin, strength, across, down)
    .map((chain) => ({
      points: chain.map((at) => refined(at, strength, across, down, width, height, mmPerPx)),
      deltaE: chain.reduce((sum, at) => sum + (strength.data[at] as number), 0) / chain.length,
    }))
    .filter(({ points }) => lengthOf(points) >= LEAST_MM)
    .map(({ points, deltaE }) => ({ points: evenly(softened(points, Math.max(1, 0.8 / mmPerPx)), STEP_MM), deltaE }));
}

/** The height of the step at every pixel in ΔE, and its direction, by the gradients of all planes together (Di Zenzo 1986). */
function steps(planes: readonly [Plane, number][], sigma: number): { strength: Plane; across: Float32Array; down: Float32Array } {
  const [{ width, height }] = planes[0] as [Plane, number];
  const strength = plane(width, height);
  const [across, down] = [new Float32Array(width * height), new Float32Array(width * height)];
  // A step of height h, softened by sigma, rises by h / (sigma √2π) a pixel; the central difference sees twice that.
  const gain = (sigma * Math.sqrt(2 * Math.PI)) / 2;
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      const at = y * width + x;
      let [xx, xy, yy] = [0, 0, 0];
      for (const [{ data }, weight] of planes) {
        const dx = ((data[at + 1] as number) - (data[at - 1] as number)) * weight;
        const dy = ((data[at + width] as number) - (data[at - width] as number)) * weight;
        xx += dx * dx;
        xy += dx * dy;
        yy += dy * dy;
      }
      const half = Math.sqrt(((xx - yy) / 2) ** 2 + xy * xy);
      const most = (xx + yy) / 2 + half;
      strength.data[at] = Math.sqrt(most) * gain;
      const angle = 0.5 * Math.atan2(2 * xy, xx - yy);
      across[at] = Math.cos(angle);
      down[at] = Math.sin(angle);
    }
  return { strength, across, down };
}

/** 1 where a step is the highest along its own direction and at least the lower threshold; 2 from the upper one. */
function thinned({ width, height, data }: Plane, across: Float32Array, down: Float32Array, forbidden: Uint8Array): Uint8Array {
  const out = new Uint8Array(width * height);
  const value = (x: number, y: number): number => {
    const [ix, iy] = [Math.floor(x), Math.floor(y)];
    const [fx, fy] = [x - ix, y - iy];
    const at = iy * width + ix;
    const top = (data[at] as number) * (1 - fx) + (data[at + 1] as number) * fx;
    const low = (data[at + width] as number) * (1 - fx) + (data[at + width + 1] as number) * fx;
    return top * (1 - fy) + low * fy;
  };
  for (let y = 2; y < height - 2; y++)
    for (let x = 2; x < width - 2; x++) {
      const at = y * width + x;
      const here = data[at] as number;
      if (here < LOW || forbidden[at] !== 0) continue;
      const [dx, dy] = [across[at] as number, down[at] as number];
      if (value(x + dx, y + dy) > here || value(x - dx, y - dy) >= here) continue;
      out[at] = here >= HIGH ? 2 : 1;
    }
  return out;
}

/** Pixels linked along their lines, strongest first; small gaps straight ahead are bridged. A chain needs one strong pixel. */
function chains(thin: Uint8Array, { width, data }: Plane, across: Float32Array, down: Float32Array): number[][] {
  const seeds: number[] = [];
  for (let at = 0; at < thin.length; at++) if (thin[at] === 2) seeds.push(at);
  seeds.sort((a, b) => (data[b] as number) - (data[a] as number));
  const used = new Uint8Array(thin.length);
  const follow = (start: number, way: 1 | -1): number[] => {
    const out: number[] = [];
    let at = start;
    let [tx, ty] = [-(down[at] as number) * way, (across[at] as number) * way];
    for (;;) {
      const next = ahead(at, tx, ty);
      if (next < 0) return out;
      used[next] = 1;
      out.push(next);
      const [ux, uy] = [-(down[next] as number), across[next] as number];
      const sign = ux * tx + uy * ty < 0 ? -1 : 1;
      [tx, ty] = [ux * sign, uy * sign];
      at = next;
    }
  };
  /** The best pixel ahead: a neighbour, or one within a small gap. */
  const ahead = (at: number, tx: number, ty: number): number => {
    const [x, y] = [at % width, Math.floor(at / width)];
    for (let reach = 1; reach <= BRIDGE_PX; reach++) {
      let [best, most] = [-1, 0];
      for (let dy = -reach; dy <= reach; dy++)
        for (let dx = -reach; dx <= reach; dx++) {
          if (Math.max(Math.abs(dx), Math.abs(dy)) !== reach) continue;
          const forward = (dx * tx + dy * ty) / Math.hypot(dx, dy);
          if (forward < (reach === 1 ? 0.4 : 0.9)) continue;
          const other = (y + dy) * width + x + dx;
          if (thin[other] === 0 || thin[other] === undefined || used[other] !== 0) continue;
          const along = Math.abs(-(down[other] as number) * tx + (across[other] as number) * ty);
          const score = forward * (0.5 + along) * (1 + Math.min(20, data[other] as number) / 40);
          if (along > 0.6 && score > most) [best, most] = [other, score];
        }
      if (best >= 0) return best;
    }
    return -1;
  };
  return seeds.flatMap((seed) => {
    if (used[seed] !== 0) return [];
    used[seed] = 1;
    const [back, forth] = [follow(seed, -1), follow(seed, 1)];
    return [[...back.reverse(), seed, ...forth]];
  });
}

/** The top of the step along its direction, between pixels, by a parabola through three values; in mm. */
function refined(
  at: number,
  { data }: Plane,
  across: Float32Array,
  down: Float32Array,
  width: number,
  height: number,
  mmPerPx: number,
): Point {
  const [x, y] = [at % width, Math.floor(at / width)];
  const [dx, dy] = [across[at] as number, down[at] as number];
  const near = (k: number) => {
    const [px, py] = [Math.round(x + k * dx), Math.round(y + k * dy)];
    return px < 0 || py < 0 || px >= width || py >= height ? 0 : (data[py * width + px] as number);
  };
  const [before, here, after] = [near(-1), data[at] as number, near(1)];
  const bend = before - 2 * here + after;
  const shift = bend < -1e-9 ? Math.max(-0.5, Math.min(0.5, (before - after) / (2 * bend))) : 0;
  return [(x + 0.5 + shift * dx) * mmPerPx, (y + 0.5 + shift * dy) * mmPerPx];
}
