import { type Learnt, type Lesson, newStudio } from '@viaticum/contract';
import { learntFactor, slowPaintOf } from '../derived/index.js';
import type { CommandArgs } from '../document/index.js';
import { kitPaint } from '../kit/index.js';
import { helpFor } from '../pace/index.js';
import { minutesOf, planLesson } from '../plan/index.js';
import { drying, dryingTests } from './drying.js';
import { fitEffects, type Known, knownOf } from './fit.js';
import { asksOverall, fitPace, rateTests } from './pace.js';
import type { Logged } from './suggestion.js';
import { helpTaken, paintUsed } from './used.js';

/** What taking a factor over would change in this lesson: minutes of it, ml that a painter squeezes, minutes of helping in a class of twelve. */
export type Change = { of: 'minutes' | 'ml' | 'help'; by: number };
/**
 * A factor as classes show it: of the room's drying (`drying room`) or a key of {@link Learnt}. `present`: what this lesson reckons with;
 * `isClear`: enough is known, and what is reckoned with lies outside its 80 % interval.
 */
export type Calibration = Known & {
  key: string;
  present: number;
  isClear: boolean;
  change: Change | null;
  /** How it is taken over, and how it is taken back where it was. */
  take: { command: 'takeLearnt'; args: CommandArgs<'takeLearnt'> } | { command: 'setRoom'; args: CommandArgs<'setRoom'> };
  back: { command: 'dropLearnt'; args: CommandArgs<'dropLearnt'> } | { command: 'setRoom'; args: CommandArgs<'setRoom'> } | null;
};

/** Of fewer nothing is taken over. */
const LEAST: Record<string, { observations: number; classes: number }> = {
  drying: { observations: 5, classes: 2 },
  pace: { observations: 12, classes: 2 },
  help: { observations: 8, classes: 2 },
  asks: { observations: 60, classes: 2 },
  paint: { observations: 6, classes: 2 },
};
/** Rates are learnt from so many of the newest classes, and at most so many Dones in them. */
const NEWEST = 24;
const MOST_DONES = 4000;
/** A group for which help is told of. */
const GROUP = 12;

const rounded = (factor: number): number => Math.round(Math.min(5, Math.max(0.2, factor)) * 100) / 100;
const day = (now: number): string => new Date(now).toISOString().slice(0, 10);

/**
 * All factors that classes may teach of a lesson: drying of its room, its techniques and its paints; pace of its techniques and its level;
 * how often and how long students are helped; paint that is used. Each with its observations and its 80 % interval, and what it would
 * change here; nothing is taken over by itself.
 */
export function calibrations(lesson: Lesson, all: readonly Logged[], now: number): Calibration[] {
  const found: (Known & { key: string })[] = [];
  const painted = lesson.steps.filter((step) => step.technique);
  const techniques = [...new Set(painted.flatMap(({ technique }) => technique ?? []))];
  const paints = [...new Set(painted.flatMap((step) => slowPaintOf(step) ?? []))];

  const touches = dryingTests(all, now, lesson.room);
  const dried = fitEffects(touches, drying);
  found.push({ key: 'drying room', ...knownOf(dried, touches, `room:${lesson.room.name}`) });
  for (const [kind, names] of [
    ['technique', techniques],
    ['paint', paints],
  ] as const)
    for (const name of names) found.push({ key: `drying ${kind} ${name}`, ...knownOf(dried, touches, `${kind}:${name}`) });

  const newest = [...all].sort((a, b) => b.log.at.localeCompare(a.log.at)).filter(({ log }) => log.paces.length > 0);
  const rates = rateTests(newest.slice(0, NEWEST)).slice(0, MOST_DONES);
  const fit = fitPace(rates);
  for (const name of techniques) found.push({ key: `pace technique ${name}`, ...knownOf(fit, rates, `technique:${name}`) });
  found.push({ key: `pace level ${lesson.level}`, ...knownOf(fit, rates, `level:${lesson.level}`) });
  found.push({ key: 'help', ...helpTaken(all, lesson.level) });
  found.push({ key: 'asks', ...asksOverall(all, lesson.level) });
  found.push({ key: 'paint', ...paintUsed(all) });

  const before = planLesson(lesson).plan.endMin;
  return found
    .filter(({ observations, key }) => observations > 0 || lesson.learnt?.some((one) => one.key === key))
    .map((one) => completed(lesson, one, before, now))
    .sort((a, b) => Number(b.isClear) - Number(a.isClear));
}

function completed(lesson: Lesson, one: Known & { key: string }, endMin: number, now: number): Calibration {
  const { key, factor, from, to, observations, classes } = one;
  const isRoom = key === 'drying room';
  const present = isRoom ? 1 / (lesson.room.calibration ?? 1) : learntFactor(lesson, key);
  const least = LEAST[key.split(' ')[0] as string] as (typeof LEAST)[string];
  const isClear =
    observations >= least.observations &&
    classes >= least.classes &&
    (from > present * 1.001 || to < present * 0.999) &&
    rounded(factor) !== rounded(present);
  // Longer drying is slower evaporation.
  const calibration = Math.min(2.5, Math.max(0.4, Math.round(1000 / rounded(factor)) / 1000));
  const learnt: Learnt = {
    ...{ key, factor: rounded(factor), from: rounded(from), to: rounded(to), observations, classes, on: day(now) },
  };
  const changed: Lesson = isRoom
    ? { ...lesson, room: { ...lesson.room, calibration } }
    : { ...lesson, learnt: [...(lesson.learnt ?? []).filter((had) => had.key !== key), learnt] };
  const isTaken = isRoom ? lesson.room.calibration !== undefined : lesson.learnt?.some((had) => had.key === key);
  return {
    ...{ key, factor, from, to, observations, classes, present, isClear },
    change: isClear ? changeOf(lesson, changed, key, endMin) : null,
    take: isRoom ? { command: 'setRoom', args: { room: { calibration } } } : { command: 'takeLearnt', args: { learnt } },
    back: !isTaken
      ? null
      : isRoom
        ? { command: 'setRoom', args: { room: {}, clear: ['calibration'] } }
        : { command: 'dropLearnt', args: { key } },
  };
}

const squeezed = (lesson: Lesson): number => kitPaint(lesson, planLesson(lesson).plan, newStudio).headMl;

function changeOf(lesson: Lesson, changed: Lesson, key: string, endMin: number): Change {
  if (key === 'paint') return { of: 'ml', by: squeezed(changed) - squeezed(lesson) };
  if (key === 'help' || key === 'asks') {
    const steps = [...minutesOf(lesson)].filter(([, { doMin }]) => doMin > 0).length;
    const minutes = (one: Lesson) => {
      const help = helpFor(one, one.level);
      return GROUP * steps * help.chance * help.minutes;
    };
    return { of: 'help', by: minutes(changed) - minutes(lesson) };
  }
  return { of: 'minutes', by: planLesson(changed).plan.endMin - endMin };
}
