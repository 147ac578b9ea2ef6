import { type Compiled, NEVER } from './compile.js';
import { append, earliest, emptyPrefix, type Gap, hasOpenWindow, type Prefix, pathsFrom } from './prefix.js';

export type Found = { prefix: Prefix; end: number; inversions: number };
export type SearchState = { best: Found | null; bound: number; nodes: number; isDone: boolean };
type Node = { prefix: Prefix; end: number; bound: number; inversions: number; isPushed: boolean };
type Child = Node & { step: number; start: number; gap: Gap };

/** What is sought: the earliest end, or, with the end capped, the fewest changes to the given order. */
export type Goal = { kind: 'end' } | { kind: 'order'; cap: number };

const YIELD_NODES = 500;
const NO_BOUND = 1e9;

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
  const root: Node = { prefix: emptyPrefix(problem), end: 0, bound: 0, inversions: 0, isPushed: false };
  const stack: { children: Node[]; next: number }[] = [{ children: [root], next: 0 }];
  const limitOf = () => (goal.kind === 'end' ? (best ? best.end : NO_BOUND) : goal.cap + 1);
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
    if (node.prefix.steps === count) {
      best = { prefix: node.prefix, end: node.end, inversions: node.inversions };
      continue;
    }
    if (nodes >= maxNodes) {
      frame.next--;
      return { best, bound: openBound(), nodes, isDone: false };
    }
    nodes++;
    const ready = readyAfter(problem, node);
    // Where only one way goes on, nothing is won by comparing.
    if (ready.length > 1 && isDominated(problem, node, memo, goal)) continue;
    const children = expand(problem, node, goal, ready).filter((child) => !isWorse(child));
    stack.push({ children, next: 0 });
    if (++since >= YIELD_NODES) {
      since = 0;
      yield { best, bound: openBound(), nodes, isDone: false };
    }
  }
  return { best, bound: best ? best.end : Number.POSITIVE_INFINITY, nodes, isDone: true };
}

/** Steps and dryers that may come next: all that must come before them is done. */
function readyAfter(problem: Compiled, node: Node): number[] {
  const { count, size, before, fixed } = problem;
  const { places } = node.prefix;
  const isDone = (step: number) => places[step] >= 0;
  const next = fixed.find((step) => !isDone(step));
  if (next !== undefined) return [next];
  const ready: number[] = [];
  for (let step = 0; step < size; step++) {
    if (isDone(step) || !(before[step] as number[]).every(isDone)) continue;
    if (step < count || helps(problem, node, step)) ready.push(step);
  }
  return ready;
}

/** All ways to go on from a node, the most promising first. */
function expand(problem: Compiled, node: Node, goal: Goal, ready: readonly number[]): Node[] {
  const { count, size, minutes, breakLength, maxStretch, fixed, nights } = problem;
  const { prefix } = node;
  const isDone = (step: number) => prefix.places[step] >= 0;
  const next = fixed.find((step) => !isDone(step));
  const place = prefix.sequence.length;
  const last = prefix.sequence[place - 1];
  const children: Child[] = [];
  for (const step of ready) {
    let smaller = 0;
    if (step < count) for (let i = 0; i < step; i++) if (!isDone(i)) smaller++;
    const add = (gap: Gap, made = append(problem, prefix, step, gap)): Child | null => {
      if (!made) return null;
      const start = made.prefix.starts[step];
      const child: Child = {
        prefix: made.prefix,
        end: start + minutes[step],
        bound: 0,
        inversions: node.inversions + smaller,
        isPushed: made.isPushed,
        step,
        start,
        gap,
      };
      child.bound = boundOf(problem, child);
      children.push(child);
      return child;
    };
    if (place > 0 && prefix.nights < nights && next === undefined && !hasOpenWindow(problem, prefix)) add('cut');
    if (maxStretch === 0 || place === 0) {
      add('none');
      continue;
    }
    const broken = add('break');
    // A wait that is long enough anyway is a break for free.
    const plain = append(problem, prefix, step, 'none');
    const wait = plain ? plain.prefix.starts[step] - plain.prefix.starts[last] - minutes[last] : 0;
    if (plain && (wait < breakLength || !broken)) add('none', plain);
  }
  const kept =
    goal.kind === 'end' && size === count && nights === 0
      ? children.filter((child) => !fitsBefore(problem, node, child, children))
      : children;
  const rank = (gap: Gap) => (gap === 'none' ? 0 : gap === 'break' ? 1 : 2);
  return kept.sort(
    (one, other) =>
      one.start - other.start || rank(one.gap) - rank(other.gap) || one.bound - other.bound || one.step - other.step,
  );
}

/** What no plan can beat, before anything is decided. */
export const boundOfAll = (problem: Compiled): number =>
  boundOf(problem, { prefix: emptyPrefix(problem), end: 0, bound: 0, inversions: 0, isPushed: false });

/** Whether drying a coat now would let anything begin earlier than its own drying does. */
function helps({ count, waits, minutes, dryerOf }: Compiled, node: Node, dryer: number): boolean {
  const step = dryerOf.indexOf(dryer);
  const { places, starts } = node.prefix;
  const done = node.end + minutes[dryer];
  for (let j = 0; j < count; j++) {
    if (places[j] >= 0) continue;
    for (const { from, ticks } of waits[j] as Compiled['waits'][number])
      if (from === step && starts[step] + ticks > done) return true;
  }
  return false;
}

/**
 * Whether another step fits wholly into the wait before this one without making anything later: then this way need not be gone.
 * Only where the wait is no break, the other pushes nothing and nothing must follow it within a window.
 */
function fitsBefore(problem: Compiled, node: Node, child: Child, all: readonly Child[]): boolean {
  const { count, size, lag, waits, breakLength, maxStretch } = problem;
  const { places } = node.prefix;
  // Done earlier it could hold back what else it would not.
  const holdsBack = (step: number) => waits.some((list, j) => places[j] < 0 && list.some((one) => one.free && one.from === step));
  if (child.gap !== 'none' || child.isPushed || node.prefix.sequence.length === 0) return false;
  if (maxStretch > 0 && child.start - node.end >= breakLength) return false;
  return all.some((other) => {
    if (other.step === child.step || other.gap !== 'none' || other.isPushed || other.end > child.start) return false;
    if (other.end === other.start || holdsBack(other.step)) return false;
    for (let j = 0; j < count; j++) {
      if (places[j] >= 0 || j === other.step) continue;
      if (lag[j * size + other.step] !== NEVER) return false;
    }
    // The order with this one must be free.
    return lag[child.step * size + other.step] === NEVER;
  });
}

/** Nothing that goes on from here ends earlier: heads, tails and one group of hands (Jackson’s preemptive rule), and forced breaks. */
function boundOf(problem: Compiled, node: Node): number {
  const { count, minutes, tail, maxStretch, breakLength, nights, limit } = problem;
  const { prefix, end } = node;
  const { sequence, starts, places, stretches, sessions } = prefix;
  const left = nights - prefix.nights;
  const tails = tail[left] as Int32Array;
  let work = 0;
  let bound = end;
  const open: { head: number; left: number; tail: number }[] = [];
  for (let j = 0; j < count; j++) {
    if (places[j] >= 0) continue;
    const head = Math.max(end, earliest(problem, prefix, j, left === 0));
    const own = minutes[j];
    work += own;
    open.push({ head, left: own, tail: tails[j] });
    bound = Math.max(bound, head + own + tails[j]);
  }
  let night = 0;
  for (let k = sequence.length - 1; k >= 0; k--) {
    const laid = sequence[k];
    const since = tail[Math.min(nights, left + night)] as Int32Array;
    if (laid < count) bound = Math.max(bound, starts[laid] + minutes[laid] + since[laid]);
    if (prefix.gaps[k] === 'cut') night++;
  }
  bound = Math.max(bound, end + work, preemptive(open));
  // However far its first step is pushed, a stretch or a session is not shorter than the work in it.
  const within = (groups: readonly number[]) => {
    const begun = groups.at(-1);
    let sum = 0;
    for (let k = sequence.length - 1; k >= 0 && groups[k] === begun; k--) sum += minutes[sequence[k]];
    return sum;
  };
  if (maxStretch > 0) {
    const breaks = Math.ceil((within(stretches) + work) / maxStretch) - 1 - left;
    bound = Math.max(bound, end + work + breakLength * Math.max(0, breaks));
  }
  if (limit > 0 && within(sessions) + work > limit * (left + 1)) return NO_BOUND;
  return bound;
}

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
  const { count, size, lag, minutes, maxStretch, limit, waits } = problem;
  const { prefix } = node;
  const { sequence, places, starts } = prefix;
  if (sequence.length < 2) return false;
  const done = [0, 0, 0, 0, 0, 0];
  for (const step of sequence) done[Math.floor(step / 30)] = done[Math.floor(step / 30)] | (1 << (step % 30));
  const left: number[] = [];
  for (let j = 0; j < count; j++) if (places[j] < 0) left.push(j);
  // Steps that may still be pushed later: sources of open windows, and the first of the present stretch and session.
  const stretch = maxStretch > 0 ? prefix.stretches.at(-1) : -1;
  const session = limit > 0 ? prefix.sessions.at(-1) : -1;
  const sources: number[] = [];
  let key = `${done.join()}|${prefix.nights}|`;
  sequence.forEach((i, place) => {
    const isOpen = left.some((j) => lag[j * size + i] !== NEVER);
    // The first step differs from way to way: its paths count, not which it is.
    const name = (isOpen ? String(i) : '') + (place === stretch ? 's' : '') + (place === session ? 'n' : '');
    if (name === '') return;
    sources.push(place);
    key += `${name},`;
  });
  const last = sequence.at(-1) as number;
  const row: number[] = [node.end];
  if (goal.kind === 'order') row.push(node.inversions);
  for (const j of left) row.push(Math.max(node.end, earliest(problem, prefix, j, false)));
  // Coats that something still waits for, and that a dryer or a night may clear: one by one.
  const held: number[] = [];
  for (const j of left)
    for (const { from } of waits[j] as Compiled['waits'][number]) if (places[from] >= 0 && !held.includes(from)) held.push(from);
  held.sort((a, b) => a - b);
  const now = prefix.sessions.at(-1) as number;
  for (const from of held) row.push(places[from] < now ? NEVER : starts[from]);
  for (const place of sources) {
    const far = pathsFrom(problem, prefix, place);
    row.push(far[last] + minutes[last]);
    for (const j of left) {
      let path = NEVER;
      for (const i of sequence) {
        const ticks = lag[i * size + j];
        if (ticks !== NEVER && far[i] !== NEVER) path = Math.max(path, far[i] + ticks);
      }
      row.push(path);
    }
    for (const from of held) row.push(far[from]);
    for (const other of sources) row.push(far[sequence[other]]);
  }
  const known = memo.get(key) ?? [];
  for (const one of known) {
    let isNoWorse = true;
    for (let k = 0; k < row.length; k++)
      if (one[k] > row[k]) {
        isNoWorse = false;
        break;
      }
    if (isNoWorse) return true;
  }
  known.push(Int32Array.from(row));
  if (known.length > 40) known.shift();
  memo.set(key, known);
  return false;
}
