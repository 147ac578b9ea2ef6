import { conflictOf } from './conflict.js';
import { checkProblem, type Pin, type Problem, type Solution } from './problem.js';
import { down, TICKS, up } from './solver/compile.js';

/** S_to ≥ S_from + weight, node 0 being the start of the class. */
type Arc = {
  from: number;
  to: number;
  weight: number;
  /** The constraint or the pin (`pin:2`) that asks for it. */
  cause: string | null;
};

/**
 * Times for the steps on one group of hands, in the order given; `optimal` is claimed only where this order reaches a lower bound
 * that holds for every order. All times are multiples of a quarter
 * minute, drying rounded up and windows down. For a fixed sequence the times follow from difference constraints: the least
 * solution is the longest path, and a positive cycle means that the constraints contradict each other; then `conflict` names a
 * smallest contradictory set (deletion filter). Throws a RangeError on unknown steps or numbers that cannot be.
 */
export function solveInOrder(problem: Problem): Solution {
  const index = new Map(problem.steps.map((step, i) => [step.id, i + 1]));
  checkProblem(problem);
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

function relationArcs(problem: Problem, index: Map<string, number>, lengths: number[], slack = 0): Arc[] {
  const arcs: Arc[] = [];
  const at = (id: string) => index.get(id) as number;
  const length = (node: number) => lengths[node];
  for (const constraint of problem.constraints) {
    const from = at(constraint.from);
    const to = at(constraint.to);
    const arc = (a: number, b: number, weight: number) => arcs.push({ from: a, to: b, weight, cause: constraint.id });
    if (constraint.type === 'before') arc(from, to, length(from));
    else if (constraint.type === 'dry') arc(from, to, length(from) + up(constraint.minutes as number));
    else if (constraint.type === 'either')
      arc(
        ...(from < to
          ? ([from, to, length(from) + up(constraint.minutes as number)] as const)
          : ([to, from, length(to) + up(constraint.backMinutes as number)] as const)),
      );
    else {
      const window = down(constraint.minutes as number) + slack;
      arc(from, to, length(from));
      arc(to, from, -(length(from) + window));
      if (constraint.full) arc(to, from, length(to) - length(from) - window);
    }
  }
  for (const [k, pin] of (problem.pins ?? []).entries()) {
    const cause = `pin:${k}`;
    if ('step' in pin) {
      arcs.push({ from: 0, to: at(pin.step), weight: up(pin.start), cause });
      arcs.push({ from: at(pin.step), to: 0, weight: -up(pin.start) - slack, cause });
    } else arcs.push({ from: at(pin.first), to: at(pin.then), weight: length(at(pin.first)), cause });
  }
  for (const fixed of problem.fixed ?? []) {
    const node = at(fixed.step);
    arcs.push({ from: 0, to: node, weight: up(fixed.start), cause: null });
    arcs.push({ from: node, to: 0, weight: -up(fixed.start), cause: null });
  }
  return arcs;
}

function sequenceArcs(problem: Problem, lengths: number[]): Arc[] {
  const fixed = new Set(problem.fixed?.map((entry) => entry.step));
  return problem.steps.flatMap((step, i) => {
    const earliest = fixed.has(step.id) ? 0 : up(problem.now ?? 0);
    const arcs: Arc[] = [{ from: 0, to: i + 1, weight: earliest, cause: null }];
    if (i > 0) arcs.push({ from: i, to: i + 1, weight: lengths[i], cause: null });
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
      const reach = times[arc.from] + arc.weight;
      if (reach > times[arc.to]) {
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
          weight: lengths[at - 1] + length,
          cause: null,
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
    const gap = node > 1 ? times[node] - (times[node - 1] + lengths[node - 1]) : 0;
    if (gap >= breakLength) from = node;
    if (times[node] + lengths[node] - times[from] > longest) return { from, node };
  }
  return null;
}

function solution(problem: Problem, lengths: number[], own: Arc[], times: number[], breaks: Set<number>): Solution {
  const ends = times.map((time, node) => time + lengths[node]);
  const makespan = Math.max(0, ...ends.slice(1)) / TICKS;
  const work = lengths.reduce((sum, value) => sum + value, 0);
  const free = longestPaths(lengths.length, [
    ...problem.steps.map((_, i) => ({ from: 0, to: i + 1, weight: 0, cause: null })),
    ...own,
  ]);
  const critical = 'times' in free ? Math.max(0, ...free.times.map((time, node) => time + lengths[node]).slice(1)) : 0;
  const lowerBound = Math.max(work, critical) / TICKS;
  const proven = makespan <= lowerBound;
  return {
    status: proven ? 'optimal' : 'feasible',
    orderProven: proven,
    makespan,
    lowerBound,
    items: problem.steps.map((step, i) => ({
      step: step.id,
      start: times[i + 1] / TICKS,
      end: ends[i + 1] / TICKS,
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
  const named = new Set(cycle.map((arc) => arc.cause));
  const ofCycle = {
    ...problem,
    constraints: problem.constraints.filter((constraint) => named.has(constraint.id)),
    pins: (problem.pins ?? []).filter((_, k) => named.has(`pin:${k}`)),
  };
  // The cycle alone is not always a smallest set.
  const conflict = conflictOf(
    ofCycle,
    (fewer, slack) =>
      'cycle' in longestPaths(lengths.length, [...relationArcs(fewer, index, lengths, slack), ...sequenceArcs(fewer, lengths)]),
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
    conflict: {
      ...conflict,
      pins: conflict.pins.map((k) => (problem.pins ?? []).indexOf((ofCycle.pins as Pin[])[k] as Pin)),
      needsBreaks,
    },
  };
}
