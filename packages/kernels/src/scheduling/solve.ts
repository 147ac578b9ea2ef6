import { conflictOf } from './conflict.js';
import { checkProblem, type Problem, type Solution } from './problem.js';
import { type Compiled, compile, TICKS, up } from './solver/compile.js';
import { firstPlan, improve } from './solver/improve.js';
import { boundOfAll, type Found, type Goal, type SearchState, search } from './solver/search.js';

export type SolveOptions = {
  maxNodes?: number;
  shouldStop?: () => boolean;
  /** How much later than the earliest end the plan may end, to change less of the instructor's order. */
  laterMin?: number;
};

const MOST_STEPS = 80;
const MOST_NODES = 20_000;
const JUDGING_NODES = 2000;
/** Longer lessons are first made better part by part, with at most this share of the nodes. */
const PARTED_ABOVE = 12;
const PARTS_SHARE = 0.5;

/**
 * The timetable that ends soonest, over all orders, for one group of hands; among those the one nearest to the instructor's
 * order. `optimal` and `orderProven` are proven by search; where `maxNodes` (or `shouldStop`) ends it early the status is
 * `feasible` and `lowerBound` is what no plan can beat. Infeasible problems name a smallest contradictory set of constraints.
 * All times are whole quarter minutes, drying rounded up and windows down. Throws a RangeError on unknown steps or numbers that
 * cannot be, and on more than 80 steps (plan those by their stages).
 */
export function solve(problem: Problem, options: SolveOptions = {}): Solution {
  const work = solving(problem, options);
  let step = work.next();
  while (!step.done) step = work.next(options.shouldStop?.() ? 'stop' : undefined);
  return step.value;
}

type Progress = { end: number; lowerBound: number; nodes: number };

/** {@link solve} in pieces: yields the best plan so far with its bound, and ends early when answered with 'stop'. */
export function* solving(
  problem: Problem,
  { maxNodes = MOST_NODES, laterMin = 0 }: SolveOptions = {},
): Generator<Progress, Solution, undefined | 'stop'> {
  checkProblem(problem);
  const { steps } = problem;
  if (steps.length === 0) return { ...empty, status: 'optimal', orderProven: true };
  if (steps.length > MOST_STEPS)
    throw new RangeError(`A plan of ${steps.length} steps is too long to be searched. Plan it by its stages, or join steps.`);
  const compiled = compile(problem);
  if (!compiled)
    return {
      ...empty,
      makespan: Number.POSITIVE_INFINITY,
      conflict: conflictOf(problem, (one, slack) => compile(one, slack) === null),
    };
  let nodes = 0;
  let stopped = false;
  /** Runs a part of the search and tells how far it is, until it ends or is told to stop. */
  const heard = function* (work: Generator<SearchState, SearchState>): Generator<Progress, SearchState, undefined | 'stop'> {
    let step = work.next();
    while (!step.done && !stopped) {
      stopped = (yield progress(step.value, nodes)) === 'stop';
      if (!stopped) step = work.next();
    }
    nodes += step.value.nodes;
    return step.value;
  };
  /** A good plan is made better part by part before all orders are searched. */
  const sought = function* (goal: Goal, from: Found | null, bound: number): Generator<Progress, SearchState, undefined | 'stop'> {
    let start = from;
    if (start && steps.length > PARTED_ABOVE)
      start = (yield* heard(improve(compiled, goal, start, bound, (maxNodes - nodes) * PARTS_SHARE))).best;
    if (stopped) return { best: start, bound, nodes, isDone: false };
    return yield* heard(search(compiled, goal, start, Math.max(0, maxNodes - nodes)));
  };
  const { own, best: dived } = firstPlan(compiled);
  const first = yield* sought({ kind: 'end' }, dived, boundOfAll(compiled));
  if (!first.best) {
    if (!first.isDone) return { ...empty, status: 'unknown', nodes, makespan: Number.POSITIVE_INFINITY };
    return { ...empty, nodes, makespan: Number.POSITIVE_INFINITY, conflict: whyImpossible(problem) };
  }
  let best = first.best;
  let orderProven = best.inversions === 0;
  // The end is proven: a moment to hear of it, and to stop.
  stopped ||= (yield progress(first, nodes)) === 'stop';
  if (!orderProven && !stopped) {
    const cap = best.end + up(laterMin);
    if (own && own.end <= cap) best = own;
    const second = yield* sought({ kind: 'order', cap }, best, first.bound);
    orderProven = second.isDone;
    if (second.best) best = second.best;
  }
  return asSolution(problem, compiled, best, {
    proven: first.isDone,
    orderProven: first.isDone && orderProven,
    bound: first.bound,
    nodes,
  });
}

const progress = ({ best, bound }: SearchState, nodes: number): Progress => ({
  end: (best?.end ?? Number.POSITIVE_INFINITY) / TICKS,
  lowerBound: bound / TICKS,
  nodes,
});

/** What contradicts what in a problem that no order solves. */
function whyImpossible(problem: Problem): NonNullable<Solution['conflict']> {
  const withoutBreaks: Problem = { ...problem, breaks: undefined as never };
  return problem.breaks !== undefined && !isInfeasible(withoutBreaks, 0)
    ? { constraintIds: [], pins: [], shortfall: 0, needsBreaks: true }
    : conflictOf(withoutBreaks, isInfeasible);
}

const empty: Solution = {
  status: 'infeasible',
  orderProven: false,
  makespan: 0,
  lowerBound: 0,
  items: [],
  dryerUses: [],
  idle: 0,
  inversions: 0,
  nodes: 0,
};

/** Judges a problem by search; one that cannot be judged within a few thousand nodes is taken to be possible. */
function isInfeasible(problem: Problem, slack: number): boolean {
  const compiled = compile(problem, slack);
  if (!compiled) return true;
  const work = search(compiled, { kind: 'end' }, null, JUDGING_NODES);
  let step = work.next();
  while (!step.done && !step.value.best) step = work.next();
  return step.done === true && step.value.isDone && !step.value.best;
}

function asSolution(
  problem: Problem,
  { minutes, count, dryerOf }: Compiled,
  { prefix, end, inversions }: Found,
  { proven, orderProven, bound, nodes }: { proven: boolean; orderProven: boolean; bound: number; nodes: number },
): Solution {
  const { length: breakLength = 0 } = problem.breaks ?? {};
  const items: Solution['items'] = [];
  const dryerUses: Solution['dryerUses'] = [];
  let work = 0;
  prefix.sequence.forEach((node, k) => {
    const start = prefix.starts[node];
    const times = { start: start / TICKS, end: (start + minutes[node]) / TICKS };
    work += minutes[node];
    const idOf = (step: number) => (problem.steps[step] as { id: string }).id;
    if (node >= count) {
      dryerUses.push({ step: idOf(dryerOf.indexOf(node)), ...times });
      return;
    }
    const before = prefix.sequence[k - 1];
    const gap = before === undefined ? 0 : start - prefix.starts[before] - minutes[before];
    const isBreak = problem.breaks !== undefined && before !== undefined && gap >= up(breakLength);
    items.push({ step: idOf(node), ...times, gapBefore: prefix.gaps[k] === 'cut' ? 'cut' : isBreak ? 'break' : 'none' });
  });
  return {
    status: proven ? 'optimal' : 'feasible',
    orderProven,
    makespan: end / TICKS,
    lowerBound: Math.min(bound, end) / TICKS,
    items,
    dryerUses,
    idle: (end - work) / TICKS,
    inversions,
    nodes,
  };
}
