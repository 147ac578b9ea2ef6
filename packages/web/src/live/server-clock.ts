/** A trip at most this much longer than the shortest so far still tells the time. */
const FAIR = 1.5;

/** The server's clock as a browser knows it: by the answers whose way there and back was short. */
export function serverClock() {
  let offset = 0;
  let shortest = Number.POSITIVE_INFINITY;
  return {
    /** The server's time, ms. */
    now: (): number => Date.now() + offset,
    /** A first guess, until a trip was measured. */
    first(serverNow: number): void {
      if (shortest === Number.POSITIVE_INFINITY) offset = serverNow - Date.now();
    },
    /** An answer has come, to what was sent at `sent` (this browser's ms), when the server's clock was `serverNow`. */
    trip(sent: number, serverNow: number): void {
      const trip = Date.now() - sent;
      if (trip > shortest * FAIR) return;
      shortest = Math.min(shortest, trip);
      offset = serverNow + trip / 2 - Date.now();
    },
  };
}
