import type { PlanItem } from '@viaticum/contract';
import { pauseChange } from './drying.js';
import type { ClassState } from './state.js';

/** The item of the plan a class is at, or null before the start. */
export function currentItem(state: ClassState): PlanItem | null {
  return (state.current && state.plan?.items[state.current.index]) ?? null;
}

/** Seconds since the present item began, holds left out, at a server time in ms. */
export function elapsedSeconds(state: ClassState, now: number): number {
  const { current } = state;
  if (!current) return 0;
  return Math.max(0, ((current.heldSince ?? now) - current.startedAt - current.heldMs) / 1000);
}

/** Seconds left of the present item with its extensions; negative when it has run over. */
export function secondsLeft(state: ClassState, now: number): number {
  const item = currentItem(state);
  if (!item || !state.current) return 0;
  return (item.endMin - item.startMin + pauseChange(state, item) + state.current.extendedMin) * 60 - elapsedSeconds(state, now);
}

/** The minute of the plan that the paint is at: a pause runs on past its planned end, a step waits at its own. */
export function paintMinute(state: ClassState, now: number): number {
  const item = currentItem(state);
  if (!item) return 0;
  const minutes = elapsedSeconds(state, now) / 60;
  return item.startMin + (item.kind === 'step' ? Math.min(minutes, item.endMin - item.startMin) : minutes);
}
