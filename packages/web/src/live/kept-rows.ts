import type { Kept } from '@viaticum/core/class';
import { type DBSchema, type IDBPDatabase, openDB } from 'idb';
import { remember, remembered } from './follow/remembered.js';

/** A command that waits, as it is stored: of which class, and whose phone said it. */
type Row = Kept & { code: string; keptAt: number };
interface Stored extends DBSchema {
  out: { key: string; value: Row; indexes: { code: string } };
}
/** Where commands wait that the server has not answered, so that they outlast a reload and an empty battery. */
export type KeptRows = {
  all: () => Promise<Kept[]>;
  put: (row: Kept) => Promise<void>;
  remove: (ids: string[]) => Promise<void>;
};

const MOST_MS = 14 * 24 * 3_600_000;
const fallbackKey = (code: string) => `viaticum-out-${code}`;

const opened = (): Promise<IDBPDatabase<Stored>> =>
  openDB<Stored>('viaticum-live', 1, {
    upgrade(db) {
      db.createObjectStore('out', { keyPath: 'id' }).createIndex('code', 'code');
    },
  });

/** The rows of one class on this phone: in its database; where it gives none, in what it keeps of pages. */
export function keptRows(code: string): KeptRows {
  const db = typeof indexedDB === 'undefined' ? null : opened().catch(() => null);
  const listed = (): Row[] => remembered<Row[]>(fallbackKey(code)) ?? [];
  const isFresh = (row: Row) => Date.now() - row.keptAt < MOST_MS;
  return {
    async all() {
      const found = await db;
      if (!found) return listed().filter(isFresh);
      const rows = await found.getAllFromIndex('out', 'code', code);
      // Those of other classes as well: nobody may ask for them again.
      const old = (await found.getAll('out')).filter((row) => !isFresh(row));
      if (old.length > 0)
        await removeAll(
          found,
          old.map((row) => row.id),
        );
      return rows.filter(isFresh).sort((a, b) => a.keptAt - b.keptAt);
    },
    async put(row) {
      const found = await db;
      const own: Row = { ...row, code, keptAt: Date.now() };
      if (!found) remember(fallbackKey(code), [...listed(), own]);
      else {
        const change = found.transaction('out', 'readwrite', { durability: 'strict' });
        await Promise.all([change.store.put(own), change.done]);
      }
    },
    async remove(ids) {
      const found = await db;
      if (found) await removeAll(found, ids);
      else if (ids.length > 0)
        remember(
          fallbackKey(code),
          listed().filter((row) => !ids.includes(row.id)),
        );
    },
  };
}

async function removeAll(db: IDBPDatabase<Stored>, ids: readonly string[]): Promise<void> {
  const change = db.transaction('out', 'readwrite');
  await Promise.all([...ids.map((id) => change.store.delete(id)), change.done]);
}
