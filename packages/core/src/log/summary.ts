import type { ClassEvent, ClassLog, Lesson, LoggedItem, LoggedPace, LoggedTouch } from '@viaticum/contract';
import { belief, type ClassState, happened, stateAt, viewFor } from '../class/index.js';

/** A Done that was pressed is that of the press, give or take a minute (common practice, no published source). */
const PRESS_MIN = 1;
const MINUTE_MS = 60_000;

/** All that is kept of a class that was taught, from its log and the lesson that was taught; null where it was never begun. Nobody is named. */
export function logOf(events: readonly ClassEvent[], lesson: Lesson): ClassLog | null {
  const told = happened(events);
  if (told.beganAt === null) return null;
  const state = stateAt(events, Number.POSITIVE_INFINITY);
  const steps = new Map(lesson.steps.map((step) => [step.id, step]));
  const asks = askedAt(state, told.hands, told.beganAt);
  const items = told.items.map((item, k): LoggedItem => {
    const hands = asks.get(k) ?? [];
    const early = item.kind === 'pause' && item.planned !== null && item.actual !== null && item.touches.at(-1)?.dry;
    const touchedEarlyMin = early ? (item.planned as number) - (item.actual as number) : 0;
    return {
      kind: item.kind,
      stepId: item.stepId,
      title: item.title,
      technique: (item.stepId ? steps.get(item.stepId)?.technique : undefined) ?? null,
      planned: rounded(item.planned),
      actual: rounded(item.actual),
      present: item.present,
      done: item.done,
      assumed: item.assumed,
      asks: hands.length,
      reasons: hands,
      ...(item.paintedOnMin !== undefined && { paintedOnMin: rounded(item.paintedOnMin) as number }),
      ...(touchedEarlyMin >= 1 && { touchedEarlyMin: rounded(touchedEarlyMin) as number }),
    };
  });
  return {
    kind: 'class',
    title: lesson.title,
    lessonId: '',
    at: new Date(told.beganAt).toISOString(),
    room: lesson.room.name,
    air: told.airs.at(-1) ?? { airC: lesson.room.airC, humidity: lesson.room.humidity },
    students: told.students,
    level: lesson.level,
    plannedMin: told.plannedMin,
    actualMin: rounded(told.actualMin) as number,
    finished: told.finished.length,
    items,
    touches: touchesOf(state, lesson),
    paces: pacesOf(state, lesson),
    note: '',
  };
}

const rounded = (minutes: number | null): number | null => (minutes === null ? null : Math.round(minutes * 10) / 10);

/** For what hands were raised, by the item of the record during which they were. */
function askedAt(
  state: ClassState,
  hands: readonly { minute: number; reason: string }[],
  beganAt: number,
): Map<number, string[]> {
  const found = new Map<number, string[]>();
  const starts = state.visits.map((visit) => (visit.startedAt - beganAt) / MINUTE_MS);
  for (const { minute, reason } of hands) {
    const k = starts.filter((start) => start <= minute + 1e-6).length - 1;
    if (k >= 0) found.set(k, [...(found.get(k) ?? []), reason]);
  }
  return found;
}

/** One entry a coat: its latest "not yet", and its earliest "dry" after that. */
function touchesOf(state: ClassState, lesson: Lesson): LoggedTouch[] {
  const coats = new Map<string, LoggedTouch>();
  for (const { stepId, areaId, predictedMin, wetAtMin, dryAtMin } of state.touches) {
    const key = stepId === undefined ? `alone ${coats.size}` : `${stepId} ${areaId}`;
    const technique = lesson.steps.find((step) => step.id === stepId)?.technique ?? null;
    const coat = coats.get(key) ?? { stepId: stepId ?? null, technique, predictedMin };
    if (wetAtMin !== undefined) coat.wetAtMin = Math.max(coat.wetAtMin ?? 0, wetAtMin);
    if (dryAtMin !== undefined) coat.dryAtMin = Math.min(coat.dryAtMin ?? Number.POSITIVE_INFINITY, dryAtMin);
    coats.set(key, coat);
  }
  // Who found it wet after it was found dry means one of the two otherwise: such a coat tells nothing.
  return [...coats.values()].filter(
    (coat) => !(coat.wetAtMin !== undefined && coat.dryAtMin !== undefined && coat.wetAtMin > coat.dryAtMin),
  );
}

/** How long everybody took for each step that was begun and said done: what was held or left out tells nothing. */
function pacesOf(whole: ClassState, lesson: Lesson): LoggedPace[] {
  return Object.values(whole.students).flatMap((student, who) => {
    const state = viewFor(whole, student.id);
    const end = state.visits.at(-1)?.endedAt ?? state.at;
    const standing = belief(state, student, end).standing;
    let free = student.joinedAt;
    return state.visits.flatMap((visit): LoggedPace[] => {
      const item = state.plan?.items[visit.index];
      const step = lesson.steps.find((one) => one.id === item?.stepId);
      if (!item?.stepId || !step) return [];
      const done = student.doneAt[item.stepId];
      const began = Math.max(visit.startedAt, free);
      if (done !== undefined) free = Math.max(free, done);
      const held = (visit.holds ?? []).reduce((sum, { from, to }) => sum + ((to ?? visit.endedAt ?? end) - from), 0);
      const planned = item.endMin - item.startMin;
      const isTold =
        done !== undefined && student.doneBy?.[item.stepId] === undefined && standing.get(item.stepId)?.how !== 'left-out';
      if (!isTold || student.joinedAt > visit.startedAt || planned <= 0) return [];
      const took = (done - began - held) / MINUTE_MS;
      if (took < 0.3) return [];
      const from = Math.max(0.2, took - PRESS_MIN);
      return [
        {
          stepId: item.stepId,
          technique: step.technique ?? null,
          planned,
          from: rounded(from) ?? from,
          to: rounded(took + PRESS_MIN) ?? took,
          who,
        },
      ];
    });
  });
}

/** A class that was taught without the application, as it is logged. */
export function logByHand(
  {
    title,
    at,
    students,
    items,
    note,
  }: {
    title: string;
    at: string;
    students: number;
    items: { title: string; planned: number | null; actual: number | null; note: string }[];
    note: string;
  },
  lesson: Pick<Lesson, 'steps' | 'room' | 'level'>,
): ClassLog {
  const sum = (of: 'planned' | 'actual') => items.reduce((all, item) => all + (item[of] ?? 0), 0);
  return {
    kind: 'by-hand',
    title,
    lessonId: '',
    at: new Date(at).toISOString(),
    room: lesson.room.name,
    air: null,
    students,
    level: lesson.level,
    plannedMin: sum('planned'),
    actualMin: sum('actual'),
    finished: students,
    items: items.map((item): LoggedItem => {
      const step = lesson.steps.find((one) => one.title.toLowerCase() === item.title.toLowerCase());
      const isPause = /^(break|pause|pause, |let |wait)/i.test(item.title) && !step;
      return {
        kind: step ? 'step' : isPause ? 'pause' : 'step',
        stepId: step?.id ?? null,
        title: item.title,
        technique: step?.technique ?? null,
        planned: item.planned,
        actual: item.actual,
        present: item.actual === null ? 0 : students,
        done: 0,
        assumed: 0,
        asks: 0,
        reasons: [],
        ...(item.note && { note: item.note }),
      };
    }),
    touches: [],
    paces: [],
    note,
  };
}

/** Words of a log that are looked for: its title, its steps, what they are called, what was noted. */
export const wordsOfLog = (log: ClassLog): string =>
  [
    log.title,
    log.room,
    ...log.items.flatMap(({ title, technique, note, reasons }) => [title, technique ?? '', note ?? '', ...new Set(reasons)]),
    log.note,
  ]
    .filter(Boolean)
    .join('\n');

/** Steps of a lesson as a table of a class is begun with, where it is noted by hand. */
export const rowsByHand = (lesson: Lesson, plannedOf: (stepId: string) => number | null) =>
  lesson.steps.map((step) => ({ title: step.title, planned: plannedOf(step.id), actual: null as number | null, note: '' }));
