import { pool } from '../work/pool.js';
import type { PasswordJob } from './password-worker.js';

/** Passwords are hashed (scrypt) in threads of their own: a third of a second each, of which nobody else should notice anything. */
export function passwords() {
  const threads = pool<PasswordJob, string | boolean>('auth/password-worker.js', { threads: 2, queue: 30, perCaller: 8 });
  return {
    hash: async (password: string, caller = 'set-up') => (await threads.ask({ kind: 'hash', password }, caller)) as string,
    /** Whether a password fits a stored hash. Takes as long for an unknown name (`null`) as for a known one. */
    fits: async (password: string, stored: string | null, caller: string) =>
      (await threads.ask({ kind: 'fits', password, stored }, caller)) as boolean,
    close: threads.close,
  };
}
export type Passwords = ReturnType<typeof passwords>;
