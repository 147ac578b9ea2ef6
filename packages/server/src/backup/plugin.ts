import { fork } from 'node:child_process';
import { readdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { finished } from 'node:stream/promises';
import type { BackupsAnswer } from '@viaticum/contract';
import type { FastifyBaseLogger, FastifyInstance } from 'fastify';
import type { Database } from '../db/source.js';
import { signedIn } from '../guard/access.js';
import { backupFolder, noteMade, readMade } from './made.js';
import { streamBackup } from './writing.js';

const HOUR_MS = 3_600_000;
/** When the night is, by the clock of this machine. */
const NIGHT_HOUR = 3;
const KEPT = 7;
/** However the clock stands, after so long the next one is due. */
const LONGEST_MS = 30 * HOUR_MS;

const nightly = /^viaticum-\d{4}-\d\d-\d\d\.zip$/;
const nameOf = (at: Date): string => {
  const two = (value: number) => String(value).padStart(2, '0');
  return `viaticum-${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}.zip`;
};

/** Whether the backup of this night is to be written now. */
export function isDue(lastAt: number | undefined, now: Date): boolean {
  if (lastAt === undefined) return true;
  const since = now.getTime() - lastAt;
  const sameDay = new Date(lastAt).toDateString() === now.toDateString();
  return since > LONGEST_MS || (now.getHours() >= NIGHT_HOUR && !sameDay);
}

/** Takes away all but the newest backups of the nights. Gives those that went. */
export async function keepNewest(folder: string): Promise<string[]> {
  const names = (await readdir(folder).catch(() => [])).filter((name) => nightly.test(name)).sort();
  const old = names.slice(0, Math.max(0, names.length - KEPT));
  for (const name of old) await rm(join(folder, name), { force: true });
  return old;
}

/** Writes the backup of a night by a process of its own, so that no class waits for it; looks every hour. Gives how it is stopped. */
export function nights({ url, dataFolder, log }: { url: string; dataFolder: string; log: FastifyBaseLogger }): () => void {
  const folder = backupFolder(dataFolder);
  let child: ReturnType<typeof fork> | null = null;
  const look = async () => {
    const { nightly: last } = await readMade(dataFolder);
    if (child || !isDue(last?.at, new Date())) return;
    // Lower than whatever a class asks for.
    child = fork(new URL('./cli.js', import.meta.url), ['backup', join(folder, nameOf(new Date())), 'nightly'], {
      env: { ...process.env, VIATICUM_DATABASE_URL: url, VIATICUM_DATA: dataFolder },
      stdio: ['ignore', 'ignore', 'pipe', 'ipc'],
    });
    let said = '';
    child.stderr?.on('data', (text) => {
      said = (said + text).slice(-1000);
    });
    child.once('exit', (code) => {
      child = null;
      if (code === 0) log.info('the backup of the night is written');
      else if (!/Another backup/.test(said)) log.warn({ said }, 'the backup of the night could not be written');
      void keepNewest(folder);
    });
  };
  const timer = setInterval(() => void look(), HOUR_MS).unref();
  // Not while everything starts.
  const first = setTimeout(() => void look(), 60_000).unref();
  return () => {
    clearInterval(timer);
    clearTimeout(first);
    child?.kill();
  };
}

/** When backups were made, and one to take elsewhere. */
export async function backups(
  app: FastifyInstance,
  { database, url, dataFolder }: { database: Database; url: string; dataFolder: string },
): Promise<void> {
  app.get('/api/backups', { config: { who: 'instructor' } }, async (request): Promise<BackupsAnswer> => {
    const { nightly: night, elsewhere } = await readMade(dataFolder);
    const iso = (made: { at: number } | undefined) => (made ? new Date(made.at).toISOString() : null);
    const [first] = await database.source.query<{ at: string | null }[]>('SELECT MIN(created_at) AS at FROM lesson_revision');
    return {
      ...{ nightlyAt: iso(night), elsewhereAt: iso(elsewhere), mayMake: signedIn(request).role === 'owner' },
      since: new Date(Number(first?.at ?? Date.now())).toISOString(),
    };
  });
  app.get('/api/backup', { config: { who: 'owner' } }, async (request, reply) => {
    const whole = streamBackup({ url, dataFolder }, async (stream: Readable) => {
      let bytes = 0;
      stream.on('data', (chunk: Buffer) => {
        bytes += chunk.length;
      });
      stream.pause();
      void reply
        .type('application/zip')
        .header('content-disposition', `attachment; filename="${nameOf(new Date())}"`)
        .send(stream);
      await finished(stream);
      await finished(reply.raw);
      return bytes;
    });
    await whole.then(
      ({ bytes }) => noteMade(dataFolder, 'elsewhere', bytes),
      (fault) => {
        if (!reply.sent) throw fault;
        request.log.warn({ err: fault }, 'a backup was not taken whole');
      },
    );
    return reply;
  });
}
