import type { FromWorker, JobName, PictureJobs, ToWorker } from './picture-jobs.js';

type Waiting = {
  resolve: (answer: never) => void;
  reject: (error: Error) => void;
  onProgress?: ((share: number) => void) | undefined;
};

/** A job that was cancelled; nobody waits for it any more. */
export class CancelledJob extends Error {}

/** The picture worker: asked by name, answers by promise; a job can be cancelled and tells how far it is. */
export function pictureWorker() {
  const worker = new Worker(new URL('./picture.worker.ts', import.meta.url), { type: 'module' });
  const waiting = new Map<number, Waiting>();
  let next = 0;
  worker.onmessage = ({ data }: MessageEvent<FromWorker>) => {
    const one = waiting.get(data.id);
    if (!one) return;
    if ('progress' in data) {
      one.onProgress?.(data.progress);
      return;
    }
    waiting.delete(data.id);
    if ('answer' in data) one.resolve(data.answer as never);
    else one.reject('failed' in data ? new Error(data.failed) : new CancelledJob());
  };
  const send = (message: ToWorker) => worker.postMessage(message);
  return {
    ask<N extends JobName>(name: N, args: PictureJobs[N]['args'], onProgress?: (share: number) => void) {
      const id = ++next;
      const answer = new Promise<PictureJobs[N]['answer']>((resolve, reject) => {
        waiting.set(id, { resolve: resolve as (answer: never) => void, reject, onProgress });
        send({ id, name, args });
      });
      return { answer, cancel: () => waiting.has(id) && send({ cancel: id }) };
    },
    end: () => worker.terminate(),
  };
}
export type PictureWorker = ReturnType<typeof pictureWorker>;
