import type { PlanItem } from '@viaticum/contract';
import { classMinute, dryingLeft } from './drying.js';
import type { ClassState, Student } from './shape.js';

/** The item of the plan a class is at, or null before the start. */
export function currentItem(state: ClassState): PlanItem | null {
  return (state.current && state.plan?.items[state.current.index]) ?? null;
}

/** Seconds since the present item began, holds left out, at a class time in ms. */
export function elapsedSeconds(state: ClassState, now: number): number {
  const { current } = state;
  if (!current) return 0;
  return Math.max(0, ((current.heldSince ?? now) - current.startedAt - current.heldMs) / 1000);
}

/**
 * Seconds left of the present item with its extensions; negative when it has run over. A pause lasts until what it waits for is
 * dry, counted from when that was really laid: for a student, from their own Done. Paint does not wait while a class is held.
 */
export function secondsLeft(state: ClassState, now: number, student?: Student): number {
  const item = currentItem(state);
  if (!item || !state.current) return 0;
  const extended = state.current.extendedMin * 60;
  const drying = dryingLeft(state, item, now, student);
  if (drying !== null) return drying * 60 + extended;
  return (item.endMin - item.startMin) * 60 + extended - elapsedSeconds(state, now);
}

/** The minute of the plan that the picture is at: a pause runs on past its planned end, a step waits at its own. */
export function planMinute(state: ClassState, now: number): number {
  const item = currentItem(state);
  if (!item) return 0;
  const minutes = elapsedSeconds(state, now) / 60;
  return item.startMin + (item.kind === 'step' ? Math.min(minutes, item.endMin - item.startMin) : minutes);
}

/** The minute of the class at which the plan will end if all goes on as planned from here. */
export function expectedEnd(state: ClassState, now: number): number {
  const item = currentItem(state);
  const { plan } = state;
  if (!item || !plan) return plan?.endMin ?? 0;
  return classMinute(state, now) + Math.max(0, secondsLeft(state, now) / 60) + Math.max(0, plan.endMin - item.endMin);
}
