import { Worker } from 'node:worker_threads';
import type { Rendered } from './renditions.js';

type Waiting = { resolve: (rendered: Rendered) => void; reject: (error: Error) => void };

// A worker thread takes compiled code, also when this file is run from its source.
const workerFile = new URL(import.meta.url.endsWith('.ts') ? '../../dist/pictures/worker.js' : './worker.js', import.meta.url);

/** One worker thread that makes renditions, started with the first picture and ended with the server. */
export function renderPool() {
  let worker: Worker | null = null;
  let next = 0;
  const waiting = new Map<number, Waiting>();
  const start = (): Worker => {
    const fresh = new Worker(workerFile);
    fresh.on('message', ({ id, rendered, fault }: { id: number; rendered?: Rendered; fault?: string }) => {
      const one = waiting.get(id);
      waiting.delete(id);
      if (rendered) one?.resolve(asBuffers(rendered));
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
    render(bytes: Uint8Array): Promise<Rendered> {
      worker ??= start();
      const id = next++;
      const used = worker;
      return new Promise((resolve, reject) => {
        waiting.set(id, { resolve, reject });
        used.postMessage({ id, bytes });
      });
    },
    async close(): Promise<void> {
      await worker?.terminate();
    },
  };
}

const asBuffers = (rendered: Rendered): Rendered => ({
  ...rendered,
  full: Buffer.from(rendered.full),
  work: Buffer.from(rendered.work),
  thumb: Buffer.from(rendered.thumb),
});
