import type { ClassEvent, EventBody } from '@viaticum/contract';
import { ERASED_NAME } from '@viaticum/core/class';
import type { Pool, PoolConnection, RowDataPacket } from 'mysql2/promise';

/** `name`: of who joined or was renamed in this event, where it is still kept. */
type Row = { seq: number; at: number; actor: string; body: string; name: string | null };
/** An event and the command that led to it. */
export type Written = { event: ClassEvent; commandId: string };
export type Known = { commandId: string; seq: number; body: EventBody };

/** Events are read in pieces, so that a long log does not stop everybody else. */
const PAGE = 1000;

/** What the database refuses because of what it was given, and would refuse for ever. */
export const isUnwritable = (error: unknown): boolean =>
  [
    'ER_DATA_TOO_LONG',
    'ER_TRUNCATED_WRONG_VALUE_FOR_FIELD',
    'ER_TRUNCATED_WRONG_VALUE',
    'ER_WARN_DATA_OUT_OF_RANGE',
    'ER_BAD_NULL_ERROR',
    'ER_CANT_AGGREGATE_2COLLATIONS',
  ].includes(String((error as { code?: string }).code));

/** Somebody else wrote to the class meanwhile. */
export const isConflict = (error: unknown): boolean =>
  ['ER_DUP_ENTRY', 'ER_LOCK_DEADLOCK'].includes(String((error as { code?: string }).code));

/** The rows of a class in the event log after a sequence number, piece by piece. */
export async function* eventRows(from: Pick<Pool, 'query'>, classId: string, after = 0): AsyncGenerator<Row[]> {
  for (let seq = after; ; ) {
    const [rows] = await from.query<(Row & RowDataPacket)[]>(
      `SELECT event.seq, event.at, event.actor, event.body, name.first_name AS name FROM class_event AS event
       LEFT JOIN class_name AS name ON name.class_id = event.class_id AND name.seq = event.seq
       WHERE event.class_id = ? AND event.seq > ? ORDER BY event.seq LIMIT ?`,
      [classId, seq, PAGE],
    );
    yield rows;
    if (rows.length < PAGE) return;
    seq = Number(rows.at(-1)?.seq);
  }
}

/** An event that names somebody. */
type Naming = Extract<EventBody, { firstName: string }>;
const isNaming = (body: EventBody): body is Naming => body.type === 'joined' || body.type === 'renamed';
/** How an event is stored: who it names stands apart from it, and can be taken away. */
const unnamed = (body: EventBody): string => JSON.stringify(isNaming(body) ? { ...body, firstName: '' } : body);
/** What an event says, with the name that stands apart from it. */
function bodyOf({ body: text, name }: Pick<Row, 'body' | 'name'>): EventBody {
  const body = JSON.parse(text) as EventBody;
  return isNaming(body) ? { ...body, firstName: name ?? ERASED_NAME } : body;
}
/** The text of {@link bodyOf}, which is parsed only where it may name somebody. */
export const bodyText = (row: Pick<Row, 'body' | 'name'>): string =>
  row.body.includes('"firstName"') ? JSON.stringify(bodyOf(row)) : row.body;

export const toEvent = (row: Row): ClassEvent => ({
  seq: Number(row.seq),
  at: Number(row.at),
  actor: row.actor,
  body: bodyOf(row),
});

/** The rows of one class in the event log. `pool` gives connections that commit nothing by themselves. */
export function logTable(pool: Pool, classId: string) {
  return {
    /** Gives the events after a sequence number piece by piece. */
    async read(connection: PoolConnection, seq: number, take: (events: ClassEvent[]) => void): Promise<void> {
      for await (const rows of eventRows(connection, classId, seq)) take(rows.map(toEvent));
    },

    /** Locks the class, so that nobody else appends: the highest sequence, and which of these commands are in the log. Must be the first statement of a transaction. */
    async lock(connection: PoolConnection, commandIds: string[]): Promise<{ lastSeq: number; known: Known[] }> {
      const [found] = await connection.query<(Partial<Row> & { lastSeq: number; commandId?: string } & RowDataPacket)[]>(
        `SELECT class.last_seq AS lastSeq, known.seq, known.command_id AS commandId, known.body
         FROM class LEFT JOIN class_event AS known ON known.class_id = class.id AND known.command_id IN (?)
         WHERE class.id = ? FOR UPDATE`,
        [commandIds, classId],
      );
      return {
        lastSeq: Number(found[0]?.lastSeq),
        known: found.flatMap(({ seq, commandId, body }) =>
          commandId ? [{ commandId, seq: Number(seq), body: JSON.parse(body as string) as EventBody }] : [],
        ),
      };
    },

    /** Appends after `before` and commits, in one journey; what fails is not gone past, so that nothing is committed without the rest. */
    async append(connection: PoolConnection, written: readonly Written[], before: number, phase: string): Promise<void> {
      const last = written.at(-1);
      const names = written.flatMap(({ event: { seq, body } }) =>
        isNaming(body) ? [[classId, seq, body.studentId, body.firstName]] : [],
      );
      if (!last) await connection.query('COMMIT');
      else
        await connection.query(
          `UPDATE class SET last_seq = ?, phase = ? WHERE id = ? AND last_seq = ?;
           INSERT INTO class_event (class_id, seq, at, actor, command_id, body) VALUES ?;
           ${names.length > 0 ? 'INSERT INTO class_name (class_id, seq, student_id, first_name) VALUES ?;' : ''}
           COMMIT`,
          [
            last.event.seq,
            phase,
            classId,
            before,
            written.map(({ event, commandId }) => [classId, event.seq, event.at, event.actor, commandId, unnamed(event.body)]),
            ...(names.length > 0 ? [names] : []),
          ],
        );
    },

    /** A connection of its own for a transaction, which is undone where the job fails. */
    async transaction<T>(job: (connection: PoolConnection) => Promise<T>): Promise<T> {
      const connection = await pool.getConnection();
      try {
        const done = await job(connection);
        connection.release();
        return done;
      } catch (error) {
        // What it had begun is undone: where only somebody else was first by word, elsewhere with the connection.
        if (isConflict(error) && (await connection.query('ROLLBACK').catch(() => null))) connection.release();
        else connection.destroy();
        throw error;
      }
    },
  };
}
export type LogTable = ReturnType<typeof logTable>;
