import { airMap, bestStart, costsOf, leversOf, threePlans } from '@viaticum/core/plan';
import type { PlanJobs } from './plan-jobs.js';
import { runJob, serveJobs } from './serve-jobs.js';

const jobs: { [N in keyof PlanJobs]: (id: number, args: PlanJobs[N]['args']) => Promise<PlanJobs[N]['answer']> } = {
  plans: (id, { lesson, maxNodes }) => runJob(id, threePlans(lesson, { maxNodes }), ({ nodes }) => nodes / maxNodes),
  costs: async (_id, { lesson }) => costsOf(lesson),
  levers: async (_id, { lesson, stepId }) => leversOf(lesson, stepId),
  map: (id, { lesson }) => runJob(id, airMap(lesson), (share) => share),
  start: async (_id, { lesson, endByMin }) => bestStart(lesson, endByMin),
};

serveJobs(jobs as never);
