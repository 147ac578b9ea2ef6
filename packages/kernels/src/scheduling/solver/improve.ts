import { type Compiled, inAddition } from './compile.js';
import { append, emptyPrefix, type Gap, hasOpenWindow, type Prefix } from './prefix.js';
import { type Found, type Goal, type SearchState, search } from './search.js';

const WINDOW = 9;
const STRIDE = 4;
const NODES_A_WINDOW = 500;
const DIVES = 8;
const GOLDEN = (Math.sqrt(5) - 1) / 2;

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

const isReady = ({ before }: Compiled, { places }: Prefix, step: number): boolean =>
  places[step] < 0 && (before[step] as number[]).every((one) => places[one] >= 0);

/** Times for a given order, with gaps only where they must be; null where it cannot be. */
function inOrder(compiled: Compiled, order: readonly number[]): Prefix | null {
  let prefix = emptyPrefix(compiled);
  for (const step of [...compiled.fixed, ...order.filter((one) => !compiled.fixed.includes(one))]) {
    const made = isReady(compiled, prefix, step) ? goOn(compiled, prefix, step) : null;
    if (!made) return null;
    prefix = made;
  }
  return prefix;
}

/** An order made by always taking the step that may begin first; of equals the one of the greatest urgency. */
function dive(compiled: Compiled, urgency: (step: number) => number): Prefix | null {
  let prefix = emptyPrefix(compiled);
  const { fixed, count } = compiled;
  for (let k = 0; k < count; k++) {
    const due = fixed.find((step) => prefix.places[step] < 0);
    let chosen: { prefix: Prefix; start: number; urgency: number } | null = null;
    for (let step = 0; step < count; step++) {
      if ((due !== undefined && step !== due) || !isReady(compiled, prefix, step)) continue;
      const made = goOn(compiled, prefix, step);
      if (!made) continue;
      const one = { prefix: made, start: made.starts[step], urgency: urgency(step) };
      const isBetter = !chosen || one.start < chosen.start || (one.start === chosen.start && one.urgency > chosen.urgency);
      if (isBetter) chosen = one;
    }
    if (!chosen) return null;
    prefix = chosen.prefix;
  }
  return prefix;
}

function inversionsOf(sequence: readonly number[]): number {
  let count = 0;
  sequence.forEach((step, k) => {
    for (const later of sequence.slice(k + 1)) if (later < step) count++;
  });
  return count;
}

const asFound = ({ minutes }: Compiled, prefix: Prefix): Found => {
  const last = prefix.sequence.at(-1) as number;
  return { prefix, end: prefix.starts[last] + minutes[last], inversions: inversionsOf(prefix.sequence) };
};

/**
 * Plans to begin with: the order given, and those that take what has most to follow first, what is nearest the order given, or by
 * other weights; the first of them that end soonest. Null where none of them can be.
 */
export function firstPlan(compiled: Compiled): { own: Found | null; best: Found | null } {
  const { count, nights, tail } = compiled;
  const given = inOrder(
    compiled,
    Array.from({ length: count }, (_, i) => i),
  );
  const own = given && asFound(compiled, given);
  const tails = tail[nights] as Int32Array;
  const urgencies: ((step: number) => number)[] = [(step) => tails[step], (step) => -step];
  for (let k = 0; k < DIVES; k++) {
    // Other weights for every dive, spread evenly and the same each time.
    urgencies.push((step) => tails[step] * (0.6 + 0.8 * (((step + 1) * (k + 1) * GOLDEN) % 1)));
  }
  let best = own;
  for (const urgency of urgencies) {
    const made = dive(compiled, urgency);
    if (!made) continue;
    const found = asFound(compiled, made);
    if (!best || found.end < best.end) best = found;
  }
  return { own, best };
}

/**
 * A plan made better part by part: nine steps in a row are put into their best order, then the nine that begin four later, until none
 * gets better (large neighbourhood search; Shaw 1998, from memory). Yields as {@link search} does, with the bound it was given.
 */
export function* improve(
  compiled: Compiled,
  goal: Goal,
  start: Found,
  bound: number,
  maxNodes: number,
): Generator<SearchState, SearchState> {
  const { count, size, nights, fixed } = compiled;
  let best = start;
  let nodes = 0;
  const state = (): SearchState => ({ best, bound, nodes, isDone: false });
  // Dryers and nights stand between steps: their places are sought by the whole search alone.
  if (size > count || nights > 0) return state();
  const isBest = () => (goal.kind === 'end' ? best.end <= bound : best.inversions === 0);
  for (let isBetter = true; isBetter && !isBest(); ) {
    isBetter = false;
    for (let from = fixed.length; from + 2 <= count; from += STRIDE) {
      const part = inAddition(compiled, heldBut(best.prefix.sequence, from, from + WINDOW));
      if (!part) continue;
      const work = search(part, goal, best, Math.min(NODES_A_WINDOW, maxNodes - nodes));
      let step = work.next();
      while (!step.done) step = work.next();
      nodes += step.value.nodes;
      const found = step.value.best;
      if (found && (found.end < best.end || (goal.kind === 'order' && found.inversions < best.inversions))) {
        best = found;
        isBetter = true;
      }
      yield state();
      if (nodes >= maxNodes || isBest()) return state();
    }
  }
  return state();
}

/** The orders that hold a sequence as it is, but for its places from `from` up to `to`. */
function heldBut(sequence: readonly number[], from: number, to: number): [number, number][] {
  const pairs: [number, number][] = [];
  const [free, until] = [sequence.slice(from, to), Math.min(to, sequence.length)];
  for (let k = 0; k + 1 < from; k++) pairs.push([sequence[k] as number, sequence[k + 1] as number]);
  for (let k = until; k + 1 < sequence.length; k++) pairs.push([sequence[k] as number, sequence[k + 1] as number]);
  const [last, next] = [sequence[from - 1], sequence[until]];
  for (const step of free) {
    if (last !== undefined) pairs.push([last, step]);
    if (next !== undefined) pairs.push([step, next]);
  }
  if (free.length === 0 && last !== undefined && next !== undefined) pairs.push([last, next]);
  return pairs;
}
