import type { ClassEvent, Command, EventBody } from '@viaticum/contract';
import { type Actor, classTime, decide, Refusal, type WorkedOut, whenSaid } from '@viaticum/core/class';
import { nanoid } from 'nanoid';
import type { LogCopy } from './copy.js';
import { isConflict, type LogTable, type Written } from './table.js';

export type Result = { seq: number; studentId?: string } | { refused: Refusal };
/** A command that waits to be carried out; `worked` is what was worked out for it beforehand. */
export type Asked = { id: string; actor: Actor; command: Command; worked: WorkedOut; pressed?: PressedAt | undefined };
/** When its screen says that it was pressed (the server's ms), how wrong that may be, and how far it had seen the log. */
export type PressedAt = { pressed: number; bound: number; seenSeq: number };
export type Decided = {
  results: Result[];
  written: Written[];
  /** Whether every command of the batch led to an event. */
  isPlain: boolean;
};

class NeedsCare extends Error {}
/** A command that throws, by its place in the batch. */
export class Poisoned extends Error {
  constructor(
    readonly index: number,
    override readonly cause: unknown,
  ) {
    super('a command cannot be carried out');
  }
}
export const wantsCare = (error: unknown): boolean => error instanceof NeedsCare || isConflict(error);

const actorName = (actor: Actor): string => (actor.kind === 'student' ? actor.id : actor.kind);
const resultOf = (seq: number, body: EventBody): Result => ({
  seq,
  ...(body.type === 'joined' ? { studentId: body.studentId } : {}),
});

/** Decides a batch in its order; the copy takes the events at once. `first` has the results of commands that are in the log already. */
function decideAll(copy: LogCopy, batch: readonly Asked[], first: Map<string, Result>): Decided {
  const real = Date.now();
  const now = Math.max(copy.state.at, classTime(copy.state, real));
  const written: Written[] = [];
  let isPlain = true;
  const results = batch.map((one, index): Result => {
    const before = first.get(one.id);
    if (before) return before;
    try {
      const said = one.pressed ? whenSaid(copy.state, one.pressed, copy.at(one.pressed.seenSeq), now) : null;
      const [body] = decide(copy.state, one.actor, one.command, now, () => nanoid(10), { ...one.worked, real, said });
      if (!body) {
        isPlain = false;
        return { seq: copy.state.seq };
      }
      const event: ClassEvent = { seq: copy.state.seq + 1, at: now, actor: actorName(one.actor), body };
      copy.take(event);
      written.push({ event, commandId: one.id });
      const result = resultOf(event.seq, body);
      first.set(one.id, result);
      return result;
    } catch (error) {
      if (!(error instanceof Refusal)) throw new Poisoned(index, error);
      isPlain = false;
      return { refused: error };
    }
  });
  return { results, written, isPlain };
}

/**
 * Optimistic append: writes a batch in one journey, trusting that this process knows all of the class. The keys of the table refuse a
 * sequence or a command that is there already, and nothing is committed then. What changes nothing or is refused may have been said
 * before, so it is looked up by {@link appendWithCare}.
 */
export async function appendBoldly(copy: LogCopy, table: LogTable, batch: readonly Asked[]): Promise<Decided> {
  const before = copy.state.seq;
  const decided = decideAll(copy, batch, new Map());
  if (!decided.isPlain) throw new NeedsCare();
  await table.transaction((connection) => table.append(connection, decided.written, before, copy.state.phase));
  return decided;
}

/** Locks the class, reads what others wrote (`heard` gets it), finds commands that are known, then decides and writes. */
export const appendWithCare = (
  copy: LogCopy,
  table: LogTable,
  batch: readonly Asked[],
  heard: (events: ClassEvent[]) => void,
): Promise<Decided> =>
  table.transaction(async (connection) => {
    const { lastSeq, known } = await table.lock(
      connection,
      batch.map((one) => one.id),
    );
    if (lastSeq > copy.state.seq) await table.read(connection, copy.state.seq, heard);
    const before = copy.state.seq;
    const decided = decideAll(copy, batch, new Map(known.map((one) => [one.commandId, resultOf(one.seq, one.body)])));
    await table.append(connection, decided.written, before, copy.state.phase);
    return decided;
  });
