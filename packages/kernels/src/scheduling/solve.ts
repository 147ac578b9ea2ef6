import { conflictOf } from './conflict.js';
import { checkProblem, type Problem, type Solution } from './problem.js';
import { type Compiled, compile, TICKS, up } from './solver/compile.js';
import { append, emptyPrefix, type Gap, hasOpenWindow, type Prefix } from './solver/prefix.js';
import { type Found, search } from './solver/search.js';

export type SolveOptions = {
  maxNodes?: number;
  shouldStop?: () => boolean;
  /** How much later than the earliest end the plan may end, to change less of the instructor's order. */
  laterMin?: number;
};

const MOST_STEPS = 80;
const MOST_NODES = 20_000;
const JUDGING_NODES = 2000;

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

/** {@link solve} in pieces: yields the best plan so far with its bound, and ends early when answered with 'stop'. */
export function* solving(
  problem: Problem,
  { maxNodes = MOST_NODES, laterMin = 0 }: SolveOptions = {},
): Generator<{ end: number; lowerBound: number; nodes: number }, Solution, undefined | 'stop'> {
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
  let start: Found | null = null;
  for (const order of [steps.map((_, i) => i), greedy(compiled)]) {
    const prefix = order.length === steps.length ? inOrder(compiled, order) : null;
    const last = prefix?.sequence.at(-1);
    if (!prefix || last === undefined) continue;
    const end = prefix.starts[last] + compiled.minutes[last];
    if (!start || end < start.end) start = { prefix, end, inversions: inversionsOf(prefix.sequence) };
  }
  let nodes = 0;
  let stopped = false;
  const run = function* (goal: Parameters<typeof search>[1], from: Found | null, limit: number) {
    const work = search(compiled, goal, from, limit);
    for (;;) {
      const step = work.next();
      if (step.done) return step.value;
      const answer: undefined | 'stop' = yield {
        end: (step.value.best?.end ?? Number.POSITIVE_INFINITY) / TICKS,
        lowerBound: step.value.bound / TICKS,
        nodes: nodes + step.value.nodes,
      };
      if (answer === 'stop') {
        stopped = true;
        return step.value;
      }
    }
  };
  const first = yield* run({ kind: 'end' }, start, maxNodes);
  nodes += first.nodes;
  if (!first.best) {
    if (!first.isDone) return { ...empty, status: 'unknown', nodes, makespan: Number.POSITIVE_INFINITY };
    const needsBreaks = problem.breaks !== undefined && !isInfeasible({ ...problem, breaks: undefined as never }, 0);
    return {
      ...empty,
      nodes,
      makespan: Number.POSITIVE_INFINITY,
      conflict: needsBreaks
        ? { constraintIds: [], pins: [], shortfall: 0, needsBreaks }
        : conflictOf({ ...problem, breaks: undefined as never }, isInfeasible),
    };
  }
  let best = first.best;
  let orderProven = best.inversions === 0;
  // The end is proven: a moment to hear of it, and to stop.
  stopped ||= (yield { end: best.end / TICKS, lowerBound: first.bound / TICKS, nodes }) === 'stop';
  if (first.isDone && !orderProven && !stopped) {
    const cap = best.end + up(laterMin);
    if (start && start.end <= cap && start.inversions < best.inversions) best = start;
    const second = yield* run({ kind: 'order', cap }, best, Math.max(0, maxNodes - nodes));
    nodes += second.nodes;
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

/** One step more: without a gap if that can be, otherwise after a break, otherwise in the next session. */
function goOn(compiled: Compiled, prefix: Prefix, step: number): Prefix | null {
  const gaps: Gap[] = ['none'];
  if (prefix.sequence.length > 0) {
    if (compiled.maxStretch > 0) gaps.push('break');
    if (prefix.nights < compiled.nights && !hasOpenWindow(compiled, prefix)) gaps.push('cut');
  }
  for (const gap of gaps) {
    const made = append(compiled, prefix, step, gap);
    if (made) return made.prefix;
  }
  return null;
}

/** Times for a given order, with gaps only where they must be; null where it cannot be. */
function inOrder(compiled: Compiled, order: readonly number[]): Prefix | null {
  let prefix = emptyPrefix(compiled);
  for (const step of [...compiled.fixed, ...order.filter((one) => !compiled.fixed.includes(one))]) {
    if (compiled.before[step]?.some((one) => prefix.places[one] < 0)) return null;
    const made = goOn(compiled, prefix, step);
    if (!made) return null;
    prefix = made;
  }
  return prefix;
}

/** An order made by always taking the step that may begin first; of equals the one with the most to follow. */
function greedy(compiled: Compiled): number[] {
  let prefix = emptyPrefix(compiled);
  const tail = compiled.tail[compiled.nights] as Int32Array;
  for (let k = 0; k < compiled.count; k++) {
    let chosen: { prefix: Prefix; step: number; start: number } | null = null;
    for (let step = 0; step < compiled.count; step++) {
      if (prefix.places[step] >= 0) continue;
      if (compiled.before[step]?.some((one) => prefix.places[one] < 0)) continue;
      const made = goOn(compiled, prefix, step);
      if (!made) continue;
      const start = made.starts[step];
      const isBetter = !chosen || start < chosen.start || (start === chosen.start && tail[step] > tail[chosen.step]);
      if (isBetter) chosen = { prefix: made, step, start };
    }
    if (!chosen) break;
    prefix = chosen.prefix;
  }
  return prefix.steps === compiled.count ? prefix.sequence : [];
}

function inversionsOf(sequence: readonly number[]): number {
  let count = 0;
  sequence.forEach((step, k) => {
    for (const later of sequence.slice(k + 1)) if (later < step) count++;
  });
  return count;
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
