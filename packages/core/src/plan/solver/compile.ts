import type { Problem } from '../solve.js';

/** Ticks a minute: all times are whole quarter minutes, drying rounded up and windows down. */
export const TICKS = 4;
export const up = (minutes: number): number => Math.ceil(minutes * TICKS - 1e-6);
export const down = (minutes: number): number => Math.floor(minutes * TICKS + 1e-6);
export const NEVER = -1e9;

/** A planning problem in ticks, with all that follows from its relations alone, whatever the order. */
export type Compiled = {
  count: number;
  minutes: Int32Array;
  /** Earliest start of each step, and latest where a pin says so. */
  head: Int32Array;
  late: Int32Array;
  /** S_j ≥ S_i + lag[i · count + j]; NEVER where nothing is said. Closed under following. */
  lag: Int32Array;
  /** What must still pass after the end of a step until everything that follows from it has ended. */
  tail: Int32Array;
  /** For each step those that must come before it. */
  before: number[][];
  breakLength: number;
  maxStretch: number;
  fixed: number[];
};

/**
 * Compiles a problem: direct lags, pins and what is past, closed by longest paths (Floyd and Warshall), with orders that lags
 * force made explicit until nothing changes. `null` where relations contradict each other in every order.
 */
export function compile(problem: Problem): Compiled | null {
  const { steps } = problem;
  const count = steps.length;
  const number = new Map(steps.map((step, i) => [step.id, i]));
  const at = (id: string) => number.get(id) as number;
  const past = new Map(problem.fixed?.map((one) => [at(one.step), one]));
  const minutes = Int32Array.from(steps, (step, i) => {
    const real = past.get(i);
    return real ? up(real.end) - up(real.start) : up(step.minutes);
  });
  const now = up(problem.now ?? 0);
  const head = Int32Array.from(steps, (_, i) => (past.has(i) ? up((past.get(i) as { start: number }).start) : now));
  const late = new Int32Array(count).fill(1e9);
  for (const [i, { start }] of past) late[i] = up(start);
  const lag = new Int32Array(count * count).fill(NEVER);
  const arc = (from: number, to: number, ticks: number) => {
    const k = from * count + to;
    if (ticks > (lag[k] as number)) lag[k] = ticks;
  };
  for (const relation of problem.relations) {
    const [from, to] = [at(relation.from), at(relation.to)];
    const length = minutes[from] as number;
    if (relation.type === 'before') arc(from, to, length);
    else if (relation.type === 'dry') arc(from, to, length + up(relation.minutes as number));
    else {
      const window = down(relation.minutes as number);
      arc(from, to, length);
      arc(to, from, -(length + window));
      if (relation.full) arc(to, from, (minutes[to] as number) - length - window);
    }
  }
  for (const pin of problem.pins ?? []) {
    if ('step' in pin) {
      head[at(pin.step)] = Math.max(head[at(pin.step)] as number, up(pin.start));
      late[at(pin.step)] = Math.min(late[at(pin.step)] as number, up(pin.start));
    } else arc(at(pin.first), at(pin.then), minutes[at(pin.first)] as number);
  }
  if (!close(lag, minutes, count)) return null;
  for (let i = 0; i < count; i++)
    for (let j = 0; j < count; j++) {
      const ticks = lag[i * count + j] as number;
      if (i === j || ticks === NEVER) continue;
      if ((head[i] as number) + ticks > (head[j] as number)) head[j] = (head[i] as number) + ticks;
    }
  for (let i = 0; i < count; i++)
    for (let j = 0; j < count; j++) {
      const ticks = lag[i * count + j] as number;
      if (i !== j && ticks !== NEVER) late[i] = Math.min(late[i] as number, (late[j] as number) - ticks);
    }
  for (let i = 0; i < count; i++) if ((head[i] as number) > (late[i] as number)) return null;
  const tail = Int32Array.from({ length: count }, (_, i) => {
    let most = 0;
    for (let j = 0; j < count; j++) {
      const ticks = lag[i * count + j] as number;
      if (i !== j && ticks !== NEVER) most = Math.max(most, ticks + (minutes[j] as number) - (minutes[i] as number));
    }
    return most;
  });
  const before = steps.map((_, j) =>
    steps.flatMap((_, i) => (i !== j && (lag[i * count + j] as number) > -(minutes[j] as number) ? [i] : [])),
  );
  return {
    count,
    minutes,
    head,
    late,
    lag,
    tail,
    before,
    breakLength: problem.breaks ? up(problem.breaks.length) : 0,
    maxStretch: problem.breaks ? up(problem.breaks.maxStretch) : 0,
    fixed: [...past].sort(([, a], [, b]) => a.start - b.start).map(([i]) => i),
  };
}

/** Closes lags in place; false on a positive cycle. A lag that forces an order becomes at least the first step's length. */
function close(lag: Int32Array, minutes: Int32Array, count: number): boolean {
  for (;;) {
    for (let k = 0; k < count; k++)
      for (let i = 0; i < count; i++) {
        const first = lag[i * count + k] as number;
        if (first === NEVER) continue;
        for (let j = 0; j < count; j++) {
          const second = lag[k * count + j] as number;
          if (second !== NEVER && first + second > (lag[i * count + j] as number)) lag[i * count + j] = first + second;
        }
      }
    for (let i = 0; i < count; i++) if ((lag[i * count + i] as number) > 0) return false;
    let changed = false;
    for (let i = 0; i < count; i++)
      for (let j = 0; j < count; j++) {
        const k = i * count + j;
        if (i !== j && (lag[k] as number) > -(minutes[j] as number) && (lag[k] as number) < (minutes[i] as number)) {
          lag[k] = minutes[i] as number;
          changed = true;
        }
      }
    if (!changed) return true;
  }
}
