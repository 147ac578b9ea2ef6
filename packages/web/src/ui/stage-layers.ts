import type { FollowSheet, Plan, PlanCoat } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { areaRung, rungWord } from '@viaticum/core/step';
import type { AreaWetness, ShownLayer } from './stage-canvas.js';

/** What lies on the canvas at a minute of the plan; the layer being laid shows as far as it has come. */
export function layersAt(sheet: FollowSheet, plan: Plan, minute: number): ShownLayer[] {
  const begun = plan.items.flatMap((item) => {
    const step = item.stepId ? sheet.steps[item.stepId] : undefined;
    if (!step || item.startMin >= minute) return [];
    const from = item.startMin + item.showMin;
    const laid = Math.min(1, Math.max(0, (minute - from) / Math.max(0.01, item.endMin - from)));
    return step.layers.map((layer) => ({ ...layer, laid }));
  });
  return [...homeLayers(sheet, plan), ...begun];
}

/** The steps whose paint was laid before the class, in their order. */
export const laidAtHome = ({ coats }: Pick<Plan, 'coats'>): string[] => [
  ...new Set(coats.flatMap((coat) => (coat.laidToMin < 0 ? [coat.stepId] : []))),
];
const homeLayers = (sheet: FollowSheet, plan: Plan): ShownLayer[] =>
  laidAtHome(plan).flatMap((id) => (sheet.steps[id]?.layers ?? []).map((layer) => ({ ...layer, laid: 1 })));

/** What lies on a canvas when the steps named are finished. */
export function layersAfter(sheet: FollowSheet, plan: Plan, done: (stepId: string) => boolean): ShownLayer[] {
  const finished = plan.items.flatMap((item) =>
    item.stepId && done(item.stepId) ? (sheet.steps[item.stepId]?.layers ?? []).map((layer) => ({ ...layer, laid: 1 })) : [],
  );
  return [...homeLayers(sheet, plan), ...finished];
}

/** The rung of every painted area at a minute, with a word on those that are wet; one word where the whole canvas is as wet. */
export function wetnessAt(sheet: FollowSheet, coats: readonly PlanCoat[], minute: number, labels: boolean): AreaWetness[] {
  const wet = sheet.areas.flatMap((area) => {
    const { rung } = areaRung(coats, area.id, minute);
    if (rung === 'unpainted') return [];
    const isWet = rung === 'workable' || rung === 'damp';
    return [{ areaId: area.id, rung, ...(labels && isWet ? { label: `${area.name} ${rungWord[rung]}` } : {}) }];
  });
  const [first, ...rest] = wet;
  const isOne = first && 'label' in first && rest.length > 1 && wet.length === sheet.areas.length;
  if (!isOne || rest.some((one) => one.rung !== first.rung)) return wet;
  return [{ ...first, label: say`whole canvas ${rungWord[first.rung]}` }, ...rest.map(({ areaId, rung }) => ({ areaId, rung }))];
}
