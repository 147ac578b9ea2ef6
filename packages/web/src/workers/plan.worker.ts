import { betterOrder } from '@viaticum/core/plan';
import type { PlanJobs } from './plan-jobs.js';
import { runJob, serveJobs } from './serve-jobs.js';

const MOST_NODES = 20_000;
const jobs: { [N in keyof PlanJobs]: (id: number, args: PlanJobs[N]['args']) => Promise<PlanJobs[N]['answer']> } = {
  order: (id, { lesson, maxNodes = MOST_NODES }) =>
    runJob(id, betterOrder(lesson, { maxNodes }), ({ nodes }) => nodes / maxNodes),
};

serveJobs(jobs as never);
