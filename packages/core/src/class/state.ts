import { byId, type ClassEvent, isId } from '@viaticum/contract';
import { dryingFactor, touched } from './drying.js';
import type { ClassState, Student } from './shape.js';

const MOST_TAKEN_BACK = 20;
const MOST_SAID = 10;
const MOST_AIRS = 200;

export const newClass = (): ClassState => ({
  phase: 'planned',
  seq: 0,
  at: 0,
  revision: 0,
  code: '',
  plan: null,
  plannedMin: 0,
  current: null,
  before: [],
  visits: [],
  students: byId(),
  seats: [],
  removed: [],
  touches: [],
  dryFactor: 1,
  climate: null,
  airs: [],
  said: [],
  rehearsal: false,
  clock: null,
  passedOver: 0,
});

/** The class's own time (ms) at a real server time: the same, but in a rehearsal that was made faster. */
export const classTime = ({ clock }: Pick<ClassState, 'clock'>, real: number): number =>
  clock ? Math.round(clock.at + (real - clock.real) * clock.speed) : real;

/** Ids that events name; what is no id is folded into nothing. */
const named = ['studentId', 'stepId', 'areaId'] as const;
/** Whether an event, perhaps written before ids were narrow, names only what can be an id. */
export const isFoldable = ({ body }: ClassEvent): boolean =>
  named.every((field) => !(field in body) || isId(String((body as Record<string, unknown>)[field])));

/**
 * Folds one event into a state, in place. Events at or before the state's sequence are ignored, so that a repeated frame does
 * no harm; a gap throws, because a state with a hole in it would be wrong for ever. An event that names what can be no id is passed over and
 * counted.
 */
export function fold(state: ClassState, event: ClassEvent): ClassState {
  if (event.seq <= state.seq) return state;
  if (event.seq !== state.seq + 1) throw new RangeError(`Event ${event.seq} came after ${state.seq}: one is missing.`);
  state.seq = event.seq;
  state.at = event.at;
  if (!isFoldable(event)) {
    state.passedOver += 1;
    return state;
  }
  const { body } = event;
  const student = 'studentId' in body ? state.students[body.studentId] : undefined;
  switch (body.type) {
    case 'opened':
      state.phase = 'open';
      state.revision = body.revision;
      state.plan = body.plan;
      state.plannedMin = body.plan.endMin;
      state.code = body.code;
      state.rehearsal = body.rehearsal === true;
      break;
    case 'joined': {
      const seat = freeSeat(state);
      state.seats[seat] = body.studentId;
      state.students[body.studentId] = {
        id: body.studentId,
        firstName: body.firstName,
        kit: body.kit,
        has: body.has ?? [],
        seat,
        joinedAt: event.at,
        doneAt: byId(),
        hand: null,
      };
      break;
    }
    case 'seated':
      if (student) {
        const there = state.seats[body.seat] ?? null;
        while (state.seats.length < body.seat) state.seats.push(null);
        state.seats[student.seat] = there;
        if (there) (state.students[there] as Student).seat = student.seat;
        state.seats[body.seat] = student.id;
        student.seat = body.seat;
      }
      break;
    case 'renamed':
      if (student) student.firstName = body.firstName;
      break;
    case 'removed':
      if (student) state.seats[student.seat] = null;
      delete state.students[body.studentId];
      state.removed.push(body.studentId);
      break;
    case 'itemStarted': {
      state.before.push(state.current);
      if (state.before.length > MOST_TAKEN_BACK) state.before.shift();
      const last = state.visits.at(-1);
      if (last) last.endedAt = event.at;
      state.visits.push({ index: body.index, startedAt: event.at, endedAt: null, holds: [] });
      state.current = { index: body.index, startedAt: event.at, extendedMin: 0, heldMs: 0, heldSince: null };
      state.phase = 'running';
      break;
    }
    case 'itemTakenBack': {
      state.current = state.before.pop() ?? null;
      state.visits.pop();
      const last = state.visits.at(-1);
      if (last) last.endedAt = null;
      state.phase = state.current === null ? 'open' : state.current.heldSince === null ? 'running' : 'held';
      break;
    }
    case 'held':
      if (state.current) state.current.heldSince = event.at;
      state.visits.at(-1)?.holds?.push({ from: event.at, to: null });
      state.phase = 'held';
      break;
    case 'resumed':
      if (state.current?.heldSince != null) {
        state.current.heldMs += event.at - state.current.heldSince;
        state.current.heldSince = null;
        const hold = state.visits.at(-1)?.holds?.at(-1);
        if (hold) hold.to = event.at;
      }
      state.phase = 'running';
      break;
    case 'extended':
      if (state.current) state.current.extendedMin += body.minutes;
      break;
    case 'replanned': {
      // The plan begins with what happened, an item a visit.
      state.plan = body.plan;
      for (const [k, visit] of state.visits.entries()) visit.index = k;
      if (state.current) state.current.index = state.visits.length - 1;
      state.before = [];
      const now = state.airs.at(-1)?.factor ?? 1;
      if (now !== 1) state.airs = [{ at: 0, factor: 1 }, ...state.airs].map(({ at, factor }) => ({ at, factor: factor / now }));
      break;
    }
    case 'climateNoted':
      state.climate = { airC: body.airC, humidity: body.humidity, airSpeed: body.airSpeed, at: event.at };
      state.airs.push({ at: event.at, factor: body.factor });
      if (state.airs.length > MOST_AIRS) state.airs.shift();
      break;
    case 'said':
      state.said.push({ text: body.text, at: event.at });
      if (state.said.length > MOST_SAID) state.said.shift();
      break;
    case 'speedSet':
      state.clock = { real: body.real, at: event.at, speed: body.speed };
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
      const test = touched(state, body.areaId, body.dry, event.at);
      if (test) state.touches.push(test);
      state.dryFactor = dryingFactor(state.touches);
      break;
    }
    case 'ended': {
      const last = state.visits.at(-1);
      if (last) last.endedAt = event.at;
      state.phase = 'ended';
      break;
    }
  }
  return state;
}

function freeSeat({ seats }: ClassState): number {
  const free = seats.indexOf(null);
  return free < 0 ? seats.length : free;
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
