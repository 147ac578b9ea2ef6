import { createHash, type Hash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { copyFile, mkdir, open, readdir, rename, rm, stat, truncate } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { type FilmFile, type FilmsAnswer, type FilmType, filmLimits, say, serverErrors } from '@viaticum/contract';
import { nanoid } from 'nanoid';
import { In, LessThan, MoreThan } from 'typeorm';
import { isBackingUp } from '../backup/format.js';
import { FilmFileEntity, FilmOwnerEntity, FilmUploadEntity } from '../db/entities.js';
import type { Database } from '../db/source.js';
import { ApiFault, isDiskFull, notFound } from '../errors.js';
import type { Disk } from '../guard/disk.js';
import { visible } from '../lessons/reach.js';

const DAY_MS = 86_400_000;
/** Pieces of films that nobody went on with are taken away after so long. */
const FORGOTTEN_MS = 7 * DAY_MS;
/** So much of the disk is left free beside a film. */
const LEFT_FREE = 512 * 1024 * 1024;
/** An upload that rests so long does not stand in another's way. */
const IDLE_MS = 120_000;
const gigabytes = (bytes: number): string => (Math.max(0, bytes) / 1e9).toFixed(1);

/** What the first bytes say a file is; a sentence's end where it is no film. */
function typeOf(head: Buffer): { type: FilmType } | { like: string } {
  const text = (from: number, to: number) => head.subarray(from, to).toString('latin1');
  if (text(4, 8) === 'ftyp') return { type: 'video/mp4' };
  if (head.readUInt32BE(0) === 0x1a45dfa3) return { type: 'video/webm' };
  if (text(0, 4) === '%PDF') return { like: say('a PDF') };
  if (head[0] === 0xff && head[1] === 0xd8) return { like: say('a photograph') };
  if (head[0] === 0x89 && text(1, 4) === 'PNG') return { like: say('a picture') };
  if (text(0, 2) === 'PK') return { like: say('a ZIP') };
  if (text(0, 4) === 'RIFF') return { like: say('an AVI or WAV') };
  return { like: say('something else') };
}

async function headOf(path: string): Promise<Buffer> {
  const handle = await open(path);
  try {
    const { buffer, bytesRead } = await handle.read(Buffer.alloc(16), 0, 16, 0);
    return bytesRead === 16 ? buffer : Buffer.alloc(16);
  } finally {
    await handle.close();
  }
}

/** SHA-256 of a file, read piece by piece. */
async function hashOf(path: string): Promise<string> {
  const hash = createHash('sha256');
  for await (const chunk of createReadStream(path)) hash.update(chunk as Buffer);
  return hash.digest('hex');
}

type Written = { written: number; isWhole: boolean; digest: string };
/** Writes what comes into a file from `offset` on, no more than `most` bytes; held by the disk before it is said to be there. */
async function writePiece(path: string, offset: number, most: number, piece: Readable, withHash: boolean): Promise<Written> {
  const hash: Hash | null = withHash ? createHash('sha256') : null;
  const handle = await open(path, 'r+');
  let written = 0;
  let isWhole = false;
  try {
    for await (const chunk of piece as AsyncIterable<Buffer>) {
      if (written + chunk.length > most) throw new ApiFault(serverErrors.filmOffset);
      await handle.write(chunk, 0, chunk.length, offset + written);
      hash?.update(chunk);
      written += chunk.length;
    }
    isWhole = true;
  } catch (fault) {
    if (fault instanceof ApiFault || isDiskFull(fault)) throw fault;
    // The line was cut: what has arrived is there.
  } finally {
    await handle.datasync();
    await handle.close();
  }
  return { written, isWhole, digest: hash?.digest('base64') ?? '' };
}

/** Films, kept once by the SHA-256 of what is in them, as files beside the database; never changed, never looked into. */
export function filmStore({ source }: Database, dataFolder: string, disk: Disk) {
  const { manager } = source;
  const folder = join(dataFolder, 'films');
  const parts = join(folder, 'parts');
  const partOf = (id: string) => join(parts, id);
  const place = (sha256: string) => join(sha256.slice(0, 2), sha256);
  const busy = new Set<string>();

  const found = async (ownerId: string, id: string): Promise<FilmUploadEntity> => {
    const upload = await manager.findOneBy(FilmUploadEntity, { id, ownerId });
    if (!upload) throw notFound('upload');
    return upload;
  };
  const alone = async <T>(id: string, work: () => Promise<T>): Promise<T> => {
    if (busy.has(id)) throw new ApiFault(serverErrors.filmInUse);
    busy.add(id);
    try {
      return await work();
    } finally {
      busy.delete(id);
    }
  };
  const ownedBy = async (ownerId: string): Promise<FilmFileEntity[]> => {
    const rows = await manager.findBy(FilmOwnerEntity, { instructorId: ownerId });
    return rows.length > 0 ? manager.findBy(FilmFileEntity, { sha256: In(rows.map(({ sha256 }) => sha256)) }) : [];
  };
  const usedBy = async (ownerId: string): Promise<number> => {
    const under = await manager.findBy(FilmUploadEntity, { ownerId });
    return [...(await ownedBy(ownerId)), ...under].reduce((sum, { bytes }) => sum + bytes, 0);
  };
  const removeUpload = async (id: string): Promise<void> => {
    await manager.delete(FilmUploadEntity, { id });
    await rm(partOf(id), { force: true });
  };

  return {
    folder,
    place,

    /** A film begins to arrive. Gives the id of its upload. */
    async begin(ownerId: string, bytes: number, name: string): Promise<string> {
      if (!Number.isSafeInteger(bytes) || bytes < 16) throw new ApiFault(serverErrors.filmLength);
      if (bytes > filmLimits.fileBytes) throw new ApiFault(serverErrors.filmTooLarge);
      if ((await manager.countBy(FilmUploadEntity, { ownerId, touchedAt: MoreThan(Date.now() - IDLE_MS) })) >= filmLimits.uploads)
        throw new ApiFault(serverErrors.filmsAtOnce);
      const left = filmLimits.quotaBytes - (await usedBy(ownerId));
      if (bytes > left) throw new ApiFault(serverErrors.filmQuota(gigabytes(left), gigabytes(bytes)));
      if (disk.freeBytes() < bytes + LEFT_FREE) throw new ApiFault(serverErrors.diskFull);
      const id = nanoid(16);
      await mkdir(parts, { recursive: true, mode: 0o700 });
      await (await open(partOf(id), 'w', 0o600)).close();
      await manager.insert(FilmUploadEntity, {
        id,
        ownerId,
        name: name.slice(0, 120) || 'film',
        bytes,
        received: 0,
        touchedAt: Date.now(),
      });
      return id;
    },

    /** A film that ships with the application, kept as if its owner had sent it. */
    async take(ownerId: string, path: string, name: string): Promise<FilmFile> {
      const kind = typeOf(await headOf(path));
      if ('like' in kind) throw new ApiFault(serverErrors.notAFilm(kind.like));
      const sha256 = await hashOf(path);
      await mkdir(join(folder, sha256.slice(0, 2)), { recursive: true, mode: 0o700 });
      await copyFile(path, join(folder, place(sha256)));
      const file = { sha256, bytes: (await stat(path)).size, type: kind.type, name, createdAt: Date.now() };
      await manager.upsert(FilmFileEntity, file, ['sha256']);
      await manager.upsert(FilmOwnerEntity, { sha256, instructorId: ownerId }, ['sha256', 'instructorId']);
      return file;
    },

    async upload(ownerId: string, id: string): Promise<FilmUploadEntity> {
      return found(ownerId, id);
    },

    /**
     * A piece of a film, written as it comes. With a checksum (SHA-256, base64) it counts whole or not at all; without one what has arrived
     * counts. Gives how much of the film is there.
     */
    async append(ownerId: string, id: string, offset: number, piece: Readable, checksum: string | null): Promise<number> {
      const upload = await found(ownerId, id);
      return alone(id, async () => {
        // What was written and not said to be there is cut off again: the server may have been killed in the middle.
        const size = (await stat(partOf(id))).size;
        if (size > upload.received) await truncate(partOf(id), upload.received);
        if (offset !== upload.received || size < upload.received) throw new ApiFault(serverErrors.filmOffset);
        const { written, isWhole, digest } = await writePiece(
          partOf(id),
          offset,
          upload.bytes - offset,
          piece,
          checksum !== null,
        );
        if (checksum !== null && (!isWhole || digest !== checksum)) {
          await truncate(partOf(id), offset);
          throw new ApiFault(serverErrors.filmChecksum);
        }
        const received = offset + written;
        await manager.update(FilmUploadEntity, { id }, { received, touchedAt: Date.now() });
        return received;
      });
    },

    /** A film that has arrived: looked at, and kept by what is in it. Nothing is left of one that differs or is no film. */
    async finish(ownerId: string, id: string, said: string): Promise<FilmFile> {
      const upload = await found(ownerId, id);
      return alone(id, async () => {
        if (upload.received !== upload.bytes) throw new ApiFault(serverErrors.filmNotWhole);
        const path = partOf(id);
        const kind = typeOf(await headOf(path));
        const sha256 = 'like' in kind ? '' : await hashOf(path);
        if ('like' in kind || sha256 !== said) {
          await removeUpload(id);
          throw new ApiFault('like' in kind ? serverErrors.notAFilm(kind.like) : serverErrors.filmDiffers);
        }
        const file = { sha256, bytes: upload.bytes, type: kind.type, name: upload.name, createdAt: Date.now() };
        const to = join(folder, place(sha256));
        await mkdir(join(folder, sha256.slice(0, 2)), { recursive: true, mode: 0o700 });
        await rename(path, to);
        await manager.transaction(async (within) => {
          const known = await within.findOneBy(FilmFileEntity, { sha256 });
          if (!known) await within.insert(FilmFileEntity, file);
          await within.upsert(FilmOwnerEntity, { sha256, instructorId: ownerId }, ['sha256', 'instructorId']);
          await within.delete(FilmUploadEntity, { id });
        });
        return file;
      });
    },

    async cancel(ownerId: string, id: string): Promise<void> {
      await found(ownerId, id);
      await alone(id, () => removeUpload(id));
    },

    async list(ownerId: string): Promise<FilmsAnswer> {
      const films = await ownedBy(ownerId);
      films.sort((a, b) => b.createdAt - a.createdAt);
      return { films: films.map((one) => ({ ...one })), usedBytes: await usedBy(ownerId), quotaBytes: filmLimits.quotaBytes };
    },

    /** The type of a film that is kept; throws where there is none, or this instructor may not see it. */
    async read(sha256: string, who?: string): Promise<FilmFileEntity> {
      const isOwn = who === undefined || (await visible(manager, who, [sha256])).length > 0;
      const file = isOwn ? await manager.findOneBy(FilmFileEntity, { sha256 }) : null;
      if (!file) throw notFound('film');
      return file;
    },

    /** A film that its owner takes away; with the last owner the file goes at once. */
    async remove(ownerId: string, sha256: string): Promise<void> {
      const { affected } = await manager.delete(FilmOwnerEntity, { sha256, instructorId: ownerId });
      if (!affected) throw notFound('film');
      // A backup that is under way has its row still, and takes the file: then the housekeeping takes both away later.
      if ((await manager.existsBy(FilmOwnerEntity, { sha256 })) || (await isBackingUp(manager))) return;
      await manager.delete(FilmFileEntity, { sha256 });
      await rm(join(folder, place(sha256)), { force: true });
    },

    /** Takes away the files of films that nobody owns any more. Gives how many. */
    async letGoOfLost(): Promise<number> {
      if (await isBackingUp(manager)) return 0;
      const lost = await manager
        .createQueryBuilder(FilmFileEntity, 'film')
        .where('NOT EXISTS (SELECT 1 FROM film_owner o WHERE o.sha256 = film.sha256)')
        .andWhere('film.created_at < :before', { before: Date.now() - 60_000 })
        .getMany();
      for (const { sha256 } of lost) {
        await manager.delete(FilmFileEntity, { sha256 });
        await rm(join(folder, place(sha256)), { force: true });
      }
      return lost.length;
    },

    /** Takes away pieces that nobody went on with, and those of uploads that are not known. Gives how many. */
    async tidy(now: number): Promise<number> {
      const old = await manager.findBy(FilmUploadEntity, { touchedAt: LessThan(now - FORGOTTEN_MS) });
      for (const { id } of old) if (!busy.has(id)) await removeUpload(id);
      const known = new Set((await manager.find(FilmUploadEntity)).map(({ id }) => id));
      const lost = (await readdir(parts).catch(() => [])).filter((id) => !known.has(id));
      for (const id of lost) {
        const { mtimeMs } = await stat(partOf(id)).catch(() => ({ mtimeMs: now }));
        if (now - mtimeMs > DAY_MS) await rm(partOf(id), { force: true });
      }
      return old.length + lost.length;
    },
  };
}
export type FilmStore = ReturnType<typeof filmStore>;
