/** A wait, an order or a window between two steps; minutes. */
export type DryingConstraint = {
  id: string;
  /** `either`: the two may come in any order; whichever is second waits. */
  type: 'before' | 'dry' | 'wet' | 'either';
  from: string;
  to: string;
  /** `dry` and `either`: least wait from the end of `from` to the start of `to`; `wet`: greatest. */
  minutes?: number;
  /** `either` only: least wait from the end of `to` to the start of `from`, where `to` comes first. */
  backMinutes?: number;
  /** `wet` only: `to` must also end within the window. */
  full?: boolean;
  source: string;
};
export type Pin = { step: string; start: number } | { first: string; then: string };

/** A planning problem: steps in the instructor's order, minutes everywhere. */
export type Problem = {
  steps: { id: string; minutes: number }[];
  constraints: DryingConstraint[];
  /** A stretch from the first step after a gap of at least `length` to the last before the next lasts at most `maxStretch`. */
  breaks?: { length: number; maxStretch: number };
  /**
   * A dryer dries the coat of a step in so many minutes. Where it `occupies` the hands it is one more piece of work after that
   * step, done where it helps; otherwise it only shortens the wait. Never while something must still go into that coat wet.
   */
  dryer?: { perStep: Record<string, number>; occupies: boolean };
  /** At most `max` sessions of at most `limit` minutes; the night between two clears waits for drying, and no window may cross it. */
  sessions?: { max: number; limit: number };
  now?: number;
  fixed?: { step: string; start: number; end: number }[];
  pins?: Pin[];
};

/** A smallest set of constraints and pins (by their place in the list) that cannot hold together, and the minutes missing. */
export type Conflict = { constraintIds: string[]; pins: number[]; shortfall: number; needsBreaks: boolean };

export type Solution = {
  status: 'optimal' | 'feasible' | 'infeasible' | 'unknown';
  orderProven: boolean;
  makespan: number;
  lowerBound: number;
  items: { step: string; start: number; end: number; gapBefore: 'none' | 'break' | 'cut' }[];
  dryerUses: { step: string; start: number; end: number }[];
  idle: number;
  inversions: number;
  nodes: number;
  conflict?: Conflict;
};

/** Throws a RangeError with a sentence on unknown steps and numbers that cannot be. */
export function checkProblem(problem: Problem): void {
  const names = new Set(problem.steps.map((step) => step.id));
  if (names.size !== problem.steps.length) throw new RangeError('Two steps have the same id.');
  const isLength = (value: unknown) => typeof value === 'number' && value >= 0 && Number.isFinite(value);
  for (const step of problem.steps)
    if (!isLength(step.minutes)) throw new RangeError(`Step “${step.id}” needs a duration of 0 minutes or more.`);
  const known = (id: string) => {
    if (!names.has(id)) throw new RangeError(`A constraint names the step “${id}”, which is not in the plan.`);
  };
  for (const constraint of problem.constraints) {
    known(constraint.from);
    known(constraint.to);
    const isBackUnknown = constraint.type === 'either' && !isLength(constraint.backMinutes);
    if (constraint.type !== 'before' && (!isLength(constraint.minutes) || isBackUnknown))
      throw new RangeError(`DryingConstraint “${constraint.id}” needs minutes of 0 or more.`);
  }
  for (const fixed of problem.fixed ?? []) {
    known(fixed.step);
    if (!isLength(fixed.start) || !(fixed.end >= fixed.start))
      throw new RangeError(`Step “${fixed.step}” cannot have ended before it began.`);
  }
  for (const pin of problem.pins ?? []) {
    for (const id of 'step' in pin ? [pin.step] : [pin.first, pin.then]) known(id);
    if ('step' in pin && !isLength(pin.start)) throw new RangeError(`The pin of step “${pin.step}” needs a minute of 0 or more.`);
  }
  const { breaks, dryer, sessions } = problem;
  if (breaks && !(isLength(breaks.length) && isLength(breaks.maxStretch) && breaks.maxStretch > 0))
    throw new RangeError('Breaks need a length of 0 minutes or more, and a stretch above 0 between them.');
  if (sessions && !(Number.isInteger(sessions.max) && sessions.max >= 1 && isLength(sessions.limit) && sessions.limit > 0))
    throw new RangeError('Sessions need a whole number of at least 1, and a length above 0 minutes.');
  for (const [id, minutes] of Object.entries(dryer?.perStep ?? {})) {
    known(id);
    if (!isLength(minutes)) throw new RangeError(`Drying step “${id}” with the dryer needs 0 minutes or more.`);
  }
}
