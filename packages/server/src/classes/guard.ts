import { ApiFault } from '../errors.js';

const WINDOW_MS = 10 * 60_000;
const MOST_WRONG = 30;
const MOST_ADDRESSES = 10_000;

/**
 * Counts wrong class codes by address. A code that was right from an address is never limited there: a whole class shares one, and
 * somebody who guesses in a corner of the room must not lock the others out.
 */
export function codeGuard(now: () => number = Date.now) {
  const wrong = new Map<string, number[]>();
  const right = new Map<string, Set<string>>();
  const recent = (address: string) => (wrong.get(address) ?? []).filter((at) => now() - at < WINDOW_MS);
  return {
    /** Runs a look-up by code; throws 429 where this address has guessed too often, except for a code that was right there before. */
    async checked<T>(address: string, code: string, look: () => Promise<T>): Promise<T> {
      const before = recent(address);
      if (before.length >= MOST_WRONG && !right.get(address)?.has(code))
        throw new ApiFault(
          429,
          'too-many',
          'Too many wrong codes from here. Wait ten minutes, then read the code off the board.',
        );
      try {
        const found = await look();
        right.set(address, (right.get(address) ?? new Set()).add(code));
        return found;
      } catch (error) {
        if (error instanceof ApiFault && error.status === 404) wrong.set(address, [...before, now()]);
        throw error;
      } finally {
        for (const map of [wrong, right]) if (map.size > MOST_ADDRESSES) map.clear();
      }
    },
  };
}
