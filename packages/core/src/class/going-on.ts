import type { PlanCoat } from '@viaticum/contract';
import { minutesLeft, NO_WAIT_MIN } from './air.js';
import { belief } from './belief.js';
import { dryingLeft, visitsByStep, waitedFor } from './drying.js';
import { leftBehind } from './needs.js';
import type { ClassState, Student } from './shape.js';
import { currentItem } from './timing.js';

/** What going on would do: whose paint is still wet for what comes, and who is not with the class yet. */
export type GoingOn = {
  /** The coat that needs longest yet, minutes (`Infinity`: it does not dry in this air). */
  wet: { coat: PlanCoat; leftMin: number } | null;
  behind: { stepId: string; names: string[] }[];
  /** Wet paint, or more than half left behind: the key asks once more. */
  asks: boolean;
};

/** A coat that lies wet where the next step paints, though by the plan it would be dry then: the one that needs longest. */
function wetForNext(state: ClassState, now: number): GoingOn['wet'] {
  const { plan, current } = state;
  const item = currentItem(state);
  const next = plan?.items[(current?.index ?? -1) + 1];
  if (!plan || !item || !next) return null;
  if (item.kind === 'pause') {
    const coat = waitedFor(plan.coats, item);
    const leftMin = coat ? dryingLeft(state, item, now) : null;
    return coat && leftMin !== null && leftMin > NO_WAIT_MIN ? { coat, leftMin } : null;
  }
  if (next.kind !== 'step') return null;
  const visits = visitsByStep(state);
  let wet: GoingOn['wet'] = null;
  for (const coat of plan.coats) {
    const visit = visits.get(coat.stepId);
    const isMeant =
      next.areaIds.includes(coat.areaId) &&
      coat.stepId !== next.stepId &&
      coat.stepId !== item.stepId &&
      coat.paintOverMin !== null &&
      coat.laidToMin + coat.paintOverMin <= next.startMin + 1e-6;
    if (!visit || !isMeant) continue;
    const leftMin = minutesLeft(state, coat, 'paintOverMin', visit.endedAt ?? now, now);
    if (leftMin > NO_WAIT_MIN && leftMin > (wet?.leftMin ?? 0)) wet = { coat, leftMin };
  }
  return wet;
}

/** What going on would do just now, at a class time (ms). */
export function goingOn(state: ClassState, now: number): GoingOn {
  const wet = state.phase === 'ended' ? null : wetForNext(state, now);
  const behind = leftBehind(state, now);
  const students = Object.keys(state.students).length;
  const left = behind.reduce((sum, { names }) => sum + names.length, 0);
  return { wet, behind, asks: wet !== null || left * 2 > students };
}

/**
 * What a phone says to a student whom the class left at a step: the step that they finish first, and in how long their own coat that the
 * class waited for last may be painted over. Null where they are with the class, or nobody knows.
 */
export function leftAt(
  state: ClassState,
  student: Student,
  now: number,
): { stepId: string; wet: { coat: PlanCoat; leftMin: number } | null } | null {
  const { stepNow, standing } = belief(state, student, now);
  const here = currentItem(state);
  if (stepNow === null || here?.kind !== 'step' || stepNow === here.stepId || standing.get(stepNow)?.how !== 'open') return null;
  const before = state.plan?.items[(state.current?.index ?? 0) - 1];
  const coat = before?.kind === 'pause' && state.plan ? waitedFor(state.plan.coats, before) : null;
  const leftMin = coat && before ? dryingLeft(state, before, now, student) : null;
  return { stepId: stepNow, wet: coat && leftMin !== null && leftMin > NO_WAIT_MIN ? { coat, leftMin } : null };
}
