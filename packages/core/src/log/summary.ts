import type { ClassEvent, ClassLog, Lesson, LoggedItem, LoggedKind, LoggedPace, LoggedTouch } from '@viaticum/contract';
import {
  ALL_PART,
  belief,
  type ClassState,
  type Happened,
  type HappenedHand,
  happened,
  stateAt,
  viewFor,
} from '../class/index.js';
import { learntPace, reckonedDrying, slowPaintOf } from '../derived/index.js';
import { shortTubeName } from '../mix/index.js';

/** A Done that was pressed is that of the press, give or take a minute (common practice, no published source). */
const PRESS_MIN = 1;
const MINUTE_MS = 60_000;

/**
 * All that is kept of a class that was taught, from its log and the lesson that was taught; null where it was never begun. Nobody is named. Of
 * a class in groups each group's items stand for themselves. `kind`: where it comes from.
 */
export function logOf(events: readonly ClassEvent[], lesson: Lesson, kind: LoggedKind = 'class'): ClassLog | null {
  const largest = happened(events);
  if (largest.beganAt === null) return null;
  const parts = largest.parts.length === 0 ? [largest] : largest.parts.map(({ id }) => happened(events, id));
  const state = stateAt(events, Number.POSITIVE_INFINITY);
  const nameOf = (told: Happened) => told.parts.find(({ id }) => id === told.part)?.name ?? undefined;
  return {
    kind,
    title: lesson.title,
    lessonId: '',
    at: new Date(largest.beganAt).toISOString(),
    room: lesson.room.name,
    air: largest.airs.at(-1) ?? { airC: lesson.room.airC, humidity: lesson.room.humidity },
    students: Object.keys(state.students).length || largest.students,
    level: lesson.level,
    plannedMin: largest.plannedMin,
    actualMin: rounded(Math.max(...parts.map(({ actualMin }) => actualMin))) as number,
    finished: parts.reduce((sum, { finished }) => sum + finished.length, 0),
    items: parts.flatMap((told) => itemsOf(told, lesson, nameOf(told))),
    touches: touchesOf(state, lesson),
    paces: pacesOf(state, lesson),
    note: '',
    names: namesIn(lesson),
    ...(largest.airs.length > 0 && {
      airs: largest.airs.map(({ minute, airC, humidity }) => ({ minute: Math.round(minute), airC, humidity })),
    }),
    ...(parts.length > 1 && { groups: parts.map((told) => ({ name: nameOf(told) ?? '', students: told.students })) }),
  };
}

/** By what a class of a lesson is looked for besides its steps. */
export const namesIn = ({ areas, mixes, tubes }: Pick<Lesson, 'areas' | 'mixes' | 'tubes'>): string[] => [
  ...new Set([...areas.map(({ name }) => name), ...mixes.map(({ name }) => name), ...tubes.map(shortTubeName)]),
];

/** The steps, pauses and breaks of a class, or of one of its groups. */
function itemsOf(told: Happened, lesson: Lesson, group: string | undefined): LoggedItem[] {
  const steps = new Map(lesson.steps.map((step) => [step.id, step]));
  const hands = handsAt(told);
  return told.items.map((item, k): LoggedItem => {
    const own = hands.get(k) ?? [];
    const early = item.kind === 'pause' && item.planned !== null && item.actual !== null && item.touches.at(-1)?.dry;
    const touchedEarlyMin = early ? (item.planned as number) - (item.actual as number) : 0;
    const helpMin = own.flatMap(({ tookMin }) => (tookMin === null ? [] : [rounded(tookMin) as number]));
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
      asks: own.length,
      reasons: own.map(({ reason }) => reason),
      ...(group !== undefined && group !== '' && { group }),
      ...(helpMin.length > 0 && { helpMin }),
      ...(item.paintedOnMin !== undefined && { paintedOnMin: rounded(item.paintedOnMin) as number }),
      ...(touchedEarlyMin >= 1 && { touchedEarlyMin: rounded(touchedEarlyMin) as number }),
    };
  });
}

const rounded = (minutes: number | null): number | null => (minutes === null ? null : Math.round(minutes * 10) / 10);

/** The hands that were raised during each item of a class or of one of its groups. */
function handsAt({ hands, items, part, parts }: Happened): Map<number, HappenedHand[]> {
  const found = new Map<number, HappenedHand[]>();
  // A group that came to the others keeps its id before the number of the event.
  const isOwn = ({ group }: HappenedHand) => parts.length === 0 || (group ?? ALL_PART) === part?.split(' ')[0];
  // Items that were never come to have no beginning.
  const starts = items.flatMap(({ startMin }) => (startMin === null ? [] : [startMin]));
  for (const hand of hands.filter(isOwn)) {
    const k = starts.filter((start) => start <= hand.minute + 1e-6).length - 1;
    if (k >= 0) found.set(k, [...(found.get(k) ?? []), hand]);
  }
  return found;
}

const reckonedAs = (reckoned: number) => (Math.abs(reckoned - 1) < 1e-6 ? {} : { reckoned });

/** One entry a coat: its latest "not yet", and its earliest "dry" after that. */
function touchesOf(state: ClassState, lesson: Lesson): LoggedTouch[] {
  const coats = new Map<string, LoggedTouch>();
  for (const { stepId, areaId, predictedMin, wetAtMin, dryAtMin } of state.touches) {
    const key = stepId === undefined ? `alone ${coats.size}` : `${stepId} ${areaId}`;
    const step = lesson.steps.find((one) => one.id === stepId);
    const paint = step && slowPaintOf(step);
    const before = {
      stepId: stepId ?? null,
      technique: step?.technique ?? null,
      ...(paint && { paint }),
      predictedMin,
      ...reckonedAs(step ? reckonedDrying(lesson, step) : 1 / (lesson.room.calibration ?? 1)),
    };
    const coat: LoggedTouch = coats.get(key) ?? before;
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
          ...(step.doMin === undefined ? reckonedAs(learntPace(lesson, step.technique)) : { typed: true as const }),
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
  lesson: Pick<Lesson, 'steps' | 'room' | 'level' | 'areas' | 'mixes' | 'tubes'>,
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
    names: namesIn(lesson),
  };
}

/** Words of a log that are looked for: its title, its steps, what they are called, what was noted. */
export const wordsOfLog = (log: ClassLog): string =>
  [
    log.title,
    log.room,
    ...(log.names ?? []),
    ...log.items.flatMap(({ title, technique, note, reasons }) => [title, technique ?? '', note ?? '', ...new Set(reasons)]),
    log.note,
  ]
    .filter(Boolean)
    .join('\n');

/** Steps of a lesson as a table of a class is begun with, where it is noted by hand. */
export const rowsByHand = (lesson: Lesson, plannedOf: (stepId: string) => number | null) =>
  lesson.steps.map((step) => ({ title: step.title, planned: plannedOf(step.id), actual: null as number | null, note: '' }));
