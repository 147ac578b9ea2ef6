import type { Lesson } from '@viaticum/contract';
import { visibleOf } from '@viaticum/core/derived';
import { createContext, type ReactNode, useCallback, useContext, useEffect, useMemo, useState } from 'react';
import { useHeld } from '../ui/use-held.js';
import { useLatest } from '../ui/use-latest.js';
import type { JobName, PictureJobs } from '../workers/picture-jobs.js';
import { type PictureWorker, pictureWorker } from '../workers/picture-worker.js';
import { type Job, type JobKeys, useJobOf, useWorker } from '../workers/use-job.js';
import { useLesson } from './context.js';
import { layArgs } from './lay-args.js';

/** The picture as laid by the worker. `version` counts up with every new laying; 0 while none is there. */
export type Laying = {
  worker: PictureWorker;
  version: number;
  image: string | null;
  continuedShare: number;
  /** Areas behind dropped or moved things whose pattern the fill does not carry on. */
  patterned: string[];
  fault: string | null;
};

const LayingContext = createContext<Laying | null>(null);
export const useLaying = (): Laying => {
  const laying = useContext(LayingContext);
  if (!laying) throw new Error('outside of a station that lays the picture');
  return laying;
};

/** Keeps the worker's picture up to date with the lesson. */
export function LayingProvider({ children }: { children: ReactNode }) {
  const lesson = useLesson();
  const worker = useWorker(pictureWorker);
  const [laid, setLaid] = useState({
    version: 0,
    image: null as Blob | null,
    continuedShare: 0,
    patterned: [] as string[],
    fault: null as string | null,
  });
  const args = useMemo(() => layArgs(lesson), [lesson]);
  const key = JSON.stringify(args);
  const latest = useLatest(args);
  useEffect(() => {
    void key;
    if (!worker) return;
    const timer = setTimeout(() => {
      worker.ask('lay', latest.current).answer.then(
        ({ image, continuedShare, patterned }) =>
          setLaid(({ version }) => ({ version: version + 1, image, continuedShare, patterned, fault: null })),
        (error: Error) => setLaid((was) => ({ ...was, fault: error.message })),
      );
    }, 120);
    return () => clearTimeout(timer);
  }, [worker, key, latest]);
  const image = useBlobUrl(laid.image);
  const value = useMemo(() => worker && { worker, ...laid, image }, [worker, laid, image]);
  if (!value) return null;
  return <LayingContext.Provider value={value}>{children}</LayingContext.Provider>;
}

/**
 * Asks the picture worker whenever the picture or the question changes, a moment after the last change; the old answer stays
 * until the new one is there. `null` asks nothing.
 */
export function useJob<N extends JobName>(
  name: N,
  args: PictureJobs[N]['args'] | null,
  afterMs = 60,
): Job<PictureJobs[N]['answer']> & JobKeys {
  const { worker, version } = useLaying();
  return useJobOf<PictureJobs, N>(worker, name, version === 0 ? null : args, { version, afterMs });
}

/** A blob's address for as long as it is shown. */
export function useBlobUrl(blob: Blob | null | undefined): string | null {
  const make = useCallback(() => blob && URL.createObjectURL(blob), [blob]);
  return useHeld(make, forgetUrl) ?? null;
}
const forgetUrl = (url: string | null | undefined): void => {
  if (url) URL.revokeObjectURL(url);
};

/** Outlines of what is seen, for measures; dropped things have none. */
export const seenOutlines = (lesson: Lesson) => visibleOf(lesson).map((part) => part.outline);
