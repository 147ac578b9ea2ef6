/** What was noted while filming: by one tap each, on a phone beside the easel. Times in ms since 1970. */
export type ShootEvent = { id: string; at: number; takeId: string; kind: 'started' | 'stopped' | 'good' | 'again' };

export type TakeState = {
  takeId: string;
  /** The camera runs since then. */
  runningSince: number | null;
  /** Every run, with its seconds and what was said of it. */
  runs: { startedAt: number; seconds: number; said: 'good' | 'again' | null }[];
  /** Seconds of the last run that was said to be good. */
  goodS: number | null;
};

/** Runs longer than this were not stopped: they are left out. */
const LONGEST_S = 3 * 3600;

/** What is known of every take that was filmed. Events in any order, the same one twice counted once. */
export function shootState(events: readonly ShootEvent[]): Map<string, TakeState> {
  const seen = new Set<string>();
  const rank = { started: 0, stopped: 1, good: 2, again: 2 };
  const sorted = [...events].sort((a, b) => a.at - b.at || rank[a.kind] - rank[b.kind] || (a.id < b.id ? -1 : 1));
  const states = new Map<string, TakeState>();
  for (const { id, at, takeId, kind } of sorted) {
    if (seen.has(id)) continue;
    seen.add(id);
    const state = states.get(takeId) ?? { takeId, runningSince: null, runs: [], goodS: null };
    states.set(takeId, state);
    if (kind === 'started') state.runningSince = at;
    else if (kind === 'stopped') {
      const seconds = state.runningSince === null ? 0 : (at - state.runningSince) / 1000;
      if (state.runningSince !== null && seconds <= LONGEST_S)
        state.runs.push({ startedAt: state.runningSince, seconds, said: null });
      state.runningSince = null;
    } else {
      const last = state.runs.at(-1);
      if (last) last.said = kind;
    }
  }
  for (const state of states.values()) state.goodS = state.runs.filter(({ said }) => said === 'good').at(-1)?.seconds ?? null;
  return states;
}

/** Seconds of the good takes, as takes are reckoned with. */
export const notedSeconds = (states: ReadonlyMap<string, TakeState>): Map<string, number> =>
  new Map([...states].flatMap(([id, { goodS }]) => (goodS === null ? [] : [[id, goodS] as const])));
