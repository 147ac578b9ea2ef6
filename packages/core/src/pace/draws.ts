import { erfc } from './normal.js';

/*
 * Chance by place: one 32-bit number for a run, a step and a student, the same whatever else is drawn, so that two models of a class differ
 * by what was changed in them and by nothing else.
 */
const ofRun = (run: number): number => Math.imul(run ^ 0x9e3779b9, 0x85ebca6b);
export const ofStep = (key: number): number => Math.imul(key + 0x7f4a7c15, 0xc2b2ae35);
export const ofStudent = (k: number): number => Math.imul(k + 0x165667b1, 0x27d4eb2f);
/** Stirs the bits of a number until none tells of another (a mixer in the manner of Wellons 2018, from memory). */
export function stir(bits: number): number {
  let h = Math.imul(bits ^ (bits >>> 15), 0x2c1b3c6d);
  h = Math.imul(h ^ (h >>> 12), 0x297a2d39);
  return (h ^ (h >>> 15)) >>> 0;
}
/** A number for a name (FNV-1a). */
export function keyOf(id: string): number {
  let h = 0x811c9dc5;
  for (let i = 0; i < id.length; i++) h = Math.imul(h ^ id.charCodeAt(i), 0x01000193);
  return h | 0;
}
/** The number of one run of a seed; `other` gives a second one that has nothing to do with it. */
export const runNumber = (seed: number, run: number, other = false): number =>
  ofRun(((seed * 1_000_003 + run) | 0) ^ (other ? 0x5bd1e995 : 0));

export const SLICES_BITS = 12;
const SLICES = 1 << SLICES_BITS;

/** Normal deviates at the middles of 4096 equal slices of the chance. */
const deviates = Float64Array.from({ length: SLICES }, (_, i) => {
  const p = (i + 0.5) / SLICES;
  let [low, high] = [-6, 6];
  for (let k = 0; k < 50; k++) {
    const middle = (low + high) / 2;
    if (erfc(-middle / Math.SQRT2) / 2 < p) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
});
/** Factors of a lognormal spread by the top bits of a stirred number; all 1 for none. */
export const spreadOf = (sigma: number): Float64Array => deviates.map((z) => Math.exp(sigma * z));
