import { useEffect, useState } from 'react';

/**
 * Something with a lifetime of its own (a worker, a connection, addresses of blobs): made when the view is shown, ended with it or when
 * `make` is another. Null until then. `make` and `end` stay the same between renders.
 */
export function useHeld<T>(make: () => T, end: (held: T) => void): T | null {
  const [held, setHeld] = useState<T | null>(null);
  useEffect(() => {
    const fresh = make();
    // eslint-disable-next-line react-hooks/set-state-in-effect -- it exists from here on, not while rendering
    setHeld(() => fresh);
    return () => end(fresh);
  }, [make, end]);
  return held;
}
