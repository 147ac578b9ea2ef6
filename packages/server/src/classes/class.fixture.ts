import type { ClassEvent } from '@viaticum/contract';
import { type ClassState, foldStretch, newClass, seenBy, stateHash } from '@viaticum/core/class';
import { ClassEventEntity } from '../db/entities.js';
import type { TestServer } from '../server.fixture.js';

/** The events of a class as the database has them. */
export const classOf = async (server: TestServer, classId: string): Promise<ClassEvent[]> =>
  (await server.database.source.manager.find(ClassEventEntity, { where: { classId }, order: { seq: 'ASC' } })).map((row) => ({
    seq: row.seq,
    at: row.at,
    actor: row.actor,
    body: JSON.parse(row.body),
  }));

/** What a phone of a student should hold of a log. */
export const sliceOf = (events: readonly ClassEvent[], studentId: string): ClassState =>
  foldStretch(
    newClass(),
    events.flatMap((event) => seenBy({ sees: 'own', studentId }, event) ?? []),
    events.at(-1)?.seq ?? 0,
  );
/** The fingerprint of what a phone holds. How far it was told that nothing more is for it does not matter. */
export const phoneHash = (state: ClassState): string => stateHash({ ...state, seq: 0 });
