import type { Lesson, Need, Plan, PlanCoat, PlanItem, Step } from '@viaticum/contract';
import { absorbed, type CoatTimes, coatTimes, wetFilm } from '../coat/index.js';
import { memo, restsOn } from '../lesson/index.js';
import { listInWords, minutesInWords, waitInWords } from '../units/index.js';
import { type StepMinutes, stepMinutes } from './duration.js';
import { solveInOrder } from './in-order.js';
import type { Problem, Relation, Solution } from './problem.js';

export type PlannedCoat = PlanCoat & { times: CoatTimes };
/** Where the paint does not do what a step asks of it. `atMin` is the minute at which it fails. */
export type Miss = {
  kind: 'blend-outlasts' | 'window' | 'never-dries';
  stepId: string;
  zoneId: string;
  atMin: number;
  haveMin: number;
  wantMin: number;
};
export type LessonPlan = {
  plan: Plan;
  coats: PlannedCoat[];
  minutes: Map<string, StepMinutes>;
  misses: Miss[];
  solution: Solution;
};

type Laid = { step: Step; zoneId: string; times: CoatTimes; wetUm: number };

/** Whether a step lays a coat of paint. */
export const laysPaint = (step: Step): boolean =>
  step.technique !== undefined && (step.kind === 'paint' || step.kind === 'prepare');

/** The zones a step works on: those it names, or all of them (the whole canvas) where it names none. */
export const zonesOf = (lesson: Lesson, step: Step): string[] =>
  step.zoneIds.length > 0 ? step.zoneIds : lesson.zones.map((zone) => zone.id);

const times = memo(
  (technique: Step['technique'], medium: Step['medium'], water: number | undefined, absorb: number, room: Lesson['room']) =>
    coatTimes(
      {
        technique: technique as NonNullable<Step['technique']>,
        retarder: medium === 'retarder',
        absorbGPerM2: absorb,
        ...(water === undefined ? {} : { waterShareOfMix: water }),
      },
      room,
    ),
  400,
);

/**
 * The timetable of a lesson in its room, in the instructor's order: durations, every coat's ladder of dryness, and a pause
 * wherever a step would come too early, with its length and reason. Pure; throws only on a room that cannot be.
 */
export function planLesson(lesson: Lesson): LessonPlan {
  const { problem, minutes, laid, misses } = lessonProblem(lesson);
  let solution = solveInOrder(problem);
  // Windows that cannot be kept in this order are reported and left out, so that the rest still has a timetable.
  while (solution.status === 'infeasible' && solution.conflict) {
    const ids = solution.conflict.relationIds;
    const given = problem.relations.find((relation) => relation.type === 'wet' && ids.includes(relation.id));
    if (!given) break;
    const [stepId, zoneId] = given.source.split('/') as [string, string];
    const window = given.minutes as number;
    misses.push({ kind: 'window', stepId, zoneId, atMin: 0, haveMin: window, wantMin: window + solution.conflict.shortfall });
    problem.relations = problem.relations.filter((relation) => relation !== given);
    solution = solveInOrder(problem);
  }
  const starts = new Map(solution.items.map((item) => [item.step, item]));
  const coats = laid.map((coat) => placeCoat(coat, starts, minutes));
  for (const coat of coats) {
    const step = lesson.steps.find((candidate) => candidate.id === coat.stepId) as Step;
    const laying = coat.laidToMin - coat.laidFromMin;
    if (step.technique === 'blend' && laying > coat.times.openMin) {
      misses.push({
        kind: 'blend-outlasts',
        stepId: step.id,
        zoneId: coat.zoneId,
        atMin: coat.laidFromMin + coat.times.openMin,
        haveMin: coat.times.openMin,
        wantMin: laying,
      });
    }
  }
  for (const miss of misses) if (miss.atMin === 0) miss.atMin = starts.get(miss.stepId)?.start ?? 0;
  const items = timetable(lesson, solution, minutes, problem.relations);
  const waitMin = items.reduce((sum, item) => sum + (item.kind === 'pause' ? item.endMin - item.startMin : 0), 0);
  const plan: Plan = {
    room: lesson.room,
    items,
    coats: coats.map(({ times: _, ...coat }) => coat),
    endMin: Math.max(0, solution.items.at(-1)?.end ?? 0),
    waitMin,
  };
  return { plan, coats, minutes, misses, solution };
}

/** A lesson as a planning problem: durations, and what must be dry, wet or damp when. */
export function lessonProblem(lesson: Lesson) {
  const minutes = allMinutes(lesson);
  const { relations, laid, misses } = relationsOf(lesson, minutes);
  const steps = lesson.steps.map((step) => {
    const { showMin, doMin } = minutes.get(step.id) as StepMinutes;
    return { id: step.id, minutes: showMin + doMin };
  });
  const problem: Problem = { steps, relations };
  return { problem, minutes, laid, misses };
}

/** {@link planLesson}, worked out again only for another lesson. */
export const planOf = memo(planLesson, 3);

function allMinutes(lesson: Lesson): Map<string, StepMinutes> {
  const mixed = new Set<string>();
  return new Map(
    lesson.steps.map((step) => {
      const fresh = step.mixIds.filter((id) => !mixed.has(id));
      for (const id of fresh) mixed.add(id);
      return [step.id, stepMinutes(lesson, step, fresh.length)];
    }),
  );
}

function relationsOf(lesson: Lesson, minutes: Map<string, StepMinutes>) {
  const relations: Relation[] = [];
  const laid: Laid[] = [];
  const misses: Miss[] = [];
  const onZone = new Map<string, Laid[]>();
  for (const step of lesson.steps) {
    const zones = zonesOf(lesson, step);
    for (const below of coatsBeneath(lesson, step, zones, onZone)) relations.push(...relation(step, below, minutes, misses));
    if (!laysPaint(step)) continue;
    for (const zoneId of zones) {
      const absorb = onZone.has(zoneId) ? absorbed.acrylic : absorbed[lesson.support.absorbency];
      const coat: Laid = {
        step,
        zoneId,
        times: times(step.technique, step.medium, step.waterShareOfMix, absorb, lesson.room),
        wetUm: wetFilm({
          technique: step.technique as NonNullable<Step['technique']>,
          ...(step.waterShareOfMix === undefined ? {} : { waterShareOfMix: step.waterShareOfMix }),
        }).wetUm,
      };
      laid.push(coat);
      onZone.set(zoneId, [...(onZone.get(zoneId) ?? []), coat]);
    }
  }
  return { relations, laid, misses };
}

/** Minutes from when a part was laid until the rung is reached. */
export function rungMinutes(need: Need, coat: CoatTimes): number {
  const rungs: Record<Need, number> = {
    any: 0,
    wet: 0,
    damp: coat.openMin,
    paintOver: coat.paintOverMin,
    touchDry: coat.touchDryMin,
    firm: coat.firmH * 60,
    cured: coat.cureH * 60,
  };
  return rungs[need];
}

/**
 * The coats that a step meets: those on each of its zones and, where it paints on dry, those on every zone behind whose edge
 * it goes over. Into wet or damp paint concerns the topmost coat of the zone itself.
 */
function coatsBeneath(lesson: Lesson, step: Step, zones: string[], onZone: Map<string, Laid[]>): Laid[] {
  if (step.needs === 'wet' || step.needs === 'damp') return zones.flatMap((id) => onZone.get(id)?.at(-1) ?? []);
  const edges = laysPaint(step) ? zones.flatMap((id) => restsOn(lesson, id)) : [];
  return [...new Set([...zones, ...edges])].flatMap((id) => onZone.get(id) ?? []);
}

function relation(step: Step, below: Laid, minutes: Map<string, StepMinutes>, misses: Miss[]): Relation[] {
  if (step.needs === 'any') return [];
  const laying = (id: string) => (minutes.get(id) as StepMinutes).doMin;
  const before = laying(below.step.id);
  const after = laying(step.id);
  const lead = (minutes.get(step.id) as StepMinutes).showMin;
  const source = `${step.id}/${below.zoneId}/${below.step.id}`;
  const base = { from: below.step.id, to: step.id, source };
  const found: Relation[] = [];
  const miss = (kind: Miss['kind'], haveMin: number, wantMin: number) =>
    misses.push({ kind, stepId: step.id, zoneId: below.zoneId, atMin: 0, haveMin, wantMin });
  if (step.needs !== 'wet') {
    const least = rungMinutes(step.needs, below.times);
    if (!Number.isFinite(least)) {
      miss('never-dries', 0, 0);
      return [];
    }
    const wait = step.partByPart ? Math.max(0, least - Math.min(before, after)) : least;
    found.push({ ...base, id: `dry:${source}`, type: 'dry', minutes: wait });
  }
  if (step.needs === 'wet' || step.needs === 'damp') {
    const end = step.needs === 'wet' ? below.times.openMin : below.times.paintOverMin;
    const taken = (step.partByPart ? Math.max(before, after) : before) + lead;
    if (end < taken) miss('window', end, taken);
    else if (Number.isFinite(end)) found.push({ ...base, id: `wet:${source}`, type: 'wet', minutes: end - taken });
  }
  return found;
}

function placeCoat(
  coat: Laid,
  starts: Map<string, { start: number; end: number }>,
  minutes: Map<string, StepMinutes>,
): PlannedCoat {
  const at = starts.get(coat.step.id) ?? { start: 0, end: 0 };
  const orNull = (value: number) => (Number.isFinite(value) ? value : null);
  return {
    stepId: coat.step.id,
    zoneId: coat.zoneId,
    mixIds: coat.step.mixIds,
    laidFromMin: at.start + (minutes.get(coat.step.id) as StepMinutes).showMin,
    laidToMin: at.end,
    openMin: orNull(coat.times.openMin),
    paintOverMin: orNull(coat.times.paintOverMin),
    touchDryMin: orNull(coat.times.touchDryMin),
    firmMin: orNull(coat.times.firmH * 60),
    dryUm: coat.times.dryUm,
    wetUm: coat.wetUm,
    coverShare: coat.step.coverShare ?? 1,
    times: coat.times,
  };
}

const rungWords: Record<Need, string> = {
  any: '',
  wet: 'still wet',
  damp: 'damp',
  paintOver: 'dry enough to paint over',
  touchDry: 'touch-dry',
  firm: 'firm',
  cured: 'cured',
};

function timetable(lesson: Lesson, solution: Solution, minutes: Map<string, StepMinutes>, relations: Relation[]): PlanItem[] {
  const items: PlanItem[] = [];
  const ends = new Map(solution.items.map((item) => [item.step, item.end]));
  const mixed = new Set<string>();
  let clock = 0;
  for (const [i, at] of solution.items.entries()) {
    const step = lesson.steps[i] as Step;
    if (at.start > clock + 1e-9) {
      const from = clock;
      const binding = relations.filter(
        (one) =>
          one.type === 'dry' && one.to === step.id && (ends.get(one.from) as number) + (one.minutes as number) > from + 1e-9,
      );
      items.push(pause(lesson, step, binding, from, at.start, meanwhile(lesson, i, mixed)));
    }
    for (const id of step.mixIds) mixed.add(id);
    items.push({
      kind: step.kind === 'break' ? 'break' : 'step',
      stepId: step.id,
      title: step.title,
      startMin: at.start,
      endMin: at.end,
      showMin: (minutes.get(step.id) as StepMinutes).showMin,
      zoneIds: step.zoneIds,
    });
    clock = at.end;
  }
  return items;
}

/** The wait before a step, named after the zones whose coats it waits for, with the slowest of them as its reason. */
function pause(lesson: Lesson, step: Step, binding: Relation[], startMin: number, endMin: number, meanwhile: string): PlanItem {
  const zoneOf = (one: Relation) => one.source.split('/')[1] as string;
  const zoneIds = [...new Set(binding.map(zoneOf))];
  const isWhole = zoneIds.length > 2 && zoneIds.length === lesson.zones.length;
  const name = (ids: string[]) =>
    isWhole ? 'whole canvas' : listInWords(ids.map((id) => lesson.zones.find((zone) => zone.id === id)?.name ?? 'area'));
  const [first, ...others] = binding;
  const slowest = others.reduce((most, one) => ((one.minutes as number) > (most?.minutes as number) ? one : most), first);
  return {
    kind: 'pause',
    title: zoneIds.length > 0 ? `Let the ${name(zoneIds)} dry` : 'Wait',
    startMin,
    endMin,
    showMin: 0,
    zoneIds,
    meanwhile,
    ...(slowest
      ? {
          reason: `The ${name([zoneOf(slowest)])} takes ${waitInWords(slowest.minutes as number)} to be ${rungWords[step.needs]}.`,
        }
      : {}),
  };
}

/** Useful dry work for a pause before step `i`: the heaps that the next steps need and nobody has mixed yet. */
function meanwhile(lesson: Lesson, i: number, mixed: Set<string>): string {
  const ahead = lesson.steps
    .slice(i, i + 3)
    .flatMap((step) => step.mixIds)
    .filter((id, at, all) => !mixed.has(id) && all.indexOf(id) === at);
  const names = ahead.slice(0, 3).flatMap((id) => lesson.mixes.find((mix) => mix.id === id)?.name ?? []);
  if (names.length > 0) return `Premix ${listInWords(names)}, then stand back and look.`;
  return 'Change the water, stand back and look with half-closed eyes.';
}

/** "2 h 21, 12 min of it waiting". */
export function planInWords(plan: Plan): string {
  return plan.waitMin > 0
    ? `${minutesInWords(plan.endMin)}, ${waitInWords(plan.waitMin)} of it waiting`
    : minutesInWords(plan.endMin);
}
