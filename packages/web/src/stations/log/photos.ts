import { type DBSchema, openDB } from 'idb';

interface Stored extends DBSchema {
  photos: { key: string; value: Blob };
}
const database = () => openDB<Stored>('viaticum-results', 1, { upgrade: (db) => void db.createObjectStore('photos') });

/** Photographs of canvases, straightened, by the id of what was measured on them: kept in this browser, and nowhere else unless they are shared. */
export async function keepPhoto(id: string, photo: Blob): Promise<void> {
  await (await database()).put('photos', photo, id).catch(() => undefined);
}
export async function keptPhoto(id: string): Promise<Blob | null> {
  try {
    return (await (await database()).get('photos', id)) ?? null;
  } catch {
    // A browser that keeps nothing has nothing to show.
    return null;
  }
}
export async function dropPhoto(id: string): Promise<void> {
  await (await database()).delete('photos', id).catch(() => undefined);
}
