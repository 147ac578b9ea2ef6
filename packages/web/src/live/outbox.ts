import type { Command } from '@viaticum/contract';
import { isKept, type Kept, nextKept, type Pressed, putKept } from '@viaticum/core/class';
import type { KeptRows } from './kept-rows.js';

export type Answer = { ok: boolean; message?: string };

const newId = (): string =>
  Array.from(crypto.getRandomValues(new Uint8Array(12)), (byte) => 'abcdefghijklmnopqrstuvwxyz012345'[byte & 31]).join('');

/**
 * Commands that the server has not answered yet, by their id: sent again under it after a reconnect, and stored meanwhile where there is a
 * store. No more than a window of them is on its way at once.
 */
export function commandOutbox(store: KeptRows | null, onChange: () => void) {
  let rows: Kept[] = [];
  const sent = new Set<string>();
  const answers = new Map<string, (answer: Answer) => void>();
  /** Changes of the store follow one another, so that nothing is removed before it was put. */
  let storing: Promise<unknown> = Promise.resolve();
  const stored = (change: (to: KeptRows) => Promise<unknown>): void => {
    if (store) storing = storing.then(() => change(store)).catch(() => undefined);
  };
  const drop = (ids: string[], answer: Answer): void => {
    stored((to) => to.remove(ids));
    for (const id of ids) {
      answers.get(id)?.(answer);
      answers.delete(id);
      sent.delete(id);
    }
  };
  return {
    /** What waits, the oldest first. */
    rows: (): readonly Kept[] => rows,
    /** What was stored before this page was opened comes first. */
    async load(): Promise<void> {
      const found = (await store?.all().catch(() => [])) ?? [];
      const known = new Set(rows.map((row) => row.id));
      rows = [...found.filter((row) => !known.has(row.id)), ...rows];
      if (found.length > 0) onChange();
    },
    put(command: Command, pressed: Pressed): { id: string; answer: Promise<Answer> } {
      const row: Kept = { id: newId(), command, pressed };
      const answer = new Promise<Answer>((resolve) => answers.set(row.id, resolve));
      const { rows: left, settled } = putKept(rows, row, sent);
      rows = left;
      if (settled.length > 0) drop(settled, { ok: true });
      else if (isKept(command)) stored((to) => to.put(row));
      onChange();
      return { id: row.id, answer };
    },
    /** What goes on its way now. */
    next(): Kept[] {
      const going = nextKept(rows, sent);
      for (const { id } of going) sent.add(id);
      return going;
    },
    /** The connection broke: nothing is on its way any more. */
    broken: (): void => sent.clear(),
    /** The server has answered, or an answer is not waited for any more; gives what was said. */
    settle(id: string, answer: Answer): Kept | null {
      const found = rows.find((row) => row.id === id);
      rows = rows.filter((row) => row !== found);
      drop([id], answer);
      if (found) onChange();
      return found ?? null;
    },
    /** Whether a command still waits. */
    waits: (id: string): boolean => rows.some((row) => row.id === id),
  };
}
