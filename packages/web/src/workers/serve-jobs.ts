import type { FromWorker, ToWorker } from './job-worker.js';

class Cancelled extends Error {}
const cancelled = new Set<number>();
const stopped = new Set<number>();
const post = (message: FromWorker) => self.postMessage(message);

/** Lets messages in between two pieces of work; throws where this job was cancelled. */
export async function breathe(id: number, progress: number): Promise<void> {
  post({ id, progress });
  await new Promise((done) => setTimeout(done));
  if (cancelled.has(id)) throw new Cancelled();
}

/** Runs work that pauses now and then, telling how far it is; at every pause it can be cancelled, or asked to end with what it has. */
export async function runJob<P, T>(
  id: number,
  work: Generator<P, T, undefined | 'stop'>,
  share: (progress: P) => number,
): Promise<T> {
  let last = performance.now();
  for (;;) {
    const step = work.next(stopped.has(id) ? 'stop' : undefined);
    if (step.done) return step.value;
    if (performance.now() - last < 30) continue;
    await breathe(id, share(step.value));
    last = performance.now();
  }
}

type Work = { [name: string]: (id: number, args: never) => unknown };

/** Answers messages one job after the other, so that a later one meets what an earlier one left. */
export function serveJobs(jobs: Work): void {
  let queue: Promise<void> = Promise.resolve();
  self.onmessage = ({ data }: MessageEvent<ToWorker>) => {
    if ('cancel' in data || 'stop' in data) {
      if ('cancel' in data) cancelled.add(data.cancel);
      else stopped.add(data.stop);
      return;
    }
    const { id, name, args } = data;
    queue = queue.then(async () => {
      if (cancelled.has(id)) return post({ id, cancelled: true });
      try {
        post({ id, answer: await (jobs[name] as (id: number, args: unknown) => unknown)(id, args) });
      } catch (error) {
        if (error instanceof Cancelled) post({ id, cancelled: true });
        else post({ id, failed: error instanceof Error ? error.message : String(error) });
      } finally {
        cancelled.delete(id);
        stopped.delete(id);
      }
    });
  };
}
