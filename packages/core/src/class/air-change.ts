import { minutesLeft, NO_WAIT_MIN, rungNow } from './air.js';
import { visitsByStep } from './drying.js';
import type { ClassState } from './shape.js';

/** What a note of the air did: minutes until coats that lie wet may be painted over, before and since, and how much longer all others take. */
export type AirChange = {
  wet: { areaId: string; stepId: string; wasMin: number; isMin: number }[];
  /** Minutes of each coat in this air over those planned, least and most; null where the lesson lays nothing. */
  times: { least: number; most: number } | null;
};

/** What the newest note of the air does to the class's coats, at a class time (ms); null where none was noted. The longest first. */
export function airChange(state: ClassState, now: number): AirChange | null {
  const newest = state.airs.at(-1);
  if (!newest || !state.plan) return null;
  const before = { ...state, airs: state.airs.slice(0, -1) };
  const visits = visitsByStep(state);
  const wet = state.plan.coats.flatMap((coat) => {
    const visit = visits.get(coat.stepId);
    if (!visit) return [];
    const laid = visit.endedAt ?? now;
    const of = (of: ClassState) => minutesLeft(of, coat, 'paintOverMin', laid, now);
    const isMin = of(state);
    const wasMin = Math.max(0, of(before));
    return isMin > NO_WAIT_MIN ? [{ areaId: coat.areaId, stepId: coat.stepId, wasMin, isMin }] : [];
  });
  const ratios = state.plan.coats.flatMap((coat) => {
    const planned = rungNow(before, coat, 'paintOverMin', 0);
    const is = rungNow(state, coat, 'paintOverMin', now);
    return planned > 0 && Number.isFinite(planned) ? [is / planned] : [];
  });
  const times = ratios.length > 0 ? { least: Math.min(...ratios), most: Math.max(...ratios) } : null;
  return { wet: wet.sort((a, b) => b.isMin - a.isMin), times };
}
