import type { Lesson } from '@viaticum/contract';
import type { AirMap, Cost, Lever, PlansAnswer, StartAnswer } from '@viaticum/core/plan';

/** What the plan worker can be asked, with what it answers. */
export type PlanJobs = {
  plans: { args: { lesson: Lesson; maxNodes: number }; answer: PlansAnswer };
  costs: { args: { lesson: Lesson }; answer: Cost[] };
  levers: { args: { lesson: Lesson; stepId: string }; answer: { rung: string; levers: Lever[] } };
  map: { args: { lesson: Lesson }; answer: AirMap };
  start: { args: { lesson: Lesson; endByMin: number }; answer: StartAnswer | null };
};
