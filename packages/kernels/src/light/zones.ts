import type { Form, Normals } from './form.js';

/** Shapes of light on a form, by number: outside it, lit, half in light, core shadow, reflected light, highlight. */
export const zones = ['none', 'lit', 'half', 'core', 'reflected', 'highlight'] as const;
export type Zone = (typeof zones)[number];
const [LIT, HALF, CORE, REFLECTED, HIGHLIGHT] = [1, 2, 3, 4, 5];

export type Vector = readonly [x: number, y: number, z: number];

/**
 * Towards the light: `azimuthDeg` clockwise from the top of the picture, `elevationDeg` how far it stands before the picture (0 from the
 * side, 90 from the eye). Rounded, so that every machine has the same.
 */
export function towardsLight({ azimuthDeg, elevationDeg }: { azimuthDeg: number; elevationDeg: number }): Vector {
  const [a, e] = [(azimuthDeg * Math.PI) / 180, (elevationDeg * Math.PI) / 180];
  const exact = (value: number) => Math.round(value * 1e4) / 1e4;
  return [exact(Math.sin(a) * Math.cos(e)), exact(-Math.cos(a) * Math.cos(e)), exact(Math.sin(e))];
}

/** Cosines between surface and light from which it is lit, and half lit. */
const LIT_FROM = 0.55;
const HALF_FROM = 0.16;
/** Reflected light reaches so far in from the rim, as a share of the greatest distance to it, on what is not turned up. */
const REFLECTED_SHARE = 0.2;
const TURNED_DOWN = -0.2;
const SHINE_FROM = 0.995;
const GLOSS_FROM = 0.985;

/**
 * The shapes of light on a form (common practice, no published source for the borders; the highlight by the halfway vector, Blinn 1977,
 * from memory). Reflected light only where a form turns away round its rim: on a box it would be a mistake. A cloud has no core and no shine.
 */
export function zonesOf(mask: Uint8Array, normals: Normals, light: Vector, kind: Form['kind'], isGlossy = false): Uint8Array {
  const out = new Uint8Array(mask.length);
  const most = normals.fromRim.reduce((sum, one) => Math.max(sum, one), 0);
  const half = [light[0], light[1], light[2] + 1] as const;
  const long = Math.sqrt(half[0] * half[0] + half[1] * half[1] + half[2] * half[2]) || 1;
  const isRound = kind === 'round' || kind === 'cylinder' || kind === 'cone';
  const shine = isGlossy ? GLOSS_FROM : SHINE_FROM;
  for (let k = 0; k < out.length; k++) {
    if (mask[k] === 0) continue;
    const [x, y, z] = [normals.x[k], normals.y[k], normals.z[k]];
    const facing = x * light[0] + y * light[1] + z * light[2];
    let zone = facing > LIT_FROM ? LIT : facing > HALF_FROM ? HALF : kind === 'cloud' ? HALF : CORE;
    if (isRound && zone === CORE && normals.fromRim[k] < REFLECTED_SHARE * most && y > TURNED_DOWN) zone = REFLECTED;
    if (isRound && (x * half[0] + y * half[1] + z * half[2]) / long > shine) zone = HIGHLIGHT;
    out[k] = zone;
  }
  return out;
}

/** Level ground seen at a slant is so much shorter than wide. */
const SQUASH = 0.35;
const LONGEST = 3;
/**
 * The shadow that a standing thing throws on level ground, as a mask of the same size: every point of it falls along the light from its
 * height over the foot. None where the light comes from the horizon or from below it.
 */
export function castShadow(mask: Uint8Array, width: number, height: number, [lx, ly, lz]: Vector): Uint8Array {
  const out = new Uint8Array(mask.length);
  const up = -ly;
  if (up < 0.05) return out;
  let foot = -1;
  for (let k = mask.length - 1; k >= 0 && foot < 0; k--) if (mask[k] !== 0) foot = Math.floor(k / width);
  const long = Math.min(1, LONGEST / (Math.sqrt(lx * lx + lz * lz) / up || 1));
  const [aside, away] = [(-lx / up) * long, (-lz / up) * SQUASH * long];
  const most = Math.abs(aside) + Math.abs(away);
  const parts = Math.max(1, Math.ceil(most));
  for (let y = 0; y <= foot; y++)
    for (let x = 0; x < width; x++) {
      if (mask[y * width + x] === 0) continue;
      // A row of things stands a pixel high: as many places as its shadow is long.
      for (let part = 0; part <= parts; part++) {
        const over = foot - y + part / parts;
        const [X, Y] = [Math.round(x + aside * over), Math.round(foot + away * over)];
        if (X < 0 || Y < 0 || X >= width || Y >= height) continue;
        out[Y * width + X] = 255;
      }
    }
  return closed(out, width, height);
}

/** Without pinholes: what has shadow on both sides of it within two pixels is shadow. */
function closed(mask: Uint8Array, width: number, height: number): Uint8Array {
  const out = mask.slice();
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      const k = y * width + x;
      if (mask[k] !== 0) continue;
      const around =
        (mask[k - 1] !== 0 ? 1 : 0) +
        (mask[k + 1] !== 0 ? 1 : 0) +
        (mask[k - width] !== 0 ? 1 : 0) +
        (mask[k + width] !== 0 ? 1 : 0);
      if (around >= 2) out[k] = 255;
    }
  return out;
}

export type FoundLight = { azimuthDeg: number; elevationDeg: number; explained: number };
/**
 * Which way the light of a picture comes, by least squares of lightness on the normals of one thing, and the share of the variance that
 * this explains. Null where the thing is too small or too even.
 */
export function lightFrom(lightness: Float32Array, mask: Uint8Array, { x, y, z }: Normals): FoundLight | null {
  const rows = Array.from({ length: 4 }, () => new Float64Array(5));
  let count = 0;
  for (let k = 0; k < mask.length; k++) {
    if (mask[k] === 0) continue;
    count++;
    const v = [x[k], y[k], z[k], 1, lightness[k]];
    for (let r = 0; r < 4; r++) for (let c = 0; c < 5; c++) rows[r][c] += v[r] * v[c];
  }
  if (count < 40) return null;
  const mean = rows[3][4] / count;
  for (let k = 0; k < 4; k++) {
    rows[k][k] += 1e-3;
    for (let r = 0; r < 4; r++) {
      if (r === k) continue;
      const by = rows[r][k] / rows[k][k];
      for (let c = k; c < 5; c++) rows[r][c] -= by * rows[k][c];
    }
  }
  const [a, b, c, d] = rows.map((row, k) => row[4] / row[k]);
  let [whole, left] = [0, 0];
  for (let k = 0; k < mask.length; k++) {
    if (mask[k] === 0) continue;
    const off = lightness[k] - (a * x[k] + b * y[k] + c * z[k] + d);
    left += off * off;
    whole += (lightness[k] - mean) * (lightness[k] - mean);
  }
  if (whole / count < 1) return null;
  const azimuthDeg = (Math.round((Math.atan2(a, -b) * 180) / Math.PI) + 360) % 360;
  const elevationDeg = Math.round((Math.atan2(Math.max(0, c), Math.sqrt(a * a + b * b)) * 180) / Math.PI);
  return { azimuthDeg, elevationDeg, explained: Math.max(0, 1 - left / whole) };
}
