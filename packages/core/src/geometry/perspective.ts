import { say } from '@viaticum/contract';
import { type Homography, inverted } from './homography.js';
import { between, cross, distance, minus, type Point } from './point.js';

/** Cross-ratio of four points on a line, (a, b; c, d) = (ac · bd) / (bc · ad); what perspective keeps. */
export function crossRatio(a: number, b: number, c: number, d: number): number {
  return ((c - a) * (d - b)) / ((c - b) * (d - a));
}

/** How much smaller than the first the thing number `n` looks, by the size of the second over that of the first: 1/(1 + n·k). */
export const shrunk = (ratio: number, n: number): number => 1 / (1 + n * (1 / ratio - 1));

/**
 * Things set evenly along a line that runs to a vanishing point: the first and the second are given, the others follow, since the
 * cross-ratio with the vanishing point is kept. Each with its size, the first's being 1. Throws where the second does not lie
 * between the first and the vanishing point.
 */
export function evenlySpaced(first: Point, second: Point, vanishing: Point, count: number): { at: Point; size: number }[] {
  const whole = distance(first, vanishing);
  const ratio = distance(second, vanishing) / whole;
  const off = Math.abs(cross(minus(second, first), minus(vanishing, first))) / (whole || 1);
  if (!(whole > 0) || ratio >= 1 || ratio <= 0 || distance(first, second) >= whole || off > 0.02 * whole + 1)
    throw new RangeError(
      say('The second thing must stand between the first and the vanishing point. Move it nearer to that line.'),
    );
  return Array.from({ length: count }, (_, n) => {
    const size = shrunk(ratio, n);
    return { at: between(vanishing, first, size), size };
  });
}

/**
 * The same along a path over rising ground: depth is read off the way towards the vanishing point, and each thing stands where
 * the path passes that depth. The path begins at the first thing. Things beyond its end are left out.
 */
export function alongPath(path: readonly Point[], ratio: number, vanishing: Point, count: number): { at: Point; size: number }[] {
  if (!(ratio > 0 && ratio < 1)) throw new RangeError(say('The second thing must look smaller than the first.'));
  const start = path[0];
  if (!start || path.length < 2) throw new RangeError(say('A path needs two points or more.'));
  const whole = distance(start, vanishing);
  const left = ([x, y]: Point) =>
    1 - ((x - start[0]) * (vanishing[0] - start[0]) + (y - start[1]) * (vanishing[1] - start[1])) / whole ** 2;
  const out: { at: Point; size: number }[] = [];
  let piece = 1;
  for (let n = 0; n < count; n++) {
    const size = shrunk(ratio, n);
    while (piece < path.length && left(path[piece] as Point) > size + 1e-9) piece++;
    if (piece >= path.length) break;
    const [a, b] = [path[piece - 1] as Point, path[piece] as Point];
    const [from, to] = [left(a), left(b)];
    out.push({ at: between(a, b, from === to ? 0 : Math.max(0, Math.min(1, (from - size) / (from - to)))), size });
  }
  return out;
}

/** How the picture is seen: its middle on the horizon, and how far the eye is from the canvas, in mm. */
export type Eye = { xMm: number; horizonMm: number; distanceMm: number };

export type Ellipse = { at: Point; longMm: number; shortMm: number; turnDeg: number };

/**
 * A circle that lies on level ground, as an ellipse on the canvas: `at` its middle on the canvas, `halfWidthMm` half its width
 * there. Exact: the cone of sight through the circle cut by the picture plane. Half-axes in mm. Throws above the horizon.
 */
export function groundCircle(eye: Eye, at: Point, halfWidthMm: number): Ellipse {
  const [x, v] = [at[0] - eye.xMm, at[1] - eye.horizonMm];
  if (!(v > 0)) throw new RangeError(say('A circle on the ground lies below the horizon. Move it down.'));
  // Ground with the eye at height 1: canvas = distance · (X, 1) / Z.
  const z = eye.distanceMm / v;
  const middle: Point = [(x / eye.distanceMm) * z, z];
  const radius = (halfWidthMm / eye.distanceMm) * z;
  if (radius >= z) throw new RangeError(say('This circle reaches behind the eye. Make it smaller or move it up.'));
  const f = eye.distanceMm;
  // From ground (X, Z, 1) to canvas (x, y, 1): (f·X, f, Z).
  const h = [f, 0, 0, 0, 0, f, 0, 1, 0];
  const circle = [1, 0, -middle[0], 0, 1, -middle[1], -middle[0], -middle[1], middle[0] ** 2 + middle[1] ** 2 - radius ** 2];
  const found = ellipseOf(conicThrough(h, circle));
  return { ...found, at: [found.at[0] + eye.xMm, found.at[1] + eye.horizonMm] };
}

/** A conic (symmetric 3×3, row by row) as a projective map shows it. */
export function conicThrough(h: Homography, conic: readonly number[]): number[] {
  const back = inverted(h);
  const at = (m: readonly number[], r: number, c: number) => m[r * 3 + c] as number;
  return Array.from({ length: 9 }, (_, i) => {
    const [r, c] = [Math.floor(i / 3), i % 3];
    let sum = 0;
    for (let j = 0; j < 3; j++) for (let k = 0; k < 3; k++) sum += at(back, j, r) * at(conic, j, k) * at(back, k, c);
    return sum;
  });
}

/** Middle, half-axes and turn of the ellipse that a conic is. Throws where it is none. */
export function ellipseOf(conic: readonly number[]): Ellipse {
  const [a, b, d, , c, e, , , f] = conic as unknown as [number, number, number, number, number, number, number, number, number];
  const det = a * c - b * b;
  if (!(det > 0)) throw new RangeError(say('This is seen as no ellipse: part of it lies behind the eye.'));
  const at: Point = [(b * e - c * d) / det, (b * d - a * e) / det];
  const rest = -(f + d * at[0] + e * at[1]);
  const mean = (a + c) / 2;
  const half = Math.hypot((a - c) / 2, b);
  const [one, other] = [rest / (mean - half), rest / (mean + half)];
  const turn = 0.5 * Math.atan2(2 * b, a - c) + Math.PI / 2;
  return { at, longMm: Math.sqrt(one), shortMm: Math.sqrt(other), turnDeg: ((((turn * 180) / Math.PI) % 180) + 180) % 180 };
}

/**
 * The tip of the shadow that an upright thing throws on level ground: the line from its foot to the point where shadows vanish,
 * met by the line from its head to the point where rays of light vanish. `azimuthDeg` is where the light comes from, 0 straight
 * ahead, 90 from the right, 180 from behind; `elevationDeg` its height. Throws where the shadow has no end.
 */
export function shadowTip(eye: Eye, foot: Point, head: Point, light: { azimuthDeg: number; elevationDeg: number }): Point {
  const [azimuth, elevation] = [(light.azimuthDeg * Math.PI) / 180, (light.elevationDeg * Math.PI) / 180];
  const f = eye.distanceMm;
  // Points at infinity are met by direction: homogeneous (x, y, w) about the middle of the horizon, y down.
  const sun: Triple = [
    Math.sin(azimuth) * Math.cos(elevation) * f,
    -Math.sin(elevation) * f,
    Math.cos(azimuth) * Math.cos(elevation),
  ];
  const ground: Triple = [Math.sin(azimuth) * f, 0, Math.cos(azimuth)];
  const own = ([x, y]: Point): Triple => [x - eye.xMm, y - eye.horizonMm, 1];
  const tip = times3(times3(own(foot), ground), times3(own(head), sun));
  if (Math.abs(tip[2]) < 1e-9 * (Math.abs(tip[0]) + Math.abs(tip[1])) || elevation <= 0)
    throw new RangeError(say('At this light the shadow has no end. Raise the light.'));
  return [tip[0] / tip[2] + eye.xMm, tip[1] / tip[2] + eye.horizonMm];
}
type Triple = [number, number, number];
const times3 = (a: Triple, b: Triple): Triple => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];

/**
 * The height on the canvas about which a thing is mirrored in still water. It stands `bankM` above the water at `baseMm`, seen
 * from `eyeM` above the water with the horizon at `horizonMm`; by similar triangles the water below it lies lower than its foot
 * by the bank's share of the height between. Lengths on the canvas in mm, y down. Throws where the eye is not above the bank.
 */
export function mirrorLine({
  baseMm,
  horizonMm,
  bankM,
  eyeM,
}: {
  baseMm: number;
  horizonMm: number;
  bankM: number;
  eyeM: number;
}): number {
  if (bankM === 0) return baseMm;
  if (!(bankM > 0)) throw new RangeError(say('A bank is 0 or higher.'));
  if (!(eyeM > bankM)) throw new RangeError(say('The eye must be higher above the water than the bank. Raise it.'));
  if (!(baseMm > horizonMm)) throw new RangeError(say('What is reflected must stand below the horizon. Move the horizon up.'));
  return horizonMm + ((baseMm - horizonMm) * eyeM) / (eyeM - bankM);
}
