import type { Measures } from '@viaticum/contract';
import { setMeasures } from '@viaticum/core/units';
import { type Endpoint, expose, releaseProxy } from 'comlink';
import { fetchLanguage } from '../ui/language.js';

class Cancelled extends Error {}

type Job = { tell: ((share: number) => unknown) | undefined; cancelled: boolean; stopped: boolean };
const jobs = new Map<number, Job>();

/** Lets messages in between two pieces of work; throws where this job was cancelled. */
export async function breathe(id: number, progress: number): Promise<void> {
  const job = jobs.get(id);
  void job?.tell?.(progress);
  await new Promise((done) => setTimeout(done));
  if (job?.cancelled) throw new Cancelled();
}

/** Runs work that pauses now and then, telling how far it is; at every pause it can be cancelled, or asked to end with what it has. */
export async function runJob<P, T>(
  id: number,
  work: Generator<P, T, undefined | 'stop'>,
  share: (progress: P) => number,
): Promise<T> {
  let last = performance.now();
  for (;;) {
    const step = work.next(jobs.get(id)?.stopped ? 'stop' : undefined);
    if (step.done) return step.value;
    if (performance.now() - last < 30) continue;
    await breathe(id, share(step.value));
    last = performance.now();
  }
}

type Work = { [name: string]: (id: number, args: never) => unknown };
type Result = { answer: unknown } | { cancelled: true };
/** What a page can ask of a worker. */
export type Served = {
  ask: (id: number, name: string, args: unknown, tell?: (share: number) => unknown) => Promise<Result>;
  cancel: (id: number) => void;
  stop: (id: number) => void;
  /** How whoever reads the answers measures. */
  measure: (measures: Measures) => void;
};

/** Answers questions one after the other, so that a later one meets what an earlier one left. A failure is its sentence. */
export function serveJobs(work: Work, endpoint?: Endpoint): void {
  let queue: Promise<unknown> = Promise.resolve();
  const served: Served = {
    ask(id, name, args, tell) {
      const job: Job = { tell, cancelled: false, stopped: false };
      jobs.set(id, job);
      const run = queue.then(async (): Promise<Result> => {
        try {
          if (job.cancelled) return { cancelled: true };
          return { answer: await (work[name] as (id: number, args: unknown) => unknown)(id, args) };
        } catch (error) {
          if (error instanceof Cancelled) return { cancelled: true };
          throw error;
        } finally {
          jobs.delete(id);
          (tell as { [releaseProxy]?: () => void } | undefined)?.[releaseProxy]?.();
        }
      });
      queue = run.catch(() => undefined);
      return run;
    },
    cancel(id) {
      const job = jobs.get(id);
      if (job) job.cancelled = true;
    },
    stop(id) {
      const job = jobs.get(id);
      if (job) job.stopped = true;
    },
    measure(measures) {
      queue = queue.then(async () => {
        await fetchLanguage(measures.language ?? 'en').catch(() => undefined);
        setMeasures(measures);
      });
    },
  };
  expose(served, endpoint);
}
