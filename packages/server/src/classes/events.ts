import { type ClassState, fold, newClass } from '@viaticum/core/class';
import type { Database } from '../db/source.js';
import { eventRows, toEvent } from './log/table.js';

/** The logs of classes as the database has them. */
export function storedEvents({ pool }: Pick<Database, 'pool'>) {
  return {
    /** All events of a class, as the JSON of a list: what the log keeps is not parsed. */
    async text(classId: string): Promise<string> {
      const parts: string[] = [];
      for await (const rows of eventRows(pool, classId))
        for (const { seq, at, actor, body } of rows)
          parts.push(`{"seq":${seq},"at":${at},"actor":${JSON.stringify(actor)},"body":${body}}`);
      return `[${parts.join()}]`;
    },
    /** The state of a class, folded from its log. */
    async state(classId: string): Promise<ClassState> {
      const state = newClass();
      for await (const rows of eventRows(pool, classId)) for (const row of rows) fold(state, toEvent(row));
      return state;
    },
  };
}
