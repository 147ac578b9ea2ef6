import type { ClassState } from './shape.js';

/** Where a film that a class follows together stands at a class time (ms of both); held at its end. */
export function filmPlaceAt(film: NonNullable<ClassState['film']>, now: number, durationMs = Number.POSITIVE_INFINITY): number {
  const gone = film.isPlaying ? Math.max(0, now - film.at) * film.rate : 0;
  return Math.min(durationMs, film.atMs + gone);
}

/** Nearer than this nobody notices; farther a phone runs a little faster or slower; from `jumpMs` on it jumps. */
const near = { withinMs: 50, fromMs: 150, jumpMs: 2000 };
const CATCH_UP = 0.05;

/**
 * What a phone does that stands `offMs` before (+) or behind (−) the place where all are: the rate at which it plays on, or a jump. Once it
 * catches up (`isCatching`) it does so until it is near.
 */
export function keepingUp(
  offMs: number,
  rate: number,
  isCatching: boolean,
): { rate: number; jump: boolean; isCatching: boolean } {
  const off = Math.abs(offMs);
  if (off >= near.jumpMs) return { rate, jump: true, isCatching: false };
  if (off > (isCatching ? near.withinMs : near.fromMs))
    return { rate: rate * (1 - Math.sign(offMs) * CATCH_UP), jump: false, isCatching: true };
  return { rate, jump: false, isCatching: false };
}
