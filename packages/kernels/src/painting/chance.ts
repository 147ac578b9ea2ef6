/**
 * Whole-number chance and angles for the painting engine: only additions, multiplications and shifts, so that every engine
 * gives the same bits.
 */
export function hash(...parts: number[]): number {
  let h = 0x811c9dc5;
  for (const part of parts) {
    h = Math.imul(h ^ (part | 0), 0x01000193);
    h ^= h >>> 15;
    h = Math.imul(h, 0x2c1b3c6d);
    h ^= h >>> 13;
  }
  return h >>> 0;
}

/** A number for a text, the same everywhere. */
export const hashText = (text: string): number => hash(...[...text].map((letter) => letter.codePointAt(0) as number));

/** Random whole numbers 0-65535 from a start. */
export function chance(start: number): () => number {
  let state = start || 1;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state >>> 16;
  };
}

/** Directions in 1/1024 of a full turn. */
export const TURN = 1024;
const table = new Int32Array(TURN);
// Sine by its series to the ninth power over a quarter turn, from sums and products alone; in 1/4096.
for (let i = 0; i <= TURN / 4; i++) {
  const x = (i * 6.283185307179586) / TURN;
  const s = x * x;
  const sine = x * (1 - (s / 6) * (1 - (s / 20) * (1 - (s / 42) * (1 - s / 72))));
  const value = Math.round(sine * 4096);
  table[i] = value;
  table[TURN / 2 - i] = value;
  table[(TURN / 2 + i) % TURN] = -value;
  table[(TURN - i) % TURN] = -value;
}
/** Sine and cosine of a direction, in 1/4096. */
export const sine = (turn: number): number => table[turn & (TURN - 1)];
export const cosine = (turn: number): number => table[(turn + TURN / 4) & (TURN - 1)];
/** The direction of a vector, in 1/1024 turns, from sums, products and quotients alone; right to a quarter of a degree. */
export function turnOfVector(dx: number, dy: number): number {
  const [ax, ay] = [Math.abs(dx), Math.abs(dy)];
  if (ax + ay === 0) return 0;
  const z = Math.min(ax, ay) / Math.max(ax, ay);
  // Arc tangent from 0 to 45 degrees (Rajan et al. 2006, from memory).
  const eighth = (z * (0.7854 + 0.273 * (1 - z)) * TURN) / 6.283185307179586;
  const quarter = ay > ax ? TURN / 4 - eighth : eighth;
  const half = dx < 0 ? TURN / 2 - quarter : quarter;
  return Math.round(dy < 0 ? TURN - half : half) & (TURN - 1);
}
export const turnOf = (degrees: number): number => Math.round((degrees * TURN) / 360) & (TURN - 1);
