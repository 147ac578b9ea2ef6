import { serverErrors } from '@viaticum/contract';
import { Piscina } from 'piscina';
import { ApiFault } from '../errors.js';

export type PoolOptions = {
  /** How many threads work at once; started when there is something to do. */
  threads?: number;
  /** How many jobs may wait; a further one is refused. */
  queue: number;
  /** How many jobs of one caller may wait or be worked on. */
  perCaller: number;
  /** One thread stays once it was started, however long nothing is asked. */
  isWarm?: boolean;
};

/** A thread that nothing was asked of goes after so long. */
const IDLE_MS = 10 * 60_000;

/**
 * Worker threads (Piscina) for one kind of heavy work, behind a queue that has an end. `file` is the worker's compiled code relative
 * to `dist`, which exports a function of a job. Throws 503 where the queue is full, 429 where this caller asks for too much at once.
 */
export function pool<Job, Done>(file: string, { threads = 1, queue, perCaller, isWarm = false }: PoolOptions) {
  // A worker thread takes compiled code, also when this file is run from its source.
  const filename = new URL(import.meta.url.endsWith('.ts') ? `../../dist/${file}` : `../${file}`, import.meta.url).href;
  let piscina: Piscina<Job, Done> | null = null;
  const callers = new Map<string, number>();
  let open = 0;
  const start = () => {
    piscina ??= new Piscina({
      filename,
      minThreads: isWarm ? 1 : 0,
      maxThreads: threads,
      maxQueue: queue + threads,
      idleTimeout: IDLE_MS,
    });
    return piscina;
  };
  return {
    /** Starts the first thread ahead of what will be asked of it; one that is kept warm stays. */
    warm: (): void => void start(),
    /** Does a job; `caller` is whoever asks, for the limit. */
    async ask(job: Job, caller: string): Promise<Done> {
      const own = callers.get(caller) ?? 0;
      if (own >= perCaller) throw new ApiFault(serverErrors.askedTooMuch);
      if (open >= queue + threads) throw new ApiFault(serverErrors.busy);
      const workers = start();
      callers.set(caller, own + 1);
      open += 1;
      try {
        return await workers.run(job);
      } finally {
        open -= 1;
        const left = (callers.get(caller) ?? 1) - 1;
        if (left > 0) callers.set(caller, left);
        else callers.delete(caller);
      }
    },
    async close(): Promise<void> {
      await piscina?.destroy();
    },
  };
}
