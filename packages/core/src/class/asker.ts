import { belief } from './belief.js';
import type { ClassState, Student } from './shape.js';
import { countedStep } from './timing.js';

/** One question in so many minutes; after some that were not answered, one in many more. */
const EVERY_MIN = 6;
const SELDOM_MIN = 20;
const UNANSWERED = 2;
/** Nobody is asked so soon after they touched the phone. */
const TOUCHED_MS = 60_000;

/** A question of a phone: about a step that takes longer than their pace, one that the class left, or one that is looked back at. */
export type Question = { stepId: string; is: 'tail' | 'went-on' | 'look' };

/** What a phone would ask just now; null where there is nothing to ask. */
export function questionFor(state: ClassState, student: Student, now: number, shownStepId: string | undefined): Question | null {
  if (state.phase !== 'running' || state.current === null || student.hand) return null;
  const { standing, isSlow, stepNow } = belief(state, student, now);
  const here = state.plan?.items[state.current.index]?.stepId;
  const isOpen = (id: string | undefined): id is string => {
    const how = id === undefined ? undefined : standing.get(id)?.how;
    return how === 'open' || how === 'assumed';
  };
  if (shownStepId !== here && isOpen(shownStepId)) return { stepId: shownStepId, is: 'look' };
  // In a pause the key for the step before it stands at the foot already.
  const isAtFoot = here === undefined && stepNow === countedStep(state);
  if (stepNow !== null && stepNow !== here && !isAtFoot && standing.get(stepNow)?.how === 'open')
    return { stepId: stepNow, is: 'went-on' };
  return isSlow && isOpen(here) ? { stepId: here, is: 'tail' } : null;
}

const same = (one: Question | null, other: Question | null): boolean => one?.stepId === other?.stepId && one?.is === other?.is;

/** Keeps what a phone asked, so that nobody is asked too often: see {@link EVERY_MIN}. Times are class times, ms. */
export function asker() {
  let shown: { question: Question; at: number } | null = null;
  let past: { question: Question; at: number; isAnswered: boolean }[] = [];
  const end = (isAnswered: boolean) => {
    if (shown) past = [...past, { ...shown, isAnswered }].slice(-UNANSWERED);
    shown = null;
  };
  return {
    /** The question that is shown, if any; asked again at the same time it says the same. */
    look(question: Question | null, now: number, touchedAt: number): Question | null {
      if (shown && !same(shown.question, question)) end(false);
      if (!question || shown) return shown?.question ?? null;
      const isSeldom = past.length === UNANSWERED && past.every((one) => !one.isAnswered);
      const last = past.at(-1)?.at ?? Number.NEGATIVE_INFINITY;
      // Who looks back has turned to it: only the same question waits for its time.
      const isFresh =
        question.is === 'look' && !past.some((one) => same(one.question, question) && now - one.at < EVERY_MIN * 60_000);
      const isTooSoon = !isFresh && now - last < (isSeldom ? SELDOM_MIN : EVERY_MIN) * 60_000;
      const isBusy = question.is !== 'look' && now - touchedAt < TOUCHED_MS;
      if (!isTooSoon && !isBusy) shown = { question, at: now };
      return shown?.question ?? null;
    },
    answered: () => end(true),
  };
}
