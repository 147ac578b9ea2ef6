import { airMap, bestStart, costsOf, leversOf, threePlans, waysOn } from '@viaticum/core/advice';
import { draftWithReasons, freeGains, lengthLadder, withAllBack } from '@viaticum/core/draft';
import { notedSeconds, shootingList, shootState, takesOf } from '@viaticum/core/film';
import { forecast, paceModel, pacing, tooShort, twoSpeeds, whatHelps } from '@viaticum/core/pace';
import { planLesson } from '@viaticum/core/plan';
import { leaveOutFacts } from '@viaticum/core/student-sheet';
import { nanoid } from 'nanoid';
import type { PlanJobs } from './plan-jobs.js';
import { runJob, serveJobs } from './serve-jobs.js';

const BINS = 40;
const SEED = 20;
const SHOWN = 0.995;
/** The group with the plan as it is, and what would help; the same chances throughout. */
async function pace(id: number, { lesson, group, runs }: PlanJobs['pace']['args']): Promise<PlanJobs['pace']['answer']> {
  const plan = planLesson(lesson);
  const model = paceModel(lesson, plan, group);
  const leave = leaveOutFacts(lesson, plan);
  const base = await runJob(id, pacing(model, { runs, seed: SEED }), (share) => share * 0.3);
  const tried = { runs: Math.max(500, Math.round(runs / 5)), seed: SEED };
  const gains = await runJob(id, whatHelps(model, base, leave, tried), (share) => 0.3 + 0.7 * share);
  const { ends, gates: _, ...result } = base;
  const counts = new Map<number, number>();
  // One class in two hundred is later than is worth a place on the axis.
  const shown = ends.subarray(0, Math.ceil(ends.length * SHOWN));
  const width = Math.max(1, Math.ceil(((shown.at(-1) ?? 0) - (shown[0] ?? 0)) / BINS));
  for (const end of shown) {
    const from = Math.floor(end / width) * width;
    counts.set(from, (counts.get(from) ?? 0) + 1);
  }
  return {
    result,
    bins: [...counts].sort(([one], [other]) => one - other).map(([fromMin, count]) => ({ fromMin, share: count / ends.length })),
    helps: gains.map(({ model: _model, ...gain }) => gain),
    tooShort: tooShort(lesson, plan.plan.endMin, group.slotMin, leave),
    planMin: plan.plan.endMin,
    twoSpeeds: twoSpeeds(model, leave),
  };
}

const jobs: { [N in keyof PlanJobs]: (id: number, args: PlanJobs[N]['args']) => Promise<PlanJobs[N]['answer']> } = {
  plans: (id, { lesson, maxNodes }) => runJob(id, threePlans(lesson, { maxNodes }), ({ nodes }) => nodes / maxNodes),
  costs: async (_id, { lesson }) => costsOf(lesson),
  levers: async (_id, { lesson, stepId }) => leversOf(lesson, stepId),
  waysOn: async (_id, { lesson, stepId }) => waysOn(lesson, stepId),
  map: (id, { lesson }) => runJob(id, airMap(lesson), (share) => share),
  pace,
  forecast: async (_id, { lesson, students }) => forecast(lesson, planLesson(lesson), students),
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
  filming: async (_id, { lesson, notes, isNarrow }) =>
    shootingList(lesson, takesOf(lesson, notedSeconds(shootState(notes))), isNarrow),
  start: async (_id, { lesson, endByMin }) => bestStart(lesson, endByMin),
};

serveJobs(jobs as never);
