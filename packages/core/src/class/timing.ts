import type { PlanItem } from '@viaticum/contract';
import { classMinute, dryingLeft, waitedFor, waitLeft } from './drying.js';
import type { ClassState, Student } from './shape.js';

/** The item of the plan a class is at, or null before the start. */
export function currentItem(state: ClassState): PlanItem | null {
  return (state.current && state.plan?.items[state.current.index]) ?? null;
}

/** The step whose Dones are counted: the present one, or between steps the one before. */
export const countedStep = (state: ClassState): string | undefined =>
  currentItem(state)?.stepId ?? state.visits.flatMap((visit) => state.plan?.items[visit.index]?.stepId ?? []).at(-1);

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

/** Seconds of the present item in all, as they are to be expected, from its beginning to its end. */
export const wholeSeconds = (state: ClassState, now: number, student?: Student): number =>
  elapsedSeconds(state, now) + Math.max(0, secondsLeft(state, now, student));

/** The minute of the plan that the picture is at: a pause runs on past its planned end, a step waits at its own. */
export function planMinute(state: ClassState, now: number): number {
  const item = currentItem(state);
  if (!item) return 0;
  const minutes = elapsedSeconds(state, now) / 60;
  return item.startMin + (item.kind === 'step' ? Math.min(minutes, item.endMin - item.startMin) : minutes);
}

/** An item of the plan as it is to be expected: minutes since the class began, `Infinity` where paint does not dry in this air. */
export type Ahead = { index: number; item: PlanItem; startMin: number; endMin: number };

/**
 * The present item and those after it with the minutes they are to be expected at, at a class time (ms): steps take as long as planned,
 * pauses as long as the coats that they wait for take in this class and this air, from when those are laid. Empty before the start.
 */
export function ahead(state: ClassState, now: number): Ahead[] {
  const present = currentItem(state);
  const { current, plan } = state;
  if (!present || !current || !plan) return [];
  const laid = new Map<string, number>();
  const minute = classMinute(state, now);
  const began = now - minute * 60_000;
  let at = minute;
  return plan.items.slice(current.index).map((item, k): Ahead => {
    const startMin = at;
    at +=
      k === 0
        ? Math.max(0, secondsLeft(state, now) / 60)
        : Math.max(0, pauseMinutes(state, item, laid, began + at * 60_000) ?? item.endMin - item.startMin);
    if (item.stepId && Number.isFinite(at)) laid.set(item.stepId, began + at * 60_000);
    return { index: current.index + k, item, startMin: k === 0 ? classMinute(state, current.startedAt) : startMin, endMin: at };
  });
}

/** Minutes of a pause that begins at a class time (ms), for what it waits for; `laid` says when steps to come will be done. */
function pauseMinutes(state: ClassState, item: PlanItem, laid: ReadonlyMap<string, number>, at: number): number | null {
  const coat = item.kind === 'pause' && state.plan ? waitedFor(state.plan.coats, item) : null;
  const since = coat ? laid.get(coat.stepId) : undefined;
  return coat && since !== undefined ? waitLeft(state, coat, item, since, at) : dryingLeft(state, item, at);
}

/** The minute of the class at which it will end if all goes on as planned from here; `Infinity` where paint does not dry in this air. */
export function expectedEnd(state: ClassState, now: number): number {
  return ahead(state, now).at(-1)?.endMin ?? state.plan?.endMin ?? 0;
}
