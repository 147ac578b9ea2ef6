import { createHash } from 'node:crypto';
import { mkdir, open, readFile, rename, rm, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { type PictureAnswer, say, serverErrors } from '@viaticum/contract';
import { In } from 'typeorm';
import { isBackingUp } from '../backup/format.js';
import { PictureEntity, PictureOwnerEntity } from '../db/entities.js';
import type { Database } from '../db/source.js';
import { ApiFault, notFound } from '../errors.js';
import { visible } from '../lessons/reach.js';
import { pool } from '../work/pool.js';
import { inUploads, writeHashed } from '../work/uploads.js';
import { MOST_BYTES, MOST_PIXELS } from './limits.js';
import type { Rendered } from './renditions.js';

const HOUR_MS = 3_600_000;
export type Rendition = 'full' | 'work' | 'thumb';

/** What the first bytes say a file is, whatever its name. */
function kindOf(bytes: Uint8Array): 'jpeg' | 'png' | 'webp' | null {
  const text = (from: number, to: number) => String.fromCharCode(...bytes.subarray(from, to));
  if (bytes[0] === 0xff && bytes[1] === 0xd8 && bytes[2] === 0xff) return 'jpeg';
  if (bytes[0] === 0x89 && text(1, 4) === 'PNG') return 'png';
  if (text(0, 4) === 'RIFF' && text(8, 12) === 'WEBP') return 'webp';
  return null;
}

const hashOf = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

/** Two pictures that differ by no more than how they were stored. */
const ALIKE_SIDE = 48;
const ALIKE_LEVELS = 4;
async function looksAlike(one: string, other: string): Promise<boolean> {
  const { default: sharp } = await import('sharp');
  const small = (path: string) =>
    sharp(path, { limitInputPixels: MOST_PIXELS })
      .autoOrient()
      .toColourspace('srgb')
      .flatten({ background: '#ffffff' })
      .resize(ALIKE_SIDE, ALIKE_SIDE, { fit: 'fill' })
      .raw()
      .toBuffer();
  const both = await Promise.all([small(one), small(other)]).catch(() => null);
  if (!both) return false;
  const [a, b] = both;
  return a.length === b.length && a.every((level, k) => Math.abs(level - (b[k] ?? 255)) <= ALIKE_LEVELS);
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

  /** The hash of the file of a picture; looked at once. */
  const contentOf = async (picture: PictureEntity): Promise<string> => {
    if (picture.contentSha256) return picture.contentSha256;
    const contentSha256 = hashOf(await readFile(file(picture.sha256, 'full')));
    await source.manager.update(PictureEntity, { sha256: picture.sha256 }, { contentSha256 });
    return contentSha256;
  };
  const own = (sha256: string, instructorId: string) =>
    source.manager.upsert(PictureOwnerEntity, { sha256, instructorId }, ['sha256', 'instructorId']);

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
    // Whoever has what the name is the hash of has the picture: one that only bore that name gives way.
    if (!known || (known.isBorne && known.contentSha256 !== sha256)) {
      const rendered = await renders.ask(path, ownerId).catch((fault) => {
        throw fault instanceof ApiFault ? fault : broken;
      });
      await write(sha256, rendered);
      known = source.manager.create(PictureEntity, {
        sha256,
        widthPx: rendered.widthPx,
        heightPx: rendered.heightPx,
        format: rendered.format,
        contentSha256: hashOf(rendered.full),
        isBorne: false,
      });
      await source.manager.upsert(PictureEntity, known, ['sha256']);
    }
    await own(sha256, ownerId);
    return { sha256, widthPx: known.widthPx, heightPx: known.heightPx };
  };

  return {
    /** Where a rendition of a picture lies; for work in threads of this server. */
    file,

    /** Which of these pictures an instructor may see. */
    owned: (who: string, sha256s: readonly string[]): Promise<string[]> => visible(source.manager, who, sha256s),

    /** Takes a picture as it comes: written to a file while its hash is computed, then looked at; nothing is left of what is refused. */
    async add(ownerId: string, upload: Readable): Promise<PictureAnswer> {
      return inUploads(dataFolder, async (path) => {
        const { sha256, bytes } = await writeHashed(upload, path);
        if (bytes > MOST_BYTES || (upload as { truncated?: boolean }).truncated) throw new ApiFault(serverErrors.pictureTooLarge);
        return take(ownerId, path, sha256);
      });
    },

    /** Pictures that an instructor may see, with the hash of their file and where it lies; for a package of lessons. */
    async forPackage(
      who: string,
      sha256s: readonly string[],
    ): Promise<{ sha256: string; contentSha256: string; format: string; path: string }[]> {
      const seen = await visible(source.manager, who, sha256s);
      const found = await source.manager.findBy(PictureEntity, { sha256: In(seen) });
      return Promise.all(
        found.map(async (one) => ({
          sha256: one.sha256,
          contentSha256: await contentOf(one),
          format: one.format,
          path: file(one.sha256, 'full'),
        })),
      );
    },

    /**
     * Takes a picture that came in a package under a name. One that is here under this name must be the same to the eye, else who brings
     * the package would see somebody else's by naming it. Throws a sentence where it is not, or is no picture.
     */
    async bear(ownerId: string, path: string, sha256: string, contentSha256: string): Promise<void> {
      const known = await source.manager.findOneBy(PictureEntity, { sha256 });
      if (known && (await contentOf(known)) !== contentSha256 && !(await looksAlike(path, file(sha256, 'full'))))
        throw new ApiFault(
          serverErrors.packageUnsound(say('A picture in it is another than the one that is known under its name here.')),
        );
      if (known) return void (await own(sha256, ownerId));
      if (contentSha256 === sha256) return void (await take(ownerId, path, sha256));
      const { default: sharp } = await import('sharp');
      const { width = 0, height = 0 } = await sharp(path, { limitInputPixels: false })
        .metadata()
        .catch(() => ({ width: 0, height: 0 }));
      const broken = new ApiFault(serverErrors.packageUnsound(say('A picture in it cannot be read.')));
      if (!kindOf(await head(path)) || width * height === 0 || width * height > MOST_PIXELS) throw broken;
      const rendered = await renders.ask(path, ownerId).catch((fault) => {
        throw fault instanceof ApiFault ? fault : broken;
      });
      await write(sha256, rendered);
      const { widthPx, heightPx, format, full } = rendered;
      await source.manager.upsert(
        PictureEntity,
        { sha256, widthPx, heightPx, format, contentSha256: hashOf(full), isBorne: true },
        ['sha256'],
      );
      await own(sha256, ownerId);
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

    /** Takes away pictures that nobody owns any more and no lesson of somebody shows. Gives how many. */
    async tidy(now: number, graceMs = HOUR_MS): Promise<number> {
      if (await isBackingUp(source.manager)) return 0;
      const lost = await source.query<{ sha256: string }[]>(
        `SELECT sha256 FROM picture p WHERE NOT EXISTS (SELECT 1 FROM picture_owner o WHERE o.sha256 = p.sha256)
           AND NOT EXISTS (SELECT 1 FROM lesson_file f WHERE f.sha256 = p.sha256)`,
      );
      let gone = 0;
      for (const { sha256 } of lost) {
        // One that is arriving has no owner for a moment.
        const { mtimeMs } = await stat(file(sha256, 'full')).catch(() => ({ mtimeMs: 0 }));
        if (now - mtimeMs < graceMs) continue;
        await source.manager.delete(PictureEntity, { sha256 });
        await rm(join(dataFolder, 'pictures', sha256.slice(0, 2), sha256), { recursive: true, force: true });
        gone += 1;
      }
      return gone;
    },

    close: renders.close,
  };
}
export type PictureStore = ReturnType<typeof pictureStore>;
