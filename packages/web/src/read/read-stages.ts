import type { Lesson } from '@viaticum/contract';
import { useEffect, useMemo, useState } from 'react';
import { layArgs } from '../lesson/lay-args.js';
import { useHeld } from '../ui/use-held.js';
import { pictureWorker } from '../workers/picture-worker.js';
import { useWorker } from '../workers/use-job.js';

const WIDTH_PX = 560;

/** The canvas as it is painted after some steps, by step, as pictures; none until they are painted, and where they cannot be. */
export function useStageBlobs(lesson: Lesson, wanted: readonly string[]): readonly (readonly [string, Blob])[] {
  const worker = useWorker(pictureWorker);
  const [blobs, setBlobs] = useState<readonly (readonly [string, Blob])[]>(NO_BLOBS);
  const key = wanted.join();
  useEffect(() => {
    if (!worker || key === '') return;
    let gone = false;
    const { whole, ...laying } = layArgs(lesson);
    const painted = async () => {
      await worker.ask('lay', { ...laying, whole }).answer;
      const args = { lesson, widthPx: WIDTH_PX, wanted: key.split(','), withPicture: whole !== null };
      const { images } = await worker.ask('stages', args).answer;
      if (!gone) setBlobs(images);
    };
    // Without them the page shows flat colours, as before.
    painted().catch(() => {});
    return () => {
      gone = true;
    };
  }, [worker, lesson, key]);
  return blobs;
}
const NO_BLOBS: readonly (readonly [string, Blob])[] = [];

/** The same as addresses of pictures. */
export function useReadStages(lesson: Lesson, wanted: readonly string[]): ReadonlyMap<string, string> {
  const blobs = useStageBlobs(lesson, wanted);
  const make = useMemo(() => () => new Map(blobs.map(([id, blob]) => [id, URL.createObjectURL(blob)] as const)), [blobs]);
  return useHeld(make, forget) ?? NONE;
}
const NONE: ReadonlyMap<string, string> = new Map();
const forget = (urls: ReadonlyMap<string, string>): void => {
  for (const url of urls.values()) URL.revokeObjectURL(url);
};
