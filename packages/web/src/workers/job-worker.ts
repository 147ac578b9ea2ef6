/** What a worker can be asked, by name: what it is given and what it answers. */
type Jobs = Record<string, { args: unknown; answer: unknown }>;
export type ToWorker = { id: number; name: string; args: unknown } | { cancel: number } | { stop: number };
export type FromWorker = { id: number } & ({ progress: number } | { answer: unknown } | { failed: string } | { cancelled: true });

type Waiting = {
  resolve: (answer: never) => void;
  reject: (error: Error) => void;
  onProgress?: ((share: number) => void) | undefined;
};

/** A job that was cancelled; nobody waits for it any more. */
export class CancelledJob extends Error {}

/** A worker asked by name, answering by promise; a job can be cancelled and tells how far it is. */
export function jobWorker<J extends { [N in keyof J]: { args: unknown; answer: unknown } }>(worker: Worker) {
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
    ask<N extends keyof J & string>(name: N, args: J[N]['args'], onProgress?: (share: number) => void) {
      const id = ++next;
      const answer = new Promise<J[N]['answer']>((resolve, reject) => {
        waiting.set(id, { resolve: resolve as (answer: never) => void, reject, onProgress });
        send({ id, name, args });
      });
      return {
        answer,
        cancel: () => waiting.has(id) && send({ cancel: id }),
        /** Asks for the best so far. */
        stop: () => waiting.has(id) && send({ stop: id }),
      };
    },
    end: () => worker.terminate(),
  };
}
export type JobWorker<J extends { [N in keyof J]: { args: unknown; answer: unknown } }> = ReturnType<typeof jobWorker<J>>;
