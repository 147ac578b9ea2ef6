import { type Compiled, NEVER } from './compile.js';
import { append, type Prefix, pathsFrom } from './prefix.js';

export type Found = { prefix: Prefix; end: number; inversions: number };
export type SearchState = { best: Found | null; bound: number; nodes: number; isDone: boolean };
type Node = { prefix: Prefix; end: number; bound: number; inversions: number; isPushed: boolean };

/** What is sought: the earliest end, or, with the end capped, the fewest changes to the given order. */
export type Goal = { kind: 'end' } | { kind: 'order'; cap: number };

const YIELD_NODES = 500;
const none: Prefix = { sequence: [], isBreak: [], starts: new Int32Array(0), stretches: [] };

/**
 * Depth-first branch and bound over sequences on one group of hands (Carlier 1982, Bartusch and others 1988, Brucker and others
 * 1999; from memory). Exact: with no limit it ends with a proven best. A prefix is left where a bound cannot beat the best, or
 * where one of the same steps is no worse in every respect: its end, the earliest starts it leaves, and the longest paths from
 * every step that may still be pushed later. Yields every few hundred nodes; deterministic.
 */
export function* search(
  problem: Compiled,
  goal: Goal,
  start: Found | null,
  maxNodes: number,
): Generator<SearchState, SearchState> {
  const { count } = problem;
  let best = start;
  let nodes = 0;
  const memo = new Map<string, Int32Array[]>();
  const root: Node = { prefix: { ...none, starts: new Int32Array(count) }, end: 0, bound: 0, inversions: 0, isPushed: false };
  const stack: { children: Node[]; next: number }[] = [{ children: [root], next: 0 }];
  const limitOf = () => (goal.kind === 'end' ? (best ? best.end : Number.POSITIVE_INFINITY) : goal.cap + 1);
  const isWorse = (node: Node) =>
    node.bound >= limitOf() || (goal.kind === 'order' && best !== null && node.inversions >= best.inversions);
  const openBound = () => {
    let least = best ? best.end : Number.POSITIVE_INFINITY;
    for (const frame of stack)
      for (let i = frame.next; i < frame.children.length; i++) least = Math.min(least, (frame.children[i] as Node).bound);
    return least;
  };
  let since = 0;
  while (stack.length > 0) {
    const frame = stack.at(-1) as (typeof stack)[number];
    const node = frame.children[frame.next++];
    if (!node) {
      stack.pop();
      continue;
    }
    if (isWorse(node)) continue;
    if (node.prefix.sequence.length === count) {
      best = { prefix: node.prefix, end: node.end, inversions: node.inversions };
      continue;
    }
    if (nodes >= maxNodes) {
      frame.next--;
      return { best, bound: openBound(), nodes, isDone: false };
    }
    nodes++;
    if (isDominated(problem, node, memo, goal)) continue;
    const children = expand(problem, node, goal).filter((child) => !isWorse(child));
    stack.push({ children, next: 0 });
    if (++since >= YIELD_NODES) {
      since = 0;
      yield { best, bound: openBound(), nodes, isDone: false };
    }
  }
  return { best, bound: best ? best.end : Number.POSITIVE_INFINITY, nodes, isDone: true };
}

/** All ways to go on from a node, the most promising first. */
function expand(problem: Compiled, node: Node, goal: Goal): Node[] {
  const { count, minutes, before, breakLength, maxStretch, fixed } = problem;
  const done = new Uint8Array(count);
  for (const step of node.prefix.sequence) done[step] = 1;
  const next = fixed.find((step) => !done[step]);
  const ready =
    next !== undefined ? [next] : before.flatMap((list, step) => (!done[step] && list.every((one) => done[one]) ? [step] : []));
  const place = node.prefix.sequence.length;
  const children: (Node & { step: number; start: number; isBreak: boolean })[] = [];
  for (const step of ready) {
    let smaller = 0;
    for (let i = 0; i < step; i++) if (!done[i]) smaller++;
    const add = (isBreak: boolean) => {
      const made = append(problem, node.prefix, step, isBreak);
      if (!made) return null;
      const start = made.prefix.starts[step] as number;
      const child = {
        prefix: made.prefix,
        end: start + (minutes[step] as number),
        bound: 0,
        inversions: node.inversions + smaller,
        isPushed: made.isPushed,
        step,
        start,
        isBreak,
      };
      child.bound = boundOf(problem, child, done, step);
      children.push(child);
      return child;
    };
    if (maxStretch === 0 || place === 0) {
      add(false);
      continue;
    }
    const broken = add(true);
    const last = node.prefix.sequence[place - 1] as number;
    // A wait that is long enough anyway is a break for free.
    const plain = append(problem, node.prefix, step, false);
    const gap = plain
      ? (plain.prefix.starts[step] as number) - (plain.prefix.starts[last] as number) - (minutes[last] as number)
      : 0;
    if (plain && (gap < breakLength || !broken)) add(false);
  }
  const kept = goal.kind === 'end' ? children.filter((child) => !fitsBefore(problem, node, child, children, done)) : children;
  return kept.sort(
    (one, other) =>
      one.start - other.start || Number(one.isBreak) - Number(other.isBreak) || one.bound - other.bound || one.step - other.step,
  );
}

/**
 * Whether another step fits wholly into the wait before this one without making anything later: then this way need not be gone.
 * Only where the wait is no break, the other pushes nothing and nothing must follow it within a window.
 */
function fitsBefore(
  problem: Compiled,
  node: Node,
  child: Node & { step: number; start: number; isBreak: boolean },
  all: readonly (Node & { step: number; start: number; isBreak: boolean })[],
  done: Uint8Array,
): boolean {
  const { count, lag, breakLength, maxStretch } = problem;
  if (child.isBreak || child.isPushed || node.prefix.sequence.length === 0) return false;
  if (maxStretch > 0 && child.start - node.end >= breakLength) return false;
  return all.some((other) => {
    if (other.step === child.step || other.isBreak || other.isPushed || other.end > child.start) return false;
    if (other.end === other.start) return false;
    for (let j = 0; j < count; j++) {
      if (done[j] || j === other.step) continue;
      if ((lag[j * count + other.step] as number) !== NEVER) return false;
    }
    // The order with this one must be free.
    return (lag[child.step * count + other.step] as number) === NEVER;
  });
}

/** Nothing that goes on from here ends earlier: heads, tails and one group of hands (Jackson’s preemptive rule), and forced breaks. */
function boundOf(problem: Compiled, node: Node, done: Uint8Array, step: number): number {
  const { count, minutes, tail, maxStretch, breakLength } = problem;
  let work = 0;
  let bound = node.end + (tail[step] as number);
  const open: { head: number; left: number; tail: number }[] = [];
  for (let j = 0; j < count; j++) {
    if (done[j] || j === step) continue;
    const head = Math.max(node.end, earliest(problem, node.prefix, j));
    work += minutes[j] as number;
    open.push({ head, left: minutes[j] as number, tail: tail[j] as number });
    bound = Math.max(bound, head + (minutes[j] as number) + (tail[j] as number));
  }
  for (const laid of node.prefix.sequence)
    bound = Math.max(bound, (node.prefix.starts[laid] as number) + (minutes[laid] as number) + (tail[laid] as number));
  bound = Math.max(bound, node.end + work, preemptive(open));
  if (maxStretch > 0) {
    // However far its first step is pushed, a stretch is not shorter than the work in it.
    const begun = node.prefix.stretches.at(-1);
    let stretch = 0;
    node.prefix.sequence.forEach((one, k) => {
      if (node.prefix.stretches[k] === begun) stretch += minutes[one] as number;
    });
    bound = Math.max(bound, node.end + work + breakLength * Math.max(0, Math.ceil((stretch + work) / maxStretch) - 1));
  }
  return bound;
}

const earliest = ({ count, head, lag }: Compiled, prefix: Prefix, j: number): number => {
  let start = head[j] as number;
  for (const i of prefix.sequence) {
    const ticks = lag[i * count + j] as number;
    if (ticks !== NEVER && (prefix.starts[i] as number) + ticks > start) start = (prefix.starts[i] as number) + ticks;
  }
  return start;
};

/** Jackson’s preemptive schedule: the longest tail that is there goes first; its greatest end with tail is a lower bound. */
function preemptive(jobs: { head: number; left: number; tail: number }[]): number {
  const waiting = [...jobs].sort((one, other) => one.head - other.head);
  const here: typeof jobs = [];
  let time = 0;
  let worst = 0;
  let at = 0;
  while (at < waiting.length || here.length > 0) {
    if (here.length === 0) time = Math.max(time, (waiting[at] as { head: number }).head);
    while (at < waiting.length && (waiting[at] as { head: number }).head <= time)
      here.push(waiting[at++] as (typeof jobs)[number]);
    let most = 0;
    for (let i = 1; i < here.length; i++)
      if ((here[i] as { tail: number }).tail > (here[most] as { tail: number }).tail) most = i;
    const job = here[most] as (typeof jobs)[number];
    const until = at < waiting.length ? (waiting[at] as { head: number }).head : Number.POSITIVE_INFINITY;
    const run = Math.min(job.left, until - time);
    time += run;
    job.left -= run;
    if (job.left === 0) {
      worst = Math.max(worst, time + job.tail);
      here.splice(most, 1);
    }
  }
  return worst;
}

/** Whether the same steps were done before, no worse in any respect; otherwise remembers this way. */
function isDominated(problem: Compiled, node: Node, memo: Map<string, Int32Array[]>, goal: Goal): boolean {
  const { count, lag, minutes, maxStretch } = problem;
  const { prefix } = node;
  if (prefix.sequence.length < 2) return false;
  const done = new Uint8Array(count);
  let low = 0;
  let middle = 0;
  let high = 0;
  for (const step of prefix.sequence) {
    done[step] = 1;
    if (step < 30) low |= 1 << step;
    else if (step < 60) middle |= 1 << (step - 30);
    else high |= 1 << (step - 60);
  }
  const left: number[] = [];
  for (let j = 0; j < count; j++) if (!done[j]) left.push(j);
  // Steps that may still be pushed later: sources of open windows, and the first of the present stretch.
  const sources = prefix.sequence.flatMap((i, place) => {
    const isOpen = left.some((j) => (lag[j * count + i] as number) !== NEVER);
    const isStretch = maxStretch > 0 && place === prefix.stretches.at(-1);
    return isOpen || isStretch ? [{ i, place, isStretch }] : [];
  });
  const last = prefix.sequence.at(-1) as number;
  const row = [
    node.end,
    ...(goal.kind === 'order' ? [node.inversions] : []),
    ...left.map((j) => Math.max(node.end, earliest(problem, prefix, j))),
  ];
  // The stretch’s first step differs from way to way: its paths count, not which it is.
  const names = sources.map(
    ({ i, isStretch }) => (isStretch ? 's' : '') + (left.some((j) => (lag[j * count + i] as number) !== NEVER) ? i : ''),
  );
  for (const { place } of sources) {
    const far = pathsFrom(problem, prefix, place);
    row.push((far[last] as number) + (minutes[last] as number));
    for (const j of left) {
      let path = NEVER;
      for (const i of prefix.sequence) {
        const ticks = lag[i * count + j] as number;
        if (ticks !== NEVER && far[i] !== NEVER) path = Math.max(path, (far[i] as number) + ticks);
      }
      row.push(path);
    }
    for (const other of sources) row.push(far[other.i] as number);
  }
  const key = `${low},${middle},${high}|${names.join()}`;
  const known = memo.get(key) ?? [];
  for (const one of known) if (one.every((value, k) => value <= (row[k] as number))) return true;
  known.push(Int32Array.from(row));
  if (known.length > 40) known.shift();
  memo.set(key, known);
  return false;
}
