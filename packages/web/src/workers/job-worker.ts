import { proxy, type Remote, releaseProxy, wrap } from 'comlink';
import type { Served } from './serve-jobs.js';

/** What a worker can be asked, by name: what it is given and what it answers. */
export type Jobs<J> = { [N in keyof J]: { args: unknown; answer: unknown } };

/** A job that was cancelled; nobody waits for it any more. */
export class CancelledJob extends Error {}

/** A worker asked by name, answering by promise; a job can be cancelled and tells how far it is. */
export function jobWorker<J extends Jobs<J>>(worker: Worker) {
  const remote: Remote<Served> = wrap<Served>(worker);
  const open = new Set<number>();
  let last = 0;
  return {
    ask<N extends keyof J & string>(name: N, args: J[N]['args'], onProgress?: (share: number) => void) {
      const id = ++last;
      open.add(id);
      const told = onProgress ? proxy(onProgress) : undefined;
      const answer = Promise.resolve(remote.ask(id, name, args, told))
        .then((result) => {
          if ('cancelled' in result) throw new CancelledJob();
          return result.answer as J[N]['answer'];
        })
        .finally(() => open.delete(id));
      return {
        answer,
        cancel: () => open.has(id) && remote.cancel(id),
        /** Asks for the best so far. */
        stop: () => open.has(id) && remote.stop(id),
      };
    },
    end: () => {
      remote[releaseProxy]();
      worker.terminate();
    },
  };
}
export type JobWorker<J extends Jobs<J>> = ReturnType<typeof jobWorker<J>>;
