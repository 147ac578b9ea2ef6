import { type ClassState, fold, newClass } from '@viaticum/core/class';
import type { Database } from '../db/source.js';
import { bodyText, eventRows, toEvent } from './log/table.js';

/** The logs of classes as the database has them. */
export function storedEvents({ pool }: Pick<Database, 'pool'>) {
  return {
    /** All events of a class, as the JSON of a list: what the log keeps is not parsed, but where it names somebody. */
    async text(classId: string): Promise<string> {
      const parts: string[] = [];
      for await (const rows of eventRows(pool, classId))
        for (const row of rows)
          parts.push(`{"seq":${row.seq},"at":${row.at},"actor":${JSON.stringify(row.actor)},"body":${bodyText(row)}}`);
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
