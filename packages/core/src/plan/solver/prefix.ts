import { type Compiled, NEVER } from './compile.js';

/** The first steps of a sequence with their least times; `stretches[k]` is the place at which the stretch of place k begins. */
export type Prefix = { sequence: number[]; isBreak: boolean[]; starts: Int32Array; stretches: number[] };

/**
 * Least start times when a step follows a prefix, by difference constraints: sequence, lags forward and back, breaks and
 * stretches. Starts from the times of the prefix, which can only grow. `null` where a window cannot be kept (the times would
 * grow without end), or a pin.
 */
export function append(
  problem: Compiled,
  prefix: Prefix,
  step: number,
  isBreak: boolean,
): { prefix: Prefix; isPushed: boolean } | null {
  const { count, minutes, head, lag, late, breakLength, maxStretch } = problem;
  const place = prefix.sequence.length;
  const sequence = [...prefix.sequence, step];
  const breaks = [...prefix.isBreak, isBreak];
  const stretches = [...prefix.stretches, isBreak || place === 0 ? place : (prefix.stretches[place - 1] as number)];
  const starts = prefix.starts.slice();
  const length = (k: number) => minutes[sequence[k] as number] as number;
  starts[step] = head[step] as number;
  const relaxAt = (k: number): void => {
    const own = sequence[k] as number;
    let start = starts[own] as number;
    if (k > 0) {
      const last = sequence[k - 1] as number;
      start = Math.max(start, (starts[last] as number) + length(k - 1) + (breaks[k] ? breakLength : 0));
    }
    for (let i = 0; i <= place; i++) {
      const other = sequence[i] as number;
      const ticks = lag[other * count + own] as number;
      if (i !== k && ticks !== NEVER && (starts[other] as number) + ticks > start) start = (starts[other] as number) + ticks;
    }
    starts[own] = start;
  };
  relaxAt(place);
  if ((starts[step] as number) > (late[step] as number)) return null;
  let isPushed = false;
  // The prefix holds together already: only what the new step asks of it can push anything.
  let asks = false;
  for (let i = 0; i < place && !asks; i++) {
    const other = sequence[i] as number;
    const ticks = lag[step * count + other] as number;
    asks = ticks !== NEVER && (starts[step] as number) + ticks > (starts[other] as number);
  }
  if (maxStretch > 0) {
    const begun = sequence[stretches[place] as number] as number;
    asks ||= (starts[step] as number) + length(place) - maxStretch > (starts[begun] as number);
  }
  if (!asks) return { prefix: { sequence, isBreak: breaks, starts, stretches }, isPushed };
  for (let round = 0; ; round++) {
    let changed = false;
    for (let k = 0; k <= place; k++) {
      const own = sequence[k] as number;
      const was = starts[own] as number;
      if (maxStretch > 0) {
        // The first step of a stretch may not begin too long before the end of any of its steps.
        for (let i = place; i >= k && (stretches[k] as number) === k; i--)
          if (stretches[i] === k)
            starts[own] = Math.max(starts[own] as number, (starts[sequence[i] as number] as number) + length(i) - maxStretch);
      }
      relaxAt(k);
      if ((starts[own] as number) > (late[own] as number)) return null;
      if ((starts[own] as number) > was) {
        changed = true;
        if (k < place) isPushed = true;
      }
    }
    if (!changed) break;
    if (round > place + 1) return null;
  }
  return { prefix: { sequence, isBreak: breaks, starts, stretches }, isPushed };
}

/** Longest paths from one place of a prefix to all of its steps, by the same constraints. */
export function pathsFrom(problem: Compiled, prefix: Prefix, place: number): Int32Array {
  const { count, minutes, lag, breakLength, maxStretch } = problem;
  const { sequence, isBreak, stretches } = prefix;
  const far = new Int32Array(count).fill(NEVER);
  far[sequence[place] as number] = 0;
  for (let changed = true; changed; ) {
    changed = false;
    for (let k = 0; k < sequence.length; k++) {
      const own = sequence[k] as number;
      let best = far[own] as number;
      if (k > 0) {
        const last = sequence[k - 1] as number;
        if (far[last] !== NEVER)
          best = Math.max(best, (far[last] as number) + (minutes[last] as number) + (isBreak[k] ? breakLength : 0));
      }
      for (const other of sequence) {
        const ticks = lag[other * count + own] as number;
        if (other !== own && ticks !== NEVER && far[other] !== NEVER) best = Math.max(best, (far[other] as number) + ticks);
      }
      if (maxStretch > 0 && stretches[k] === k)
        for (let i = k; i < sequence.length && stretches[i] === k; i++) {
          const member = sequence[i] as number;
          if (far[member] !== NEVER) best = Math.max(best, (far[member] as number) + (minutes[member] as number) - maxStretch);
        }
      if (best > (far[own] as number)) {
        far[own] = best;
        changed = true;
      }
    }
  }
  return far;
}
