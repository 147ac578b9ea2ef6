import { measuresNow } from '@viaticum/core/units';
import { proxy, type Remote, releaseProxy, wrap } from 'comlink';
import type { Served } from './serve-jobs.js';

/** What a worker can be asked, by name: what it is given and what it answers. */
export type Jobs<J> = { [N in keyof J]: { args: unknown; answer: unknown } };

/** A job that was cancelled; nobody waits for it any more. */
export class CancelledJob extends Error {}

/** A worker asked by name, answering by promise; a job can be cancelled and tells how far it is. */
export function jobWorker<J extends Jobs<J>>(worker: Worker) {
  const remote: Remote<Served> = wrap<Served>(worker);
  // Before anything is asked.
  void remote.measure(measuresNow());
  const open = new Set<number>();
  let last = 0;
  let ended = false;
  return {
    ask<N extends keyof J & string>(name: N, args: J[N]['args'], onProgress?: (share: number) => void) {
      const id = ++last;
      if (!ended) open.add(id);
      // A worker that was ended answers nobody any more.
      const asked = ended
        ? new Promise<never>(() => undefined)
        : Promise.resolve(remote.ask(id, name, args, onProgress && proxy(onProgress)));
      const answer = asked
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
      ended = true;
      open.clear();
      remote[releaseProxy]();
      worker.terminate();
    },
  };
}
export type JobWorker<J extends Jobs<J>> = ReturnType<typeof jobWorker<J>>;
