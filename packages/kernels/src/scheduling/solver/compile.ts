import type { Problem } from '../problem.js';

/** Ticks a minute: all times are whole quarter minutes, drying rounded up and windows down. */
export const TICKS = 4;
export const up = (minutes: number): number => Math.ceil(minutes * TICKS - 1e-6);
export const down = (minutes: number): number => Math.floor(minutes * TICKS + 1e-6);
export const NEVER = -1e9;

/** A planning problem in ticks, with all that follows from its constraints alone, whatever the order. */
export type Compiled = {
  /** Steps, and after them one node for each coat that may be dried with a dryer held in the hand. */
  count: number;
  size: number;
  minutes: Int32Array;
  /** Earliest start of each step, and latest where a pin says so. */
  head: Int32Array;
  late: Int32Array;
  /** S_j ≥ S_i + lag[i · size + j] in any case; NEVER where nothing is said. Closed under following. */
  lag: Int32Array;
  /**
   * Waits that a dryer or the night between two sessions can clear: for each step, from which and how long from its start; `free` where
   * the other may also come later.
   */
  waits: { from: number; ticks: number; free?: true }[][];
  /** The dryer's node of each step, or -1; and the step of each node. */
  dryerOf: Int32Array;
  /** `tail[c][i]`: what must pass after the end of a step until all that follows has ended, with c nights still to come. */
  tail: Int32Array[];
  /** For each node those that must come before it. */
  before: number[][];
  breakLength: number;
  maxStretch: number;
  /** Nights at most, and the longest session. */
  nights: number;
  limit: number;
  fixed: number[];
  /** For each step those that must begin within a window after it. */
  windows: number[][];
  /** The longest of these, from start to start; 0 where there is none. */
  longestWindow: number;
};

/**
 * Compiles a problem: direct lags, pins and what is past, closed by longest paths (Floyd and Warshall), with orders that lags
 * force made explicit until nothing changes. `null` where constraints contradict each other in every order. `slack` ticks more are
 * given to every window and every pinned time, to learn how much is missing.
 */
export function compile(problem: Problem, slack = 0): Compiled | null {
  const { steps } = problem;
  const count = steps.length;
  const number = new Map(steps.map((step, i) => [step.id, i]));
  const at = (id: string) => number.get(id) as number;
  const past = new Map(problem.fixed?.map((one) => [at(one.step), one]));
  const nights = problem.sessions ? problem.sessions.max - 1 : 0;
  const dryable = dryableSteps(problem).map(at);
  const size = count + dryable.length;
  const minutes = new Int32Array(size);
  const dryerOf = new Int32Array(count).fill(-1);
  steps.forEach((step, i) => {
    const real = past.get(i);
    minutes[i] = real ? up(real.end) - up(real.start) : up(step.minutes);
  });
  dryable.forEach((step, k) => {
    dryerOf[step] = count + k;
    minutes[count + k] = up(problem.dryer?.perStep[(steps[step] as { id: string }).id] as number);
  });
  const now = up(problem.now ?? 0);
  const head = new Int32Array(size).fill(now);
  const late = new Int32Array(size).fill(1e9);
  for (const [i, real] of past) {
    head[i] = up(real.start);
    late[i] = up(real.start);
  }
  // What holds in any case, and what holds as long as no night lies between.
  const lag = new Int32Array(size * size).fill(NEVER);
  const day = new Int32Array(size * size).fill(NEVER);
  const waits: Compiled['waits'] = Array.from({ length: size }, () => []);
  const arc = (from: number, to: number, ticks: number, byDay = ticks) => {
    const k = from * size + to;
    lag[k] = Math.max(lag[k], ticks);
    day[k] = Math.max(day[k], byDay);
  };
  for (const constraint of problem.constraints) {
    const [from, to] = [at(constraint.from), at(constraint.to)];
    const length = minutes[from];
    const dryer = dryerOf[from];
    if (constraint.type === 'before') arc(from, to, length);
    else if (constraint.type === 'either') {
      const [there, back] = [up(constraint.minutes as number), up(constraint.backMinutes as number)];
      if (there > 0) waits[to]?.push({ from, ticks: length + there, free: true });
      if (back > 0) waits[from]?.push({ from: to, ticks: minutes[to] + back, free: true });
    } else if (constraint.type === 'dry') {
      const full = length + up(dryingOf(problem, constraint));
      const byDryer = dryer >= 0 ? Math.min(full, length + minutes[dryer]) : full;
      arc(from, to, nights > 0 ? length : byDryer, byDryer);
      if (nights > 0 || byDryer < full) waits[to]?.push({ from, ticks: full });
    } else {
      const window = down(constraint.minutes as number) + slack;
      arc(from, to, length);
      arc(to, from, -(length + window));
      if (constraint.full) arc(to, from, minutes[to] - length - window);
      if (dryer >= 0) arc(to, dryer, minutes[to]);
    }
  }
  for (const step of dryable) arc(step, dryerOf[step], minutes[step]);
  for (const pin of problem.pins ?? []) {
    if ('step' in pin) {
      head[at(pin.step)] = Math.max(head[at(pin.step)], up(pin.start));
      late[at(pin.step)] = Math.min(late[at(pin.step)], up(pin.start) + slack);
    } else arc(at(pin.first), at(pin.then), minutes[at(pin.first)]);
  }
  if (!close(lag, minutes, size)) return null;
  const holdsByDay = nights > 0 && close(day, minutes, size);
  if (!narrow({ count, size, head, late, lag })) return null;
  const before = beforeOf({ count, size, minutes, lag });
  const windows: number[][] = Array.from({ length: size }, () => []);
  for (const { type, from, to } of problem.constraints) if (type === 'wet') windows[at(from)]?.push(at(to));
  return {
    count,
    size,
    minutes,
    head,
    late,
    lag,
    waits,
    dryerOf,
    tail: tailsOf({ count, size, minutes, lag, before, day: holdsByDay ? day : lag, nights }),
    before,
    breakLength: problem.breaks ? up(problem.breaks.length) : 0,
    maxStretch: problem.breaks ? up(problem.breaks.maxStretch) : 0,
    nights,
    limit: problem.sessions ? down(problem.sessions.limit) : 0,
    fixed: [...past].sort(([, a], [, b]) => a.start - b.start).map(([i]) => i),
    windows,
    longestWindow: windows.reduce((most, list, i) => Math.max(most, ...list.map((j) => -lag[j * size + i])), 0),
  };
}

type Spans = Pick<Compiled, 'count' | 'size' | 'head' | 'late' | 'lag'>;
/** Carries earliest and latest starts on along the lags; false where a step could not begin at all. */
function narrow({ count, size, head, late, lag }: Spans): boolean {
  for (let i = 0; i < size; i++)
    for (let j = 0; j < size; j++) {
      const ticks = lag[i * size + j];
      if (i === j || ticks === NEVER) continue;
      if (head[i] + ticks > head[j]) head[j] = head[i] + ticks;
    }
  for (let i = 0; i < size; i++)
    for (let j = 0; j < count; j++) {
      const ticks = lag[i * size + j];
      if (i !== j && ticks !== NEVER) late[i] = Math.min(late[i], late[j] - ticks);
    }
  for (let i = 0; i < count; i++) if (head[i] > late[i]) return false;
  return true;
}

const beforeOf = ({ count, size, minutes, lag }: Pick<Compiled, 'count' | 'size' | 'minutes' | 'lag'>): number[][] =>
  Array.from({ length: size }, (_, j) =>
    Array.from({ length: count }, (_, i) => i).filter((i) => i !== j && lag[i * size + j] > -minutes[j]),
  );

/**
 * The same problem with more orders between its steps, pairs of [earlier, later]; `null` where they cannot hold. For problems without
 * dryers and nights.
 */
export function inAddition(compiled: Compiled, orders: readonly (readonly [number, number])[]): Compiled | null {
  const { count, size, minutes } = compiled;
  const lag = compiled.lag.slice();
  const [head, late] = [compiled.head.slice(), compiled.late.slice()];
  for (const [i, j] of orders) lag[i * size + j] = Math.max(lag[i * size + j], minutes[i]);
  if (!close(lag, minutes, size) || !narrow({ count, size, head, late, lag })) return null;
  const before = beforeOf({ count, size, minutes, lag });
  return { ...compiled, lag, head, late, before, tail: tailsOf({ count, size, minutes, lag, before, day: lag, nights: 0 }) };
}

/** Steps whose coat a dryer held in the hand may dry: those that something waits for longer than drying them takes. */
function dryableSteps(problem: Problem): string[] {
  const { dryer } = problem;
  if (!dryer?.occupies) return [];
  return Object.keys(dryer.perStep).filter((id) =>
    problem.constraints.some((one) => one.type === 'dry' && one.from === id && (one.minutes as number) > dryer.perStep[id]),
  );
}

/** The wait of a `dry` constraint: shorter where a dryer works while hands go on, and nothing goes into that coat while it is wet. */
function dryingOf(problem: Problem, constraint: Problem['constraints'][number]): number {
  const minutes = constraint.minutes as number;
  const { dryer } = problem;
  const own = dryer && !dryer.occupies ? dryer.perStep[constraint.from] : undefined;
  if (own === undefined) return minutes;
  const isOpen = problem.constraints.some((one) => one.type === 'wet' && one.from === constraint.from);
  return isOpen ? minutes : Math.min(minutes, own);
}

function tailsOf({
  count,
  size,
  minutes,
  lag,
  day,
  before,
  nights,
}: Pick<Compiled, 'count' | 'size' | 'minutes' | 'lag' | 'before' | 'nights'> & { day: Int32Array }): Int32Array[] {
  const plain = (matrix: Int32Array) =>
    Int32Array.from({ length: size }, (_, i) => {
      let most = 0;
      for (let j = 0; j < count; j++) {
        const ticks = matrix[i * size + j];
        if (i !== j && ticks !== NEVER) most = Math.max(most, ticks + minutes[j] - minutes[i]);
      }
      return most;
    });
  const tails = [plain(day)];
  const base = nights > 0 ? plain(lag) : (tails[0] as Int32Array);
  // Later ones first: everything that must follow a step is known before it.
  const order = Array.from({ length: count }, (_, i) => i).sort(
    (i, j) => (before[j] as number[]).length - (before[i] as number[]).length || j - i,
  );
  for (let c = 1; c <= nights; c++) {
    const tail = base.slice();
    const less = tails[c - 1] as Int32Array;
    for (const i of order) {
      for (let j = 0; j < count; j++) {
        if (i === j || !before[j]?.includes(i)) continue;
        const ticks = day[i * size + j];
        const ends = minutes[j] + less[j];
        const stays = ticks - minutes[i] + minutes[j] + tail[j];
        tail[i] = Math.max(tail[i], Math.min(stays, ends));
      }
    }
    tails.push(tail);
  }
  return tails;
}

/** Closes lags in place; false on a positive cycle. A lag that forces an order becomes at least the first step's length. */
function close(lag: Int32Array, minutes: Int32Array, size: number): boolean {
  for (;;) {
    for (let k = 0; k < size; k++)
      for (let i = 0; i < size; i++) {
        const first = lag[i * size + k];
        if (first === NEVER) continue;
        for (let j = 0; j < size; j++) {
          const second = lag[k * size + j];
          if (second !== NEVER && first + second > lag[i * size + j]) lag[i * size + j] = first + second;
        }
      }
    for (let i = 0; i < size; i++) if (lag[i * size + i] > 0) return false;
    let changed = false;
    for (let i = 0; i < size; i++)
      for (let j = 0; j < size; j++) {
        const k = i * size + j;
        if (i !== j && lag[k] > -minutes[j] && lag[k] < minutes[i]) {
          lag[k] = minutes[i];
          changed = true;
        }
      }
    if (!changed) return true;
  }
}
