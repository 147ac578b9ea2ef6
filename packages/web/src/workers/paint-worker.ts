import { type JobWorker, jobWorker } from './job-worker.js';
import type { PaintJobs } from './paint-jobs.js';

export type PaintWorker = JobWorker<PaintJobs>;
/** Searches among recipes and palettes. */
export const paintWorker = (): PaintWorker =>
  jobWorker(new Worker(new URL('./paint.worker.js', import.meta.url), { type: 'module' }));
