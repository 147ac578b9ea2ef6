import type { EventBody } from '@viaticum/contract';
import { type ClassState, fold, newClass } from '@viaticum/core/class';
import type { RowDataPacket } from 'mysql2/promise';
import type { Database } from '../db/source.js';

/** Events are read in pieces, so that a long log does not stop everybody else. */
const EVENTS_AT_ONCE = 1000;
type Row = { seq: number; at: number; actor: string; body: string } & RowDataPacket;

/** The logs of classes as the database has them. */
export function storedEvents({ pool }: Pick<Database, 'pool'>) {
  /** The rows of a class's log, piece by piece. */
  async function* rowsOf(classId: string): AsyncGenerator<Row[]> {
    for (let seq = 0; ; ) {
      const [rows] = await pool.query<Row[]>(
        'SELECT seq, at, actor, body FROM class_event WHERE class_id = ? AND seq > ? ORDER BY seq LIMIT ?',
        [classId, seq, EVENTS_AT_ONCE],
      );
      yield rows;
      if (rows.length < EVENTS_AT_ONCE) return;
      seq = (rows.at(-1) as Row).seq;
    }
  }
  return {
    /** All events of a class, as the JSON of a list: what the log keeps is not parsed. */
    async text(classId: string): Promise<string> {
      const parts: string[] = [];
      for await (const rows of rowsOf(classId))
        for (const { seq, at, actor, body } of rows)
          parts.push(`{"seq":${seq},"at":${at},"actor":${JSON.stringify(actor)},"body":${body}}`);
      return `[${parts.join()}]`;
    },
    /** The state of a class, folded from its log. */
    async state(classId: string): Promise<ClassState> {
      const state = newClass();
      for await (const rows of rowsOf(classId))
        for (const row of rows) fold(state, { ...row, at: Number(row.at), body: JSON.parse(row.body) as EventBody });
      return state;
    },
  };
}
