import { serverErrors } from '@viaticum/contract';
import { ApiFault } from '../errors.js';
import { wrongTries } from './wrong-tries.js';

const WINDOW_MS = 10 * 60_000;
/** So many wrong codes are a slip of the finger; from then on a wrong one is answered late, and later with each. */
const FREE = 30;
const STEP_MS = 250;
const MOST_WAIT_MS = 5000;
/** So many late answers may be under way at once to one address. */
const MOST_LATE = 20;

const wait = (ms: number) => new Promise((done) => setTimeout(done, ms));

/**
 * Looks codes up for an address. Wrong ones are counted, answered more and more slowly, and beyond that refused at once; a right code
 * is never refused and never late: a whole class sits behind one address, and somebody who guesses in a corner of the room must
 * not lock the others out. (25⁶ codes: whoever guesses a thousand a second finds one of twenty open classes in about three hours.)
 */
export function codeGuard(now: () => number = Date.now, pause: (ms: number) => Promise<unknown> = wait) {
  const tries = wrongTries(WINDOW_MS, now);
  const late = new Map<string, number>();
  return {
    /** Runs a look-up by code; what it throws with 404 is a wrong try. Throws 429 in its place where there were many. */
    async checked<T>(address: string, look: () => Promise<T>): Promise<T> {
      const before = tries.begin(address);
      try {
        const found = await look();
        tries.right(address);
        return found;
      } catch (error) {
        if (!(error instanceof ApiFault) || error.status !== 404) {
          tries.right(address);
          throw error;
        }
        if (before < FREE) throw error;
        const under = late.get(address) ?? 0;
        if (under < MOST_LATE) {
          late.set(address, under + 1);
          await pause(Math.min(MOST_WAIT_MS, (before - FREE + 1) * STEP_MS));
          const left = (late.get(address) ?? 1) - 1;
          if (left > 0) late.set(address, left);
          else late.delete(address);
        }
        throw new ApiFault(serverErrors.wrongCodes);
      }
    },
  };
}
