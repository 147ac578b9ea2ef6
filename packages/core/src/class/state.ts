import type { ClassEvent, HandReason, Plan, PlanItem } from '@viaticum/contract';

export type Student = {
  id: string;
  firstName: string;
  kit: string[];
  joinedAt: number;
  /** Server time of their own Done, by step. */
  doneAt: Record<string, number>;
  hand: { reason: HandReason; at: number } | null;
};
export type Current = { index: number; startedAt: number; extendedMin: number; heldMs: number; heldSince: number | null };
export type ClassState = {
  phase: 'planned' | 'open' | 'running' | 'held' | 'ended';
  seq: number;
  at: number;
  revision: number;
  code: string;
  plan: Plan | null;
  current: Current | null;
  /** What was current before, for taking back; the newest last. */
  before: (Current | null)[];
  students: Record<string, Student>;
  removed: string[];
};

export const newClass = (): ClassState => ({
  phase: 'planned',
  seq: 0,
  at: 0,
  revision: 0,
  code: '',
  plan: null,
  current: null,
  before: [],
  students: {},
  removed: [],
});

/**
 * Folds one event into a state, in place. Events at or before the state's sequence are ignored, so that a repeated frame does
 * no harm; a gap throws, because a state with a hole in it would be wrong for ever.
 */
export function fold(state: ClassState, event: ClassEvent): ClassState {
  if (event.seq <= state.seq) return state;
  if (event.seq !== state.seq + 1) throw new RangeError(`Event ${event.seq} came after ${state.seq}: one is missing.`);
  state.seq = event.seq;
  state.at = event.at;
  const { body } = event;
  const student = 'studentId' in body ? state.students[body.studentId] : undefined;
  switch (body.type) {
    case 'opened':
      state.phase = 'open';
      state.revision = body.revision;
      state.plan = body.plan;
      state.code = body.code;
      break;
    case 'joined':
      state.students[body.studentId] = {
        id: body.studentId,
        firstName: body.firstName,
        kit: body.kit,
        joinedAt: event.at,
        doneAt: {},
        hand: null,
      };
      break;
    case 'renamed':
      if (student) student.firstName = body.firstName;
      break;
    case 'removed':
      delete state.students[body.studentId];
      state.removed.push(body.studentId);
      break;
    case 'itemStarted':
      state.before.push(state.current);
      if (state.before.length > 20) state.before.shift();
      state.current = { index: body.index, startedAt: event.at, extendedMin: 0, heldMs: 0, heldSince: null };
      state.phase = 'running';
      break;
    case 'itemTakenBack':
      state.current = state.before.pop() ?? null;
      state.phase = state.current === null ? 'open' : state.current.heldSince === null ? 'running' : 'held';
      break;
    case 'held':
      if (state.current) state.current.heldSince = event.at;
      state.phase = 'held';
      break;
    case 'resumed':
      if (state.current?.heldSince != null) {
        state.current.heldMs += event.at - state.current.heldSince;
        state.current.heldSince = null;
      }
      state.phase = 'running';
      break;
    case 'extended':
      if (state.current) state.current.extendedMin += body.minutes;
      break;
    case 'stepDone':
      if (student) student.doneAt[body.stepId] = event.at;
      break;
    case 'stepUndone':
      if (student) delete student.doneAt[body.stepId];
      break;
    case 'handRaised':
      if (student) student.hand = { reason: body.reason, at: event.at };
      break;
    case 'handLowered':
      if (student) student.hand = null;
      break;
    case 'ended':
      state.phase = 'ended';
      break;
  }
  return state;
}

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
  return (item.endMin - item.startMin + state.current.extendedMin) * 60 - elapsedSeconds(state, now);
}

/** The minute of the plan that the paint is at: a pause runs on past its planned end, a step waits at its own. */
export function paintMinute(state: ClassState, now: number): number {
  const item = currentItem(state);
  if (!item) return 0;
  const minutes = elapsedSeconds(state, now) / 60;
  return item.startMin + (item.kind === 'step' ? Math.min(minutes, item.endMin - item.startMin) : minutes);
}

/** The index into the plan of the step that a student's canvas shows as finished, or -1. */
export function studentProgress(state: ClassState, student: Student): number {
  const items = state.plan?.items ?? [];
  let last = -1;
  items.forEach((item, i) => {
    if (
      item.stepId &&
      (student.doneAt[item.stepId] !== undefined ||
        (state.current && i < state.current.index && student.joinedAt <= state.current.startedAt && item.kind !== 'step'))
    )
      last = i;
  });
  return last;
}

/** A short fingerprint of a state: equal for equal states, whatever the order in which keys were set. */
export function stateHash(state: ClassState): string {
  const sorted = (value: unknown): unknown =>
    Array.isArray(value)
      ? value.map(sorted)
      : value && typeof value === 'object'
        ? Object.fromEntries(
            Object.entries(value)
              .sort(([a], [b]) => (a < b ? -1 : 1))
              .map(([key, inner]) => [key, sorted(inner)]),
          )
        : value;
  const text = JSON.stringify(sorted(state));
  let hash = 0x811c9dc5; // FNV-1a
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193) >>> 0;
  return hash.toString(16).padStart(8, '0');
}
