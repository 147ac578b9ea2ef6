import { createHash } from 'node:crypto';
import { access, readdir, readFile, rm, stat, utimes } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { serverErrors } from '@viaticum/contract';
import type { FastifyReply, FastifyRequest } from 'fastify';
import { ApiFault } from '../errors.js';
import type { PictureStore } from '../pictures/store.js';
import { pool } from '../work/pool.js';
import type { StageJob } from './worker.js';

const KEPT = 200;
const DAY_MS = 86_400_000;
/** A folder that nobody looked into for so long goes; it is painted again when somebody does. */
const UNUSED_MS = 30 * DAY_MS;
const none = () => new ApiFault(serverErrors.noStagePicture);

/** A lesson as it is taught: the text of a revision, and whose pictures it may show. */
export type Taught = { text: string; ownerId: string };

/** A picture as WebP, and a tag that changes with the lesson it is of. */
export type StagePicture = { bytes: Buffer; tag: string };

/** Sends a stage picture; who has this very one already is told so. An address stays when the lesson changes: it is asked for each time. */
export function sendStage(request: FastifyRequest, reply: FastifyReply, { bytes, tag }: StagePicture) {
  reply.header('cache-control', 'private, no-cache').header('etag', tag);
  return request.headers['if-none-match'] === tag ? reply.status(304).send() : reply.type('image/webp').send(bytes);
}

/** The canvas after each step of a lesson, painted once in a thread of its own and kept as files beside the pictures. */
export function stagePictures(pictures: PictureStore, dataFolder: string) {
  const root = join(dataFolder, 'stages');
  // What a class waits for does not wait behind a shelf.
  const taught = pool<StageJob, string[]>('stage-pictures/worker.js', { queue: 100, perCaller: 30 });
  const shelf = pool<StageJob, string[]>('stage-pictures/worker.js', { queue: 100, perCaller: 30 });
  const work = new Map<number, Promise<string>>();
  const painting = new Map<string, Promise<unknown>>();

  /**
   * Paints what is not there yet; gives the folder, named after the document and the pictures that its instructor owns: the same lesson
   * is painted once, and never from somebody else's picture.
   */
  const paint = async ({ text, ownerId }: Taught, by: typeof taught): Promise<string> => {
    const named = new Set([...text.matchAll(/"pictureSha256":"([0-9a-f]{64})"/g)].map(([, sha]) => sha as string));
    const owned = await pictures.owned(ownerId, [...named]);
    const hash = createHash('sha256').update(text).update(owned.join()).digest('hex').slice(0, 32);
    const folder = join(root, hash);
    const isThere = await access(folder).then(
      () => true,
      () => false,
    );
    if (isThere) {
      // When it was last looked into; for the housekeeping.
      const now = new Date();
      await utimes(folder, now, now).catch(() => undefined);
      return folder;
    }
    const files = Object.fromEntries(owned.map((sha) => [sha, pictures.file(sha, 'work')]));
    const going = painting.get(folder) ?? by.ask({ text, files, folder }, ownerId);
    painting.set(folder, going);
    await going.finally(() => painting.delete(folder));
    return folder;
  };
  const folderOf = (revisionId: number, lesson: () => Promise<Taught>): Promise<string> => {
    const known = work.get(revisionId);
    if (known) return known;
    const fresh = lesson().then((one) => paint(one, taught));
    fresh.catch(() => work.delete(revisionId));
    work.set(revisionId, fresh);
    const [oldest] = work.keys();
    if (work.size > KEPT && oldest !== undefined) work.delete(oldest);
    return fresh;
  };
  const read = async (folder: string, stepId: string): Promise<StagePicture> => {
    try {
      return { bytes: await readFile(join(folder, `${stepId}.webp`)), tag: `"${basename(folder)}"` };
    } catch {
      throw none();
    }
  };
  return {
    /** Begins to paint the stages of a revision; nothing is lost where that fails. */
    begin: (revisionId: number, lesson: () => Promise<Taught>): void => void folderOf(revisionId, lesson).catch(() => undefined),
    /** The picture after a step, as WebP; waits until it is painted. `stepId` is an id: it names a file here. */
    async read(revisionId: number, lesson: () => Promise<Taught>, stepId: string): Promise<StagePicture> {
      const folder = await folderOf(revisionId, lesson);
      const isThere = await access(folder).then(
        () => true,
        () => false,
      );
      // The housekeeping took it: painted anew.
      if (!isThere) work.delete(revisionId);
      return read(isThere ? folder : await folderOf(revisionId, lesson), stepId);
    },
    /** The picture after the last step of a lesson that is on a shelf. */
    finished: async (lesson: Taught, lastStepId: string): Promise<StagePicture> => read(await paint(lesson, shelf), lastStepId),
    /** The folder with the pictures after all steps of a lesson as it is, painted where they are not there yet. */
    folder: (lesson: Taught): Promise<string> => paint(lesson, shelf),
    /** Takes away what nobody looked into for thirty days. Gives how many folders went. */
    async tidy(now: number): Promise<number> {
      let gone = 0;
      for (const name of await readdir(root).catch(() => [])) {
        const folder = join(root, name);
        const { mtimeMs } = await stat(folder).catch(() => ({ mtimeMs: now }));
        if (now - mtimeMs < UNUSED_MS) continue;
        await rm(folder, { recursive: true, force: true });
        gone += 1;
      }
      return gone;
    },
    close: () => Promise.all([taught.close(), shelf.close()]),
  };
}
export type StagePictures = ReturnType<typeof stagePictures>;
