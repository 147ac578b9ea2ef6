import { type JobWorker, jobWorker } from './job-worker.js';
import type { PlanJobs } from './plan-jobs.js';

export type PlanWorker = JobWorker<PlanJobs>;
/** Searches among the orders of a lesson. */
export const planWorker = (): PlanWorker =>
  jobWorker(new Worker(new URL('./plan.worker.js', import.meta.url), { type: 'module' }));
