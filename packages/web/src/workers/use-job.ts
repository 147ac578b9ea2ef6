import { useEffect, useRef, useState } from 'react';
import { useHeld } from '../ui/use-held.js';
import { useLatest } from '../ui/use-latest.js';
import { CancelledJob, type JobWorker } from './job-worker.js';

/** `isDone`: an answer has come at least once, be it that there is none. */
export type Job<A> = {
  answer: A | null;
  progress: number | null;
  fault: string | null;
  isDone: boolean;
  /** The answer is that to the question as it stands now, not the old one that stays until the new one is there. */
  isPresent: boolean;
};
/** `stop` takes the best so far; `cancel` wants no answer to this question, until `again`. */
export type JobKeys = { stop: () => void; cancel: () => void; again: () => void; isCancelled: boolean };
const nothing = () => {};

/**
 * Asks a worker whenever the question (or `version`, what it stands on) changes, a moment after the last change; the old answer
 * stays until the new one is there. `null` asks nothing.
 */
export function useJobOf<J extends { [K in keyof J]: { args: unknown; answer: unknown } }, N extends keyof J & string>(
  worker: JobWorker<J> | null,
  name: N,
  args: J[N]['args'] | null,
  { version = 0, afterMs = 60 }: { version?: number; afterMs?: number } = {},
): Job<J[N]['answer']> & JobKeys {
  const [{ of, ...job }, setJob] = useState<Omit<Job<J[N]['answer']>, 'isPresent'> & { of: string | null }>({
    ...{ answer: null, progress: null, fault: null, isDone: false, of: null },
  });
  const key = args === null ? null : JSON.stringify(args);
  // What was asked when it was cancelled: another question is asked again by itself.
  const [cancelled, setCancelled] = useState<string | null>(null);
  const question = `${version} ${key}`;
  const isCancelled = cancelled === question;
  const latest = useLatest(args);
  const stop = useRef<() => unknown>(nothing);
  useEffect(() => {
    void version;
    if (key === null || !worker || isCancelled) return;
    let asked: { cancel: () => unknown } | null = null;
    let gone = false;
    const timer = setTimeout(() => {
      const one = worker.ask(
        name,
        latest.current as J[N]['args'],
        (progress) => !gone && setJob((was) => ({ ...was, progress })),
      );
      asked = one;
      stop.current = one.stop;
      one.answer.then(
        (found) => !gone && setJob({ answer: found, progress: null, fault: null, isDone: true, of: question }),
        (error: Error) =>
          !gone && !(error instanceof CancelledJob) && setJob((was) => ({ ...was, progress: null, fault: error.message })),
      );
    }, afterMs);
    return () => {
      gone = true;
      clearTimeout(timer);
      asked?.cancel();
    };
  }, [worker, name, key, version, question, afterMs, latest, isCancelled]);
  return {
    ...job,
    isPresent: of === question,
    isCancelled,
    stop: () => void stop.current(),
    cancel() {
      setCancelled(question);
      setJob((was) => ({ ...was, progress: null }));
    },
    again: () => setCancelled(null),
  };
}

/** A worker of one's own for as long as a view is shown; null at first. `make` stays the same. */
export function useWorker<T extends { end: () => void }>(make: () => T): T | null {
  return useHeld(make, endWorker);
}
const endWorker = (worker: { end: () => void }): void => worker.end();
