import type { Lesson, PlanItem } from '@viaticum/contract';
import { planLesson } from '../plan/index.js';
import { forStudents } from '../step/index.js';

/** A canvas to prepare ahead, so that a demonstration goes on without waiting. */
export type AheadSample = {
  /** Painted up to the end of this step, and dry enough for the one after. */
  afterStepId: string;
  /** The step that would otherwise wait, and for how long. */
  beforeStepId: string;
  waitMin: number;
  /** When to begin it at the latest, in minutes before the class. */
  startBeforeMin: number;
};
export type Ahead = { samples: AheadSample[]; savedMin: number; demonstrationMin: number };

/** A shorter wait is filled with talk. */
const WORTH_MIN = 3;

/**
 * Which samples, at which stage, begun when, so that a demonstration never waits: one for every pause of the plan that is longer than
 * three minutes. Painted at an experienced hand's pace and given time to dry; they are begun one after the other, the last stage first.
 */
export function aheadOf(lesson: Lesson): Ahead {
  const { plan } = planLesson(lesson);
  const quick = planLesson(forStudents(lesson, 'experienced')).plan;
  const samples: AheadSample[] = [];
  plan.items.forEach((item, i) => {
    const wait = item.endMin - item.startMin;
    if (item.kind !== 'pause' || wait < WORTH_MIN) return;
    const before = lastStep(plan.items.slice(0, i));
    const after = plan.items.slice(i + 1).find((one) => one.stepId);
    if (!before?.stepId || !after?.stepId) return;
    const painted = quick.items.find((one) => one.stepId === after.stepId)?.startMin ?? 0;
    samples.push({ afterStepId: before.stepId, beforeStepId: after.stepId, waitMin: wait, startBeforeMin: Math.ceil(painted) });
  });
  // One pair of hands paints them: each is begun before the ones that take less, so that none waits for another.
  samples.sort((one, other) => other.startBeforeMin - one.startBeforeMin);
  let hands = 0;
  for (const sample of [...samples].reverse()) {
    hands += workOn(lesson, sample.afterStepId);
    sample.startBeforeMin = Math.max(sample.startBeforeMin, Math.ceil(hands));
  }
  const savedMin = samples.reduce((sum, one) => sum + one.waitMin, 0);
  return { samples, savedMin, demonstrationMin: plan.endMin - savedMin };
}

const lastStep = (items: readonly PlanItem[]) => [...items].reverse().find((item) => item.stepId);

/** Minutes of work of an experienced hand up to the end of a step. */
function workOn(lesson: Lesson, stepId: string): number {
  const { plan } = planLesson(forStudents(lesson, 'experienced'));
  const until = plan.items.findIndex((item) => item.stepId === stepId);
  return plan.items
    .slice(0, until + 1)
    .filter((item) => item.kind === 'step')
    .reduce((sum, item) => sum + item.endMin - item.startMin, 0);
}
