import type { Lesson, Plan, PlanItem } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { type Past, replanLesson } from '../plan/index.js';
import { classMinute } from './drying.js';
import type { ClassState, Climate } from './shape.js';
import { secondsLeft } from './timing.js';

/** The plan's own pace counts as much as so many steps of this class. */
const PRIOR_STEPS = 2;
const PACE = { least: 0.7, most: 1.6 };

/** How much longer than planned this group takes over a step: the geometric mean of what was finished, shrunk to 1 by two steps. */
export function groupPace(state: ClassState): number {
  const logs = state.visits.flatMap((visit) => {
    const item = state.plan?.items[visit.index];
    if (item?.kind !== 'step' || visit.endedAt === null || item.endMin - item.startMin < 0.5) return [];
    const minutes = (visit.endedAt - visit.startedAt) / 60_000;
    // What was gone past within seconds was left out, not done quickly.
    return minutes < 0.25 * (item.endMin - item.startMin) ? [] : [Math.log(minutes / (item.endMin - item.startMin))];
  });
  const mean = logs.reduce((sum, one) => sum + one, 0) / (logs.length + PRIOR_STEPS);
  return Math.min(PACE.most, Math.max(PACE.least, Math.exp(mean)));
}

/** The room of a class with the air as it was noted last. */
export const inClimate = (
  lesson: Lesson,
  { plan, climate }: { plan: Plan | null; climate: Pick<Climate, 'airC' | 'humidity' | 'airSpeed'> | null },
): Lesson['room'] => {
  const { hours: _, ...room } = plan?.room ?? lesson.room;
  return climate ? { ...room, airC: climate.airC, humidity: climate.humidity, airSpeed: climate.airSpeed } : room;
};

/**
 * The steps that a class came to with their real minutes, each where it was last, in that order; what is still going on ends at
 * `openEndMin`. With those of the lesson that they are.
 */
export function begunSteps(
  lesson: Lesson,
  state: ClassState,
  openEndMin: number,
): { fixed: Past['fixed']; steps: Lesson['steps'] } {
  const fixed = new Map<string, Past['fixed'][number]>();
  for (const visit of state.visits) {
    const step = state.plan?.items[visit.index]?.stepId;
    if (!step) continue;
    const end = visit.endedAt === null ? openEndMin : classMinute(state, visit.endedAt);
    fixed.delete(step);
    fixed.set(step, { step, start: classMinute(state, visit.startedAt), end });
  }
  return { fixed: [...fixed.values()], steps: stepsOf(lesson, [...fixed.keys()]) };
}

const stepsOf = (lesson: Lesson, ids: readonly string[]): Lesson['steps'] =>
  ids.flatMap((id) => lesson.steps.find((step) => step.id === id) ?? []);

/**
 * The rest of a class planned again at a class time (ms): real times, the air as it is, touch tests, the group's pace; steps that were
 * gone past are left out; in its order, or in the quickest one. The plan begins with what happened, an item a visit, in minutes since
 * the class began; the present item is the last of those. Throws where the class has not begun.
 */
export function replanClass(lesson: Lesson, state: ClassState, now: number, quickest = false): Plan {
  const present = state.visits.at(-1);
  const item = present && state.plan?.items[present.index];
  if (!state.plan || !present || !item) throw new RangeError(say('A class is planned again once it has begun.'));
  const minute = classMinute(state, now);
  const began = classMinute(state, present.startedAt);
  const isStep = item.stepId !== undefined;
  const presentEnd = isStep ? minute + Math.max(0, secondsLeft(state, now) / 60) : minute;

  const openEnd = isStep ? presentEnd : minute;
  const begun = begunSteps(lesson, state, openEnd);
  const happened = state.visits.flatMap((visit): PlanItem[] => {
    const was = state.plan?.items[visit.index];
    if (!was) return [];
    const start = classMinute(state, visit.startedAt);
    const end = visit.endedAt === null ? openEnd : classMinute(state, visit.endedAt);
    return [{ ...was, startMin: start, endMin: end }];
  });
  const furthest = Math.max(...state.visits.map((visit) => visit.index));
  const toCome = state.plan.items.slice(furthest + 1).flatMap((one) => one.stepId ?? []);
  const steps = [...begun.steps, ...stepsOf(lesson, toCome)];
  const rest = replanLesson(
    { ...lesson, steps, room: inClimate(lesson, state) },
    { now: openEnd, fixed: begun.fixed, dryFactor: state.dryFactor, pace: groupPace(state) },
    quickest,
  );
  const isBegun = rest.plan.items.map((one) => begun.fixed.some(({ step }) => step === one.stepId));
  const ahead = rest.plan.items.slice(isBegun.lastIndexOf(true) + 1);
  const [next] = ahead;
  if (!isStep) {
    // A pause that is going on becomes as long as it now must be.
    const goesOn = next && next.stepId === undefined && next.kind === item.kind;
    // A wait for nothing is only the time since the last step.
    const waits = goesOn && (next.areaIds.length > 0 || item.areaIds.length === 0);
    happened[happened.length - 1] = waits
      ? { ...next, startMin: began, endMin: Math.max(began, next.endMin) }
      : { ...item, startMin: began, endMin: Math.max(began, minute) };
    if (goesOn) ahead.shift();
  }
  const items = [...happened, ...ahead];
  return {
    room: rest.plan.room,
    items,
    coats: rest.plan.coats,
    endMin: Math.max(presentEnd, rest.plan.endMin),
    waitMin: items.reduce((sum, one) => sum + (one.kind === 'pause' ? Math.max(0, one.endMin - one.startMin) : 0), 0),
    dryFactor: state.dryFactor,
  };
}
