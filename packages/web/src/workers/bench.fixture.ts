import { jest } from '@jest/globals';
import { type Jobs, jobWorker } from './job-worker.js';

/** A worker's inside, loaded here, asked over a channel as a page would ask it. `load` imports the file that serves. */
export async function benchWorker<J extends Jobs<J>>(load: () => Promise<unknown>) {
  const { port1, port2 } = new MessageChannel();
  // A worker's own scope hears and speaks.
  Object.assign(globalThis, {
    addEventListener: (type: string, listener: EventListener) => {
      port2.addEventListener(type, listener);
      port2.start();
    },
    removeEventListener: port2.removeEventListener.bind(port2),
    postMessage: port2.postMessage.bind(port2),
  });
  await load();
  const terminate = jest.fn();
  port1.start();
  const worker = jobWorker<J>(Object.assign(port1, { terminate }) as unknown as Worker);
  const close = () => {
    port1.close();
    port2.close();
  };
  return { worker, close };
}
