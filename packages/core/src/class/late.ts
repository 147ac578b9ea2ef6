import type { FollowSheet } from '@viaticum/contract';
import type { ClassState, Student, Visit } from './shape.js';

/**
 * What a student who is late should leave out to catch up: of the steps that may be left out and that they have not done, always the one
 * that takes least from the picture for each minute it saves, until the minutes are made up for.
 */
export function leaveOutFor(
  state: ClassState,
  student: Student,
  lateMin: number,
  facts: NonNullable<FollowSheet['leaveOut']>,
): { stepIds: string[]; savedMin: number } {
  const over = new Set(
    state.visits.flatMap((visit) => (visit.endedAt !== null && visit.endedAt <= student.joinedAt ? [visit.index] : [])),
  );
  const open = (state.plan?.items ?? []).flatMap((item, i) => {
    const fact = item.stepId ? facts[item.stepId] : undefined;
    return fact && fact.minutes > 0 && !over.has(i) && student.doneAt[item.stepId as string] === undefined
      ? [{ stepId: item.stepId as string, ...fact }]
      : [];
  });
  open.sort((a, b) => a.weight / a.minutes - b.weight / b.minutes);
  const stepIds: string[] = [];
  let savedMin = 0;
  for (const one of open) {
    if (savedMin >= lateMin) break;
    stepIds.push(one.stepId);
    savedMin += one.minutes;
  }
  return { stepIds, savedMin };
}

/** A student's times to Done against the plan's, one ratio for each step that they said Done to while the class was at it or later. */
export function ownPace(state: ClassState, studentId: string): number[] {
  const student = state.students[studentId];
  if (!student) return [];
  return state.visits.flatMap((visit) => {
    const item = state.plan?.items[visit.index];
    const done = item?.stepId ? student.doneAt[item.stepId] : undefined;
    if (item?.kind !== 'step' || done === undefined || done <= visit.startedAt || student.joinedAt > visit.startedAt) return [];
    const planned = item.endMin - item.startMin;
    return planned < 0.5 ? [] : [(done - visit.startedAt - heldUntil(visit, done)) / 60_000 / planned];
  });
}

/** How long a class was held in a visit, up to a moment (ms): that time is nobody's own. */
const heldUntil = ({ holds = [], endedAt }: Visit, until: number): number =>
  holds.reduce((sum, { from, to }) => sum + Math.max(0, Math.min(to ?? endedAt ?? until, until) - from), 0);
