import { parentPort } from 'node:worker_threads';
import { render } from './renditions.js';

const port = parentPort;
port?.on('message', ({ id, bytes }: { id: number; bytes: Uint8Array }) => {
  render(bytes).then(
    (rendered) => port.postMessage({ id, rendered }),
    (error: Error) => port.postMessage({ id, fault: error.message }),
  );
});
