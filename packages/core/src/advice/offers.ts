import type { Lesson, Step } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { outlineBox, scanOutline } from '../area/index.js';
import { brushes, brushInWords, brushOf } from '../brush/index.js';
import { hides } from '../contact/index.js';
import { areaName, areasWorkedOn, extentsOf, laysPaint, loadFactor } from '../derived/index.js';
import type { ClearableStepField } from '../document/index.js';
import { type LessonPlan, minutesOf, planLesson } from '../plan/index.js';
import {
  airOf,
  coatOf,
  dryerTurn,
  mistEvery,
  rangeOf,
  rungMinutes,
  type StepMinutes,
  stepMinutes,
  timesOf,
} from '../step/index.js';
import { lengthNumber, listInWords, measuresNow, minutesInWords, the } from '../units/index.js';

/** Ways past a blend that takes too long, the mildest first. */
const offerKinds = ['brush', 'load', 'mist', 'gel', 'retarder', 'water-film', 'two', 'slow', 'two-people', 'divide'] as const;
type OfferKind = (typeof offerKinds)[number];

type Edit = { id: string; step: Partial<Omit<Step, 'id'>>; clear?: ClearableStepField[] };
/** A way to get a blend done while the paint is workable, with what it makes of both times. */
export type Offer = {
  kind: OfferKind;
  words: string;
  /** Minutes workable and minutes of blending with it. */
  openMin: number;
  takesMin: number;
  /** Whether that is enough. */
  works: boolean;
  /** When the lesson would end with it; null where it cannot be planned by itself. */
  endMin: number | null;
  /** What to look out for. */
  but?: string;
} & (
  | { command: 'editStep'; args: Edit }
  | { command: 'divideStep'; args: { id: string; parts: number; places: string[]; doMin: number } }
  | { command: null }
);

/** The shortest time for which anybody should count on a part of a blend. */
const WORKED_SHARE = 0.85;

/** A step's coat, alone on the area that it holds back longest, with what is workable now; null where it lays nothing. */
function coatHere(lesson: Lesson, stepId: string, plan: LessonPlan) {
  const step = lesson.steps.find((one) => one.id === stepId);
  const laid = plan.laid.filter((one) => one.step.id === stepId);
  const shortest = laid.reduce<(typeof laid)[number] | undefined>(
    (least, one) => (!least || one.staying.openMin < least.staying.openMin ? one : least),
    undefined,
  );
  return step && shortest ? { step, laid: shortest } : null;
}

/**
 * What can be done where a blend takes longer than its paint stays workable; empty where it does not. Each offer is worked out
 * on its own, in this room, by the drying model and the model of durations.
 */
export function offersFor(lesson: Lesson, stepId: string, plan: LessonPlan = planLesson(lesson)): Offer[] {
  const offers = offersOf(lesson, stepId, plan).map((one) => withEnd(lesson, one));
  return offers.sort((a, b) => Number(b.works) - Number(a.works) || endsSooner(a, b, plan));
}

/**
 * The one of them that a check proposes: a change of the step that is enough and has no drawback, the lesson ending soonest with it, the mildest
 * of those. Only what comes into question is planned.
 */
export function bestOffer(lesson: Lesson, stepId: string, plan: LessonPlan): (Offer & { command: 'editStep' }) | null {
  const open = offersOf(lesson, stepId, plan).flatMap((one) =>
    one.works && one.command === 'editStep' && !one.but ? [one] : [],
  );
  const planned = open.length > 1 ? open.map((one) => withEnd(lesson, one)) : open;
  return planned.sort((a, b) => endsSooner(a, b, plan))[0] ?? null;
}

const mildness = (one: Offer): number => offerKinds.indexOf(one.kind);
const endsSooner = (a: Offer, b: Offer, { plan }: LessonPlan): number => {
  const end = (one: Offer) => Math.round((one.endMin ?? plan.endMin) * 2);
  return end(a) - end(b) || mildness(a) - mildness(b);
};
const withEnd = <O extends Offer>(lesson: Lesson, one: O): O =>
  one.endMin === null ? { ...one, endMin: endWith(lesson, one) } : one;

/** All offers, none of them planned to its end. */
function offersOf(lesson: Lesson, stepId: string, plan: LessonPlan): Offer[] {
  const here = coatHere(lesson, stepId, plan);
  if (!here) return [];
  const { step, laid } = here;
  const own = plan.minutes.get(stepId) as StepMinutes;
  const takes = own.doMin - own.leadMin;
  const open = laid.staying.openMin;
  if (step.technique !== 'blend' || takes <= open) return [];
  const { mist: _, ...plain } = laid.coat;
  const openWith = (change: Partial<typeof plain>) => {
    const coat = { ...plain, ...change };
    return lesson.planning.cautious ? rangeOf(coat, lesson.room).early.openMin : timesOf(coat, lesson.room).openMin;
  };
  const edit = (change: Edit['step']) => ({ command: 'editStep' as const, args: { id: stepId, step: change } });
  const offer = (one: Omit<Offer, 'works' | 'endMin' | 'command' | 'args'>, how: object): Offer =>
    ({ ...one, works: one.takesMin <= one.openMin, endMin: null, ...how }) as Offer;
  const offers: Offer[] = [];

  const parts = Math.ceil(takes / (WORKED_SHARE * open));
  if (Number.isFinite(parts) && parts > 1 && parts <= 12) {
    const hidden = parts === 2 ? hiddenSeam(lesson, step, laid.areaId) : null;
    const places = hidden ? [hidden] : seamPlaces(lesson, laid.areaId, parts);
    offers.push(
      offer(
        {
          kind: 'divide',
          words: hidden
            ? say`in two parts, with a seam ${hidden}`
            : say`in ${parts} parts, with ${parts === 2 ? say('a seam') : say('seams')} ${seamsInWords(places)}`,
          openMin: open,
          takesMin: takes / parts,
        },
        { command: 'divideStep', args: { id: stepId, parts, places, doMin: own.doMin } },
      ),
    );
  }
  const everyMin = mistEvery(plain, lesson.room, takes);
  const misted = timesOf({ ...plain, mist: { everyMin, untilMin: takes } }, lesson.room);
  offers.push(
    offer(
      {
        kind: 'mist',
        words: say`mist it every ${everyMin} min`,
        openMin: misted.openMin,
        takesMin: takes,
        ...(misted.mist?.runs ? { but: say('so much water makes it run') } : {}),
      },
      edit({ medium: 'mist', mistEveryMin: everyMin }),
    ),
  );
  if (step.medium !== 'retarder')
    offers.push(
      offer(
        { kind: 'retarder', words: say('retarder in the paint'), openMin: openWith({ retarder: true }), takesMin: takes },
        edit({ medium: 'retarder' }),
      ),
    );
  if (step.medium !== 'gel')
    offers.push(
      offer(
        { kind: 'gel', words: say('clear gel in the paint'), openMin: openWith({ gel: true }), takesMin: takes },
        edit({ medium: 'gel' }),
      ),
    );
  if (!step.underFilm)
    offers.push(
      offer(
        { kind: 'water-film', words: say('into a film of water'), openMin: openWith({ underFilm: 'water' }), takesMin: takes },
        edit({ underFilm: 'water' }),
      ),
    );
  if (step.load !== 'generous') {
    const wetUm = laid.wetUm * (loadFactor.generous / loadFactor[step.load ?? 'normal']);
    offers.push(
      offer(
        { kind: 'load', words: say('more paint in the brush'), openMin: openWith({ wetUm }), takesMin: takes },
        edit({ load: 'generous' }),
      ),
    );
  }
  const larger = largerBrush(step);
  if (larger) {
    const proposed = (brushId: string | undefined) => {
      const { doMin: __, ...free } = { ...step, brushId: brushId as string };
      return stepMinutes(lesson, free, []).proposedDoMin ?? takes;
    };
    const doMin = Math.max(0.5, Math.round((own.doMin * proposed(larger.id)) / proposed(step.brushId) / 0.5) * 0.5);
    const change = { brushId: larger.id, ...(step.doMin === undefined ? {} : { doMin }) };
    const steps = lesson.steps.map((one) => (one === step ? { ...one, ...change } : one));
    const wider = minutesOf({ ...lesson, steps }).get(stepId) as StepMinutes;
    const takesMin = wider.doMin - wider.leadMin;
    if (takesMin < takes)
      offers.push(offer({ kind: 'brush', words: say`with the ${brushInWords(larger)}`, openMin: open, takesMin }, edit(change)));
  }
  const isEven = (lesson.room.seats ?? 2) % 2 === 0;
  if (lesson.school.teaching === 'show-then-do' && isEven)
    offers.push(
      offer(
        { kind: 'two-people', words: say('two people on one canvas, from both sides'), openMin: open, takesMin: takes / 2 },
        { command: null },
      ),
    );
  if (step.paint !== 'slow') {
    const slow = timesOf({ ...plain, paint: 'slow' }, lesson.room);
    offers.push(
      offer(
        {
          kind: 'slow',
          words: say('slow-drying paint'),
          openMin: slow.openMin,
          takesMin: takes,
          but: say`painted over only after ${minutesInWords(slow.paintOverMin)}`,
        },
        edit({ paint: 'slow' }),
      ),
    );
  }
  if (!offers.some((one) => one.works)) {
    const both = twoTogether(lesson, stepId, offers);
    if (both) offers.push(both);
  }
  return offers;
}

/** The end of the lesson with a change of one step; null for what is no such change. */
function endWith(lesson: Lesson, how: { command?: string | null; args?: { id: string; step?: Partial<Step> } }): number | null {
  const { command, args } = how;
  if (command !== 'editStep' || !args?.step) return null;
  const steps = lesson.steps.map((one) => (one.id === args.id ? { ...one, ...args.step } : one));
  return planLesson({ ...lesson, steps }).plan.endMin;
}

/** Two mild changes that are enough together, where none is by itself. */
function twoTogether(lesson: Lesson, stepId: string, offers: readonly Offer[]): Offer | null {
  const edits = offers.flatMap((one) => (one.command === 'editStep' && one.kind !== 'slow' && !one.but ? [one] : []));
  for (const [i, first] of edits.entries())
    for (const second of edits.slice(i + 1)) {
      const change = { ...first.args.step, ...second.args.step };
      // Both of one field say the same thing twice.
      if (Object.keys(change).length < Object.keys(first.args.step).length + Object.keys(second.args.step).length) continue;
      const steps = lesson.steps.map((one) => (one.id === stepId ? { ...one, ...change } : one));
      const changed = { ...lesson, steps };
      const planned = planLesson(changed);
      const laid = planned.laid.filter((one) => one.step.id === stepId);
      const own = planned.minutes.get(stepId) as StepMinutes;
      const openMin = Math.min(...laid.map((one) => one.staying.openMin));
      const takesMin = own.doMin - own.leadMin;
      if (takesMin > openMin) continue;
      return {
        kind: 'two',
        words: say`${first.words}, and ${second.words}`,
        openMin,
        takesMin,
        works: true,
        endMin: planned.plan.endMin,
        command: 'editStep',
        args: { id: stepId, step: change },
      };
    }
  return null;
}

/** A place to part an area where nobody sees the seam: behind something that runs across it and is painted over it later. */
function hiddenSeam(lesson: Lesson, step: Step, areaId: string): string | null {
  const box = outlineBox(extentsOf(lesson).find((one) => one.id === areaId)?.seen ?? []);
  if (!box) return null;
  const later = lesson.steps.slice(lesson.steps.indexOf(step) + 1).filter((one) => hides(lesson, one));
  for (const id of later.flatMap((one) => one.areaIds)) {
    const across = outlineBox(lesson.areas.find((area) => area.id === id)?.outline ?? []);
    if (!across || id === areaId) continue;
    const spans = across.x <= box.x + SEAM_RIM * box.width && across.x + across.width >= box.x + (1 - SEAM_RIM) * box.width;
    const middle = (across.y + across.height / 2 - box.y) / box.height;
    if (spans && middle > 0.25 && middle < 0.75) return say`behind ${the(areaName(lesson, id))}`;
  }
  return null;
}
const SEAM_RIM = 0.05;

/** The next wider brush of the same type, or null. */
function largerBrush(step: Step) {
  const own = brushOf(step.brushId);
  if (!own) return null;
  const wider = brushes.filter((one) => one.widthMm > own.widthMm && (one.type === own.type || one.type === 'hake'));
  return wider.sort((a, b) => a.widthMm - b.widthMm)[0] ?? null;
}

/** "5, 8 and 11 in from the left". */
function seamsInWords(places: readonly string[]): string {
  const numbers = places.map((place) => place.split(' ')[0] as string);
  return `${listInWords(numbers)} ${(places[0] ?? '').split(' ').slice(1).join(' ')}`;
}

/** Where to part an area across its longer side so that all parts are of one size: "12 cm from the top". */
export function seamPlaces(lesson: Lesson, areaId: string, parts: number): string[] {
  const seen = extentsOf(lesson).find((one) => one.id === areaId)?.seen;
  const box = seen && outlineBox(seen);
  if (!seen || !box) return [];
  const isTall = box.height > box.width;
  const slices = 240;
  const span = isTall ? box.height : box.width;
  const sums = new Array<number>(slices).fill(0);
  // Cells of one slice's size over the box, counted along the side that is parted.
  const size = span / slices;
  const rows = Math.max(1, Math.ceil(box.height / size));
  const columns = Math.max(1, Math.ceil(box.width / size));
  const moved = seen.map((part) => part.map((ring) => ring.map(([x, y]) => [x - box.x, y - box.y] as [number, number])));
  const count = (i: number, cells: number) => {
    const slice = Math.min(slices - 1, i);
    sums[slice] = (sums[slice] as number) + cells;
  };
  scanOutline(moved, columns, rows, size, (row, from, to) => {
    if (isTall) count(row, to - from + 1);
    else for (let x = from; x <= to; x++) count(x, 1);
  });
  const whole = sums.reduce((sum, one) => sum + one, 0);
  const places: string[] = [];
  let sum = 0;
  sums.forEach((one, i) => {
    sum += one;
    if (places.length >= parts - 1 || sum < (whole * (places.length + 1)) / parts) return;
    const mm = (isTall ? box.y : box.x) + (i + 1) * size;
    places.push(say`${lengthNumber(mm, lesson.units)} ${lesson.units} from the ${isTall ? say('top') : say('left')}`);
  });
  return places;
}

/** Something that makes a coat dry sooner (or keeps it), with the minutes it changes. */
export type Lever = {
  words: string;
  /** Change of the coat's own time to `rung`, and of the whole lesson; minutes, negative is sooner. */
  coatMin: number;
  lessonMin: number;
} & ({ command: 'editStep'; args: Edit } | { command: 'setRoom'; args: { room: Partial<Lesson['room']> } } | { command: null });

/**
 * What makes a coat take so long, strongest first: each lever pulled by itself and everything worked out anew. `rung` is what the next
 * step on it needs, or dry enough to paint over.
 */
export function leversOf(
  lesson: Lesson,
  stepId: string,
  plan: LessonPlan = planLesson(lesson),
): { rung: Step['needs']; levers: Lever[] } {
  const here = coatHere(lesson, stepId, plan);
  if (!here) return { rung: 'paintOver', levers: [] };
  const { step, laid } = here;
  const later = lesson.steps.slice(lesson.steps.indexOf(step) + 1);
  const next = later.find(
    (one) => areasWorkedOn(lesson, one).includes(laid.areaId) && !['any', 'wet', 'damp'].includes(one.needs),
  );
  const met = plan.contacts.find((one) => one.fromStepId === stepId && one.toStepId === next?.id && one.areaId === laid.areaId);
  const rung = met && met.need !== 'any' ? met.need : 'paintOver';
  const now = rungMinutes(rung, laid.times);
  const levers: Lever[] = [];
  const own = plan.minutes.get(stepId) as StepMinutes;
  const pull = (words: string, changed: Lesson, how: object, coatMin?: number): void => {
    const edited = changed.steps.find((one) => one.id === stepId) as Step;
    const coat = coatOf(changed, edited, laid.areaId, own, { below: undefined });
    const took = timesOf(
      { ...coat, ...(laid.coat.onWet ? { onWet: laid.coat.onWet } : {}), absorbGPerM2: laid.coat.absorbGPerM2 ?? 2 },
      changed.room,
    );
    const change = coatMin ?? rungMinutes(rung, took) - now;
    if (!Number.isFinite(change) || Math.abs(change) < 0.5) return;
    levers.push({ words, coatMin: change, lessonMin: planLesson(changed).plan.endMin - plan.plan.endMin, ...how } as Lever);
  };
  const withStep = (change: Edit['step']): Lesson => ({
    ...lesson,
    steps: lesson.steps.map((one) => (one.id === stepId ? { ...one, ...change } : one)),
  });
  const step_ = (words: string, change: Edit['step'], coatMin?: number) =>
    pull(words, withStep(change), { command: 'editStep', args: { id: stepId, step: change } }, coatMin);
  const room = (words: string, change: Partial<Lesson['room']>) =>
    pull(words, { ...lesson, room: { ...lesson.room, ...change } }, { command: 'setRoom', args: { room: change } });
  const water = step.waterShareOfMix ?? 0;
  if (water < 0.3 && laysPaint(step)) step_(say('a thinner coat, with a third of water'), { waterShareOfMix: 0.33 });
  const dryer = dryerTurn(lesson, step, laid.coat);
  if (dryer && !step.dryer) {
    const minutes = rung === 'touchDry' ? dryer.touchDryMin : dryer.paintOverMin;
    if (minutes < now) step_(say('the hair dryers, in turns'), { dryer: true }, minutes - now);
  }
  if (step.medium === 'retarder' || step.medium === 'gel') {
    const { medium: _, ...bare } = step;
    const changed = { ...lesson, steps: lesson.steps.map((one) => (one.id === stepId ? bare : one)) };
    pull(say`without ${step.medium}`, changed, { command: 'editStep', args: { id: stepId, step: {}, clear: ['medium'] } });
  }
  if (step.paint === 'slow') step_(say('ordinary paint'), { paint: 'ordinary' });
  const { airC, humidity, airSpeed } = lesson.room;
  if (airC <= 55) room(say`a room ${measuresNow().temperature === 'F' ? '5 °F' : '3 °C'} warmer`, { airC: airC + 3 });
  if (humidity >= 0.1) room(say('air drier by 10 %'), { humidity: Math.round((humidity - 0.1) * 1000) / 1000 });
  if (airSpeed < 0.3) room(say('a gentle fan, 0.3 m/s'), { airSpeed: 0.3 });
  return { rung, levers: levers.sort((a, b) => a.lessonMin - b.lessonMin || a.coatMin - b.coatMin) };
}

/** A coat of a step as it is shown by itself: its ladder, the likely range and the curves. Null where the step lays nothing. */
export function coatFacts(lesson: Lesson, stepId: string, plan: LessonPlan = planLesson(lesson)) {
  const here = coatHere(lesson, stepId, plan);
  if (!here) return null;
  const { laid, step } = here;
  const own = plan.minutes.get(stepId) as StepMinutes;
  const takes = own.doMin - own.leadMin;
  return { ...laid, stepTitle: step.title, takesMin: takes, range: rangeOf(laid.coat, lesson.room), air: airOf(lesson.room) };
}
