import type { ClassEvent } from '@viaticum/contract';
import type { ClassState } from './shape.js';
import { fold } from './state.js';

/**
 * What a screen is shown of a class. `all`: desks and assistants. `room`: who is where and how far, without names: the wall. `own`: what
 * is of the class and of one student (null: of nobody yet): a phone.
 */
export type Eye = { sees: 'all' } | { sees: 'room' } | { sees: 'own'; studentId: string | null };
/** Stands for a name where names are nobody's business. */
export const NO_NAME = '·';

/** Stands for a name that was erased. */
export const ERASED_NAME = 'Somebody';

/** An event as an eye sees it; null where it is not for that eye. */
export function seenBy(eye: Eye, event: ClassEvent): ClassEvent | null {
  const { body } = event;
  if (eye.sees === 'own') return 'studentId' in body && body.studentId !== eye.studentId ? null : event;
  const namesSomebody = body.type === 'joined' || body.type === 'renamed';
  return eye.sees === 'room' && namesSomebody ? { ...event, body: { ...body, firstName: NO_NAME } } : event;
}

/**
 * Folds what came of a stretch of the log up to `to`, in place. Events that are not for this screen are left out of it: their numbers count
 * as seen. What is at or before the state's sequence is ignored, as in {@link fold}. Whether a stretch before it is missing is for the caller
 * to see.
 */
export function foldStretch(state: ClassState, events: readonly ClassEvent[], to: number): ClassState {
  for (const event of events) {
    if (event.seq <= state.seq) continue;
    state.seq = event.seq - 1;
    fold(state, event);
  }
  state.seq = Math.max(state.seq, to);
  return state;
}
