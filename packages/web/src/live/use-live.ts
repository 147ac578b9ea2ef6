import { useCallback, useEffect, useState, useSyncExternalStore } from 'react';
import type { LiveConnection, LiveSnapshot } from './connection.js';

const TICK_MS = 250;
/** Whatever knows the class's time. */
export type Timed = Pick<LiveConnection, 'now'> & Partial<Pick<LiveConnection, 'get'>>;

export function useLive(connection: LiveConnection): LiveSnapshot {
  return useSyncExternalStore(connection.subscribe, connection.get);
}

/** The server's time, renewed several times a second: for a clock, which renders alone. */
export function useServerNow(connection: Timed): number {
  const [now, setNow] = useState(connection.now);
  useEffect(() => {
    const timer = setInterval(() => setNow(connection.now()), TICK_MS);
    return () => clearInterval(timer);
  }, [connection]);
  return now;
}

/**
 * Something that follows from the server's time (whole seconds, a word, whether a key still stands). Renders again only when it is another:
 * it has to stay the same for a while.
 */
export function useOfTime<T extends string | number | boolean | null>(connection: Timed, pick: (now: number) => T): T {
  const subscribe = useCallback((tick: () => void) => {
    const timer = setInterval(tick, TICK_MS);
    return () => clearInterval(timer);
  }, []);
  return useSyncExternalStore(subscribe, () => pick(connection.now()));
}

/**
 * The server's time in whole steps of so many seconds: for what is worked out anew, but not with every tick. Never before the newest event,
 * so that what it says counts at once.
 */
export const useNowEvery = (connection: Timed, seconds: number): number =>
  useOfTime(connection, (now) =>
    Math.max(Math.floor(now / (seconds * 1000)) * seconds * 1000, connection.get?.().state.at ?? Number.NEGATIVE_INFINITY),
  );
