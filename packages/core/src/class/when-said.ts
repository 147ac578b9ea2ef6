import type { ClassState } from './shape.js';
import { classTime } from './state.js';

/** When something was said that came later: class time, ms. Rough: it is only known between what. */
export type Said = { saidAt: number; rough?: true };

/** A clock that may be wrong by more tells nothing. */
const MOST_BOUND_MS = 120_000;
/** Sooner than this after it was said it needs no date of its own. */
const AT_ONCE_MS = 2000;

/**
 * When a command was said that its screen kept: at the press, but never before what that screen had seen of the class (`seenAt`, class time
 * in ms) nor after `now`. Where its clock cannot be believed, the middle of what is possible. Null for what comes at once. `pressed` is in
 * the server's ms and may be wrong by `bound` ms.
 */
export function whenSaid(
  state: Pick<ClassState, 'clock'>,
  { pressed, bound }: { pressed: number; bound: number },
  seenAt: number,
  now: number,
): Said | null {
  const from = Math.min(seenAt, now);
  const at = classTime(state, pressed);
  const isKnown = bound <= MOST_BOUND_MS && at >= from - bound && at <= now + bound;
  if (!isKnown) return now - from < AT_ONCE_MS ? null : { saidAt: Math.round((from + now) / 2), rough: true };
  const saidAt = Math.round(Math.min(now, Math.max(from, at)));
  return now - saidAt < AT_ONCE_MS ? null : { saidAt };
}
