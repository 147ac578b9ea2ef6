import { ApiFault } from '../errors.js';

const WINDOW_MS = 10 * 60_000;
const MOST_WRONG = 30;

/** Counts wrong class codes by address; right ones are never limited, because a whole class shares one address. */
export function codeGuard(now: () => number = Date.now) {
  const wrong = new Map<string, number[]>();
  const recent = (address: string) => (wrong.get(address) ?? []).filter((at) => now() - at < WINDOW_MS);
  return {
    /** Runs a look-up by code; throws 429 where this address has guessed too often. */
    async checked<T>(address: string, look: () => Promise<T>): Promise<T> {
      const before = recent(address);
      if (before.length >= MOST_WRONG)
        throw new ApiFault(
          429,
          'too-many',
          'Too many wrong codes from here. Wait ten minutes, then read the code off the board.',
        );
      try {
        return await look();
      } catch (error) {
        if (error instanceof ApiFault && error.status === 404) wrong.set(address, [...before, now()]);
        if (wrong.size > 10_000) wrong.clear();
        throw error;
      }
    },
  };
}
