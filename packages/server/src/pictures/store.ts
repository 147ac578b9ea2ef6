import { createHash, randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdir, open, readFile, rename, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { type PictureAnswer, serverErrors } from '@viaticum/contract';
import { PictureEntity, PictureOwnerEntity } from '../db/entities.js';
import type { Database } from '../db/source.js';
import { ApiFault, notFound } from '../errors.js';
import { visible } from '../lessons/reach.js';
import { pool } from '../work/pool.js';
import { MOST_BYTES, MOST_PIXELS } from './limits.js';
import type { Rendered } from './renditions.js';

export type Rendition = 'full' | 'work' | 'thumb';

/** What the first bytes say a file is, whatever its name. */
function kindOf(bytes: Uint8Array): 'jpeg' | 'png' | 'webp' | null {
  const text = (from: number, to: number) => String.fromCharCode(...bytes.subarray(from, to));
  if (bytes[0] === 0xff && bytes[1] === 0xd8 && bytes[2] === 0xff) return 'jpeg';
  if (bytes[0] === 0x89 && text(1, 4) === 'PNG') return 'png';
  if (text(0, 4) === 'RIFF' && text(8, 12) === 'WEBP') return 'webp';
  return null;
}

/** Pictures, kept once by the SHA-256 of what was uploaded, as files beside the database. */
export function pictureStore({ source }: Database, dataFolder: string) {
  const renders = pool<string, Rendered>('pictures/worker.js', { queue: 20, perCaller: 4 });
  const file = (sha256: string, name: string) => join(dataFolder, 'pictures', sha256.slice(0, 2), sha256, name);

  const write = async (sha256: string, rendered: Rendered): Promise<void> => {
    const folder = join(dataFolder, 'pictures', sha256.slice(0, 2), sha256);
    await mkdir(folder, { recursive: true, mode: 0o700 });
    for (const name of ['full', 'work', 'thumb'] as const) {
      const path = file(sha256, name);
      await writeFile(`${path}.new`, rendered[name], { mode: 0o600 });
      await rename(`${path}.new`, path);
    }
  };

  /** The first bytes of a file. */
  const head = async (path: string): Promise<Uint8Array> => {
    const handle = await open(path);
    try {
      const { buffer, bytesRead } = await handle.read(Buffer.alloc(16), 0, 16, 0);
      return buffer.subarray(0, bytesRead);
    } finally {
      await handle.close();
    }
  };
  const take = async (ownerId: string, path: string, sha256: string): Promise<PictureAnswer> => {
    if (!kindOf(await head(path))) throw new ApiFault(serverErrors.notAPicture);
    const broken = new ApiFault(serverErrors.pictureBroken);
    // Read when the first picture comes: it is a large part of what there is to load at the start.
    const { default: sharp } = await import('sharp');
    const { width = 0, height = 0 } = await sharp(path, { limitInputPixels: false })
      .metadata()
      .catch(() => ({ width: 0, height: 0 }));
    if (width * height > MOST_PIXELS) {
      throw new ApiFault(serverErrors.tooManyPixels(Math.round((width * height) / 1e6)));
    }
    if (width * height === 0) throw broken;
    let known = await source.manager.findOneBy(PictureEntity, { sha256 });
    if (!known) {
      const rendered = await renders.ask(path, ownerId).catch((fault) => {
        throw fault instanceof ApiFault ? fault : broken;
      });
      await write(sha256, rendered);
      known = source.manager.create(PictureEntity, {
        sha256,
        widthPx: rendered.widthPx,
        heightPx: rendered.heightPx,
        format: rendered.format,
      });
      await source.manager.upsert(PictureEntity, known, ['sha256']);
    }
    await source.manager.upsert(PictureOwnerEntity, { sha256, instructorId: ownerId }, ['sha256', 'instructorId']);
    return { sha256, widthPx: known.widthPx, heightPx: known.heightPx };
  };

  return {
    /** Where a rendition of a picture lies; for work in threads of this server. */
    file,

    /** Which of these pictures an instructor may see. */
    owned: (who: string, sha256s: readonly string[]): Promise<string[]> => visible(source.manager, who, sha256s),

    /** Takes a picture as it comes: written to a file while its hash is computed, then looked at; nothing is left of what is refused. */
    async add(ownerId: string, upload: Readable): Promise<PictureAnswer> {
      const folder = join(dataFolder, 'uploads');
      await mkdir(folder, { recursive: true, mode: 0o700 });
      const path = join(folder, randomUUID());
      try {
        const hash = createHash('sha256');
        let size = 0;
        await pipeline(
          upload,
          async function* (chunks: AsyncIterable<Buffer>) {
            for await (const chunk of chunks) {
              size += chunk.length;
              hash.update(chunk);
              yield chunk;
            }
          },
          createWriteStream(path, { mode: 0o600 }),
        );
        if (size > MOST_BYTES || (upload as { truncated?: boolean }).truncated) throw new ApiFault(serverErrors.pictureTooLarge);
        return await take(ownerId, path, hash.digest('hex'));
      } finally {
        await rm(path, { force: true });
      }
    },

    async read(who: string, sha256: string, rendition: Rendition): Promise<{ bytes: Buffer; type: string }> {
      const [seen] = await visible(source.manager, who, [sha256]);
      const picture = seen && (await source.manager.findOneBy(PictureEntity, { sha256 }));
      if (!picture) throw notFound('picture');
      return {
        bytes: await readFile(file(sha256, rendition)),
        type: rendition === 'full' ? `image/${picture.format}` : 'image/webp',
      };
    },

    close: renders.close,
  };
}
export type PictureStore = ReturnType<typeof pictureStore>;
