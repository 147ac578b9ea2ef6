import { existsSync, mkdirSync, rmSync, statfsSync } from 'node:fs';
import { open } from 'node:fs/promises';
import { join } from 'node:path';
import { serverErrors } from '@viaticum/contract';
import type { FastifyBaseLogger } from 'fastify';
import { ApiFault } from '../errors.js';

const MB = 1024 * 1024;
/** With less than this left nothing more is written: a database that runs into the end of its disk does not survive it. */
const LEAST = 32 * MB;
/** Kept back beside the data, and given up when the disk is full, so that what is under way can be finished. */
const RESERVE = 32 * MB;
const LOOK_MS = 1000;

type Options = { folder: string; withReserve: boolean; log: FastifyBaseLogger; free?: () => number };

/**
 * Watches the room on the disk that holds the data. It is full while less than 32 MB are left (and the reserve given up), until there is
 * room for the reserve again.
 */
export function disk({ folder, withReserve, log, free = () => freeOn(folder) }: Options) {
  const file = join(folder, 'reserve');
  let full = false;
  let filling = false;
  /** Looks anew; gives whether the disk is full. */
  const look = (): boolean => {
    const left = free();
    const wasFull = full;
    full = full ? left < LEAST + RESERVE : left < LEAST;
    if (full !== wasFull) log.warn({ left }, full ? 'the disk is full' : 'the disk has room again');
    if (full) rmSync(file, { force: true });
    else if (withReserve && !filling && !existsSync(file)) void fill();
    return full;
  };
  const fill = async (): Promise<void> => {
    if (free() < LEAST + RESERVE) return;
    filling = true;
    try {
      const handle = await open(file, 'w', 0o600);
      for (let done = 0; done < RESERVE; done += MB) await handle.write(Buffer.alloc(MB));
      await handle.close();
    } catch {
      rmSync(file, { force: true });
    } finally {
      filling = false;
    }
  };
  mkdirSync(folder, { recursive: true });
  look();
  // A folder that is away for a moment is no reason to stop: what is to be written looks by itself.
  const glance = (): void => {
    try {
      look();
    } catch (err) {
      log.warn({ err }, 'the data folder could not be looked at');
    }
  };
  const timer = setInterval(glance, LOOK_MS).unref();
  return {
    isFull: look,
    /** Bytes that are left. */
    freeBytes: free,
    /** Throws 507 where nothing more can be stored. */
    assertRoom(): void {
      if (look()) throw new ApiFault(serverErrors.diskFull);
    },
    close: () => clearInterval(timer),
  };
}
export type Disk = ReturnType<typeof disk>;

function freeOn(folder: string): number {
  const { bavail, bsize } = statfsSync(folder);
  return bavail * bsize;
}
