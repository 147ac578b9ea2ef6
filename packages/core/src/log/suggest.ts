import { type Lesson, type Step, say } from '@viaticum/contract';
import { planLesson } from '../plan/index.js';
import { counted, listInWords, minutesInWords, the } from '../units/index.js';
import { dryingTests, roomChanged, roomFactor } from './drying.js';
import { factorOf } from './fit.js';
import { asksAt, fitPace, paceTests } from './pace.js';
import { resultSuggestions } from './results.js';
import { median } from './spread.js';
import type { Edit, Logged, Suggestion } from './suggestion.js';

/** From so many coats of so many classes on a room’s drying is spoken of. */
const LEAST_COATS = 5;
const LEAST_CLASSES = 2;
/** Pace is learnt from so many of the newest classes of a lesson: what people did before says less than what they do now. */
const PACED_CLASSES = 24;
/** By less than this nothing is worth changing. */
const LEAST_MIN = 1;
const LEAST_SHARE = 0.2;
const LEAST_PLAN_MIN = 2;
const MOST = 5;

const endOf = (lesson: Lesson): number => planLesson(lesson).plan.endMin;
const half = (minutes: number): number => Math.max(0.5, Math.round(minutes * 2) / 2);
const minutesSaid = (all: readonly number[]): string => listInWords(all.map((one) => String(Math.round(one))));
/** The oldest first. */
const byDay = (logs: readonly Logged[]): Logged[] => [...logs].sort((a, b) => a.log.at.localeCompare(b.log.at));

/** What the classes of a lesson (and for drying those of its room) suggest to change in it; what is worth most first, at most five. */
export function suggestions(lesson: Lesson, own: readonly Logged[], all: readonly Logged[], now: number): Suggestion[] {
  const before = endOf(lesson);
  const costing = (changed: Lesson): number => endOf(changed) - before;
  const found = [
    ...dryingOf(lesson, all, now, costing),
    ...changedOf(lesson, all, now),
    ...resultSuggestions(lesson, own),
    ...minutesOf(lesson, own, costing),
    ...leftOutOf(lesson, own),
    ...askedOf(lesson, own),
    ...earlyOf(lesson, own, costing),
  ].sort((a, b) => Math.abs(b.minutes) - Math.abs(a.minutes) || b.weight - a.weight);
  // The first of each kind, so that many of one hide no other.
  const kinds = new Set<string>();
  const firsts = found.filter(({ key }) => {
    const kind = key.split(' ')[0] as string;
    return !kinds.has(kind) && kinds.add(kind);
  });
  return [...firsts, ...found.filter((one) => !firsts.includes(one))].slice(0, MOST);
}

/** Coats that dry otherwise in this room than the model says. */
function dryingOf(lesson: Lesson, all: readonly Logged[], now: number, costing: (changed: Lesson) => number): Suggestion[] {
  const tests = dryingTests(all, now, lesson.room);
  const { factor, from, to, observations: coats, classes } = roomFactor(tests, lesson.room.name);
  const present = 1 / (lesson.room.calibration ?? 1);
  const isClear = from > present * 1.001 || to < present * 0.999;
  if (!isClear || coats < LEAST_COATS || classes < LEAST_CLASSES) return [];
  const rounded = Math.round(factor * 100) / 100;
  // Longer drying is slower evaporation.
  const calibration = Math.round(1000 / rounded) / 1000;
  const minutes = costing({ ...lesson, room: { ...lesson.room, calibration } });
  if (Math.abs(minutes) < LEAST_PLAN_MIN && Math.abs(Math.log(rounded / present)) < 0.1) return [];
  const percent = Math.round(Math.abs(rounded - 1) * 100);
  return [
    {
      key: 'drying',
      words:
        rounded > 1
          ? say`Coats in ${the(lesson.room.name)} dry ${percent} % slower than reckoned. Reckon with that here.`
          : say`Coats in ${the(lesson.room.name)} dry ${percent} % faster than reckoned. Reckon with that here.`,
      evidence: say`${counted(coats, 'coat')} touched in ${counted(classes, 'class', 'classes')}: ${Math.round(from * 100)} to ${Math.round(to * 100)} % of the time, four times in five.`,
      weight: coats,
      minutes,
      edit: { command: 'setRoom', args: { room: { calibration } } },
    },
  ];
}

/** A room in which coats dry otherwise since some day: what was touched before says less from now on. */
function changedOf(lesson: Lesson, all: readonly Logged[], now: number): Suggestion[] {
  const changed = roomChanged(all, lesson.room, now);
  if (!changed) return [];
  const percent = Math.round(Math.abs(changed.factor - 1) * 100);
  const where = the(lesson.room.name);
  return [
    {
      key: `changed ${changed.since}`,
      words:
        changed.factor > 1
          ? say`Since ${changed.since} coats in ${where} dry ${percent} % slower than before. Begin this room anew?`
          : say`Since ${changed.since} coats in ${where} dry ${percent} % faster than before. Begin this room anew?`,
      evidence: say`The newest four classes there against those before. What was touched before that day will count less.`,
      weight: 4,
      minutes: 0,
      edit: { command: 'setRoom', args: { room: { learntSince: changed.since } } },
    },
  ];
}

/** Classes, taught here or elsewhere: what one painted or filmed alone is no class. */
const isOfClass = ({ log }: Logged): boolean => log.kind === 'class' || log.kind === 'by-hand';

/** Steps that took clearly longer or shorter than planned in two classes or more. */
function minutesOf(lesson: Lesson, own: readonly Logged[], costing: (changed: Lesson) => number): Suggestion[] {
  const plan = planLesson(lesson);
  const now = new Map([...plan.minutes].map(([id, { showMin, doMin }]) => [id, showMin + doMin]));
  const tests = paceTests(byDay(own).slice(-PACED_CLASSES), now);
  const fit = fitPace(tests);
  const classes = byDay(own).filter(isOfClass);
  return lesson.steps.flatMap((step): Suggestion[] => {
    const rows = classes.flatMap(({ log }) => log.items.filter((item) => item.stepId === step.id && item.actual !== null));
    const taught = classes.filter(({ log }) => log.items.some((item) => item.stepId === step.id && item.actual !== null)).length;
    const planned = plan.minutes.get(step.id);
    if (!planned || taught < LEAST_CLASSES) return [];
    const whole = planned.showMin + planned.doMin;
    const { factor } = factorOf(fit, [
      `step:${step.id}`,
      ...(step.technique ? [`technique:${step.technique}`] : []),
      `level:${lesson.level}`,
    ]);
    const took = rows.map((item) => item.actual as number);
    // Where Dones tell of it, by them; otherwise by how long the class was at it.
    const next = half(tests.some(({ effects }) => effects.includes(`step:${step.id}`)) ? whole * factor : median(took));
    if (Math.abs(next - whole) < LEAST_MIN || Math.abs(next / whole - 1) < LEAST_SHARE) return [];
    const doMin = half(Math.max(0.5, next - planned.showMin));
    const changed = { ...lesson, steps: lesson.steps.map((one) => (one.id === step.id ? { ...one, doMin } : one)) };
    return [
      {
        key: `minutes ${step.id}`,
        words: say`“${step.title}” took ${minutesInWords(next)}, planned ${minutesInWords(whole)}: make it ${minutesInWords(doMin + planned.showMin)}.`,
        evidence: say`${minutesSaid(took)} min in ${counted(taught, 'class', 'classes')}, planned ${Math.round(whole)}.`,
        weight: rows.length,
        minutes: costing(changed),
        edit: { command: 'editStep', args: { id: step.id, step: { doMin } } },
      },
    ];
  });
}

/** What was left out each time may as well be marked so. */
function leftOutOf(lesson: Lesson, own: readonly Logged[]): Suggestion[] {
  return lesson.steps.flatMap((step): Suggestion[] => {
    const rows = own.filter(isOfClass).flatMap(({ log }) => log.items.filter((item) => item.stepId === step.id));
    const left = rows.filter((item) => item.actual === null).length;
    if (left < 3 || left < rows.length || step.mayBeLeftOut) return [];
    const edit: Edit =
      step.kind === 'break'
        ? { command: 'removeStep', args: { id: step.id } }
        : { command: 'editStep', args: { id: step.id, step: { mayBeLeftOut: true } } };
    return [
      {
        key: `left-out ${step.id}`,
        words:
          step.kind === 'break'
            ? say`“${step.title}” was always left out: remove it.`
            : say`“${step.title}” was always left out: say that it may be.`,
        evidence: say`Left out in ${left} of ${counted(rows.length, 'class', 'classes')}.`,
        weight: left,
        minutes: 0,
        edit,
      },
    ];
  });
}

/** What they asked most, as the first words of a checkpoint. */
const reasonWords = (reasons: readonly string[], step: Step): string => {
  const count = (reason: string) => reasons.filter((one) => one === reason).length;
  const [most] = [...new Set(reasons)].sort((a, b) => count(b) - count(a));
  if (most === 'wet') return say('Touch the rim: is it dry enough to go on?');
  if (most === 'brush') return say('Hold up your brush: is it the one of this step?');
  if (most === 'drawing') return say('Look at your lines: is everything where it should be?');
  return say`Look at your neighbour: does “${step.title}” look alike on both?`;
};

/** Where clearly more than usual ask for help, a checkpoint belongs. */
function askedOf(lesson: Lesson, own: readonly Logged[]): Suggestion[] {
  const asks = asksAt(own);
  return lesson.steps.flatMap((step): Suggestion[] => {
    const found = asks.get(step.id);
    if (!found || found.from < 2 * found.usual || found.asks < 3) return [];
    const more = reasonWords(found.reasons, step);
    if (step.checkpoint.includes(more)) return [];
    return [
      {
        key: `asks ${step.id}`,
        words: say`Many asked for help at “${step.title}”: add a checkpoint.`,
        evidence: say`${found.asks} of ${found.students} asked; ${Math.round(found.usual * 100)} in a hundred is usual.`,
        weight: found.asks,
        minutes: 0,
        edit: {
          command: 'editStep',
          args: { id: step.id, step: { checkpoint: [step.checkpoint, more].filter(Boolean).join(' ').slice(0, 20_000) } },
        },
      },
    ];
  });
}

/** Pauses that a touch ended early, again and again: paint may be met so much before its time. */
function earlyOf(lesson: Lesson, own: readonly Logged[], costing: (changed: Lesson) => number): Suggestion[] {
  const early = own.flatMap(({ log }) => log.items.flatMap((item) => item.touchedEarlyMin ?? []));
  const present = lesson.planning.toleranceMin ?? 0;
  if (early.length < 3) return [];
  const next = Math.min(5, Math.floor(median(early) / 2));
  if (next <= present) return [];
  return [
    {
      key: 'early',
      words: say`Paint was touched dry before its time, ${counted(early.length, 'time')}: begin the next step ${minutesInWords(next)} sooner.`,
      evidence: say`${minutesSaid(early)} min before its time.`,
      weight: early.length,
      minutes: costing({ ...lesson, planning: { ...lesson.planning, toleranceMin: next } }),
      edit: { command: 'setPlanning', args: { toleranceMin: next } },
    },
  ];
}
