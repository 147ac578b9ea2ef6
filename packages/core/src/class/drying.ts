import type { Plan, PlanCoat, PlanItem } from '@viaticum/contract';
import { calibrate, type TouchTest } from '../coat/calibrate.js';
import type { ClassState } from './state.js';
import { paintMinute } from './timing.js';

/** The topmost coat on an area at a server time, and for how long it has been there; null where none lies that dries. */
export function coatUnder(state: ClassState, zoneId: string, now: number): { coat: PlanCoat; sinceMin: number } | null {
  const minute = paintMinute(state, now);
  let top: PlanCoat | null = null;
  for (const coat of state.plan?.coats ?? []) if (coat.zoneId === zoneId && coat.laidFromMin <= minute) top = coat;
  return top && top.paintOverMin !== null ? { coat: top, sinceMin: Math.max(0.05, minute - top.laidToMin) } : null;
}

/** A touch test as the class saw it: its coat and time are those of the plan as it was published. */
export function touched(state: ClassState, zoneId: string, dry: boolean, now: number): TouchTest | null {
  const under = coatUnder(state, zoneId, now);
  if (!under) return null;
  const predictedMin = under.coat.paintOverMin as number;
  return dry ? { predictedMin, dryAtMin: under.sinceMin } : { predictedMin, wetAtMin: under.sinceMin };
}

/** How much longer than planned the coats of this class take to dry, by its touch tests; 1 without. */
export const dryingFactor = (tests: readonly TouchTest[]): number => 1 / calibrate(tests);

const known = new WeakMap<Plan, { factor: number; plan: Plan }>();
/** The plan with its coats as they dry in this class; the published one where nothing was touched. */
export function planAsDried({ plan, dryFactor }: ClassState): Plan | null {
  if (!plan || dryFactor === 1) return plan;
  const found = known.get(plan);
  if (found?.factor === dryFactor) return found.plan;
  const longer = (minutes: number | null) => (minutes === null ? null : minutes * dryFactor);
  const coats = plan.coats.map((coat) => ({
    ...coat,
    openMin: coat.openMin === null ? null : coat.openMin * dryFactor,
    paintOverMin: longer(coat.paintOverMin),
    touchDryMin: longer(coat.touchDryMin),
    firmMin: longer(coat.firmMin),
  })) as Plan['coats'];
  const dried = { ...plan, coats };
  known.set(plan, { factor: dryFactor, plan: dried });
  return dried;
}

/** Minutes that a pause of the plan becomes longer (or shorter) in this class: the wait counts from when its coat was laid. */
export function pauseChange({ plan, dryFactor }: ClassState, item: PlanItem): number {
  if (item.kind !== 'pause' || dryFactor === 1 || !plan) return 0;
  const laid = plan.coats.filter((coat) => item.zoneIds.includes(coat.zoneId) && coat.laidToMin <= item.startMin + 1e-6);
  if (laid.length === 0) return 0;
  const from = Math.max(...laid.map((coat) => coat.laidToMin));
  return Math.max(item.startMin - item.endMin, (dryFactor - 1) * (item.endMin - from));
}
