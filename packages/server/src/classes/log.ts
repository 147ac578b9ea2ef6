import type { ClassEvent, Command, EventBody } from '@viaticum/contract';
import { type Actor, type ClassState, decide, fold, newClass, Refusal } from '@viaticum/core/class';
import type { Pool, PoolConnection, RowDataPacket } from 'mysql2/promise';
import { nanoid } from 'nanoid';

export type Result = { seq: number; studentId?: string } | { refused: Refusal };
type Waiting = { id: string; actor: Actor; command: Command; resolve: (result: Result) => void };
type Row = { seq: number; at: number; actor: string; commandId: string; body: string };

const BATCH = 256;
const RETRY_MS = 50;

const toEvent = (row: Row): ClassEvent => ({
  seq: Number(row.seq),
  at: Number(row.at),
  actor: row.actor,
  body: JSON.parse(row.body) as EventBody,
});
const actorName = (actor: Actor): string => (actor.kind === 'student' ? actor.id : actor.kind);

/**
 * The log of one class: commands wait in a queue and are appended in batches, one transaction each, so that what is
 * acknowledged is committed. The state is folded in memory; after an error it is read from the database again and the same
 * batch is tried until it works. A command whose id is in the log already is answered with its first result.
 */
export function classLog(pool: Pool, classId: string, arrive: (events: ClassEvent[]) => void) {
  let state: ClassState = newClass();
  const events: ClassEvent[] = [];
  const waiting: Waiting[] = [];
  let running = false;
  let closed = false;

  const load = async (connection: Pick<PoolConnection, 'query'>): Promise<void> => {
    const [rows] = await connection.query<(Row & RowDataPacket)[]>(
      'SELECT seq, at, actor, command_id AS commandId, body FROM class_event WHERE class_id = ? AND seq > ? ORDER BY seq',
      [classId, state.seq],
    );
    const fresh = rows.map(toEvent);
    for (const event of fresh) take(event);
    if (fresh.length > 0) arrive(fresh);
  };
  const take = (event: ClassEvent): void => {
    fold(state, event);
    events.push(event);
  };
  /** Back to what is surely committed: the events that were sent out. */
  const rewind = (committed: number): void => {
    events.length = committed;
    state = newClass();
    for (const event of events) fold(state, event);
  };

  const append = async (connection: PoolConnection, batch: Waiting[]): Promise<{ results: Result[]; fresh: ClassEvent[] }> => {
    await connection.query('START TRANSACTION');
    const [[locked]] = await connection.query<({ lastSeq: number } & RowDataPacket)[]>(
      'SELECT last_seq AS lastSeq FROM class WHERE id = ? FOR UPDATE',
      [classId],
    );
    if (Number(locked?.lastSeq) > state.seq) await load(connection);
    const [known] = await connection.query<(Row & RowDataPacket)[]>(
      'SELECT seq, command_id AS commandId, body FROM class_event WHERE class_id = ? AND command_id IN (?)',
      [classId, batch.map((one) => one.id)],
    );
    const first = new Map(known.map((row) => [row.commandId, resultOf(Number(row.seq), JSON.parse(row.body) as EventBody)]));
    const now = Math.max(state.at, Date.now());
    const fresh: ClassEvent[] = [];
    const values: (string | number)[][] = [];
    const results = batch.map((one): Result => {
      const before = first.get(one.id);
      if (before) return before;
      try {
        const [body] = decide(state, one.actor, one.command, now, () => nanoid(10));
        if (!body) return { seq: state.seq };
        const event: ClassEvent = { seq: state.seq + 1, at: now, actor: actorName(one.actor), body };
        take(event);
        fresh.push(event);
        values.push([classId, event.seq, event.at, event.actor, one.id, JSON.stringify(body)]);
        const result = resultOf(event.seq, body);
        first.set(one.id, result);
        return result;
      } catch (error) {
        if (error instanceof Refusal) return { refused: error };
        throw error;
      }
    });
    if (values.length > 0) {
      await connection.query('INSERT INTO class_event (class_id, seq, at, actor, command_id, body) VALUES ?', [values]);
      await connection.query('UPDATE class SET last_seq = ?, phase = ? WHERE id = ?', [state.seq, state.phase, classId]);
    }
    await connection.query('COMMIT');
    return { results, fresh };
  };

  const work = async (): Promise<void> => {
    if (running) return;
    running = true;
    while (waiting.length > 0 && !closed) {
      const batch = waiting.splice(0, BATCH);
      for (;;) {
        const committed = events.length;
        let connection: PoolConnection | null = null;
        try {
          connection = await pool.getConnection();
          const { results, fresh } = await append(connection, batch);
          connection.release();
          results.forEach((result, i) => {
            batch[i]?.resolve(result);
          });
          if (fresh.length > 0) arrive(fresh);
          break;
        } catch (error) {
          connection?.destroy();
          rewind(Math.min(committed, events.length));
          if (closed) throw error;
          await new Promise((resolve) => setTimeout(resolve, RETRY_MS));
        }
      }
    }
    running = false;
  };

  return {
    get state() {
      return state;
    },
    /** Events after a sequence number. */
    after: (seq: number) => events.slice(seq),
    load: () => load(pool as unknown as PoolConnection),
    /** Carries a command out; resolves when it is committed or refused. */
    command(id: string, actor: Actor, command: Command): Promise<Result> {
      return new Promise((resolve) => {
        waiting.push({ id, actor, command, resolve });
        work().catch(() => undefined);
      });
    },
    close() {
      closed = true;
    },
  };
}
export type ClassLog = ReturnType<typeof classLog>;

const resultOf = (seq: number, body: EventBody): Result => ({
  seq,
  ...(body.type === 'joined' ? { studentId: body.studentId } : {}),
});
