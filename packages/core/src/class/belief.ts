import {
  type ClassStep,
  classWentOn,
  type Following,
  fingerprint,
  known,
  newcomer,
  rungOf,
  type Sign,
  saidDone,
  saidLeftOut,
  saidSign,
  saidWentOn,
  TICK_S,
} from '@viaticum/kernels/student';
import type { ClassState, Student } from './shape.js';

/** When a step was finished (class time, ms): after 10, 50 and 90 % of the chance. */
export type FinishedSpan = { early: number; likely: number; late: number };
/** How a step stands with a student: said to be done, left out, assumed to be done, or open. */
export type StepStanding = { how: 'said' | 'left-out' | 'assumed' | 'open'; at: FinishedSpan | null };
/** Whether a step is painted, by their word or as may be assumed; false where it is open, left out or not known. */
export const isPainted = (standing: StepStanding | undefined): boolean => standing?.how === 'said' || standing?.how === 'assumed';
/** What may be believed of a student by all that was heard of them, and by what was not. */
export type Belief = {
  /** The step they are at; null where all that was taught is done. */
  stepNow: string | null;
  /** Two steps are as likely: which of them they are at is not said. */
  isEven: boolean;
  /** Minutes until they are with the class, with the range that holds four times in five; null where they are, or it is not known. */
  late: { minutes: number; low: number; high: number } | null;
  /** Nothing was heard of them for longer than their pace makes likely (less than one in twenty), and for longer than one in ten. */
  isQuiet: boolean;
  isSlow: boolean;
  standing: Map<string, StepStanding>;
  /** Of all that is believed now: ask for it at once. It costs as much as a look. */
  fingerprint: () => string;
};

const TICK_MS = TICK_S * 1000;
/** So sure one has to be that a step is finished to take it for done. */
const ASSUMED_FROM = 0.9;
/** Late from so many minutes on, where it is so likely that they are not with the class. */
const LATE_MIN = 2;
const LATE_CHANCE = 0.6;
const QUIET_BELOW = 0.05;
const SLOW_BELOW = 0.1;
const EVEN = [0.35, 0.65] as const;

/** How well signs agree with a step finished after them, and before, of 1024 (our judgement). */
const SIGNS: Record<NonNullable<Student['signs']>[number]['is'], readonly [after: number, before: number]> = {
  still: [1024, 8],
  'not-done': [1024, 8],
  look: [1024, 170],
  hand: [1024, 128],
  lost: [1024, 34],
};

type Step = ClassStep & { id: string; startedAt: number; endedAt: number | null };

/** The steps that the class came to, in half minutes since it began. */
function stepsOf(state: ClassState, origin: number): Step[] {
  const steps = new Map<string, Step>();
  for (const visit of state.visits) {
    const item = state.plan?.items[visit.index];
    if (item?.kind !== 'step' || item.stepId === undefined) continue;
    const before = steps.get(item.stepId);
    if (before) {
      // Gone back to: it is left when the class leaves it for the last time.
      before.endedAt = visit.endedAt;
      before.left = visit.endedAt === null ? null : Math.round((visit.endedAt - origin) / TICK_MS);
      continue;
    }
    const held = (visit.holds ?? []).reduce((sum, { from, to }) => sum + Math.max(0, (to ?? visit.endedAt ?? from) - from), 0);
    const { startMin, endMin, showMin } = item;
    steps.set(item.stepId, {
      id: item.stepId,
      startedAt: visit.startedAt,
      endedAt: visit.endedAt,
      start: Math.round((visit.startedAt - origin + showMin * 60_000 + held) / TICK_MS),
      left: visit.endedAt === null ? null : Math.round((visit.endedAt - origin) / TICK_MS),
      rung: rungOf((endMin - startMin - showMin) * 60),
    });
  }
  return [...steps.values()];
}

/** Something that was heard of a student or done by the class, in the order in which it happened. `key` tells it from all others. */
type Act = { at: number; rank: number; key: string; does: (one: Following, steps: Step[]) => void };
type Kept = { seq: number; applied: string[]; following: Following; steps: Step[]; looked: Map<number, Belief> };
const kept = new WeakMap<ClassState, Map<string, Kept>>();
const MOST_LOOKS = 4;

/** All that is known of a student as acts upon the filter, in their order. */
function actsOf(student: Student, steps: readonly Step[], tick: (at: number) => number): Act[] {
  const number = new Map(steps.map((step, j) => [step.id, j]));
  const upTo = (all: readonly Step[], at: number) => all.filter((step) => step.startedAt <= at);
  const acts = steps.map(
    ({ id, startedAt }): Act => ({
      at: startedAt,
      rank: 1,
      key: `came ${id} ${startedAt}`,
      does: (one, all) => classWentOn(one, upTo(all, startedAt), tick(startedAt)),
    }),
  );
  const add = (id: string, at: number, what: string, does: (one: Following, j: number, all: Step[]) => void) => {
    const j = number.get(id);
    if (j !== undefined) acts.push({ at, rank: 0, key: `${what} ${id} ${at}`, does: (one, all) => does(one, j, all) });
  };
  for (const [id, at] of Object.entries(student.doneAt)) {
    const by = student.doneBy?.[id] ?? 'self';
    add(id, at, by, (one, j, all) =>
      by === 'went-on' ? saidWentOn(one, j, tick(at)) : saidDone(one, upTo(all, at), j, tick(at), by === 'rough' ? 'desk' : by),
    );
  }
  for (const [id, at] of Object.entries(student.leftOut ?? {})) {
    const from = Math.min(at, steps[number.get(id) ?? -1]?.startedAt ?? at);
    add(id, from, 'left-out', (one, j) => saidLeftOut(one, j));
  }
  for (const { stepId, at, is } of student.signs ?? []) {
    const sign: Sign = [tick(at), ...SIGNS[is]];
    if (student.doneAt[stepId] === undefined) add(stepId, at, is, (one, j) => saidSign(one, j, sign));
  }
  return acts.sort((one, other) => one.at - other.at || one.rank - other.rank);
}

/**
 * What may be believed of a student at a class time (ms): an exact forward pass over finishing times on a grid of half minutes, paces and
 * habits, in whole numbers, so that every screen believes the same. A function of what was said alone: the order in which it was heard
 * plays no part. Design and figures: *A student as an inference*.
 */
export function belief(state: ClassState, student: Student, now: number): Belief {
  const origin = state.visits[0]?.startedAt ?? now;
  const byStudent = kept.get(state) ?? new Map<string, Kept>();
  kept.set(state, byStudent);
  const own = heard(state, student, origin, byStudent.get(student.id));
  byStudent.set(student.id, own);
  const tick = Math.max(0, Math.round((now - origin) / TICK_MS));
  const seen = own.looked.get(tick);
  if (seen) return seen;
  const found = lookAt(own, student, tick, origin);
  if (own.looked.size >= MOST_LOOKS) own.looked.clear();
  own.looked.set(tick, found);
  return found;
}

/** A student as the filter has them by now: what came since the last time is told to it; where something came in between, all of it anew. */
function heard(state: ClassState, student: Student, origin: number, before: Kept | undefined): Kept {
  if (before?.seq === state.seq) return before;
  const tick = (at: number) => Math.max(0, Math.round((at - origin) / TICK_MS));
  const steps = stepsOf(state, origin);
  const acts = actsOf(student, steps, tick);
  const isLonger = before?.applied.every((key, i) => acts[i]?.key === key);
  if (before && isLonger) {
    const news = acts.slice(before.applied.length);
    for (const { does } of news) does(before.following, steps);
    return { ...before, seq: state.seq, applied: acts.map(({ key }) => key), steps, looked: new Map() };
  }
  let from = 0;
  while (from < steps.length && (steps[from]?.endedAt ?? Number.POSITIVE_INFINITY) <= student.joinedAt) from++;
  const following = newcomer('beginner', tick(student.joinedAt), from);
  for (const { does } of acts) does(following, steps);
  return { seq: state.seq, applied: acts.map(({ key }) => key), following, steps, looked: new Map() };
}

function lookAt({ following, steps }: Pick<Kept, 'following' | 'steps'>, student: Student, tick: number, origin: number): Belief {
  const { from, finished, stepNow, late, tail, spans } = known(following, steps, tick);
  const inMs = ([early, likely, end]: readonly [number, number, number]): FinishedSpan => ({
    early: origin + early * TICK_MS,
    likely: origin + likely * TICK_MS,
    late: origin + end * TICK_MS,
  });
  const standing = new Map<string, StepStanding>();
  steps.forEach((step, j) => {
    const said = student.doneAt[step.id];
    const left = student.leftOut?.[step.id];
    const span = j < from ? following.assumed[j] : spans[j - from];
    const isFinished = j < from || (finished[j - from] ?? 0) >= ASSUMED_FROM;
    const at = span ? inMs(span) : null;
    if (said !== undefined) standing.set(step.id, { how: 'said', at: { early: said, likely: said, late: said } });
    else if (left !== undefined) standing.set(step.id, { how: 'left-out', at: null });
    else standing.set(step.id, { how: isFinished ? 'assumed' : 'open', at });
  });
  const minutes = (ticks: number) => (ticks * TICK_S) / 60;
  const isLate = minutes(late.mean) >= LATE_MIN && late.chance >= LATE_CHANCE;
  const even = finished[stepNow - from] ?? 0;
  const isOpen = from < steps.length;
  return {
    stepNow: steps[stepNow]?.id ?? null,
    isEven: stepNow < steps.length && even >= EVEN[0] && even <= EVEN[1],
    late: isLate ? { minutes: minutes(late.mean), low: minutes(late.low), high: minutes(late.high) } : null,
    isQuiet: isOpen && tail < QUIET_BELOW,
    isSlow: isOpen && tail < SLOW_BELOW,
    standing,
    fingerprint: () => fingerprint(following),
  };
}
