import { parentPort } from 'node:worker_threads';
import { serveJobs } from '../thread.js';
import { render } from './renditions.js';

serveJobs(parentPort, (bytes: Uint8Array) => render(bytes));
