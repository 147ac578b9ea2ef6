import type { FollowSheet, Plan, PlanCoat } from '@viaticum/contract';
import { say } from '@viaticum/contract';

/** What a coat lies on, as one says it: the area, or the whole canvas where one step laid it everywhere. */
export function coatName(sheet: FollowSheet, plan: Plan | null, { stepId, areaId }: Pick<PlanCoat, 'stepId' | 'areaId'>): string {
  const under = new Set((plan?.coats ?? []).flatMap((one) => (one.stepId === stepId ? one.areaId : [])));
  if (under.size > 1 && under.size >= sheet.areas.length) return say('the whole canvas');
  return sheet.areas.find((area) => area.id === areaId)?.name ?? say('the canvas');
}
