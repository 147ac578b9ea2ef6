import type { ClassEvent, HandReason, Plan } from '@viaticum/contract';
import type { TouchTest } from '../coat/calibrate.js';
import { dryingFactor, touched } from './drying.js';

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
  /** Touch tests, and how much longer than planned coats take in this class by them. */
  touches: TouchTest[];
  dryFactor: number;
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
  touches: [],
  dryFactor: 1,
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
    case 'touchTested': {
      const test = touched(state, body.zoneId, body.dry, event.at);
      if (test) state.touches.push(test);
      state.dryFactor = dryingFactor(state.touches);
      break;
    }
    case 'ended':
      state.phase = 'ended';
      break;
  }
  return state;
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
