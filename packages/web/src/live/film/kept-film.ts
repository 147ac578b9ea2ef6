import { say } from '@viaticum/contract';
import { createSHA256 } from 'hash-wasm';

const PIECE = 8 * 1024 * 1024;
const PLACE = 'films';

/** Whether this browser lets a page keep whole films: over https, or on the machine itself. */
export const canKeep = (): boolean => window.isSecureContext && typeof navigator.storage?.getDirectory === 'function';

const folder = async (): Promise<FileSystemDirectoryHandle> =>
  (await navigator.storage.getDirectory()).getDirectoryHandle(PLACE, { create: true });

/** The film as it was kept whole on this phone; null where it is not. */
export async function keptFilm(sha256: string, bytes: number): Promise<File | null> {
  if (!canKeep()) return null;
  try {
    const file = await (await (await folder()).getFileHandle(sha256)).getFile();
    return file.size === bytes ? file : null;
  } catch {
    return null;
  }
}

/** Too little room on this phone, in a sentence. */
class NoRoom extends Error {}

/**
 * Keeps a film on this phone, piece by piece; what is there already is not fetched again. Its hash is checked at the end. `tell` hears the
 * share that is there. Throws where it cannot be.
 */
export async function keepFilm(
  url: string,
  sha256: string,
  bytes: number,
  tell: (share: number) => void,
  signal: AbortSignal,
): Promise<File> {
  const { quota = Number.POSITIVE_INFINITY, usage = 0 } = await navigator.storage.estimate();
  if (quota - usage < bytes)
    throw new NoRoom(
      say`This phone has ${((quota - usage) / 1e6).toFixed(0)} MB left for it; the film has ${(bytes / 1e6).toFixed(0)}.`,
    );
  await navigator.storage.persist?.();
  const handle = await (await folder()).getFileHandle(sha256, { create: true });
  for (let at = (await handle.getFile()).size; at < bytes; ) {
    const to = Math.min(bytes, at + PIECE) - 1;
    const answer = await fetch(url, { headers: { range: `bytes=${at}-${to}` }, signal });
    if (answer.status !== 206 && !(answer.status === 200 && at === 0))
      throw new Error(say('The film could not be fetched. Try again.'));
    const piece = await answer.arrayBuffer();
    const writer = await handle.createWritable({ keepExistingData: true });
    await writer.write({ type: 'write', position: at, data: piece });
    await writer.close();
    at += piece.byteLength;
    tell(at / bytes);
  }
  const file = await handle.getFile();
  const hash = await createSHA256();
  for (let at = 0; at < file.size; at += PIECE) hash.update(new Uint8Array(await file.slice(at, at + PIECE).arrayBuffer()));
  if (hash.digest('hex') !== sha256) {
    await forgetFilm(sha256);
    throw new Error(say('The film changed on the way. Keep it once more.'));
  }
  return file;
}

export async function forgetFilm(sha256: string): Promise<void> {
  await (await folder()).removeEntry(sha256).catch(() => undefined);
}
