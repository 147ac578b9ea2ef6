import type { Lesson, Plan, PlanCoat, Step } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import type { DryingConstraint, Pin, Problem, Solution } from '@viaticum/kernels/scheduling';
import { solveInOrder } from '@viaticum/kernels/scheduling';
import { assertRoom, type CoatTimes, filmForms } from '../coat/index.js';
import { type Contact, contactsOf } from '../contact/index.js';
import { areasWorkedOn, coverOf, laysPaint, memo } from '../derived/index.js';
import { type LaidCoat, lay, oldestStroke, rungMinutes, type StepMinutes, stepMinutes, stretched } from '../step/index.js';
import { minutesInWords, waitInWords } from '../units/index.js';
import { withFewerPauses } from './pauses.js';
import { timetable } from './timetable.js';

/** A coat in its place in the plan, with its curve; `ownShare` of what dries there is its own paint. */
export type PlannedCoat = PlanCoat & { times: CoatTimes; ownShare: number };
/** Where the paint does not do what a step asks of it. `atMin` is the minute at which it fails. */
export type Miss = {
  kind: 'blend-outlasts' | 'window' | 'never-dries' | 'runs';
  stepId: string;
  areaId: string;
  atMin: number;
  haveMin: number;
  wantMin: number;
};
/** Constraints and pins that cannot hold together in this order; the last of them was left out so that the rest has times. */
export type Contradiction = {
  constraints: DryingConstraint[];
  pins: Pin[];
  /** Minutes missing. */
  shortfall: number;
  leftOut: DryingConstraint | Pin | 'breaks';
};
export type LessonPlan = {
  plan: Plan;
  coats: PlannedCoat[];
  laid: LaidCoat[];
  minutes: Map<string, StepMinutes>;
  misses: Miss[];
  /** What every step touches of the paint that lies before it. */
  contacts: Contact[];
  contradictions: Contradiction[];
  problem: Problem;
  solution: Solution;
};

/**
 * The timetable of a lesson in its room, in the instructor's order: durations, every coat's ladder of dryness, and a pause
 * wherever a step would come too early, with its length and reason. Pins and windows that cannot be kept are left out and named
 * among the contradictions. Pure; throws only on a room that cannot be.
 */
export function planLesson(lesson: Lesson): LessonPlan {
  let planned = planProblem(lesson, lessonProblem(lesson));
  // How wet the paint is that a step goes into depends on the minutes between, and these on how it dries.
  for (let round = 0, gaps = gapsOf(planned); round < MOST_ROUNDS && gaps.size > 0; round++) {
    planned = planProblem(lesson, lessonProblem(lesson, gaps));
    const next = gapsOf(planned);
    const isSettled = [...next].every(([key, { gapMin, into }]) => {
      const was = gaps.get(key);
      return was?.into === into && Math.abs(gapMin - was.gapMin) < SETTLED_MIN;
    });
    if (isSettled && next.size === gaps.size) break;
    gaps = next;
  }
  return planned;
}
const MOST_ROUNDS = 2;
const SETTLED_MIN = 0.25;

/** The minutes that the plan leaves between a coat and the one beneath it, and whether that is still wet; by step and area. */
type Gaps = ReadonlyMap<string, { gapMin: number; into: boolean }>;
function gapsOf({ laid, solution, minutes, contacts }: Pick<LessonPlan, 'laid' | 'solution' | 'minutes' | 'contacts'>): Gaps {
  const items = new Map(solution.items.map((item) => [item.step, item]));
  const met = new Map(contacts.map((one) => [`${one.id}/${one.ownAreaId}`, one]));
  const below = new Map<string, LaidCoat>();
  const found = new Map<string, { gapMin: number; into: boolean }>();
  for (const laying of laid) {
    const { step, areaId, coat } = laying;
    const before = below.get(areaId);
    below.set(areaId, laying);
    if (!before || step.needs === 'any') continue;
    const gapMin = Math.max(0, (items.get(step.id)?.start ?? 0) - (items.get(before.step.id)?.end ?? 0));
    const into =
      step.needs === 'wet' ||
      step.needs === 'damp' ||
      coversWet(laying, before, gapMin, minutes, met.get(`${step.id}/${areaId}/${before.step.id}/${areaId}`));
    if (into || coat.onWet) found.set(`${step.id}/${areaId}`, { gapMin, into });
  }
  return found;
}

/** Where nobody waits for it, paint that covers wet paint becomes one film with it. */
function coversWet(
  { step }: LaidCoat,
  before: LaidCoat,
  gapMin: number,
  minutes: LessonPlan['minutes'],
  contact: Contact | undefined,
): boolean {
  if ((step.coverShare ?? 1) < 1 || step.markIds.length > 0) return false;
  if (contact && !contact.waived && contact.neededMin >= WET_UNTIL * before.times.paintOverMin) return false;
  const own = minutes.get(step.id) as StepMinutes;
  return gapMin + (contact?.creditMin ?? own.showMin + own.leadMin) < WET_UNTIL * before.times.paintOverMin;
}
/** Paint that has come so far towards its painting over lies apart from what is laid on it. */
const WET_UNTIL = 0.6;

/** The timetable of a lesson's planning problem, its steps in the lesson's order; see {@link planLesson}. Narrows the problem. */
export function planProblem(
  lesson: Lesson,
  { problem, minutes, laid, misses, contacts }: Pick<LessonPlan, 'problem' | 'minutes' | 'laid' | 'misses' | 'contacts'>,
): LessonPlan {
  const { solution: soonest, contradictions } = withoutContradictions(problem, misses);
  const solution = withFewerPauses(problem, soonest);
  const starts = new Map(solution.items.map((item) => [item.step, item]));
  const coats = laid.map((coat) => placeCoat(lesson, coat, starts, minutes));
  for (const { step, areaId, times, staying } of laid) {
    if (step.ahead) continue;
    const at = starts.get(step.id);
    const { showMin, doMin, leadMin } = minutes.get(step.id) as StepMinutes;
    // New heaps are mixed before the first stroke: the paint's clock starts with that.
    const from = (at?.start ?? 0) + showMin + leadMin;
    const onCanvasMin = (doMin - leadMin) * wetShare(lesson, step);
    const miss = { stepId: step.id, areaId };
    if (step.technique === 'blend' && onCanvasMin > staying.openMin)
      misses.push({
        ...miss,
        kind: 'blend-outlasts',
        atMin: from + staying.openMin,
        haveMin: staying.openMin,
        wantMin: onCanvasMin,
      });
    if (times.mist?.runs) misses.push({ ...miss, kind: 'runs', atMin: from, haveMin: 0, wantMin: 0 });
  }
  for (const miss of misses) if (miss.atMin === 0) miss.atMin = starts.get(miss.stepId)?.start ?? 0;
  const items = timetable(lesson, solution, minutes, problem.constraints, contacts);
  const waitMin = items.reduce((sum, item) => sum + (item.kind === 'pause' ? item.endMin - item.startMin : 0), 0);
  const plan: Plan = {
    room: lesson.room,
    items,
    coats: coats.map(({ times: _, ownShare: __, ...coat }) => coat),
    endMin: Math.max(0, solution.items.at(-1)?.end ?? 0),
    waitMin,
    ...(neverDries(lesson, laid) ? { never: true } : {}),
  };
  return { plan, coats, laid, minutes, misses, contacts, contradictions, problem, solution };
}

/** The share of its minutes for which a blend must stay workable: all of it, or the two neighbours of a seam where only seams are softened. */
function wetShare({ passages }: Lesson, { passageId }: Step): number {
  const passage = passages.find((one) => one.id === passageId);
  return passage?.soften === 'seams' ? Math.min(1, 2 / Math.max(1, passage.places.length)) : 1;
}

/** Whether some coat never dries in the room's air, or all of it is too cold for paint to form a film. */
const neverDries = ({ room }: Lesson, laid: readonly LaidCoat[]): boolean =>
  laid.length > 0 && (room.airC < filmForms.leastC || laid.some(({ drying }) => !Number.isFinite(drying.touchDryMin)));

/** Times for a problem in its order, leaving out what cannot be kept: pins first, then windows, then breaks. Narrows `problem`. */
function withoutContradictions(problem: Problem, misses: Miss[]): { solution: Solution; contradictions: Contradiction[] } {
  const contradictions: Contradiction[] = [];
  let solution = solveInOrder(problem);
  while (solution.status === 'infeasible' && solution.conflict) {
    const { constraintIds, pins: places, shortfall, needsBreaks } = solution.conflict;
    const constraints = problem.constraints.filter((one) => constraintIds.includes(one.id));
    const pins = places.flatMap((k) => problem.pins?.[k] ?? []);
    const pin = pins.at(-1);
    const window = constraints.find((one) => one.type === 'wet');
    if (pin) problem.pins = problem.pins?.filter((one) => one !== pin) ?? [];
    else if (window) {
      problem.constraints = problem.constraints.filter((one) => one !== window);
      const [stepId, areaId] = window.source.split('/') as [string, string];
      const have = window.minutes as number;
      misses.push({ kind: 'window', stepId, areaId, atMin: 0, haveMin: have, wantMin: have + shortfall });
    } else if (needsBreaks && problem.breaks) delete problem.breaks;
    else break;
    contradictions.push({ constraints, pins, shortfall, leftOut: pin ?? window ?? 'breaks' });
    solution = solveInOrder(problem);
  }
  return { solution, contradictions };
}

/** A lesson as a planning problem: durations, what must be dry, wet or damp when, and what the instructor holds to. */
export function lessonProblem(lesson: Lesson, gaps: Gaps = new Map()) {
  const { planning } = lesson;
  assertRoom(lesson.room);
  const minutes = minutesOf(lesson);
  const { constraints, laid, misses, contacts } = constraintsOf(lesson, minutes, gaps);
  const steps = lesson.steps.filter((step) => !step.ahead);
  const known = new Set(steps.map((step) => step.id));
  const pins = planning.pins.flatMap((pin): Pin[] => {
    if ('stepId' in pin) return known.has(pin.stepId) ? [{ step: pin.stepId, start: pin.startMin }] : [];
    return known.has(pin.firstId) && known.has(pin.thenId) ? [{ first: pin.firstId, then: pin.thenId }] : [];
  });
  const problem: Problem = {
    steps: steps.map((step) => {
      const { showMin, doMin } = minutes.get(step.id) as StepMinutes;
      return { id: step.id, minutes: showMin + doMin };
    }),
    constraints: overNight(lesson, constraints, misses),
    ...(pins.length > 0 ? { pins } : {}),
    ...(planning.breaks ? { breaks: { length: planning.breaks.lengthMin, maxStretch: planning.breaks.everyMin } } : {}),
  };
  return { problem, minutes, laid, misses, contacts };
}

/** What the ends of sessions do: coats dry over night, and nothing can still be wet the next day. */
function overNight(lesson: Lesson, constraints: DryingConstraint[], misses: Miss[]): DryingConstraint[] {
  const cuts = lesson.planning.cutsBefore ?? [];
  if (cuts.length === 0) return constraints;
  const place = new Map(lesson.steps.map((step, i) => [step.id, i]));
  const at = cuts.flatMap((id) => place.get(id) ?? []);
  return constraints.flatMap((one): DryingConstraint[] => {
    const [from, to] = [place.get(one.from) as number, place.get(one.to) as number];
    if (!at.some((cut) => cut > from && cut <= to)) return [one];
    if (one.type !== 'wet') return [{ ...one, type: 'before' }];
    const [stepId, areaId] = one.source.split('/') as [string, string];
    misses.push({ kind: 'window', stepId, areaId, atMin: 0, haveMin: one.minutes as number, wantMin: 720 });
    return [];
  });
}

/** {@link planLesson}, worked out again only for another lesson. */
export const planOf = memo(planLesson, 3);

/** The minutes of every step, mixes mixed with the step that uses them first. */
export function minutesOf(lesson: Lesson): Map<string, StepMinutes> {
  const mixed = new Set<string>();
  const slack = 1 + (lesson.planning.slackShare ?? 0);
  return new Map(
    lesson.steps.map((step) => {
      const fresh = step.mixIds.filter((id) => !mixed.has(id));
      for (const id of fresh) mixed.add(id);
      const own = stepMinutes(lesson, step, fresh);
      return [step.id, slack === 1 ? own : stretched(own, slack)];
    }),
  );
}

function constraintsOf(lesson: Lesson, minutes: Map<string, StepMinutes>, gaps: Gaps) {
  const constraints: DryingConstraint[] = [];
  const laid: LaidCoat[] = [];
  const misses: Miss[] = [];
  const contacts: Contact[] = [];
  const onArea = new Map<string, LaidCoat[]>();
  for (const step of lesson.steps) {
    const own = minutes.get(step.id) as StepMinutes;
    const areas = areasWorkedOn(lesson, step);
    const coats = laysPaint(step)
      ? areas.map((areaId) =>
          lay(lesson, step, areaId, own, { below: onArea.get(areaId)?.at(-1), ...gaps.get(`${step.id}/${areaId}`) }),
        )
      : [];
    const films = new Map(coats.map((coat) => [coat.areaId, coat.wetUm]));
    if (!step.ahead) {
      const met = contactsOf(lesson, step, onArea, minutes, (areaId) => films.get(areaId) ?? 0);
      contacts.push(...met);
      constraints.push(...waits(met, misses));
      for (const below of intoWhich(step, areas, onArea)) constraints.push(...windows(step, below, minutes, misses));
    }
    for (const coat of coats) onArea.set(coat.areaId, [...(onArea.get(coat.areaId) ?? []), coat]);
    laid.push(...coats);
  }
  return { constraints, laid, misses, contacts };
}

/** What the contacts of a step ask of the plan: of several with one coat the longest wait; one that is waived asks nothing. */
function waits(contacts: readonly Contact[], misses: Miss[]): DryingConstraint[] {
  const found = new Map<string, DryingConstraint>();
  for (const { id, fromStepId, toStepId, areaId, need, waitMin, waived } of contacts) {
    if (waived || need === 'any') continue;
    if (!Number.isFinite(waitMin)) {
      misses.push({ kind: 'never-dries', stepId: toStepId, areaId, atMin: 0, haveMin: 0, wantMin: 0 });
      continue;
    }
    const known = found.get(id);
    if (known && (known.minutes as number) >= waitMin) continue;
    found.set(id, { id: `dry:${id}`, type: 'dry', from: fromStepId, to: toStepId, minutes: waitMin, source: id });
  }
  return [...found.values()];
}

/** The wet paint that a step goes into: the topmost coat of each of its areas. */
const intoWhich = (step: Step, areas: string[], onArea: ReadonlyMap<string, LaidCoat[]>): LaidCoat[] =>
  step.needs === 'wet' || step.needs === 'damp'
    ? areas.flatMap((id) => onArea.get(id)?.at(-1) ?? []).filter((below) => !below.step.ahead)
    : [];

/** The window in which a step goes into wet or damp paint, counted from the end of the step that laid it. */
function windows(step: Step, below: LaidCoat, minutes: Map<string, StepMinutes>, misses: Miss[]): DryingConstraint[] {
  const before = below.layMin;
  const own = minutes.get(step.id) as StepMinutes;
  const after = own.doMin - own.leadMin;
  const lead = own.showMin + own.leadMin;
  const source = `${step.id}/${below.areaId}/${below.step.id}`;
  const base = { from: below.step.id, to: step.id, source };
  const found: DryingConstraint[] = [];
  const miss = (kind: Miss['kind'], haveMin: number, wantMin: number) =>
    misses.push({ kind, stepId: step.id, areaId: below.areaId, atMin: 0, haveMin, wantMin });
  if (step.needs === 'damp') {
    const least = rungMinutes('damp', below.drying);
    if (!Number.isFinite(least)) {
      miss('never-dries', 0, 0);
      return [];
    }
    const wait = step.partByPart ? Math.max(0, least - Math.min(before, after)) : least;
    found.push({ ...base, id: `dry:${source}`, type: 'dry', minutes: wait });
  }
  const end = step.needs === 'wet' ? below.staying.openMin : below.staying.paintOverMin;
  const taken = oldestStroke(step, before, after) + lead;
  if (end < taken) miss('window', end, taken);
  else if (Number.isFinite(end)) found.push({ ...base, id: `wet:${source}`, type: 'wet', minutes: end - taken });
  return found;
}

const A_DAY_MIN = 24 * 60;

function placeCoat(
  lesson: Lesson,
  { step, areaId, times, drying, wetUm, ownShare }: LaidCoat,
  starts: Map<string, { start: number; end: number }>,
  minutes: Map<string, StepMinutes>,
): PlannedCoat {
  // What was laid before the class is dry when it begins.
  const at = starts.get(step.id) ?? { start: -A_DAY_MIN, end: -A_DAY_MIN };
  const orNull = (value: number) => (Number.isFinite(value) ? value : null);
  const dried = step.dryer ? drying : times;
  const paintOverMin = Math.max(dried.paintOverMin, step.dryer ? 0 : times.openMin);
  return {
    stepId: step.id,
    areaId,
    mixIds: step.mixIds,
    laidFromMin: Math.min(at.end, at.start + (minutes.get(step.id) as StepMinutes).showMin),
    laidToMin: at.end,
    openMin: orNull(Math.min(times.openMin, paintOverMin)),
    paintOverMin: orNull(paintOverMin),
    touchDryMin: orNull(Math.max(paintOverMin, dried.touchDryMin)),
    firmMin: orNull(times.firmH * 60),
    dryUm: times.dryUm * ownShare,
    wetUm,
    coverShare: coverOf(lesson, step),
    times,
    ownShare,
  };
}

/** "likely 2 h 21, 12 min of it waiting"; with the longest drying "at the longest 2 h 40 …"; "never dries in its room". */
export function planInWords(plan: Pick<Plan, 'endMin' | 'waitMin' | 'never'>, isCautious = false): string {
  if (plan.never) return say('never dries in its room');
  const length = isCautious ? say`at the longest ${minutesInWords(plan.endMin)}` : say`likely ${minutesInWords(plan.endMin)}`;
  return plan.waitMin > 0 ? say`${length}, ${waitInWords(plan.waitMin)} of it waiting` : length;
}
