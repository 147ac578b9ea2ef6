import { Worker } from 'node:worker_threads';

type Waiting = { resolve: (answer: never) => void; reject: (error: Error) => void };
type Answer = { id: number; answer?: unknown; fault?: string };

/**
 * One worker thread for heavy work, started with the first job and ended with the server. `file` is the worker's compiled code
 * relative to `dist`; it answers each `{ id, job }` with `{ id, answer }` or `{ id, fault }`.
 */
export function thread<Job, Done>(file: string) {
  // A worker thread takes compiled code, also when this file is run from its source.
  const url = new URL(import.meta.url.endsWith('.ts') ? `../dist/${file}` : `./${file}`, import.meta.url);
  let worker: Worker | null = null;
  let next = 0;
  const waiting = new Map<number, Waiting>();
  const start = (): Worker => {
    const fresh = new Worker(url);
    fresh.on('message', ({ id, answer, fault }: Answer) => {
      const one = waiting.get(id);
      waiting.delete(id);
      if (fault === undefined) one?.resolve(answer as never);
      else one?.reject(new Error(fault));
    });
    fresh.on('error', (error) => {
      for (const one of waiting.values()) one.reject(error as Error);
      waiting.clear();
      worker = null;
    });
    fresh.unref();
    return fresh;
  };
  return {
    ask(job: Job): Promise<Done> {
      worker ??= start();
      const id = next++;
      const used = worker;
      return new Promise<Done>((resolve, reject) => {
        waiting.set(id, { resolve: resolve as (answer: never) => void, reject });
        used.postMessage({ id, job });
      });
    },
    async close(): Promise<void> {
      await worker?.terminate();
    },
  };
}

/** The worker's side: does each job and answers; a fault is told by its sentence. */
export function serveJobs<Job>(
  port: import('node:worker_threads').MessagePort | null,
  work: (job: Job) => Promise<unknown> | unknown,
): void {
  port?.on('message', ({ id, job }: { id: number; job: Job }) => {
    Promise.resolve()
      .then(() => work(job))
      .then(
        (answer) => port.postMessage({ id, answer }),
        (error: Error) => port.postMessage({ id, fault: error.message }),
      );
  });
}
