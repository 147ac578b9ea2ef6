import { type JobWorker, jobWorker } from './job-worker.js';
import type { PictureJobs } from './picture-jobs.js';

export type PictureWorker = JobWorker<PictureJobs>;
/** Pixel work on the lesson's picture. */
export const pictureWorker = (): PictureWorker =>
  jobWorker(new Worker(new URL('./picture.worker.js', import.meta.url), { type: 'module' }));
