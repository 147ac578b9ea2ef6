import type { ClassEvent, HandReason, Lesson } from '@viaticum/contract';
import { type LessonPlan, replanLesson } from '../plan/index.js';
import { belief } from './belief.js';
import { classMinute } from './drying.js';
import { partsOf, viewFor, viewOf } from './groups.js';
import { begunSteps, inClimate } from './replan.js';
import type { ClassState } from './shape.js';
import { fold, newClass } from './state.js';

/** One step or pause as it was planned when the class opened and as it was: minutes; `actual` null where it was never come to. */
export type HappenedItem = {
  kind: 'step' | 'pause' | 'break';
  stepId: string | null;
  title: string;
  planned: number | null;
  actual: number | null;
  /** The minute of the class at which it was begun; null: never. */
  startMin: number | null;
  /** How many were there, how many of them said Done to a step, and of how many more it may be taken for done. */
  present: number;
  done: number;
  assumed: number;
  /** The middle one of the times to Done, minutes; of fewer than three it would tell of one. */
  medianDone: number | null;
  touches: { minute: number; dry: boolean }[];
  /** A pause that was cut short: so much before its paint was dry the class painted on. */
  paintedOnMin?: number;
};
/** `group`: in which group they were then, where the class is taught in groups. */
export type HappenedHand = {
  firstName: string;
  reason: HandReason;
  minute: number;
  tookMin: number | null;
  group: string | null;
};
/** A part of a class that was taught in groups; `name` null: all of it, since they came together again. */
export type HappenedPart = { id: string; name: string | null };
export type Happened = {
  code: string;
  /** The groups that can be told of by themselves, those that ended by coming together too, and which of them this is; none: never divided. */
  parts: HappenedPart[];
  part: string | null;
  /** When the class began (class time, ms); null: it did not. */
  beganAt: number | null;
  items: HappenedItem[];
  hands: HappenedHand[];
  /** What was told to all, notes of the air, and for how long the class was held; by the minute of the class. */
  messages: { minute: number; text: string }[];
  airs: { minute: number; airC: number; humidity: number }[];
  holds: { minute: number; minutes: number }[];
  plannedMin: number;
  actualMin: number;
  students: number;
  /** Who said Done to the last step that was taught; names in the order of their seats. */
  finished: string[];
};

/** What was painted on for when a pause ended. */
function cutShort({ paintedOn = [] }: ClassState, endedAt: number | null): { paintedOnMin?: number } {
  const found = paintedOn.find((one) => one.at === endedAt);
  return found ? { paintedOnMin: found.leftMin } : {};
}

/** Of fewer nobody's time is told apart from the others'. */
const LEAST_DONES = 3;

type Part = HappenedPart & { view: ClassState };
/** The part of a class that is all of it. */
export const ALL_PART = 'all';

/** The groups that end as all come together where one of them is, as they were then. */
function endedParts(whole: ClassState, where: string, seq: number, at: number): Part[] {
  return partsOf(whole).flatMap(({ id, name, view }) => {
    if (id === null || id === where) return [];
    const own = structuredClone({ ...view });
    const last = own.visits.at(-1);
    if (last) last.endedAt = at;
    return [{ id: `${id} ${seq}`, name, view: own }];
  });
}

/** All parts that may be told of; one alone is the class as it is. */
function allParts(whole: ClassState, ended: readonly Part[]): Part[] {
  const present = partsOf(whole).map(
    ({ id, name, view }): Part => ({ id: id ?? ALL_PART, name: id === null ? null : name, view }),
  );
  return [...present, ...ended];
}

/** A class as its events tell it, planned against actual; of a class that was taught in groups one of them, usually the largest. */
export function happened(events: readonly ClassEvent[], part?: string): Happened {
  const whole = newClass();
  const ended: Part[] = [];
  const hands: HappenedHand[] = [];
  const byStudent: [studentId: string, hand: HappenedHand][] = [];
  const raised = new Map<string, HappenedHand>();
  const touches: { at: number; index: number; dry: boolean }[] = [];
  const messages: Happened['messages'] = [];
  const airs: Happened['airs'] = [];
  let planned: NonNullable<ClassState['plan']>['items'] = [];
  for (const event of events) {
    if (event.body.type === 'joinedTogether') ended.push(...endedParts(whole, event.body.where, event.seq, event.at));
    fold(whole, event);
    // A hand counts for the group that went on from where it was raised.
    if (event.body.type === 'divided') for (const [id, hand] of byStudent) hand.group ??= whole.students[id]?.group ?? null;
    if (event.body.type === 'joinedTogether') for (const hand of hands) if (hand.group === event.body.where) hand.group = null;
    const ofGroup = 'group' in event.body ? viewOf(whole, event.body.group) : whole;
    const state = 'studentId' in event.body ? viewFor(whole, event.body.studentId) : ofGroup;
    const { body } = event;
    if (body.type === 'opened') planned = body.plan.items;
    if (body.type === 'handRaised') {
      const hand = {
        firstName: state.students[body.studentId]?.firstName ?? '',
        reason: body.reason,
        minute: classMinute(state, body.saidAt ?? event.at),
        tookMin: null,
        group: whole.students[body.studentId]?.group ?? null,
      };
      hands.push(hand);
      byStudent.push([body.studentId, hand]);
      raised.set(body.studentId, hand);
    }
    if (body.type === 'handLowered') {
      const hand = raised.get(body.studentId);
      if (hand) hand.tookMin = Math.max(0, classMinute(state, body.saidAt ?? event.at) - hand.minute);
    }
    const minute = classMinute(state, event.at);
    if (body.type === 'said') messages.push({ minute, text: body.text });
    if (body.type === 'climateNoted') airs.push({ minute, airC: body.airC, humidity: body.humidity });
    if (body.type === 'touchTakenBack') touches.splice(0, touches.length, ...touches.filter((one) => one.at !== body.at));
    if (body.type === 'touchTested' && state.current)
      touches.push({ at: event.at, index: state.visits.length - 1, dry: body.dry });
  }
  const parts = allParts(whole, ended);
  const sizeOf = ({ view }: Part) => Object.keys(view.students).length;
  const [largest] = parts.slice(0, parts.length - ended.length).sort((a, b) => sizeOf(b) - sizeOf(a));
  const told = parts.find(({ id }) => id === part) ?? largest;
  const state = told?.view ?? whole;
  const students = Object.values(state.students).sort((a, b) => a.seat - b.seat);
  const end = state.visits.at(-1)?.endedAt ?? state.at;
  const visited = new Set<string>();
  const items = state.visits.flatMap((visit, k): HappenedItem[] => {
    const item = state.plan?.items[visit.index];
    if (!item) return [];
    if (item.stepId) visited.add(item.stepId);
    // A plan made in mid-class has other minutes: what was planned is what the class opened with.
    const before = item.stepId
      ? planned.find((one) => one.stepId === item.stepId)
      : planned.find((one) => one.kind === item.kind && one.title === item.title);
    const dones = students.flatMap((one) => {
      const at = item.stepId ? one.doneAt[item.stepId] : undefined;
      return at !== undefined && at >= visit.startedAt ? [(at - visit.startedAt) / 60_000] : [];
    });
    dones.sort((a, b) => a - b);
    const there = students.filter((one) => one.joinedAt < (visit.endedAt ?? end));
    const assumed = item.stepId
      ? there.filter((one) => belief(state, one, end).standing.get(item.stepId as string)?.how === 'assumed').length
      : 0;
    return [
      {
        kind: item.kind,
        stepId: item.stepId ?? null,
        title: item.title,
        planned: before ? before.endMin - before.startMin : null,
        actual: ((visit.endedAt ?? end) - visit.startedAt) / 60_000,
        startMin: classMinute(state, visit.startedAt),
        present: there.length,
        done: dones.length,
        assumed,
        medianDone: dones.length < LEAST_DONES ? null : (dones[Math.floor(dones.length / 2)] ?? null),
        ...cutShort(state, visit.endedAt),
        touches: touches
          .filter(({ index, at }) => index === k && at >= visit.startedAt && at <= (visit.endedAt ?? end))
          .map(({ at, dry }) => ({ minute: (at - visit.startedAt) / 60_000, dry })),
      },
    ];
  });
  const left = planned.flatMap((item): HappenedItem[] =>
    item.stepId && !visited.has(item.stepId)
      ? [
          {
            kind: item.kind,
            stepId: item.stepId,
            title: item.title,
            planned: item.endMin - item.startMin,
            actual: null,
            startMin: null,
            present: 0,
            done: 0,
            assumed: 0,
            medianDone: null,
            touches: [],
          },
        ]
      : [],
  );
  const last = items.filter((item) => item.kind === 'step').at(-1)?.stepId;
  const holds = state.visits.flatMap((visit) =>
    (visit.holds ?? []).map(({ from, to }) => ({
      minute: classMinute(state, from),
      minutes: ((to ?? visit.endedAt ?? end) - from) / 60_000,
    })),
  );
  return {
    code: state.code,
    parts: parts.length > 1 ? parts.map(({ id, name }) => ({ id, name })) : [],
    part: parts.length > 1 ? (told?.id ?? null) : null,
    beganAt: state.visits[0]?.startedAt ?? null,
    items: [...items, ...left],
    hands,
    messages,
    airs,
    holds,
    plannedMin: state.plannedMin,
    actualMin: classMinute(state, end),
    students: students.length,
    finished: last ? students.filter((one) => one.doneAt[last] !== undefined).map((one) => one.firstName) : [],
  };
}

/** A class's state as it was at a class time (ms). */
export function stateAt(events: readonly ClassEvent[], at: number): ClassState {
  const state = newClass();
  for (const event of events) {
    if (event.at > at) break;
    // Folding changes a plan's visits in place, never the event.
    fold(state, event);
  }
  return state;
}

/** The section through the paint as it was really laid, in the air as it was noted last; null where nothing was begun. */
export function planAsHappened(lesson: Lesson, state: ClassState): LessonPlan | null {
  const now = classMinute(state, state.visits.at(-1)?.endedAt ?? state.at);
  const { fixed, steps } = begunSteps(lesson, state, now);
  if (steps.length === 0) return null;
  return replanLesson(
    { ...lesson, steps, room: inClimate(lesson, state), planning: { ...lesson.planning, pins: [] } },
    { now, fixed, dryFactor: state.dryFactor, pace: 1 },
  );
}
