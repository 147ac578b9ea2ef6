import { type ClassEvent, type Command, classErrors, type EventBody } from '@viaticum/contract';
import { type Actor, type ClassState, classTime, decide, fold, newClass, Refusal, type WorkedOut } from '@viaticum/core/class';
import type { Pool, PoolConnection, RowDataPacket } from 'mysql2/promise';
import { nanoid } from 'nanoid';
import { isDiskFull } from '../errors.js';

export type Result = { seq: number; studentId?: string } | { refused: Refusal };
type Waiting = { id: string; actor: Actor; command: Command; worked: WorkedOut; resolve: (result: Result) => void };
type Row = { seq: number; at: number; actor: string; commandId: string; body: string };

const BATCH = 256;
const RETRY_MS = 50;
/** A database that stays away is asked less and less often. */
const MOST_RETRY_MS = 2000;
/** More than these are refused: nobody says so much while a database is away. */
const MOST_WAITING = 50_000;
/** Events are read in pieces, so that a long log does not stop everybody else. */
const PAGE = 1000;
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
/** A command that throws, by its place in the batch. */
class Poisoned extends Error {
  constructor(
    readonly index: number,
    override readonly cause: unknown,
  ) {
    super('a command cannot be carried out');
  }
}
/** What the database refuses because of what it was given, and would refuse for ever. */
const isUnwritable = (error: unknown): boolean =>
  [
    'ER_DATA_TOO_LONG',
    'ER_TRUNCATED_WRONG_VALUE_FOR_FIELD',
    'ER_TRUNCATED_WRONG_VALUE',
    'ER_WARN_DATA_OUT_OF_RANGE',
    'ER_BAD_NULL_ERROR',
    'ER_CANT_AGGREGATE_2COLLATIONS',
  ].includes(String((error as { code?: string }).code));

export type StorageTrouble = 'database-away' | 'disk-full';
/** What a log tells besides its events. */
export type LogNotes = {
  /** Whether the disk is full: a database that runs into its end does not survive it, so it is not tried. */
  isFull?: () => boolean;
  /** Nothing can be written just now (null: again). */
  onTrouble?: (trouble: StorageTrouble | null) => void;
  /** A command could not be carried out even alone. */
  onFailed?: (commandId: string, error: unknown) => void;
  /** So many events of the log name what can be no id. */
  onPassedOver?: (count: number) => void;
};
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
 * transaction each, so that what is acknowledged is committed. `pool` gives connections that commit nothing by themselves. The state is
 * folded in memory; after an error of the database it is folded anew and the same batch is tried until it works. A command that cannot
 * be carried out is taken out of its batch and tried alone once. A command whose id is in the log already is answered with its first
 * result.
 */
export function classLog(
  pool: Pool,
  classId: string,
  arrive: (events: ClassEvent[], from: 'here' | 'elsewhere') => void,
  { isFull, onTrouble, onFailed, onPassedOver }: LogNotes = {},
) {
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
    const before = state.passedOver;
    for (;;) {
      const [rows] = await connection.query<(Row & RowDataPacket)[]>(
        'SELECT seq, at, actor, command_id AS commandId, body FROM class_event WHERE class_id = ? AND seq > ? ORDER BY seq LIMIT ?',
        [classId, state.seq, PAGE],
      );
      hearAll(rows.map(toEvent));
      if (rows.length < PAGE) break;
    }
    if (state.passedOver > before) onPassedOver?.(state.passedOver);
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
    const results = batch.map((one, index): Result => {
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
        if (!(error instanceof Refusal)) throw new Poisoned(index, error);
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

  let troubled: StorageTrouble | null = null;
  const tell = (trouble: StorageTrouble | null): void => {
    if (trouble === troubled) return;
    troubled = trouble;
    onTrouble?.(trouble);
  };
  const fail = (one: Waiting, error: unknown): void => {
    onFailed?.(one.id, error);
    one.resolve({
      refused: new Refusal(classErrors.failed),
    });
  };

  /** Carries a batch out, whatever the database does meanwhile; what is poisonous in it fails alone. */
  const settle = async (batch: Waiting[]): Promise<void> => {
    const poisonous: Waiting[] = [];
    let careful = false;
    let pause = RETRY_MS;
    let done: Decided | null = null;
    while (!done && batch.length > 0) {
      try {
        if (isFull?.()) throw Object.assign(new Error('the disk is full'), { code: 'ENOSPC' });
        done = await (careful ? appendWithCare(batch) : appendBoldly(batch));
      } catch (error) {
        rewind();
        if (closed) throw error;
        if (error instanceof Poisoned) {
          const [one] = batch.splice(error.index, 1) as [Waiting];
          if (batch.length + poisonous.length === 0) return fail(one, error.cause);
          poisonous.push(one);
        } else if (!careful && wantsCare(error)) careful = true;
        else if (isUnwritable(error)) {
          const [one, ...others] = batch as [Waiting, ...Waiting[]];
          if (others.length + poisonous.length === 0) return fail(one, error);
          poisonous.push(...batch.splice(0));
        } else {
          tell(isDiskFull(error) ? 'disk-full' : 'database-away');
          await new Promise((resolve) => setTimeout(resolve, pause));
          pause = Math.min(MOST_RETRY_MS, pause * 2);
        }
      }
    }
    if (done) {
      tell(null);
      committed = events.length;
      done.results.forEach((result, i) => {
        batch[i]?.resolve(result);
      });
      if (done.fresh.length > 0) arrive(done.fresh, 'here');
    }
    for (const one of poisonous) await settle([one]);
  };

  const work = async (): Promise<void> => {
    if (running) return;
    running = true;
    try {
      while (waiting.length > 0 && !closed) await settle(waiting.splice(0, BATCH));
    } finally {
      running = false;
    }
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
    /** Whether something is being written, or waits to be. */
    get isBusy() {
      return running || waiting.length > 0;
    },
    /** Committed events after a sequence number, at most so many. */
    after: (seq: number, most: number) => events.slice(seq, Math.min(committed, seq + most)),
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
        if (waiting.length >= MOST_WAITING) return resolve({ refused: new Refusal(classErrors.tooMuchWaits) });
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
