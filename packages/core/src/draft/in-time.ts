import { type Lesson, noWords, type Plan, type Step } from '@viaticum/contract';
import { toEnd } from '@viaticum/kernels/cooperative';
import { asAnswered, betterOrder, inOrderOf } from '../advice/index.js';
import { drawsLines, isOnlyMarks, marksOf } from '../derived/index.js';
import { orderProblem, planLesson } from '../plan/index.js';
import { NEW_MIX_MIN, paceOf } from '../step/index.js';
import { otherWords, stopTestOf } from '../text/index.js';
import { listInWords } from '../units/index.js';
import { usualMin } from './budget.js';
import { type DraftHints, draftLesson } from './draft.js';
import { fitTo, type LeftOut } from './fit.js';
import { withBreaks, withDryers } from './fixing.js';
import { asDrafted, empty } from './shape.js';

/** One hand keeps a plan to within this (our judgement). */
const KEPT_SHARE = 1.05;
const ORDER_NODES = 1500;
const FRESH_EYE_MIN = 5;

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
  for (const { id, kind } of made.steps) if (!why.has(id)) why.set(id, [kind === 'break' ? RESTED : FILLED]);
  return { lesson: made, why };
}
const RESTED = 'Eyes, backs and attention last about an hour.';
const FILLED = 'Something to do, or to look at, where one would only wait or rush.';

const MOST_FITS = 3;
/** Breaks and looks come on top of what was fitted: where it is too long with them, it is fitted once more. */
function inTime(drafted: Lesson, lesson: Lesson, ids: () => string): Lesson {
  const wanted = lesson.wantedMin ?? usualMin[lesson.level];
  let target = wanted / KEPT_SHARE;
  for (let round = 1; ; round++) {
    const made = fittedTo(drafted, target, ids);
    const over = planLesson(made).plan.endMin - wanted;
    const canGo = made.steps.some((step) => step.mayBeLeftOut);
    if (over <= 0.5 || !canGo || round === MOST_FITS || made.planning.sessions) return made;
    target -= over;
  }
}

function fittedTo(drafted: Lesson, target: number, ids: () => string): Lesson {
  // Breaks find their place when everything else has its own.
  const ordered = waitingLess({ ...drafted, steps: drafted.steps.filter((step) => step.kind !== 'break') });
  const { lesson: fitting, left } = fitTo(ordered, target);
  const short = withOtherWorkFirst(left.length > 0 ? waitingLess(fitting) : fitting);
  const dried = withDryers(thinnedBeforeLines(short));
  // A night dries everything: what is still waited for is known once the sessions are parted.
  const parted = dried.planning.sessions ? overSessions(dried) : dried;
  const filled = keeping(withOtherWorkFirst(withWorkInPauses(parted, ids)), ordered, left);
  return withBreaks(filled.planning.sessions ? withFreshEye(filled, ids) : withStopTest(filled, ids), ids);
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

/** A pause of so many minutes is worth something better than waiting. */
const LONG_PAUSE_MIN = 7;
const MOST_PREMIXED = 5;
const AHEAD = 5;

/** What lies under a tracing is laid thin where it would keep everybody waiting. */
function thinnedBeforeLines(lesson: Lesson): Lesson {
  const { plan, contacts } = planLesson(lesson);
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
  return after.plan.endMin < plan.endMin && after.misses.length <= planLesson(lesson).misses.length ? thin : lesson;
}

/** Long pauses get work of their own: mixes of the next steps mixed ahead, and the next stroke practised on scrap. */
function withWorkInPauses(lesson: Lesson, ids: () => string): Lesson {
  let now = lesson;
  for (let round = 0; round < 4; round++) {
    const { plan } = planLesson(now);
    const length = (i: number) => (plan.items[i]?.endMin ?? 0) - (plan.items[i]?.startMin ?? 0);
    const at = plan.items.reduce(
      (most, item, i) => (item.kind === 'pause' && plan.items[i + 1]?.stepId && length(i) > length(most) ? i : most),
      -1,
    );
    const pause = length(at) >= LEAST_FILLING_MIN ? plan.items[at] : undefined;
    const place = now.steps.findIndex((step) => step.id === plan.items[at + 1]?.stepId);
    const waiting = now.steps[place];
    if (!pause || !waiting) return now;
    const minutes = pause.endMin - pause.startMin;
    const work = premixing(now, place, minutes) ?? filling(now, minutes);
    if (!work) return now;
    const step: Step = {
      ...noWords,
      areaIds: [],
      markIds: [],
      mixIds: [],
      needs: 'any',
      showMin: 0,
      ...work,
      kind: 'practise',
      id: ids(),
      stageId: waiting.stageId,
    };
    const next = { ...now, steps: [...now.steps.slice(0, place), step, ...now.steps.slice(place)] };
    if (planLesson(next).plan.endMin > plan.endMin + 1e-6) return now;
    now = next;
  }
  return now;
}

type Work = Pick<Step, 'title' | 'say' | 'doMin'> & { mixIds?: string[] };
function premixing(lesson: Lesson, place: number, minutes: number): Work | null {
  const each = NEW_MIX_MIN * paceOf(lesson);
  const mixed = new Set(lesson.steps.slice(0, place).flatMap((step) => step.mixIds));
  const ahead = lesson.steps.slice(place, place + AHEAD).flatMap((step) => step.mixIds);
  const fresh = [...new Set(ahead)].filter((id) => !mixed.has(id));
  const mixIds = fresh.slice(0, Math.min(MOST_PREMIXED, Math.floor(minutes / each)));
  if (mixIds.length < 2) return null;
  const names = listInWords(mixIds.flatMap((id) => lesson.mixes.find((mix) => mix.id === id)?.name ?? []));
  return {
    title: `Mix ahead: ${names}`.slice(0, 120),
    say: `While it dries, mix ${names} and cover the heaps. Each a little more than you think you need.`,
    mixIds,
    doMin: Math.round(mixIds.length * each * 2) / 2,
  };
}

/** Work that fills a pause as long as it lasts, each once in a lesson. */
const fillings: readonly { title: string; say: string; most: number }[] = [
  {
    title: 'Practise the next stroke on scrap',
    say: 'While it dries, try the next stroke on scrap paper until it comes by itself.',
    most: 10,
  },
  {
    title: 'Walk round and look at the others',
    say: 'While it dries, look at three other canvases. Say what you would keep, and what you would take from it for your own.',
    most: 8,
  },
];

function filling(lesson: Lesson, minutes: number): Work | null {
  const open = fillings.find(({ title }) => !lesson.steps.some((step) => step.title === title));
  if (!open || minutes < LEAST_FILLING_MIN) return null;
  return { title: open.title, say: open.say, doMin: Math.min(open.most, Math.floor(minutes)) };
}
const LEAST_FILLING_MIN = 3;

/**
 * The order that waits least. First coats, drawings, ground and looks stay in their stages; later coats and marks may slip to where
 * something dries.
 */
function waitingLess(lesson: Lesson): Lesson {
  const { sessions: _, ...planning } = lesson.planning;
  const begun = new Set<string>();
  const bases = new Set<string>();
  for (const step of lesson.steps) {
    const isFirst = step.kind !== 'paint' || step.areaIds.some((id) => !begun.has(id));
    for (const id of step.areaIds) if (step.kind === 'paint') begun.add(id);
    if (isFirst) bases.add(step.id);
  }
  const pins = lesson.stages.slice(1).flatMap((stage, k) => {
    const before = lesson.steps.filter((step) => step.stageId === lesson.stages[k]?.id && bases.has(step.id));
    const own = lesson.steps.filter((step) => step.stageId === stage.id && bases.has(step.id));
    return before.flatMap((one) => own.map((other) => ({ firstId: one.id, thenId: other.id })));
  });
  const held = {
    ...lesson,
    planning: { ...planning, pins: [...featuresFirst(lesson, bases), ...hairsInTurn(lesson), ...pins].slice(0, 200) },
  };
  const { best, own, order } = toEnd(betterOrder(held, { maxNodes: ORDER_NODES }));
  return best.endMin < own.endMin ? inOrderOf(lesson, order) : lesson;
}

const LOOKED_AHEAD = 8;
const MOST_MOVES = 12;
/** One pause fewer is worth so much. */
const PAUSE_WORTH_MIN = 2;
/**
 * The same lesson with fewer pauses: where one waits, a later step that may come sooner is done first, if that ends hardly later.
 */
function withOtherWorkFirst(lesson: Lesson): Lesson {
  let now = lesson;
  for (let round = 0; round < MOST_MOVES; round++) {
    const better = withOneMoved(now);
    if (!better) return now;
    now = better;
  }
  return now;
}

function withOneMoved(lesson: Lesson): Lesson | null {
  const { plan } = planLesson(lesson);
  const ordered = orderProblem(lesson).constraints.filter((one) => one.type !== 'either');
  const isHeld = (from: Step, to: Step) =>
    (isHair(lesson, from) && isHair(lesson, to)) || ordered.some((one) => one.from === from.id && one.to === to.id);
  const was = waitsOf(plan);
  for (const [i, item] of plan.items.entries()) {
    if (item.kind !== 'pause' || item.endMin - item.startMin < 1) continue;
    const place = lesson.steps.findIndex((step) => step.id === plan.items[i + 1]?.stepId);
    for (let from = place + 1; place >= 0 && from < Math.min(lesson.steps.length, place + LOOKED_AHEAD); from++) {
      const moved = lesson.steps[from] as Step;
      if (lesson.steps.slice(place, from).some((step) => isHeld(step, moved))) continue;
      const ids = lesson.steps.map((step) => step.id).filter((id) => id !== moved.id);
      ids.splice(place, 0, moved.id);
      const other = inOrderOf(lesson, ids);
      const next = planLesson(other).plan;
      const { pauses, waitMin } = waitsOf(next);
      const isLess = pauses < was.pauses || (pauses === was.pauses && waitMin < was.waitMin - 0.5);
      const mostLater = pauses < was.pauses ? PAUSE_WORTH_MIN : 0;
      if (next.endMin <= plan.endMin + mostLater + 1e-6 && isLess) return other;
    }
  }
  return null;
}

/** Pauses of a minute and more, and all waiting. */
const waitsOf = ({ items, waitMin }: Plan): { pauses: number; waitMin: number } => ({
  pauses: items.filter((item) => item.kind === 'pause' && item.endMin - item.startMin >= 1).length,
  waitMin,
});

const isHair = (lesson: Lesson, step: Step): boolean =>
  isOnlyMarks(step) && marksOf(lesson, step).every((mark) => mark.kind === 'hairs');
/** Passes of hair follow each other as they were drafted, the shorter before the longer, whatever area they lie on. */
function hairsInTurn(lesson: Lesson): { firstId: string; thenId: string }[] {
  const hairs = lesson.steps.filter((step) => isHair(lesson, step));
  return hairs.slice(1).map((step, k) => ({ firstId: (hairs[k] as Step).id, thenId: step.id }));
}

/** Where the hard part comes first, no search puts it behind what was drafted after it. */
function featuresFirst({ school, areas, steps }: Lesson, bases: ReadonlySet<string>): { firstId: string; thenId: string }[] {
  if (school.hardPart !== 'first') return [];
  const features = new Set(areas.filter((area) => area.feature).map((area) => area.id));
  return steps.flatMap((step, k) =>
    bases.has(step.id) && step.areaIds.some((id) => features.has(id))
      ? steps.slice(k + 1).flatMap((later) => (bases.has(later.id) ? [{ firstId: step.id, thenId: later.id }] : []))
      : [],
  );
}

/** Sessions end before the first glaze, which wants a night's drying; otherwise where the search puts them, in the order that stands. */
function overSessions(lesson: Lesson): Lesson {
  if (lesson.steps.some((step) => step.technique === 'glaze') && lesson.planning.sessions?.most === 2) {
    const steps = glazedOnSecondDay(lesson.steps);
    const glaze = steps.find((step) => step.technique === 'glaze') as Step;
    return { ...lesson, steps, planning: { ...lesson.planning, cutsBefore: [glaze.id] } };
  }
  const pins = lesson.steps.slice(1).map((step, k) => ({ firstId: (lesson.steps[k] as Step).id, thenId: step.id }));
  const held = { ...lesson, planning: { ...lesson.planning, pins: pins.slice(0, 200) } };
  const answer = toEnd(betterOrder(held, { maxNodes: ORDER_NODES }));
  const cut = asAnswered(lesson, { order: lesson.steps.map((step) => step.id), cutsBefore: answer.cutsBefore });
  return { ...cut, planning: { ...lesson.planning, cutsBefore: answer.cutsBefore } };
}

/** Opaque coats on the first day; glazes, and what lies on them, on the second. */
function glazedOnSecondDay(steps: readonly Step[]): Step[] {
  const glazed = new Set<string>();
  const second = new Set<Step>();
  for (const step of steps) {
    const isLight = step.technique === 'loaded' && step.mayBeLeftOut === true;
    const isLate = step.technique === 'glaze' || step.role === 'last' || isLight || step.areaIds.some((id) => glazed.has(id));
    if (step.technique === 'glaze') for (const id of step.areaIds) glazed.add(id);
    if (isLate) second.add(step);
  }
  const first = steps.filter((step) => !second.has(step));
  return [...first, ...steps.filter((step) => second.has(step))];
}

/** Every session ends with a look and washing up, and every later one begins with a look at what was done before. */
function withFreshEye(lesson: Lesson, ids: () => string): Lesson {
  const cuts = lesson.planning.cutsBefore ?? [];
  const looks = new Map(cuts.map((id) => [id, ids()]));
  const steps = lesson.steps.flatMap((step): Step[] => {
    const id = looks.get(step.id);
    if (id === undefined) return [step];
    return [
      look(step.stageId, ids(), 'Look, then wash up', END_OF_DAY_MIN, {
        say: 'Put all canvases by the wall and look from the door. Cover the heaps that you need again, and wash every brush with soap.',
        checkpoint: 'What is the first thing you will do next time?',
      }),
      look(step.stageId, id, 'Look with a fresh eye', FRESH_EYE_MIN, {
        say: 'Look at it with a fresh eye before anything is mixed. What would you not do again? What is already enough?',
        checkpoint: stopTestOf(lesson).join(' '),
      }),
      step,
    ];
  });
  return { ...lesson, steps, planning: { ...lesson.planning, cutsBefore: cuts.map((id) => looks.get(id) as string) } };
}

/** Before the last things that may be left out it is asked whether they are needed. */
function withStopTest(lesson: Lesson, ids: () => string): Lesson {
  const { steps } = lesson;
  const last = steps.findIndex((step) => step.role === 'last');
  if (last < 0) return lesson;
  let from = last;
  while (from > 0 && steps[from - 1]?.mayBeLeftOut) from--;
  const next = steps[from];
  if (!next || last - from < LEAST_OPTIONAL || next.needs === 'wet' || next.needs === 'damp') return lesson;
  const test = look(next.stageId, ids(), 'Enough? Look before the last touches', STOP_TEST_MIN, {
    say: 'Brushes down. Ask yourself these questions; whoever has three times yes may stop here and sign.',
    checkpoint: stopTestOf(lesson).join(' '),
  });
  return { ...lesson, steps: [...steps.slice(0, from), test, ...steps.slice(from)] };
}
const LEAST_OPTIONAL = 2;
const STOP_TEST_MIN = 2;
const END_OF_DAY_MIN = 4;

const look = (stageId: string, id: string, title: string, doMin: number, words: Pick<Step, 'say' | 'checkpoint'>): Step => ({
  ...empty,
  ...otherWords.look,
  ...words,
  id,
  stageId,
  kind: 'look',
  title,
  markIds: [],
  showMin: 0,
  doMin,
});
