import { ofStep, ofStudent, runNumber, SLICES_BITS, spreadOf, stir } from './draws.js';
import type { PaceModel } from './model.js';
import { HELP_SIGMA } from './play.js';

/*
 * The independent check of a class that is played: the same rules as a plain simulation, one event at a time from one list, without short
 * cuts. Slow, and read as the rules are told.
 */
type Person = {
  k: number;
  pace: number;
  at: number;
  isWorking: boolean;
  doneAt: Map<number, number>;
  restMin: number;
  helpMin: number;
};
type Event = { time: number; rank: number; order: number; does: () => void };
type Helper = { busy: boolean; isShowing: boolean };
/** A hand: the same person may raise another one later. */
type Hand = { of: Person };

/** A stop of one kind comes before others of the same minute. */
const RANK = { ask: 0, helped: 1, finish: 2, dry: 3, cap: 4, pauseOver: 5, shown: 6 } as const;

export function eventSim(model: PaceModel, seed: number, run: number) {
  const { steps } = model;
  const { n, sigma, stepSigma, factors = [], help, helpers: count = 1 } = model.students;
  const [one, two] = [runNumber(seed, run), runNumber(seed, run, true)];
  const [paces, noise, takes] = [spreadOf(sigma), spreadOf(stepSigma), spreadOf(HELP_SIGMA)];
  const of = (table: Float64Array, drawn: number) => table[drawn >>> (32 - SLICES_BITS)] as number;
  const place = new Map(steps.map((step, s) => [step.id, s]));
  const coats = steps.map((step) => step.drying.map(({ after, minutes }) => ({ after: place.get(after) as number, minutes })));
  const need = (s: number) => Math.max(1, Math.ceil((steps[s]?.gate.q ?? 1) * n - 1e-9));
  const people = Array.from({ length: n }, (_, k): Person => {
    const pace = factors[k] ?? of(paces, stir(one ^ ofStep(77) ^ ofStudent(k)));
    return { k, pace, at: 0, isWorking: false, doneAt: new Map(), restMin: 0, helpMin: 0 };
  });
  const helpers = Array.from({ length: count }, (): Helper => ({ busy: false, isShowing: false }));
  const [instructor] = helpers as [Helper];
  const events: Event[] = [];
  const [starts, opens]: [number[], number[]] = [[], []];
  let queue: Hand[] = [];
  let clearing: Hand[] = [];
  let now = 0;
  let order = 0;
  let current = -1;
  let isStep = false;
  let openedAt = 0;
  let wantsToShow = false;

  const at = (time: number, kind: keyof typeof RANK, does: () => void) =>
    events.push({ time, rank: RANK[kind], order: order++, does });
  const helpWith = (helper: Helper, hand: Hand) => {
    const person = hand.of;
    queue = queue.filter((other) => other !== hand);
    helper.busy = true;
    at(now + person.helpMin, 'helped', () => {
      helper.busy = false;
      at(now + person.restMin, 'finish', () => finish(person));
      if (wantsToShow) tryBegin();
      if (!wantsToShow) helpNext();
    });
  };
  /** Hands in their order; an assistant goes before the instructor, who keeps free for a showing. */
  const helpNext = (may: (helper: Helper, hand: Hand) => boolean = () => true) => {
    for (const helper of [...helpers].reverse()) {
      const [hand] = queue;
      if (!hand) return;
      if (!helper.busy && !helper.isShowing && may(helper, hand)) helpWith(helper, hand);
    }
  };
  const goesOn = (person: Person) => {
    if (person.isWorking || person.at > current || person.at >= steps.length) return;
    const s = person.at;
    const step = steps[s] as PaceModel['steps'][number];
    let begin = Math.max(now, (starts[s] as number) + step.showMin);
    for (const { after, minutes } of coats[s] ?? []) begin = Math.max(begin, (person.doneAt.get(after) as number) + minutes);
    const drawn = stir(one ^ ofStep(step.key) ^ ofStudent(person.k));
    const work = step.doMin * person.pace * of(noise, drawn);
    person.isWorking = true;
    if (help && step.doMin > 0 && (drawn & 65_535) < Math.round(help.chance * 65_536)) {
      const other = stir(two ^ ofStep(step.key) ^ ofStudent(person.k));
      const share = (other & 65_535) / 65_536;
      person.restMin = (1 - share) * work;
      person.helpMin = help.minutes * of(takes, other);
      at(begin + share * work, 'ask', () => {
        queue.push({ of: person });
        if (wantsToShow) helpNext((helper) => helper !== instructor);
        else helpNext();
      });
    } else at(begin + work, 'finish', () => finish(person));
  };
  const finish = (person: Person) => {
    const s = person.at;
    person.doneAt.set(s, now);
    person.at = s + 1;
    person.isWorking = false;
    goesOn(person);
    if (isStep) tryGate();
    else for (const { after, minutes } of coats[current + 1] ?? []) if (after === s) at(now + minutes, 'dry', () => undefined);
  };
  const isDry = (person: Person, s: number) =>
    (coats[s] ?? []).every(
      ({ after, minutes }) => (person.doneAt.get(after) ?? Number.POSITIVE_INFINITY) + minutes <= now + 1e-12,
    );
  const tryBegin = () => {
    const s = current + 1;
    const step = steps[s];
    if (isStep || !step || now < openedAt + step.breakMin) return;
    if (step.drying.length > 0 && people.filter((person) => isDry(person, s)).length < need(s)) return;
    if (step.showMin > 0) {
      if (!wantsToShow) [wantsToShow, clearing] = [true, [...queue]];
      const isClear = () => !instructor.busy && !clearing.some((hand) => queue.includes(hand));
      if (!isClear()) {
        helpNext((helper, hand) => helper !== instructor || clearing.includes(hand));
        if (!isClear()) return;
      }
      wantsToShow = false;
    }
    current = s;
    starts[s] = now;
    isStep = true;
    if (step.showMin > 0) {
      instructor.isShowing = true;
      at(now + step.showMin, 'shown', () => {
        instructor.isShowing = false;
        helpNext();
      });
    }
    if (step.gate.afterMin !== null) at(now + step.gate.afterMin, 'cap', () => isStep && current === s && open());
    for (const person of people) goesOn(person);
  };
  const tryGate = () => {
    if (people.filter((person) => person.doneAt.has(current)).length >= need(current)) open();
  };
  const open = () => {
    opens[current] = now;
    openedAt = now;
    isStep = false;
    const next = steps[current + 1];
    if (!next) return;
    at(now + next.breakMin, 'pauseOver', () => undefined);
    for (const person of people)
      for (const { after, minutes } of coats[current + 1] ?? []) {
        const laid = person.doneAt.get(after);
        if (laid !== undefined) at(Math.max(now, laid + minutes), 'dry', () => undefined);
      }
  };

  at(steps[0]?.breakMin ?? 0, 'pauseOver', () => undefined);
  while (events.length > 0) {
    let first = 0;
    events.forEach((event, i) => {
      const best = events[first] as Event;
      if (event.time - best.time || event.rank - best.rank || event.order - best.order) {
        if (event.time < best.time || (event.time === best.time && (event.rank - best.rank || event.order - best.order) < 0))
          first = i;
      }
    });
    const [event] = events.splice(first, 1) as [Event];
    now = event.time;
    event.does();
    tryBegin();
  }
  return { starts, opens, end: Math.max(0, ...people.flatMap((person) => [...person.doneAt.values()])) };
}
