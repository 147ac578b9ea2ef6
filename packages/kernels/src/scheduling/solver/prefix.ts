import { type Compiled, NEVER } from './compile.js';

export type Gap = 'none' | 'break' | 'cut';

/**
 * The first nodes of a sequence with their least times. `stretches[k]` and `sessions[k]` are the places at which the stretch and
 * the session of place k begin; `places[i]` is the place of node i, or -1.
 */
export type Prefix = {
  sequence: number[];
  gaps: Gap[];
  starts: Int32Array;
  stretches: number[];
  sessions: number[];
  places: Int16Array;
  /** Real steps among them, and the nights between them. */
  steps: number;
  nights: number;
};

export const emptyPrefix = ({ size }: Compiled): Prefix => ({
  sequence: [],
  gaps: [],
  starts: new Int32Array(size),
  stretches: [],
  sessions: [],
  places: new Int16Array(size).fill(-1),
  steps: 0,
  nights: 0,
});

/** Whether a wait from the node at `place` no longer counts for the node at `until`: a night, or a dryer, lies between. */
function isCleared({ dryerOf }: Compiled, { sessions, places }: Prefix, from: number, until: number): boolean {
  const place = places[from];
  if ((sessions[until] ?? sessions.at(-1) ?? 0) > place) return true;
  const dryer = dryerOf[from];
  if (dryer < 0) return false;
  const dried = places[dryer];
  return dried >= 0 && dried < until;
}

/** A window that is open at the end of a prefix: something must still follow one of its steps in time. */
export function hasOpenWindow({ count, size, lag }: Compiled, { sequence, places }: Prefix): boolean {
  for (let j = 0; j < count; j++) {
    if (places[j] >= 0) continue;
    for (const i of sequence) if (lag[j * size + i] !== NEVER) return true;
  }
  return false;
}

/**
 * Least start times when a node follows a prefix, by difference constraints: sequence, lags forward and back, waits that nothing
 * has cleared, breaks, stretches and sessions. Starts from the times of the prefix, which can only grow. `null` where a window
 * cannot be kept (the times would grow without end), or a pin.
 */
export function append(problem: Compiled, prefix: Prefix, node: number, gap: Gap): { prefix: Prefix; isPushed: boolean } | null {
  const { count, size, minutes, head, lag, late, waits, breakLength, maxStretch, limit } = problem;
  const place = prefix.sequence.length;
  const sequence = [...prefix.sequence, node];
  const starts = prefix.starts.slice();
  const places = prefix.places.slice();
  places[node] = place;
  const made: Prefix = {
    sequence,
    gaps: [...prefix.gaps, gap],
    starts,
    stretches: [...prefix.stretches, gap !== 'none' || place === 0 ? place : prefix.stretches[place - 1]],
    sessions: [...prefix.sessions, gap === 'cut' || place === 0 ? place : prefix.sessions[place - 1]],
    places,
    steps: prefix.steps + (node < count ? 1 : 0),
    nights: prefix.nights + (gap === 'cut' ? 1 : 0),
  };
  const { gaps, stretches, sessions } = made;
  starts[node] = head[node];
  const relaxAt = (k: number): void => {
    const own = sequence[k];
    let start = starts[own];
    if (k > 0) {
      const last = sequence[k - 1];
      start = Math.max(start, starts[last] + minutes[last] + (gaps[k] === 'break' ? breakLength : 0));
    }
    for (let i = 0; i <= place; i++) {
      const other = sequence[i];
      const ticks = lag[other * size + own];
      if (ticks !== NEVER && i !== k && starts[other] + ticks > start) start = starts[other] + ticks;
    }
    for (const { from, ticks } of waits[own] as Compiled['waits'][number]) {
      const at = places[from];
      if (at >= 0 && at < k && starts[from] + ticks > start && !isCleared(problem, made, from, k)) start = starts[from] + ticks;
    }
    starts[own] = start;
  };
  if (isTooLateForOthers(problem, made)) return null;
  relaxAt(place);
  if (starts[node] > late[node]) return null;
  // The prefix holds together already: only what the new node asks of it can push anything.
  const end = starts[node] + minutes[node];
  let asks = false;
  for (let i = 0; i < place && !asks; i++) {
    const other = sequence[i];
    const ticks = lag[node * size + other];
    asks = ticks !== NEVER && starts[node] + ticks > starts[other];
  }
  if (maxStretch > 0) asks ||= end - maxStretch > starts[sequence[stretches[place]]];
  if (limit > 0) asks ||= end - limit > starts[sequence[sessions[place]]];
  if (!asks) return { prefix: made, isPushed: false };
  let isPushed = false;
  /** The first of a group may not begin too long before the end of any of it. */
  const pull = (k: number, groups: readonly number[], longest: number) => {
    const own = sequence[k];
    for (let i = place; i >= k; i--)
      if (groups[i] === k) {
        const member = sequence[i];
        starts[own] = Math.max(starts[own], starts[member] + minutes[member] - longest);
      }
  };
  for (let round = 0; ; round++) {
    let changed = false;
    for (let k = 0; k <= place; k++) {
      const own = sequence[k];
      const was = starts[own];
      if (maxStretch > 0 && stretches[k] === k) pull(k, stretches, maxStretch);
      if (limit > 0 && sessions[k] === k) pull(k, sessions, limit);
      relaxAt(k);
      if (starts[own] > late[own]) return null;
      if (starts[own] > was) {
        changed = true;
        if (k < place) isPushed = true;
      }
    }
    if (!changed) break;
    if (round > place + 1) return null;
  }
  return { prefix: made, isPushed };
}

/**
 * Whether what must still follow within open windows cannot any more: since their sources so much work lies behind, and they also stand
 * in each other's way (earliest due date first is best on one group of hands; Jackson 1955, from memory).
 */
function isTooLateForOthers(problem: Compiled, { sequence, places, gaps }: Prefix): boolean {
  const { windows, lag, size, minutes, breakLength, longestWindow } = problem;
  if (longestWindow === 0) return false;
  const dues = new Map<number, number>();
  let since = 0;
  for (let k = sequence.length - 1; k >= 0; k--) {
    const from = sequence[k];
    since += minutes[from];
    for (const to of windows[from] as number[]) {
      if (places[to] >= 0) continue;
      const left = -lag[to * size + from] - since;
      if (left < 0) return true;
      dues.set(to, Math.min(dues.get(to) ?? left, left));
    }
    if (gaps[k] === 'break') since += breakLength;
    // What lies farther back was in time when it was passed.
    if (since > longestWindow) break;
  }
  if (dues.size < 2) return false;
  const open = [...dues].map(([to, left]) => ({ due: left + minutes[to], minutes: minutes[to] }));
  open.sort((one, other) => one.due - other.due);
  let work = 0;
  return open.some((one) => {
    work += one.minutes;
    return work > one.due;
  });
}

/** Longest paths from one place of a prefix to all of its nodes, by the same constraints. */
export function pathsFrom(problem: Compiled, prefix: Prefix, place: number): Int32Array {
  const { size, minutes, lag, waits, breakLength, maxStretch, limit } = problem;
  const { sequence, gaps, stretches, sessions, places } = prefix;
  const far = new Int32Array(size).fill(NEVER);
  far[sequence[place]] = 0;
  const back = (k: number, groups: readonly number[], longest: number, best: number): number => {
    let most = best;
    for (let i = k; i < sequence.length && groups[i] === k; i++) {
      const member = sequence[i];
      if (far[member] !== NEVER) most = Math.max(most, far[member] + minutes[member] - longest);
    }
    return most;
  };
  for (let changed = true; changed; ) {
    changed = false;
    for (let k = 0; k < sequence.length; k++) {
      const own = sequence[k];
      let best = far[own];
      if (k > 0) {
        const last = sequence[k - 1];
        if (far[last] !== NEVER) best = Math.max(best, far[last] + minutes[last] + (gaps[k] === 'break' ? breakLength : 0));
      }
      for (const other of sequence) {
        const ticks = lag[other * size + own];
        if (other !== own && ticks !== NEVER && far[other] !== NEVER) best = Math.max(best, far[other] + ticks);
      }
      for (const { from, ticks } of waits[own] as Compiled['waits'][number]) {
        const at = places[from];
        if (at >= 0 && at < k && far[from] !== NEVER && !isCleared(problem, prefix, from, k))
          best = Math.max(best, far[from] + ticks);
      }
      if (maxStretch > 0 && stretches[k] === k) best = back(k, stretches, maxStretch, best);
      if (limit > 0 && sessions[k] === k) best = back(k, sessions, limit, best);
      if (best > far[own]) {
        far[own] = best;
        changed = true;
      }
    }
  }
  return far;
}

/** The earliest start that a prefix leaves to a node that is not in it; waits count where no night can still clear them. */
export function earliest(problem: Compiled, prefix: Prefix, j: number, withWaits: boolean): number {
  const { size, head, lag, waits } = problem;
  const { sequence, starts, places } = prefix;
  let start = head[j];
  for (const i of sequence) {
    const ticks = lag[i * size + j];
    if (ticks !== NEVER && starts[i] + ticks > start) start = starts[i] + ticks;
  }
  if (withWaits)
    for (const { from, ticks } of waits[j] as Compiled['waits'][number]) {
      if (places[from] < 0 || isCleared(problem, prefix, from, sequence.length)) continue;
      // A dryer may still shorten it.
      const dryer = problem.dryerOf[from];
      const least = dryer < 0 ? ticks : problem.minutes[from] + problem.minutes[dryer];
      start = Math.max(start, starts[from] + Math.min(ticks, least));
    }
  return start;
}
