import { type ClassEvent, type Command, classErrors } from '@viaticum/contract';
import { type Actor, type Eye, Refusal, type WorkedOut } from '@viaticum/core/class';
import type { Pool } from 'mysql2/promise';
import { isDiskFull } from '../../errors.js';
import {
  type Asked,
  appendBoldly,
  appendWithCare,
  type Decided,
  Poisoned,
  type PressedAt,
  type Result,
  wantsCare,
} from './append.js';
import { LogCopy } from './copy.js';
import { isUnwritable, logTable } from './table.js';

type Waiting = Asked & { resolve: (result: Result) => void };

const BATCH = 256;
const RETRY_MS = 50;
/** A database that stays away is asked less and less often. */
const MOST_RETRY_MS = 2000;
/** More than these are refused: nobody says so much while a database is away. */
const MOST_WAITING = 50_000;
/** So long after others have written to a class it is taken that they do again: it is asked first then instead of tried. */
const OTHERS_WRITE_MS = 3000;
/** Pub/sub delivers out of order now and then: a gap is waited for so long, then read. */
const GAP_MS = 100;

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
  notes: LogNotes = {},
) {
  const copy = new LogCopy();
  const table = logTable(pool, classId);
  /** The highest sequence that another process has told of. */
  let told = 0;
  /** When something was heard that others had written. */
  let heardAt = 0;
  let reading: NodeJS.Timeout | null = null;
  const waiting: Waiting[] = [];
  let running = false;
  let closed = false;

  /** Events that are in the database and were written elsewhere; only those that join without a gap. */
  const hearAll = (list: ClassEvent[]): void => {
    const before = copy.state.passedOver;
    const fresh = copy.hear(list);
    if (fresh.length > 0) {
      heardAt = Date.now();
      arrive(fresh, 'elsewhere');
    }
    if (copy.state.passedOver > before) notes.onPassedOver?.(copy.state.passedOver);
  };
  /** On a connection of its own: what it sees is what is committed now. */
  const read = (): Promise<void> =>
    table.transaction(async (connection) => {
      await table.read(connection, copy.state.seq, hearAll);
      await connection.query('COMMIT');
    });
  const settle = settling(copy, table, {
    ...notes,
    arrive,
    hearAll,
    isClosed: () => closed,
    othersWrite: () => Date.now() - heardAt < OTHERS_WRITE_MS,
  });

  const work = async (): Promise<void> => {
    if (running) return;
    running = true;
    try {
      while (waiting.length > 0 && !closed) await settle(waiting.splice(0, BATCH));
    } finally {
      running = false;
    }
    if (told > copy.state.seq) readSoon(0);
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
      return copy.state;
    },
    /** The highest sequence that is surely committed. */
    get head() {
      return copy.head;
    },
    /** Whether something is being written, or waits to be. */
    get isBusy() {
      return running || waiting.length > 0;
    },
    /** What an eye sees of the committed events after a sequence number, at most so many of them. */
    after: (seq: number, most: number, eye: Eye) => copy.after(seq, most, eye),
    load: () => read(),
    /** Events that another process wrote: taken at once where they join, else what is missing is read from the database. */
    hear(list: ClassEvent[]): void {
      const [first] = list;
      if (!first) return;
      told = Math.max(told, list.at(-1)?.seq ?? 0);
      if (running) return;
      if (first.seq <= copy.state.seq + 1) hearAll(list);
      else readSoon(GAP_MS);
    },
    /** Looks into the database whether anything was missed. */
    look(): void {
      if (!running) readSoon(0);
    },
    /**
     * Carries a command out; resolves when it is committed or refused. `worked` is what was worked out for it beforehand, `pressed` when its
     * screen says that it was said.
     */
    command(id: string, actor: Actor, command: Command, worked: WorkedOut = {}, pressed?: PressedAt): Promise<Result> {
      return new Promise((resolve) => {
        if (waiting.length >= MOST_WAITING) return resolve({ refused: new Refusal(classErrors.tooMuchWaits) });
        waiting.push({ id, actor, command, worked, pressed, resolve });
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

/** How a log carries a batch out, whatever the database does meanwhile; what is poisonous in it fails alone. */
function settling(
  copy: LogCopy,
  table: ReturnType<typeof logTable>,
  {
    isFull,
    onTrouble,
    onFailed,
    arrive,
    hearAll,
    isClosed,
    othersWrite,
  }: LogNotes & {
    arrive: (events: ClassEvent[], from: 'here') => void;
    hearAll: (events: ClassEvent[]) => void;
    isClosed: () => boolean;
    othersWrite: () => boolean;
  },
): (batch: Waiting[]) => Promise<void> {
  let troubled: StorageTrouble | null = null;
  const tell = (trouble: StorageTrouble | null): void => {
    if (trouble === troubled) return;
    troubled = trouble;
    onTrouble?.(trouble);
  };
  const fail = (one: Waiting, error: unknown): void => {
    onFailed?.(one.id, error);
    one.resolve({ refused: new Refusal(classErrors.failed) });
  };
  const answer = (batch: readonly Waiting[], { results, written }: Decided): void => {
    tell(null);
    copy.commit();
    results.forEach((result, i) => {
      batch[i]?.resolve(result);
    });
    if (written.length > 0)
      arrive(
        written.map((one) => one.event),
        'here',
      );
  };
  const settle = async (batch: Waiting[]): Promise<void> => {
    const poisonous: Waiting[] = [];
    let careful = othersWrite();
    let pause = RETRY_MS;
    let done: Decided | null = null;
    while (!done && batch.length > 0) {
      try {
        if (isFull?.()) throw Object.assign(new Error('the disk is full'), { code: 'ENOSPC' });
        done = await (careful ? appendWithCare(copy, table, batch, hearAll) : appendBoldly(copy, table, batch));
      } catch (error) {
        copy.rewind();
        if (isClosed()) throw error;
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
    if (done) answer(batch, done);
    for (const one of poisonous) await settle([one]);
  };
  return settle;
}
