import { compile, down, TICKS, up } from './solver/compile.js';
import { append, type Prefix } from './solver/prefix.js';
import { type Found, search } from './solver/search.js';

/** A planning problem: steps in the instructor's order, minutes everywhere. */
export type Relation = {
  id: string;
  type: 'before' | 'dry' | 'wet';
  from: string;
  to: string;
  /** `dry`: least wait from the end of `from` to the start of `to`; `wet`: greatest. */
  minutes?: number;
  /** `wet` only: `to` must also end within the window. */
  full?: boolean;
  source: string;
};
export type Problem = {
  steps: { id: string; minutes: number }[];
  relations: Relation[];
  breaks?: { length: number; maxStretch: number };
  now?: number;
  fixed?: { step: string; start: number; end: number }[];
  pins?: ({ step: string; start: number } | { first: string; then: string })[];
};
export type Solution = {
  status: 'optimal' | 'feasible' | 'infeasible' | 'unknown';
  orderProven: boolean;
  makespan: number;
  lowerBound: number;
  items: { step: string; start: number; end: number; gapBefore: 'none' | 'break' | 'cut' }[];
  dryerUses: string[];
  idle: number;
  inversions: number;
  nodes: number;
  conflict?: { relationIds: string[]; shortfall: number; needsBreaks: boolean };
};
export type SolveOptions = { maxNodes?: number; shouldStop?: () => boolean };

/** S_to ≥ S_from + weight, node 0 being the start of the class. */
type Arc = { from: number; to: number; weight: number; relation: string | null };

/**
 * Times for the steps on one group of hands, in the order given; `optimal` is claimed only where this order reaches a lower bound
 * that holds for every order. All times are multiples of a quarter
 * minute, drying rounded up and windows down. For a fixed sequence the times follow from difference constraints: the least
 * solution is the longest path, and a positive cycle means that the relations contradict each other; then `conflict` names a
 * smallest contradictory set (deletion filter). Throws a RangeError on unknown steps or numbers that cannot be.
 */
export function solveInOrder(problem: Problem): Solution {
  const index = new Map(problem.steps.map((step, i) => [step.id, i + 1]));
  checkProblem(problem, index);
  const past = new Map(problem.fixed?.map((entry) => [entry.step, up(entry.end) - up(entry.start)]));
  const lengths = [0, ...problem.steps.map((step) => past.get(step.id) ?? up(step.minutes))];
  const own = relationArcs(problem, index, lengths);
  const sequence = sequenceArcs(problem, lengths);
  const base = [...own, ...sequence];
  const first = longestPaths(lengths.length, base);
  if ('cycle' in first) return infeasible(problem, index, lengths, first.cycle, false);
  const withBreaks = problem.breaks
    ? placeBreaks(problem, lengths, base, first.times)
    : { times: first.times, breaks: new Set<number>() };
  if (!withBreaks) return { ...infeasible(problem, index, lengths, [], true) };
  return solution(problem, lengths, own, withBreaks.times, withBreaks.breaks);
}

const MOST_STEPS = 80;
const MOST_NODES = 20_000;

/**
 * The timetable that ends soonest, over all orders, for one group of hands; among those the one nearest to the instructor's
 * order. `optimal` and `orderProven` are proven by search; where `maxNodes` (or `shouldStop`) ends it early the status is
 * `feasible` and `lowerBound` is what no plan can beat. Infeasible problems name a smallest contradictory set of relations.
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
  { maxNodes = MOST_NODES }: SolveOptions = {},
): Generator<{ end: number; lowerBound: number; nodes: number }, Solution, undefined | 'stop'> {
  const index = new Map(problem.steps.map((step, i) => [step.id, i + 1]));
  checkProblem(problem, index);
  const { steps } = problem;
  if (steps.length === 0) return { ...empty, status: 'optimal', orderProven: true };
  if (steps.length > MOST_STEPS)
    throw new RangeError(`A plan of ${steps.length} steps is too long to be searched. Plan it by its stages, or join steps.`);
  const compiled = compile(problem);
  if (!compiled)
    return { ...empty, makespan: Number.POSITIVE_INFINITY, conflict: conflictOf(problem, (one) => compile(one) === null) };
  let start: Found | null = null;
  for (const order of [steps.map((_, i) => i), greedy(compiled)]) {
    const prefix = inOrder(compiled, order);
    const last = prefix?.sequence.at(-1);
    if (!prefix || last === undefined) continue;
    const end = (prefix.starts[last] as number) + (compiled.minutes[last] as number);
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
    const without =
      problem.breaks && steps.length > 0 ? solve({ ...problem, breaks: undefined as never }, { maxNodes: 2000 }) : null;
    const needsBreaks = without !== null && without.status !== 'infeasible';
    const isIn = (one: Problem) => solve(one, { maxNodes: 2000 }).status === 'infeasible';
    return {
      ...empty,
      nodes,
      makespan: Number.POSITIVE_INFINITY,
      conflict: needsBreaks
        ? { relationIds: [], shortfall: 0, needsBreaks }
        : conflictOf({ ...problem, breaks: undefined as never }, isIn),
    };
  }
  let best = first.best;
  let orderProven = best.inversions === 0;
  if (first.isDone && !orderProven && !stopped) {
    const second = yield* run({ kind: 'order', cap: best.end }, best, Math.max(0, maxNodes - nodes));
    nodes += second.nodes;
    orderProven = second.isDone;
    if (second.best) best = second.best;
  }
  return asSolution(problem, compiled.minutes, best, {
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

/** A smallest set of relations that contradict each other, by leaving out one after the other (deletion filter, Chinneck; from memory). */
function conflictOf(problem: Problem, isInfeasible: (problem: Problem) => boolean): NonNullable<Solution['conflict']> {
  let { relations } = problem;
  for (const relation of [...relations]) {
    const fewer = relations.filter((one) => one !== relation);
    if (isInfeasible({ ...problem, relations: fewer })) relations = fewer;
  }
  return { relationIds: relations.map((relation) => relation.id), shortfall: 0, needsBreaks: false };
}

/** Times for a given order, with a break wherever the next step would make the stretch too long; null where it cannot be. */
function inOrder(compiled: NonNullable<ReturnType<typeof compile>>, order: readonly number[]): Prefix | null {
  let prefix: Prefix = { sequence: [], isBreak: [], starts: new Int32Array(compiled.count), stretches: [] };
  for (const step of [...compiled.fixed, ...order.filter((one) => !compiled.fixed.includes(one))]) {
    if (compiled.before[step]?.some((one) => !prefix.sequence.includes(one))) return null;
    const made = append(compiled, prefix, step, false) ?? (compiled.maxStretch > 0 ? append(compiled, prefix, step, true) : null);
    if (!made) return null;
    prefix = made.prefix;
  }
  return prefix;
}

/** An order made by always taking the step that may begin first; of equals the one with the most to follow. */
function greedy(compiled: NonNullable<ReturnType<typeof compile>>): number[] {
  let prefix: Prefix = { sequence: [], isBreak: [], starts: new Int32Array(compiled.count), stretches: [] };
  for (let k = 0; k < compiled.count; k++) {
    let chosen: { prefix: Prefix; step: number; start: number } | null = null;
    for (let step = 0; step < compiled.count; step++) {
      if (prefix.sequence.includes(step) || compiled.before[step]?.some((one) => !prefix.sequence.includes(one))) continue;
      const made =
        append(compiled, prefix, step, false) ?? (compiled.maxStretch > 0 && k > 0 ? append(compiled, prefix, step, true) : null);
      if (!made) continue;
      const start = made.prefix.starts[step] as number;
      const isBetter =
        !chosen ||
        start < chosen.start ||
        (start === chosen.start && (compiled.tail[step] as number) > (compiled.tail[chosen.step] as number));
      if (isBetter) chosen = { prefix: made.prefix, step, start };
    }
    if (!chosen) break;
    prefix = chosen.prefix;
  }
  return prefix.sequence.length === compiled.count ? prefix.sequence : [];
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
  minutes: Int32Array,
  { prefix, end, inversions }: Found,
  { proven, orderProven, bound, nodes }: { proven: boolean; orderProven: boolean; bound: number; nodes: number },
): Solution {
  const work = minutes.reduce((sum, one) => sum + one, 0);
  const { length: breakLength = 0 } = problem.breaks ?? {};
  return {
    status: proven ? 'optimal' : 'feasible',
    orderProven,
    makespan: end / TICKS,
    lowerBound: Math.min(bound, end) / TICKS,
    items: prefix.sequence.map((step, k) => {
      const start = prefix.starts[step] as number;
      const before = prefix.sequence[k - 1];
      const gap = before === undefined ? 0 : start - (prefix.starts[before] as number) - (minutes[before] as number);
      return {
        step: (problem.steps[step] as { id: string }).id,
        start: start / TICKS,
        end: (start + (minutes[step] as number)) / TICKS,
        gapBefore: problem.breaks && before !== undefined && gap >= up(breakLength) ? 'break' : 'none',
      };
    }),
    dryerUses: [],
    idle: (end - work) / TICKS,
    inversions,
    nodes,
  };
}

function checkProblem(problem: Problem, index: Map<string, number>): void {
  if (index.size !== problem.steps.length) throw new RangeError('Two steps have the same id.');
  for (const step of problem.steps) {
    if (!(step.minutes >= 0 && Number.isFinite(step.minutes)))
      throw new RangeError(`Step “${step.id}” needs a duration of 0 minutes or more.`);
  }
  const known = (id: string) => {
    if (!index.has(id)) throw new RangeError(`A relation names the step “${id}”, which is not in the plan.`);
  };
  for (const relation of problem.relations) {
    known(relation.from);
    known(relation.to);
    if (relation.type !== 'before' && !(Number(relation.minutes) >= 0 && Number.isFinite(relation.minutes))) {
      throw new RangeError(`Relation “${relation.id}” needs minutes of 0 or more.`);
    }
  }
  for (const fixed of problem.fixed ?? []) known(fixed.step);
  for (const pin of problem.pins ?? []) for (const id of 'step' in pin ? [pin.step] : [pin.first, pin.then]) known(id);
}

function relationArcs(problem: Problem, index: Map<string, number>, lengths: number[]): Arc[] {
  const arcs: Arc[] = [];
  const at = (id: string) => index.get(id) as number;
  const length = (node: number) => lengths[node] as number;
  for (const relation of problem.relations) {
    const from = at(relation.from);
    const to = at(relation.to);
    const arc = (a: number, b: number, weight: number) => arcs.push({ from: a, to: b, weight, relation: relation.id });
    if (relation.type === 'before') arc(from, to, length(from));
    else if (relation.type === 'dry') arc(from, to, length(from) + up(relation.minutes as number));
    else {
      const window = down(relation.minutes as number);
      arc(from, to, length(from));
      arc(to, from, -(length(from) + window));
      if (relation.full) arc(to, from, length(to) - length(from) - window);
    }
  }
  for (const pin of problem.pins ?? []) {
    if ('step' in pin) {
      arcs.push({ from: 0, to: at(pin.step), weight: up(pin.start), relation: null });
      arcs.push({ from: at(pin.step), to: 0, weight: -up(pin.start), relation: null });
    } else arcs.push({ from: at(pin.first), to: at(pin.then), weight: length(at(pin.first)), relation: null });
  }
  for (const fixed of problem.fixed ?? []) {
    const node = at(fixed.step);
    arcs.push({ from: 0, to: node, weight: up(fixed.start), relation: null });
    arcs.push({ from: node, to: 0, weight: -up(fixed.start), relation: null });
  }
  return arcs;
}

function sequenceArcs(problem: Problem, lengths: number[]): Arc[] {
  const fixed = new Set(problem.fixed?.map((entry) => entry.step));
  return problem.steps.flatMap((step, i) => {
    const earliest = fixed.has(step.id) ? 0 : up(problem.now ?? 0);
    const arcs: Arc[] = [{ from: 0, to: i + 1, weight: earliest, relation: null }];
    if (i > 0) arcs.push({ from: i, to: i + 1, weight: lengths[i] as number, relation: null });
    return arcs;
  });
}

/** Longest paths from node 0 (Bellman-Ford), or the arcs of a positive cycle. */
function longestPaths(count: number, arcs: Arc[]): { times: number[] } | { cycle: Arc[] } {
  const times = new Array<number>(count).fill(Number.NEGATIVE_INFINITY);
  const via = new Array<Arc | null>(count).fill(null);
  times[0] = 0;
  for (let round = 0; round <= count; round++) {
    let last: Arc | null = null;
    for (const arc of arcs) {
      const reach = (times[arc.from] as number) + arc.weight;
      if (reach > (times[arc.to] as number)) {
        times[arc.to] = reach;
        via[arc.to] = arc;
        last = arc;
      }
    }
    if (!last) return { times };
    if (round === count) return { cycle: cycleThrough(last, via, count) };
  }
  return { times };
}

function cycleThrough(arc: Arc, via: (Arc | null)[], count: number): Arc[] {
  let node = arc.to;
  for (let i = 0; i < count; i++) node = via[node]?.from ?? node;
  const cycle: Arc[] = [];
  let at = node;
  do {
    const step = via[at];
    if (!step) break;
    cycle.push(step);
    at = step.from;
  } while (at !== node && cycle.length <= count);
  return cycle;
}

/** Puts a break before the latest step that still keeps every stretch short enough; null where none fits. */
function placeBreaks(
  problem: Problem,
  lengths: number[],
  base: Arc[],
  start: number[],
): { times: number[]; breaks: Set<number> } | null {
  const length = up((problem.breaks as { length: number }).length);
  const longest = up((problem.breaks as { maxStretch: number }).maxStretch);
  const breaks = new Set<number>();
  let times = start;
  for (let round = 0; round <= lengths.length; round++) {
    const over = overlongStretch(times, lengths, length, longest);
    if (!over) return { times, breaks };
    let placed = false;
    for (let node = over.node; node > over.from && !placed; node--) {
      const arcs = [
        ...base,
        ...[...breaks, node].map((at) => ({
          from: at - 1,
          to: at,
          weight: (lengths[at - 1] as number) + length,
          relation: null,
        })),
      ];
      const tried = longestPaths(lengths.length, arcs);
      if ('cycle' in tried) continue;
      breaks.add(node);
      times = tried.times;
      placed = true;
    }
    if (!placed) return null;
  }
  return null;
}

function overlongStretch(
  times: number[],
  lengths: number[],
  breakLength: number,
  longest: number,
): { from: number; node: number } | null {
  let from = 1;
  for (let node = 1; node < times.length; node++) {
    const gap = node > 1 ? (times[node] as number) - ((times[node - 1] as number) + (lengths[node - 1] as number)) : 0;
    if (gap >= breakLength) from = node;
    if ((times[node] as number) + (lengths[node] as number) - (times[from] as number) > longest) return { from, node };
  }
  return null;
}

function solution(problem: Problem, lengths: number[], own: Arc[], times: number[], breaks: Set<number>): Solution {
  const ends = times.map((time, node) => time + (lengths[node] as number));
  const makespan = Math.max(0, ...ends.slice(1)) / TICKS;
  const work = lengths.reduce((sum, value) => sum + value, 0);
  const free = longestPaths(lengths.length, [
    ...problem.steps.map((_, i) => ({ from: 0, to: i + 1, weight: 0, relation: null })),
    ...own,
  ]);
  const critical =
    'times' in free ? Math.max(0, ...free.times.map((time, node) => time + (lengths[node] as number)).slice(1)) : 0;
  const lowerBound = Math.max(work, critical) / TICKS;
  const proven = makespan <= lowerBound;
  return {
    status: proven ? 'optimal' : 'feasible',
    orderProven: proven,
    makespan,
    lowerBound,
    items: problem.steps.map((step, i) => ({
      step: step.id,
      start: (times[i + 1] as number) / TICKS,
      end: (ends[i + 1] as number) / TICKS,
      gapBefore: breaks.has(i + 1) ? 'break' : 'none',
    })),
    dryerUses: [],
    idle: makespan - work / TICKS,
    inversions: 0,
    nodes: 1,
  };
}

function infeasible(
  problem: Problem,
  index: Map<string, number>,
  lengths: number[],
  cycle: Arc[],
  needsBreaks: boolean,
): Solution {
  const named = new Set(cycle.map((arc) => arc.relation));
  // The cycle alone is not always a smallest set.
  const { relationIds } = conflictOf(
    { ...problem, relations: problem.relations.filter((relation) => named.has(relation.id)) },
    (fewer) => 'cycle' in longestPaths(lengths.length, [...relationArcs(fewer, index, lengths), ...sequenceArcs(fewer, lengths)]),
  );
  return {
    status: 'infeasible',
    orderProven: false,
    makespan: Number.POSITIVE_INFINITY,
    lowerBound: 0,
    items: [],
    dryerUses: [],
    idle: 0,
    inversions: 0,
    nodes: 1,
    conflict: { relationIds, shortfall: cycle.reduce((sum, arc) => sum + arc.weight, 0) / TICKS, needsBreaks },
  };
}
