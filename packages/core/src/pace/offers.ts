import type { FollowSheet } from '@viaticum/contract';
import { withoutSteps } from './group.js';
import type { PaceModel, PaceStep } from './model.js';
import { type PaceResult, pacing } from './simulate.js';

export type OfferKind = 'assistant' | 'dryer' | 'go-on-earlier' | 'less-over' | 'show-shorter' | 'leave-out' | 'earlier-break';
/** Something that could be done, as a model of its own; `stepIds` are those it is about. */
export type Offer = { kind: OfferKind; stepIds: string[]; model: PaceModel };
/** What an offer gains: minutes of the class's end, with the error of the mean, and the chance that the class is done in its slot. */
export type OfferGain = Offer & { savedMin: number; errorMin: number; classInSlot: number; finishInSlot: number };

/** Worth offering from so many minutes on, where it is surely more than chance. */
const LEAST_MIN = 1;
const LEAST_ERRORS = 3;
const MOST_NAMED = 3;
/** A showing of so many minutes is long. */
const LONG_SHOW_MIN = 4;
/** A pause of so many minutes is worth a dryer. */
const LONG_PAUSE_MIN = 2;

const withSteps = (model: PaceModel, change: (step: PaceStep) => PaceStep): PaceModel => ({
  ...model,
  steps: model.steps.map(change),
});
const sooner = ({ gate }: PaceStep, minutes: number): PaceStep['gate'] =>
  gate.afterMin === null ? gate : { ...gate, afterMin: Math.max(0, gate.afterMin - minutes) };

/** All that could be tried with a class; `leave` are the steps that may be left out, with their minutes and their weight in the picture. */
export function offersOf(model: PaceModel, leave: NonNullable<FollowSheet['leaveOut']> = {}): Offer[] {
  const offers: Offer[] = [
    {
      kind: 'assistant',
      stepIds: [],
      model: { ...model, students: { ...model.students, helpers: (model.students.helpers ?? 1) + 1 } },
    },
  ];
  const waited = model.steps.filter((step) => step.drying.length > 0 && step.pauseMin >= LONG_PAUSE_MIN);
  if (waited.length > 0) {
    const longest = [...waited].sort((a, b) => b.pauseMin - a.pauseMin).slice(0, MOST_NAMED);
    const coats = new Set(longest.flatMap((step) => step.drying.map(({ after }) => after)));
    offers.push({
      kind: 'dryer',
      stepIds: [...coats].slice(0, MOST_NAMED),
      model: withSteps(model, (step) => ({
        ...step,
        drying: step.drying.map((coat) => (coats.has(coat.after) ? { ...coat, minutes: coat.minutes / 2 } : coat)),
      })),
    });
  }
  if (model.steps.some((step) => step.gate.q > 0.7))
    offers.push({
      kind: 'go-on-earlier',
      stepIds: [],
      model: withSteps(model, (step) => ({ ...step, gate: { ...step.gate, q: Math.min(step.gate.q, 0.7) } })),
    });
  if (model.steps.some((step) => step.gate.afterMin !== null && step.gate.afterMin > step.showMin + step.doMin + 2))
    offers.push({
      kind: 'less-over',
      stepIds: [],
      model: withSteps(model, (step) => ({
        ...step,
        gate: { ...step.gate, afterMin: Math.min(step.gate.afterMin ?? Number.POSITIVE_INFINITY, step.showMin + step.doMin + 2) },
      })),
    });
  const shown = model.steps.filter((step) => step.doMin > 0 && step.showMin > LONG_SHOW_MIN);
  const long = new Set(shown.map((step) => step.id));
  if (shown.length > 0)
    offers.push({
      kind: 'show-shorter',
      stepIds: [...shown]
        .sort((a, b) => b.showMin - a.showMin)
        .slice(0, MOST_NAMED)
        .map(({ id }) => id),
      model: withSteps(model, (step) =>
        long.has(step.id) ? { ...step, showMin: step.showMin / 2, gate: sooner(step, step.showMin / 2) } : step,
      ),
    });
  for (const id of Object.keys(leave).filter((one) => model.steps.some((step) => step.id === one)))
    offers.push({ kind: 'leave-out', stepIds: [id], model: withoutSteps(model, [id]) });
  const moved = breakMoved(model);
  if (moved) offers.push(moved);
  return offers;
}

/** The break moved onto the nearest pause for paint, which then hides some of it. */
function breakMoved(model: PaceModel): Offer | null {
  const from = model.steps.findIndex((step) => step.breakMin > 0 && step.pauseMin < LONG_PAUSE_MIN);
  if (from < 0) return null;
  const to = model.steps
    .map((step, s) => ({ s, away: Math.abs(s - from), waits: step.pauseMin }))
    .filter(({ s, waits }) => s !== from && s > 0 && waits >= LONG_PAUSE_MIN)
    .sort((a, b) => a.away - b.away || b.waits - a.waits)[0];
  if (!to) return null;
  const { breakMin } = model.steps[from] as PaceStep;
  return {
    kind: 'earlier-break',
    stepIds: [(model.steps[to.s] as PaceStep).id],
    model: {
      ...model,
      steps: model.steps.map((step, s) =>
        s === from ? { ...step, breakMin: 0 } : s === to.s ? { ...step, breakMin: step.breakMin + breakMin } : step,
      ),
    },
  };
}

/** What an offer gains over a class as it is, run by run with the same chances. */
export function gainOf(offer: Offer, base: PaceResult, result: PaceResult): OfferGain {
  const runs = Math.min(base.gates.length, result.gates.length);
  let [sum, squares] = [0, 0];
  for (let run = 0; run < runs; run++) {
    const saved = (base.gates[run] as number) - (result.gates[run] as number);
    sum += saved;
    squares += saved * saved;
  }
  const savedMin = sum / runs;
  const variance = runs > 1 ? Math.max(0, (squares - runs * savedMin * savedMin) / (runs - 1)) : 0;
  return {
    ...offer,
    savedMin,
    errorMin: Math.sqrt(variance / runs),
    classInSlot: result.classInSlot,
    finishInSlot: result.finishInSlot,
  };
}
const isWorth = ({ savedMin, errorMin }: OfferGain): boolean => savedMin >= LEAST_MIN && savedMin >= LEAST_ERRORS * errorMin;

/**
 * What helps, the most first: only what surely gains a minute. Steps that may be left out are tried one by one, then together, the one that
 * takes least from the picture for a minute first, as long as each adds a minute. Yields the share of the work done.
 */
export function* whatHelps(
  model: PaceModel,
  base: PaceResult,
  leave: NonNullable<FollowSheet['leaveOut']>,
  { runs, seed }: { runs: number; seed: number },
): Generator<number, OfferGain[]> {
  const offers = offersOf(model, leave);
  const most = offers.length + Object.keys(leave).length;
  const found: OfferGain[] = [];
  const leaving: OfferGain[] = [];
  let done = 0;
  const tried = function* (offer: Offer): Generator<number, OfferGain> {
    const work = pacing(offer.model, { runs, seed });
    for (;;) {
      const step = work.next();
      if (step.done) {
        done++;
        return gainOf(offer, base, step.value);
      }
      yield Math.min(1, (done + step.value) / most);
    }
  };
  for (const offer of offers) {
    const gain = yield* tried(offer);
    if (!isWorth(gain)) continue;
    if (offer.kind === 'leave-out') leaving.push(gain);
    else found.push(gain);
  }
  const cost = ({ stepIds: [id = ''], savedMin }: OfferGain) => (leave[id]?.weight ?? 0) / savedMin;
  leaving.sort((a, b) => cost(a) - cost(b));
  found.push(...leaving);
  let set: OfferGain | undefined = leaving[0];
  for (const next of leaving.slice(1, MOST_NAMED)) {
    if (!set) break;
    const stepIds: string[] = [...set.stepIds, ...next.stepIds];
    const both: OfferGain = yield* tried({ kind: 'leave-out', stepIds, model: withoutSteps(model, stepIds) });
    if (both.savedMin < set.savedMin + LEAST_MIN) break;
    set = both;
  }
  if (set && set.stepIds.length > 1) found.push(set);
  return found.sort((a, b) => b.savedMin - a.savedMin);
}
