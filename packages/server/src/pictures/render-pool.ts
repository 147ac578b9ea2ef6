import { thread } from '../thread.js';
import type { Rendered } from './renditions.js';

/** Makes renditions in a thread of their own. */
export function renderPool() {
  const worker = thread<Uint8Array, Rendered>('pictures/worker.js');
  return {
    render: async (bytes: Uint8Array): Promise<Rendered> => asBuffers(await worker.ask(bytes)),
    close: worker.close,
  };
}

const asBuffers = (rendered: Rendered): Rendered => ({
  ...rendered,
  full: Buffer.from(rendered.full),
  work: Buffer.from(rendered.work),
  thumb: Buffer.from(rendered.thumb),
});
