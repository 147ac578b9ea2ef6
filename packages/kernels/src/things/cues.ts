import { rimOf, type Scene, type Superpixels } from './prepare.js';

/** What speaks for a superpixel being the subject, each cue 0-1, and how far each is trusted. */
export type Cues = {
  /** All but the middle, weighed by how far each parts the picture. */
  said: Float32Array;
  contrast: Float32Array;
  centre: Float32Array;
  rim: Uint8Array;
};

/** The share of variance that the best cut in two explains (Otsu 1979), and the share of the picture above that cut. */
export function bestCut(values: Float32Array, size: Float32Array): { explains: number; share: number } {
  const order = Array.from(values.keys()).sort((a, b) => values[a] - values[b]);
  let [whole, sum, squares] = [0, 0, 0];
  values.forEach((value, k) => {
    whole += size[k];
    sum += size[k] * value;
    squares += size[k] * value * value;
  });
  const variance = squares / whole - (sum / whole) ** 2;
  let [below, belowSum, best, share] = [0, 0, 0, 0.5];
  for (const k of order) {
    below += size[k];
    belowSum += size[k] * values[k];
    const part = below / whole;
    if (part <= CRUMB || part >= 1 - CRUMB) continue;
    const apart = belowSum / below - (sum - belowSum) / (whole - below);
    const between = part * (1 - part) * apart * apart;
    if (between > best) [best, share] = [between, 1 - part];
  }
  return { explains: variance > 1e-9 ? best / variance : 0, share };
}
const CRUMB = 0.04;

/** The share of the picture that lies below each value. */
export function ranked(values: Float32Array, size: Float32Array): Float32Array {
  const out = new Float32Array(values.length);
  const whole = size.reduce((sum, one) => sum + one, 0);
  let below = 0;
  for (const k of Array.from(values.keys()).sort((a, b) => values[a] - values[b])) {
    below += size[k];
    out[k] = below / whole;
  }
  return out;
}

function stretched(values: Float32Array, size: Float32Array): Float32Array {
  const ranks = ranked(values, size);
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  values.forEach((value, k) => {
    if (ranks[k] > CRUMB) low = Math.min(low, value);
    if (ranks[k] < 1 - CRUMB) high = Math.max(high, value);
  });
  return values.map((value) => Math.max(0, Math.min(1, (value - low) / Math.max(1e-6, high - low))));
}

const MIDDLE = 0.6;
/**
 * What may tell the subject from its ground: far from the rim by colour (after Wei 2012, from memory), in focus, unlike the rest. A cue
 * that parts the middle from the rim is trusted, one that does not is not; where the middle lies is kept apart.
 */
export function cuesOf(scene: Scene): Cues {
  const { pixels } = scene;
  const { size, count } = pixels;
  const rim = rimOf(scene, 2);
  const centre = centreOf(scene);
  const contrast = stretched(contrastOf(scene), size);
  const parts = [stretched(scene.focus, size), stretched(farOf(pixels, rim), size), contrast];
  const trust = parts.map((part) => {
    let [inner, inside, outer, outside] = [0, 0, 0, 0];
    part.forEach((value, k) => {
      if (rim[k] !== 0) {
        outer += value * size[k];
        outside += size[k];
      }
      if (centre[k] > MIDDLE) {
        inner += value * size[k];
        inside += size[k];
      }
    });
    const apart = inner / Math.max(1, inside) - outer / Math.max(1, outside) + 0.1;
    return Math.max(0.05, bestCut(part, size).explains - 0.45) * Math.max(0.1, apart) * 4;
  });
  const sum = trust.reduce((total, one) => total + one, 0);
  const said = new Float32Array(count);
  parts.forEach((part, i) => {
    for (let k = 0; k < count; k++) said[k] = said[k] + ((trust[i] as number) / sum) * part[k];
  });
  return { said, contrast, centre, rim };
}

const centreOf = ({ pixels: { means, count }, width, height }: Scene): Float32Array =>
  Float32Array.from({ length: count }, (_, k) =>
    Math.exp(-(((means[4][k] / width - 0.5) / 0.33) ** 2 + ((means[5][k] / height - 0.52) / 0.36) ** 2) / 2),
  );

/** Steps of colour below this cost nothing on the way from the rim. */
const FREE_STEP = 3;
const FARTHEST = 200;
/** The least sum of steps on a way from the rim; rim places unlike the other rims are not trusted as ground. */
function farOf({ means, count, start, to }: Superpixels, rim: Uint8Array): Float32Array {
  const far = new Float32Array(count).fill(1e9);
  const rims = Array.from(rim.keys()).filter((k) => rim[k] !== 0);
  for (const k of rims) {
    const unlike = rims
      .map((j) =>
        Math.hypot(
          means[0][k] - means[0][j],
          1.5 * (means[1][k] - means[1][j]),
          1.5 * (means[2][k] - means[2][j]),
          means[3][k] - means[3][j],
        ),
      )
      .sort((a, b) => a - b);
    far[k] = Math.max(0, (unlike[Math.floor(unlike.length * 0.3)] ?? 0) - 8) * 1.5;
  }
  for (let round = 0, moved = true; round < 60 && moved; round++) {
    moved = false;
    for (let i = 0; i < count; i++) {
      const k = round % 2 === 1 ? count - 1 - i : i;
      for (let e = start[k]; e < start[k + 1]; e++) {
        const j = to[e];
        const step = Math.hypot(means[0][k] - means[0][j], means[1][k] - means[1][j], means[2][k] - means[2][j]);
        const way = far[j] + Math.max(0, step - FREE_STEP);
        if (way >= far[k] - 1e-4) continue;
        far[k] = way;
        moved = true;
      }
    }
  }
  return far.map((value) => Math.min(value, FARTHEST));
}

const SAMPLES = 500;
/** How unlike all else, near places counting more. */
function contrastOf({ pixels: { means, size, count }, width, height }: Scene): Float32Array {
  const every = Math.max(1, Math.floor(count / SAMPLES));
  const wide = 0.18 * (width * width + height * height);
  return Float32Array.from({ length: count }, (_, k) => {
    let [sum, weight] = [0, 0];
    for (let j = 0; j < count; j += every) {
      const near = Math.exp(-((means[4][k] - means[4][j]) ** 2 + (means[5][k] - means[5][j]) ** 2) / wide) * size[j];
      sum += near * Math.hypot(means[0][k] - means[0][j], 1.4 * (means[1][k] - means[1][j]), 1.4 * (means[2][k] - means[2][j]));
      weight += near;
    }
    return sum / weight;
  });
}
