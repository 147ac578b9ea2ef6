import { airMap, bestStart, costsOf, leversOf, threePlans, waysOn } from '@viaticum/core/advice';
import { draftWithReasons, freeGains, lengthLadder, withAllBack } from '@viaticum/core/draft';
import { paceModel, pacing, whatHelps } from '@viaticum/core/pace';
import { planLesson } from '@viaticum/core/plan';
import { nanoid } from 'nanoid';
import type { PlanJobs } from './plan-jobs.js';
import { runJob, serveJobs } from './serve-jobs.js';

const BINS = 40;
const SEED = 20;
/** The group with the plan as it is, and with each thing that might help; the same chances throughout. */
async function pace(id: number, { lesson, group, runs }: PlanJobs['pace']['args']): Promise<PlanJobs['pace']['answer']> {
  const model = paceModel(lesson, planLesson(lesson), group);
  const { ends, ...result } = await runJob(id, pacing(model, { runs, seed: SEED }), (share) => share * 0.5);
  const tried = whatHelps(model, result.bottlenecks);
  const helps: PlanJobs['pace']['answer']['helps'] = [];
  for (const [i, { kind, stepId, model: helped }] of tried.entries()) {
    const { finishInSlot, endMin } = await runJob(
      id,
      pacing(helped, { runs: Math.max(500, Math.round(runs / 4)), seed: SEED }),
      (share) => 0.5 + (0.5 * (i + share)) / tried.length,
    );
    helps.push({ kind, stepId, finishInSlot, savedMin: result.endMin.p50 - endMin.p50 });
  }
  helps.sort((a, b) => b.savedMin - a.savedMin);
  const [low, high] = [ends[0] ?? 0, ends.at(-1) ?? 0];
  const width = Math.max(1, Math.ceil((high - low) / BINS));
  const counts = new Map<number, number>();
  for (const end of ends) {
    const from = Math.floor(end / width) * width;
    counts.set(from, (counts.get(from) ?? 0) + 1);
  }
  const bins = [...counts].sort(([a], [b]) => a - b).map(([fromMin, count]) => ({ fromMin, share: count / ends.length }));
  return { result, bins, helps };
}

const jobs: { [N in keyof PlanJobs]: (id: number, args: PlanJobs[N]['args']) => Promise<PlanJobs[N]['answer']> } = {
  plans: (id, { lesson, maxNodes }) => runJob(id, threePlans(lesson, { maxNodes }), ({ nodes }) => nodes / maxNodes),
  costs: async (_id, { lesson }) => costsOf(lesson),
  levers: async (_id, { lesson, stepId }) => leversOf(lesson, stepId),
  waysOn: async (_id, { lesson, stepId }) => waysOn(lesson, stepId),
  map: (id, { lesson }) => runJob(id, airMap(lesson), (share) => share),
  pace,
  lengths: async (id, { lesson }) => {
    const whole = withAllBack(lesson);
    const { gains, lesson: gained } = freeGains(whole, () => nanoid(8));
    const { notches } = await runJob(id, lengthLadder(gained), () => 0);
    return { wholeMin: planLesson(whole).plan.endMin, gains, notches };
  },
  draft: async (_id, { lesson }) => {
    const { lesson: drafted, why } = draftWithReasons(lesson, () => nanoid(8));
    const { stages, steps, passages, leftOut, planning } = drafted;
    return {
      stages,
      steps: steps.map((step) => ({ step, why: why.get(step.id) ?? [] })),
      passages,
      leftOut,
      cutsBefore: planning.cutsBefore ?? [],
    };
  },
  start: async (_id, { lesson, endByMin }) => bestStart(lesson, endByMin),
};

serveJobs(jobs as never);
