import type { ClassEvent, Command, EventBody } from '@viaticum/contract';
import { type Actor, type ClassState, classTime, decide, fold, newClass, Refusal, type WorkedOut } from '@viaticum/core/class';
import type { Pool, PoolConnection, RowDataPacket } from 'mysql2/promise';
import { nanoid } from 'nanoid';

export type Result = { seq: number; studentId?: string } | { refused: Refusal };
type Waiting = { id: string; actor: Actor; command: Command; worked: WorkedOut; resolve: (result: Result) => void };
type Row = { seq: number; at: number; actor: string; commandId: string; body: string };

const BATCH = 256;
const RETRY_MS = 50;
/** Pub/sub delivers out of order now and then: a gap is waited for so long, then read. */
const GAP_MS = 100;

type Decided = {
  results: Result[];
  fresh: ClassEvent[];
  values: (string | number)[][];
  /** Whether every command of the batch led to an event. */
  isPlain: boolean;
};
class NeedsCare extends Error {}
const wantsCare = (error: unknown): boolean =>
  error instanceof NeedsCare || ['ER_DUP_ENTRY', 'ER_LOCK_DEADLOCK'].includes(String((error as { code?: string }).code));

const toEvent = (row: Row): ClassEvent => ({
  seq: Number(row.seq),
  at: Number(row.at),
  actor: row.actor,
  body: JSON.parse(row.body) as EventBody,
});
const actorName = (actor: Actor): string => (actor.kind === 'student' ? actor.id : actor.kind);

/**
 * The log of one class, which other processes may append to as well: commands wait in a queue and are appended in batches, one
 * transaction each, so that what is acknowledged is committed. `pool` gives connections that commit nothing by themselves. The state is folded in memory; after an error it is read from the database again and the same
 * batch is tried until it works. A command whose id is in the log already is answered with its first result.
 */
export function classLog(pool: Pool, classId: string, arrive: (events: ClassEvent[], from: 'here' | 'elsewhere') => void) {
  let state: ClassState = newClass();
  /** All events in their order; those after `committed` are being written and nobody has seen them. */
  const events: ClassEvent[] = [];
  let committed = 0;
  /** The highest sequence that another process has told of. */
  let told = 0;
  let reading: NodeJS.Timeout | null = null;
  const waiting: Waiting[] = [];
  let running = false;
  let closed = false;

  const load = async (connection: Pick<PoolConnection, 'query'>): Promise<void> => {
    const [rows] = await connection.query<(Row & RowDataPacket)[]>(
      'SELECT seq, at, actor, command_id AS commandId, body FROM class_event WHERE class_id = ? AND seq > ? ORDER BY seq',
      [classId, state.seq],
    );
    hearAll(rows.map(toEvent));
  };
  /** {@link load} on a connection of its own: what it sees is what is committed now. */
  const read = (): Promise<void> =>
    withConnection(async (connection) => {
      await load(connection);
      await connection.query('COMMIT');
    });
  /** Events that are in the database and were written elsewhere; only those that join without a gap. */
  const hearAll = (list: ClassEvent[]): void => {
    const fresh = list.filter((event) => event.seq > state.seq);
    for (const event of fresh) take(event);
    committed = events.length;
    if (fresh.length > 0) arrive(fresh, 'elsewhere');
  };
  const take = (event: ClassEvent): void => {
    fold(state, event);
    events.push(event);
  };
  /** Back to what is surely committed: the events that were sent out. */
  const rewind = (): void => {
    events.length = committed;
    state = newClass();
    for (const event of events) fold(state, event);
  };

  /** Decides a batch in its order; events are taken at once, and unsaid by {@link rewind} where writing them fails. */
  const decideAll = (batch: Waiting[], first: Map<string, Result>): Decided => {
    const real = Date.now();
    const now = Math.max(state.at, classTime(state, real));
    const fresh: ClassEvent[] = [];
    const values: (string | number)[][] = [];
    let isPlain = true;
    const results = batch.map((one): Result => {
      const before = first.get(one.id);
      if (before) return before;
      try {
        const [body] = decide(state, one.actor, one.command, now, () => nanoid(10), { ...one.worked, real });
        if (!body) {
          isPlain = false;
          return { seq: state.seq };
        }
        const event: ClassEvent = { seq: state.seq + 1, at: now, actor: actorName(one.actor), body };
        take(event);
        fresh.push(event);
        values.push([classId, event.seq, event.at, event.actor, one.id, JSON.stringify(body)]);
        const result = resultOf(event.seq, body);
        first.set(one.id, result);
        return result;
      } catch (error) {
        if (!(error instanceof Refusal)) throw error;
        isPlain = false;
        return { refused: error };
      }
    });
    return { results, fresh, values, isPlain };
  };

  /**
   * Writes a batch in one journey, trusting that this process knows all of the class: the keys of the table refuse a sequence or a
   * command that is there already, and nothing is committed then. What changes nothing or is refused may have been said before, so it
   * is looked up with care.
   */
  const appendBoldly = async (batch: Waiting[]): Promise<Decided> => {
    const before = state.seq;
    const decided = decideAll(batch, new Map());
    if (!decided.isPlain) throw new NeedsCare();
    await withConnection((connection) => write(connection, decided.values, before));
    return decided;
  };

  /** Locks the class, reads what others wrote, finds commands that are known, then decides and writes. */
  const appendWithCare = (batch: Waiting[]): Promise<Decided> =>
    withConnection(async (connection) => {
      // The first statement of the transaction: nobody else appends from here on.
      const [found] = await connection.query<(Partial<Row> & { lastSeq: number } & RowDataPacket)[]>(
        `SELECT class.last_seq AS lastSeq, known.seq, known.command_id AS commandId, known.body
         FROM class LEFT JOIN class_event AS known ON known.class_id = class.id AND known.command_id IN (?)
         WHERE class.id = ? FOR UPDATE`,
        [batch.map((one) => one.id), classId],
      );
      if (Number(found[0]?.lastSeq) > state.seq) await load(connection);
      const first = new Map(
        found.flatMap(({ seq, commandId, body }) =>
          commandId ? [[commandId, resultOf(Number(seq), JSON.parse(body as string) as EventBody)] as const] : [],
        ),
      );
      const before = state.seq;
      const decided = decideAll(batch, first);
      await write(connection, decided.values, before);
      return decided;
    });

  /** In one journey; what fails is not gone past, so that nothing is committed without the rest. */
  const write = async (connection: PoolConnection, values: (string | number)[][], before: number): Promise<void> => {
    if (values.length === 0) await connection.query('COMMIT');
    else
      await connection.query(
        `UPDATE class SET last_seq = ?, phase = ? WHERE id = ? AND last_seq = ?;
         INSERT INTO class_event (class_id, seq, at, actor, command_id, body) VALUES ?;
         COMMIT`,
        [state.seq, state.phase, classId, before, values],
      );
  };

  const withConnection = async <T>(job: (connection: PoolConnection) => Promise<T>): Promise<T> => {
    const connection = await pool.getConnection();
    try {
      const done = await job(connection);
      connection.release();
      return done;
    } catch (error) {
      // What it had begun is undone with it.
      connection.destroy();
      throw error;
    }
  };

  const work = async (): Promise<void> => {
    if (running) return;
    running = true;
    while (waiting.length > 0 && !closed) {
      const batch = waiting.splice(0, BATCH);
      let careful = false;
      for (;;) {
        try {
          const { results, fresh } = await (careful ? appendWithCare(batch) : appendBoldly(batch));
          committed = events.length;
          results.forEach((result, i) => {
            batch[i]?.resolve(result);
          });
          if (fresh.length > 0) arrive(fresh, 'here');
          break;
        } catch (error) {
          rewind();
          if (closed) throw error;
          if (!careful && wantsCare(error)) careful = true;
          else await new Promise((resolve) => setTimeout(resolve, RETRY_MS));
        }
      }
    }
    running = false;
    if (told > state.seq) readSoon(0);
  };
  /** Reads what is missing, unless an append does it first: that looks before it writes. */
  const readSoon = (ms: number): void => {
    reading ??= setTimeout(() => {
      reading = null;
      if (running || closed) return;
      running = true;
      read()
        .catch(() => readSoon(GAP_MS * 5))
        .finally(() => {
          running = false;
          work().catch(() => undefined);
        });
    }, ms);
  };

  return {
    get state() {
      return state;
    },
    /** The highest sequence that is surely committed. */
    get head() {
      return committed;
    },
    /** Committed events after a sequence number. */
    after: (seq: number) => events.slice(seq, committed),
    load: () => read(),
    /** Events that another process wrote: taken at once where they join, else what is missing is read from the database. */
    hear(list: ClassEvent[]): void {
      const [first] = list;
      if (!first) return;
      told = Math.max(told, list.at(-1)?.seq ?? 0);
      if (running) return;
      if (first.seq <= state.seq + 1) hearAll(list);
      else readSoon(GAP_MS);
    },
    /** Looks into the database whether anything was missed. */
    look(): void {
      if (!running) readSoon(0);
    },
    /** Carries a command out; resolves when it is committed or refused. `worked` is what was worked out for it beforehand. */
    command(id: string, actor: Actor, command: Command, worked: WorkedOut = {}): Promise<Result> {
      return new Promise((resolve) => {
        waiting.push({ id, actor, command, worked, resolve });
        work().catch(() => undefined);
      });
    },
    close() {
      closed = true;
      if (reading) clearTimeout(reading);
    },
  };
}
export type ClassLog = ReturnType<typeof classLog>;

const resultOf = (seq: number, body: EventBody): Result => ({
  seq,
  ...(body.type === 'joined' ? { studentId: body.studentId } : {}),
});
