import type { Lesson } from '@viaticum/contract';
import type { OrderAnswer } from '@viaticum/core/plan';

/** What the plan worker can be asked, with what it answers. */
export type PlanJobs = {
  order: { args: { lesson: Lesson; maxNodes?: number }; answer: OrderAnswer };
};
