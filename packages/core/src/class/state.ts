import { byId, type ClassEvent, type EventBody, isId } from '@viaticum/contract';
import { foldsOfProgress } from './fold/progress.js';
import { foldsOfRoom } from './fold/room.js';
import type { Folds } from './fold/shape.js';
import { partsOf, phaseOf, viewFor, viewOf } from './groups.js';
import type { ClassState } from './shape.js';

/** What each kind of event does to a state. */
const folds: Partial<Folds> = { ...foldsOfProgress, ...foldsOfRoom };

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

/** Events that a group has by itself; without a group they are of all. */
const ofGroups: ReadonlySet<EventBody['type']> = new Set([
  'itemStarted',
  'itemTakenBack',
  'held',
  'resumed',
  'extended',
  'replanned',
  'ended',
]);
/** Events of one student that look at where their class is. */
const ofStudents: ReadonlySet<EventBody['type']> = new Set(['answered', 'handRaised']);

/** The parts of a class that an event changes: one or all of its groups, or the class as it is. */
function meantBy(state: ClassState, body: EventBody): ClassState[] {
  if (!state.groups) return [state];
  const group = 'group' in body ? body.group : undefined;
  if (group !== undefined && body.type !== 'movedTo' && body.type !== 'joined') return [viewOf(state, group)];
  if (body.type === 'ended') return [...partsOf(state).map(({ view }) => view), state];
  if (ofGroups.has(body.type)) return partsOf(state).map(({ view }) => view);
  return [ofStudents.has(body.type) && 'studentId' in body ? viewFor(state, body.studentId) : state];
}

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
  const { type } = event.body;
  for (const view of meantBy(state, event.body)) folds[type]?.(view, event.body as never, event.at, event.actor);
  if (state.groups && state.phase !== 'ended') state.phase = phaseOf(Object.values(state.groups));
  return state;
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
