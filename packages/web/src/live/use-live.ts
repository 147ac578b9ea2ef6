import { useEffect, useState, useSyncExternalStore } from 'react';
import type { LiveConnection, LiveSnapshot } from './connection.js';

export function useLive(connection: LiveConnection): LiveSnapshot {
  return useSyncExternalStore(connection.subscribe, connection.get);
}

/** The server's time, renewed several times a second. */
export function useServerNow(connection: LiveConnection): number {
  const [now, setNow] = useState(connection.now);
  useEffect(() => {
    const timer = setInterval(() => setNow(connection.now()), 250);
    return () => clearInterval(timer);
  }, [connection]);
  return now;
}
