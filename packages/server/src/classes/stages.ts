import { createHash } from 'node:crypto';
import { access, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Lesson } from '@viaticum/contract';
import { ApiFault } from '../errors.js';
import type { PictureStore } from '../pictures/store.js';
import { thread } from '../thread.js';
import type { StageJob } from './stage-worker.js';

const KEPT = 200;
const none = () => new ApiFault(404, 'no-stage', 'There is no picture of this step.');

/** The canvas after each step of a taught lesson, painted once in a thread of its own and kept as files beside the pictures. */
export function stagePictures(pictures: PictureStore, dataFolder: string) {
  const worker = thread<StageJob, string[]>('classes/stage-worker.js');
  const work = new Map<number, Promise<string>>();
  const painting = new Map<string, Promise<unknown>>();

  /** Paints what is not there yet; gives the folder. Named after the lesson's content: the same lesson is painted once. */
  const paint = async (lesson: Lesson): Promise<string> => {
    const folder = join(dataFolder, 'stages', createHash('sha256').update(JSON.stringify(lesson)).digest('hex').slice(0, 32));
    const isThere = await access(folder).then(
      () => true,
      () => false,
    );
    if (isThere) return folder;
    const files = Object.fromEntries(
      lesson.references.map(({ pictureSha256 }) => [pictureSha256, pictures.file(pictureSha256, 'work')]),
    );
    const going = painting.get(folder) ?? worker.ask({ lesson, files, folder });
    painting.set(folder, going);
    await going.finally(() => painting.delete(folder));
    return folder;
  };
  const folderOf = (revisionId: number, lesson: () => Promise<Lesson>): Promise<string> => {
    const known = work.get(revisionId);
    if (known) return known;
    const fresh = lesson().then(paint);
    fresh.catch(() => work.delete(revisionId));
    work.set(revisionId, fresh);
    const [oldest] = work.keys();
    if (work.size > KEPT && oldest !== undefined) work.delete(oldest);
    return fresh;
  };
  return {
    /** Begins to paint the stages of a revision; nothing is lost where that fails. */
    begin: (revisionId: number, lesson: () => Promise<Lesson>): void => void folderOf(revisionId, lesson).catch(() => undefined),
    /** The picture after a step, as WebP; waits until it is painted. */
    async read(revisionId: number, lesson: () => Promise<Lesson>, stepId: string): Promise<Buffer> {
      // Ids are names of files here.
      if (!/^[\w-]+$/.test(stepId)) throw none();
      try {
        return await readFile(join(await folderOf(revisionId, lesson), `${stepId}.webp`));
      } catch {
        throw none();
      }
    },
    close: worker.close,
  };
}
export type StagePictures = ReturnType<typeof stagePictures>;
