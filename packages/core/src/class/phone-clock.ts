/** How far the server's clock is ahead of a screen's own (ms), and by how much this may be wrong. */
export type Reading = { offset: number; bound: number };
type Trip = Reading & { mono: number };

/** A trip is believed for so long; the one that was shortest counts. */
const BELIEVED_MS = 10 * 60_000;
/** Clocks of phones drift by so much. */
const DRIFT = 50e-6;
/** More than this between the clock and what passed is a clock that was set. */
const JUMP_MS = 500;
/** What is remembered from before a reload may be wrong by so much more. */
const RELOAD_MS = 1000;
const UNKNOWN_MS = 3_600_000;

/**
 * The server's clock as a screen knows it, by the answers whose way there and back was shortest. `wall` is the screen's clock (ms), which
 * somebody may set; `mono` what passed since the page began (ms), which nobody can.
 */
export function phoneClock(stored: Reading | null = null) {
  let trips: Trip[] = [];
  let guess: Reading = stored ? { offset: stored.offset, bound: stored.bound + RELOAD_MS } : { offset: 0, bound: UNKNOWN_MS };
  let between: number | null = null;
  /** A clock that was set changes how far ahead the server's is, by as much. */
  const look = (wall: number, mono: number): void => {
    const jump = between === null ? 0 : wall - mono - between;
    between = wall - mono;
    if (Math.abs(jump) < JUMP_MS) return;
    trips = trips.map((trip) => ({ ...trip, offset: trip.offset - jump }));
    guess = { ...guess, offset: guess.offset - jump };
  };
  const reading = (wall: number, mono: number): Reading => {
    look(wall, mono);
    const fresh = trips.filter((trip) => mono - trip.mono <= BELIEVED_MS);
    // Without a network the last one is all there is.
    trips = fresh.length > 0 ? fresh : trips.slice(-1);
    const boundOf = ({ bound, mono: at }: Trip) => bound + DRIFT * (mono - at);
    const best = trips.reduce<Trip | null>((found, trip) => (!found || boundOf(trip) < boundOf(found) ? trip : found), null);
    return best ? { offset: best.offset, bound: boundOf(best) } : guess;
  };
  return {
    reading,
    /** The server's time, ms. */
    now: (wall: number, mono: number): number => wall + reading(wall, mono).offset,
    /** A first guess, where nothing is known yet. */
    first(wall: number, serverNow: number): void {
      if (trips.length === 0) guess = { offset: serverNow - wall, bound: Math.min(guess.bound, UNKNOWN_MS) };
    },
    /** An answer has come, to what was sent at `sent` (wall, ms), when the server's clock was `serverNow`. */
    trip(sent: number, wall: number, mono: number, serverNow: number): void {
      look(wall, mono);
      const trip = wall - sent;
      if (trip < 0 || trip > UNKNOWN_MS) return;
      trips.push({ offset: serverNow + trip / 2 - wall, bound: trip / 2, mono });
    },
  };
}
