import type { Lesson } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { drawsLines } from '../derived/index.js';
import { planLesson } from '../plan/index.js';
import { inItsLanguage } from '../text/index.js';
import { usualMin } from './budget.js';
import { type DraftHints, draftLesson } from './draft.js';
import { fitTo, type LeftOut } from './fit.js';
import { RESTED, withBreakInPause, withBreaks, withDryers } from './fixing.js';
import { waitingLess } from './least-waiting.js';
import { withLongerLooks, withOtherWorkFirst, withWorkInPauses } from './pauses.js';
import { overSessions, withFreshEye, withStopTest } from './sessions.js';
import { asDrafted } from './shape.js';

/** One hand keeps a plan to within this (our judgement). */
const KEPT_SHARE = 1.05;

/**
 * A lesson drafted for the time that is wanted: the draft of its school in the order that waits least within every stage; what takes
 * least from the picture for its minutes is left out until it fits. Over several sessions each later one begins with a fresh eye.
 */
export const draftInTime = (lesson: Lesson, ids: () => string, hints: DraftHints = {}): Lesson =>
  draftWithReasons(lesson, ids, hints).lesson;

/** {@link draftInTime} with the reasons for every step, by its id. */
export function draftWithReasons(
  lesson: Lesson,
  ids: () => string,
  hints: DraftHints = {},
): { lesson: Lesson; why: Map<string, string[]> } {
  const draft = draftLesson(lesson, ids, hints);
  const why = new Map(draft.steps.map(({ step, why: reasons }) => [step.id, reasons]));
  const made = inTime(asDrafted(lesson, draft), lesson, ids);
  for (const { id, kind } of made.steps) if (!why.has(id)) why.set(id, [kind === 'break' ? RESTED() : FILLED()]);
  return { lesson: made, why };
}
const FILLED = () => say('Something to do, or to look at, where one would only wait or rush.');

const MOST_FITS = 5;
/** By less than this no step goes. */
const LEAST_CUT_MIN = 3;
/** Breaks and looks come on top of what was fitted: where it is too long with them, it is fitted once more. */
const inTime = (drafted: Lesson, lesson: Lesson, ids: () => string): Lesson =>
  inItsLanguage(lesson, () => fitted(drafted, lesson, ids));

function fitted(drafted: Lesson, lesson: Lesson, ids: () => string): Lesson {
  const wanted = lesson.wantedMin ?? usualMin[lesson.level];
  let target = wanted / KEPT_SHARE;
  for (let round = 1; ; round++) {
    const made = fittedTo(drafted, target, ids);
    const over = planLesson(made).plan.endMin - wanted;
    const canGo = made.steps.some((step) => step.mayBeLeftOut);
    if (over <= 0 || !canGo || round === MOST_FITS || made.planning.sessions) return made;
    target -= Math.max(over, LEAST_CUT_MIN);
  }
}

function fittedTo(drafted: Lesson, target: number, ids: () => string): Lesson {
  // Breaks find their place when everything else has its own.
  const ordered = waitingLess({ ...drafted, steps: drafted.steps.filter((step) => step.kind !== 'break') });
  const { lesson: fitting, left } = fitTo(withShorterPasses(ordered, target), target);
  const short = withOtherWorkFirst(left.length > 0 ? waitingLess(fitting) : fitting);
  const dried = withDryers(thinnedBeforeLines(short));
  // A night dries everything: what is still waited for is known once the sessions are parted.
  const parted = dried.planning.sessions ? overSessions(dried) : dried;
  const filled = keeping(
    withOtherWorkFirst(withWorkInPauses(withLongerLooks(withBreakInPause(parted, ids)), ids)),
    ordered,
    left,
  );
  return withBreaks(filled.planning.sessions ? withFreshEye(filled, ids) : withStopTest(filled, ids), ids);
}

/** A pass over a surface still does its work in so much of its minutes. */
const LEAST_OF_PASS = 0.5;
/** Passes over surfaces take only the time that there is: their strokes are laid where they matter most, then fewer and fewer. */
function withShorterPasses(lesson: Lesson, target: number): Lesson {
  const { plan, minutes } = planLesson(lesson);
  const passes = lesson.steps.filter((step) => step.pass && step.doMin === undefined);
  const over = plan.endMin - target;
  const whole = passes.reduce((sum, step) => sum + (minutes.get(step.id)?.doMin ?? 0), 0);
  if (over <= 0 || whole <= 0) return lesson;
  const share = Math.max(LEAST_OF_PASS, 1 - over / whole);
  const shorter = new Set(passes.map((step) => step.id));
  const doMin = (id: string) => Math.max(2, Math.round((minutes.get(id)?.doMin ?? 0) * share * 2) / 2);
  return { ...lesson, steps: lesson.steps.map((step) => (shorter.has(step.id) ? { ...step, doMin: doMin(step.id) } : step)) };
}

/** The lesson with what had no room in its length kept beside it, each with the place that it had. */
function keeping(lesson: Lesson, whole: Lesson, left: readonly LeftOut[]): Lesson {
  const out = new Set(left.map((one) => one.stepId));
  const leftOut = whole.steps.flatMap((step, i): Lesson['leftOut'] => {
    if (!out.has(step.id)) return [];
    const after = whole.steps
      .slice(0, i)
      .filter((one) => !out.has(one.id))
      .at(-1);
    return [{ step, ...(after ? { afterId: after.id } : {}) }];
  });
  return { ...lesson, leftOut };
}

/** A pause of so many minutes before a tracing is worth thinner paint beneath it. */
const LONG_PAUSE_MIN = 7;

/** What lies under a tracing is laid thin where it would keep everybody waiting. */
function thinnedBeforeLines(lesson: Lesson): Lesson {
  const { plan, contacts, misses } = planLesson(lesson);
  const lines = lesson.steps.find(drawsLines);
  const at = plan.items.findIndex((item) => item.stepId === lines?.id);
  const pause = plan.items[at - 1];
  if (!lines || pause?.kind !== 'pause' || pause.endMin - pause.startMin < LONG_PAUSE_MIN) return lesson;
  const held = new Set(contacts.filter((one) => one.toStepId === lines.id && one.waitMin > 0).map((one) => one.fromStepId));
  const steps = lesson.steps.map((step) =>
    held.has(step.id) && step.passageId === undefined && step.load === undefined && step.technique !== 'wash'
      ? { ...step, load: 'thin' as const }
      : step,
  );
  const thin = { ...lesson, steps };
  const after = planLesson(thin);
  return after.plan.endMin < plan.endMin && after.misses.length <= misses.length ? thin : lesson;
}
