import { createHash, randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';

/** Gives a place for a file that is worked on for a moment; nothing of it is left. */
export async function inUploads<T>(dataFolder: string, work: (path: string) => Promise<T>): Promise<T> {
  const folder = join(dataFolder, 'uploads');
  await mkdir(folder, { recursive: true, mode: 0o700 });
  const path = join(folder, randomUUID());
  try {
    return await work(path);
  } finally {
    await rm(path, { force: true });
  }
}

/** Writes a stream to a file as it comes; gives the SHA-256 of what came, and how much it was. */
export async function writeHashed(stream: Readable, path: string): Promise<{ sha256: string; bytes: number }> {
  const hash = createHash('sha256');
  let bytes = 0;
  await pipeline(
    stream,
    async function* (chunks: AsyncIterable<Buffer>) {
      for await (const chunk of chunks) {
        bytes += chunk.length;
        hash.update(chunk);
        yield chunk;
      }
    },
    createWriteStream(path, { mode: 0o600 }),
  );
  return { sha256: hash.digest('hex'), bytes };
}
