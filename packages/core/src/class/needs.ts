import type { HandReason } from '@viaticum/contract';
import { belief } from './belief.js';
import { partsOf } from './groups.js';
import type { ClassState, Student } from './shape.js';
import { currentItem, secondsLeft } from './timing.js';

/**
 * Why somebody needs a look: a hand, silence beyond their pace, "still at it" for long, behind the class, they never say anything, or their
 * phone has long had no network.
 */
export type Need = {
  studentId: string;
  firstName: string;
  why: 'hand' | 'quiet' | 'still' | 'late' | 'silent' | 'away';
  reason?: HandReason;
  /** Since when, ms; and for who is late, how many minutes they need. */
  since: number;
  minutes?: number;
};

/** What one minute of waiting costs, in the order in which one goes (our judgement). */
const RANK: Record<Need['why'], number> = { hand: 0, quiet: 1, still: 2, late: 3, silent: 4, away: 5 };
const URGENT: ReadonlySet<HandReason> = new Set(['too-wet', 'lost']);
/** Who was seen is let be for so long; who never says anything is looked at in turns. */
const SEEN_MS = 5 * 60_000;
const TURN_MS = 12 * 60_000;
/** A phone that is away for so long is worth a word. */
const AWAY_MS = 5 * 60_000;
/** Somebody who never said anything themselves does not press; what the desk says of them is not said by them. */
const presses = (student: Student): boolean =>
  Object.entries(student.doneAt).some(([id]) => student.doneBy?.[id] === undefined) ||
  (student.signs ?? []).some((sign) => sign.is !== 'not-done');

/**
 * Who needs a look, at a class time (ms): the one first for whom waiting costs most. `awaySince` tells since when (class time, ms) a phone is
 * not there, null where it is: they are not quiet.
 */
export function needs(state: ClassState, now: number, awaySince: (studentId: string) => number | null = () => null): Need[] {
  if (state.phase === 'ended') return Object.values(state.students).flatMap((student) => handOf(student));
  const found = Object.values(state.students).flatMap((student): Need[] => {
    if (student.hand) return handOf(student);
    if (!state.current) return [];
    const seen = student.seenAt ?? Number.NEGATIVE_INFINITY;
    const own = { studentId: student.id, firstName: student.firstName };
    const { isQuiet, late } = belief(state, student, now);
    const still = student.signs?.filter((sign) => sign.is === 'still').at(-1);
    const since = lastSign(state, student);
    const isSaying = presses(student);
    const gone = awaySince(student.id);
    if (isQuiet && gone === null) {
      if (now - seen < (isSaying ? SEEN_MS : TURN_MS)) return [];
      if (!isSaying) return [{ ...own, why: 'silent', since }];
      return [still && still.at >= since ? { ...own, why: 'still', since: still.at } : { ...own, why: 'quiet', since }];
    }
    if (late && now - seen >= SEEN_MS) return [{ ...own, why: 'late', since, minutes: late.minutes }];
    const isLong = gone !== null && now - gone >= AWAY_MS && now - seen >= TURN_MS;
    return isLong ? [{ ...own, why: 'away', since: gone }] : [];
  });
  return found.sort(costliest);
}

/** The one first for whom waiting costs most. */
const costliest = (a: Need, b: Need): number =>
  RANK[a.why] - RANK[b.why] ||
  Number(URGENT.has(b.reason as HandReason)) - Number(URGENT.has(a.reason as HandReason)) ||
  (b.minutes ?? 0) - (a.minutes ?? 0) ||
  a.since - b.since;

/** {@link needs} of all groups of a class. */
export const needsOfAll = (state: ClassState, now: number, awaySince?: (studentId: string) => number | null): Need[] =>
  partsOf(state)
    .flatMap(({ view }) => needs(view, now, awaySince))
    .sort(costliest);

const handOf = ({ id, firstName, hand }: Student): Need[] =>
  hand ? [{ studentId: id, firstName, why: 'hand', reason: hand.reason, since: hand.at }] : [];

/** When a student last said anything, or came, or the class began, whichever is latest; ms. */
export function lastSign(state: ClassState, student: Student): number {
  const said = Object.entries(student.doneAt).flatMap(([id, at]) => (student.doneBy?.[id] === 'desk' ? [] : [at]));
  return Math.max(
    student.joinedAt,
    state.visits[0]?.startedAt ?? 0,
    ...said,
    ...(student.signs ?? []).map((sign) => sign.at),
    student.seenAt ?? 0,
  );
}

/** Going on is near where half are done with what the class is at, or its time is nearly over. */
const NEARLY_OVER_S = 60;
/**
 * Who would be left behind if the class went on now: those who are rather still at the present step, or at one before it, by the step
 * they are at, who needs longest first. Empty while going on is not near.
 */
export function leftBehind(state: ClassState, now: number): { stepId: string; names: string[] }[] {
  const item = currentItem(state);
  const students = Object.values(state.students);
  if (!item || students.length === 0 || state.phase === 'ended') return [];
  const at = new Map<string, { name: string; until: number }[]>();
  for (const student of students) {
    const { stepNow, standing } = belief(state, student, now);
    if (stepNow === null) continue;
    const until = standing.get(stepNow)?.at?.likely ?? now;
    at.set(stepNow, [...(at.get(stepNow) ?? []), { name: student.firstName, until }]);
  }
  const behind = [...at.values()].reduce((sum, names) => sum + names.length, 0);
  const isNear = item.kind !== 'step' || behind * 2 <= students.length || secondsLeft(state, now) < NEARLY_OVER_S;
  const farthestFirst = (all: { name: string; until: number }[]) => all.sort((a, b) => b.until - a.until).map(({ name }) => name);
  return isNear ? [...at].map(([stepId, all]) => ({ stepId, names: farthestFirst(all) })) : [];
}
