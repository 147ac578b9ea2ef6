import { readdir, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { FastifyBaseLogger } from 'fastify';
import type { Accounts } from './auth/account-store.js';
import type { Sessions } from './auth/sessions.js';
import type { PrivacyStore } from './classes/people/privacy.js';
import type { FilmStore } from './films/store.js';
import type { SharingStore } from './lessons/sharing.js';
import type { LessonStore } from './lessons/store.js';
import type { PictureStore } from './pictures/store.js';
import type { StagePictures } from './stage-pictures/store.js';

const HOUR_MS = 3_600_000;

type Parts = {
  sessions: Sessions;
  accounts: Accounts;
  lessons: LessonStore;
  sharing: SharingStore;
  stages: StagePictures;
  films: FilmStore;
  pictures: PictureStore;
  privacy: PrivacyStore;
  dataFolder: string;
  log: FastifyBaseLogger;
};
export type Tidied = {
  sessions: number;
  stages: number;
  uploads: number;
  films: number;
  lessons: number;
  pictures: number;
  names: number;
};

/** Takes away what nobody needs any more: sessions and links that are over, stage pictures that nobody looked at, uploads that were broken off, lessons that lay in the bin. */
export async function tidy(parts: Omit<Parts, 'log'>, now: number): Promise<Tidied> {
  const { sessions, accounts, lessons, sharing, stages, films, pictures, privacy, dataFolder } = parts;
  const ended = await sessions.tidy();
  await accounts.tidy();
  await sharing.tidy();
  let uploads = 0;
  const folder = join(dataFolder, 'uploads');
  for (const name of await readdir(folder).catch(() => [])) {
    const { mtimeMs } = await stat(join(folder, name)).catch(() => ({ mtimeMs: now }));
    if (now - mtimeMs < HOUR_MS) continue;
    await rm(join(folder, name), { force: true });
    uploads += 1;
  }
  return {
    sessions: ended,
    stages: await stages.tidy(now),
    uploads,
    films: (await films.tidy(now)) + (await films.letGoOfLost()),
    lessons: await lessons.empty(now),
    pictures: await pictures.tidy(now),
    names: await privacy.tidy(now),
  };
}

/** {@link tidy} at once and every hour, until it is stopped. */
export function housekeeping({ log, ...parts }: Parts): () => void {
  const work = () =>
    tidy(parts, Date.now()).then(
      (done) => log.info(done, 'tidied'),
      (err) => log.warn({ err }, 'the housekeeping could not be done'),
    );
  void work();
  const timer = setInterval(work, HOUR_MS).unref();
  return () => clearInterval(timer);
}
