import type { ClassEvent } from '@viaticum/contract';
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
