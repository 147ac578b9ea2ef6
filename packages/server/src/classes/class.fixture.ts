import type { ClassEvent } from '@viaticum/contract';
import { type ClassState, foldStretch, newClass, seenBy, stateHash } from '@viaticum/core/class';
import type { TestServer } from '../server.fixture.js';
import { storedEvents } from './events.js';

/** The events of a class as the database has them. */
export const classOf = async ({ database }: TestServer, classId: string): Promise<ClassEvent[]> =>
  JSON.parse(await storedEvents(database).text(classId)) as ClassEvent[];

/** What a phone of a student should hold of a log. */
export const sliceOf = (events: readonly ClassEvent[], studentId: string): ClassState =>
  foldStretch(
    newClass(),
    events.flatMap((event) => seenBy({ sees: 'own', studentId }, event) ?? []),
    events.at(-1)?.seq ?? 0,
  );
/** The fingerprint of what a phone holds. How far it was told that nothing more is for it does not matter. */
export const phoneHash = (state: ClassState): string => stateHash({ ...state, seq: 0 });
