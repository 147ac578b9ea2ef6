import { weights, white } from '../../colour/index.js';
import { SAMPLES } from '../../pigment/index.js';
import { dry, type Finish, partsOf, SPECULAR, type Spectra } from '../mixing.js';
import { type Block, MOST_WHITE } from './grid.js';

const [wx, wy, wz] = (['x', 'y', 'z'] as const).map((axis, k) =>
  Float64Array.from(weights[axis], (value) => (value as number) / white[k as 0]),
) as [Float64Array, Float64Array, Float64Array];
const KNEE = (6 / 29) ** 3;
const root = (t: number) => (t > KNEE ? Math.cbrt(t) : (841 / 108) * t + 4 / 29);

/**
 * Works out the L*a*b* of every recipe of a block (infinite film, dry), fast: what tubes share is summed once, the surface is
 * corrected in the same division, and no recipe is divided by its parts, since R∞ depends on K/S alone.
 */
export function blockKernel(paints: readonly Spectra[], finish: Finish) {
  const row = SAMPLES * 2;
  // parts × (K, S) of every paint for 1–12 parts, and for the large heaps of white.
  const whole = new Float64Array(paints.length * MOST_WHITE * row);
  paints.forEach((paint, i) => {
    for (let parts = 1; parts <= MOST_WHITE; parts++)
      for (let k = 0; k < SAMPLES; k++) {
        const at = (i * MOST_WHITE + parts - 1) * row + k;
        whole[at] = parts * paint.K[k];
        whole[at + SAMPLES] = parts * paint.S[k];
      }
  });
  const sums = [0, 1, 2, 3].map(() => new Float64Array(row));
  const specular = SPECULAR[finish] * dry.k1;
  const factor = (1 - dry.k1) * (1 - dry.k2);
  const inside = 1 - dry.k2;
  const seen = new Float64Array(3);

  /** Writes the block's colours to `lab` from colour number `from` on. */
  return (block: Block, lab: Float32Array, from: number): void => {
    const { tubes, count, parts } = block.list;
    season(sums[0] as Float64Array, block, paints);
    const tubeAt = block.whole.map((tube) => tube * MOST_WHITE * row);
    const last = tubes - 1;
    const lastTube = tubeAt[last];
    const before = sums[last] as Float64Array;
    for (let r = 0; r < count; r++) {
      const at = r * tubes;
      // Sums of all tubes but the last, from the first whose parts changed.
      let depth = 0;
      if (r > 0) while (depth < last && parts[at + depth] === parts[at - tubes + depth]) depth++;
      for (; depth < last; depth++)
        add(sums[depth] as Float64Array, whole, tubeAt[depth] + (parts[at + depth] - 1) * row, sums[depth + 1] as Float64Array);
      light(before, whole, lastTube + (parts[at + last] - 1) * row, inside, seen);
      const fy = root(specular + factor * seen[1]);
      const to = (from + r) * 3;
      lab[to] = 116 * fy - 16;
      lab[to + 1] = 500 * (root(specular + factor * seen[0]) - fy);
      lab[to + 2] = 200 * (fy - root(specular + factor * seen[2]));
    }
  };
}

/** What the small amounts of a block absorb and scatter. */
function season(out: Float64Array, block: Block, paints: readonly Spectra[]): void {
  out.fill(0);
  for (const { tube, amount } of block.small) {
    const share = partsOf(amount);
    const { K, S } = paints[tube] as Spectra;
    for (let k = 0; k < 36; k++) {
      out[k] = out[k] + share * K[k];
      out[k + 36] = out[k + 36] + share * S[k];
    }
  }
}

function add(sum: Float64Array, from: Float64Array, at: number, out: Float64Array): void {
  for (let k = 0; k < 72; k++) out[k] = sum[k] + from[at + k];
}

/** X, Y and Z (of the white) of what a mix reflects inside, without the surface's factor: the innermost loop. */
function light(before: Float64Array, whole: Float64Array, at: number, inside: number, out: Float64Array): void {
  const [u, v, w] = [wx, wy, wz];
  let x = 0;
  let y = 0;
  let z = 0;
  for (let k = 0; k < 36; k++) {
    const K = before[k] + whole[at + k];
    const S = before[k + 36] + whole[at + k + 36];
    const r = S / (K + S * inside + Math.sqrt(K * (K + S + S)));
    x += r * u[k];
    y += r * v[k];
    z += r * w[k];
  }
  out[0] = x;
  out[1] = y;
  out[2] = z;
}
