import { createHash, randomBytes } from 'node:crypto';
import type { AccountRole, Measures, OwnSession } from '@viaticum/contract';
import { nanoid } from 'nanoid';
import { LessThan, Not } from 'typeorm';
import { InstructorEntity, SessionEntity } from '../db/entities.js';
import type { Database } from '../db/source.js';

const DAY_MS = 86_400_000;
/** A session ends unused after a week, and after a month however much it is used. */
export const IDLE_MS = 7 * DAY_MS;
export const LONGEST_MS = 30 * DAY_MS;
/** Use is written down this often, not with each request. */
const SEEN_MS = 5 * 60_000;

export type SignedIn = { id: string; name: string; role: AccountRole; measures: Measures | null };

export const hashed = (token: string): string => createHash('sha256').update(token).digest('hex');
/** What is handed out, in a cookie or a link: nobody guesses 256 bits. */
export const newToken = (): string => randomBytes(32).toString('base64url');

const systems: [RegExp, string][] = [
  [/iPad/, 'iPad'],
  [/iPhone/, 'iPhone'],
  [/Android/, 'Android'],
  [/CrOS/, 'ChromeOS'],
  [/Windows/, 'Windows'],
  [/Mac OS X|Macintosh/, 'Mac'],
  [/Linux|X11/, 'Linux'],
];
const browsers: [RegExp, string][] = [
  [/Edg\//, 'Edge'],
  [/OPR\//, 'Opera'],
  [/Firefox\//, 'Firefox'],
  [/Chrome\/|CriOS\//, 'Chrome'],
  [/Safari\//, 'Safari'],
];
/** “Firefox on Windows”: enough to know one's own devices by, from what a browser says of itself. */
export function deviceOf(agent = ''): string {
  const named = (list: [RegExp, string][]) => list.find(([sign]) => sign.test(agent))?.[1];
  const [browser, system] = [named(browsers), named(systems)];
  return browser && system ? `${browser} on ${system}` : (browser ?? system ?? 'A program');
}

/** Who is signed in where. `onEnd` closes what was opened with a session. */
export function sessionStore({ source }: Database, onEnd: (tokenHash: string) => void, now: () => number = () => Date.now()) {
  const sessions = source.getRepository(SessionEntity);
  const end = async (found: SessionEntity[]): Promise<number> => {
    for (const { tokenHash } of found) {
      await sessions.delete({ tokenHash });
      onEnd(tokenHash);
    }
    return found.length;
  };
  return {
    /** Begins one; gives the token for the cookie, of which only a hash is kept. */
    async begin(instructorId: string, agent: string | undefined): Promise<string> {
      const token = newToken();
      await sessions.insert({
        ...{ tokenHash: hashed(token), id: nanoid(12), instructorId, device: deviceOf(agent) },
        ...{ createdAt: now(), seenAt: now(), expiresAt: now() + LONGEST_MS },
      });
      return token;
    },
    /** Who a token belongs to; null where it is unknown, over, unused for too long, or its account is switched off. */
    async find(token: string): Promise<{ instructor: SignedIn; session: string } | null> {
      const session = await sessions.findOneBy({ tokenHash: hashed(token) });
      if (!session || session.expiresAt < now() || session.seenAt + IDLE_MS < now()) return null;
      const found = await source.manager.findOneBy(InstructorEntity, { id: session.instructorId, isOff: false });
      if (!found) return null;
      if (session.seenAt + SEEN_MS < now()) await sessions.update({ tokenHash: session.tokenHash }, { seenAt: now() });
      const measures = found.measures ? (JSON.parse(found.measures) as Measures) : null;
      return { instructor: { id: found.id, name: found.name, role: found.role, measures }, session: session.tokenHash };
    },
    /** An instructor's own, the last used first. */
    async list(instructorId: string, mine: string | null): Promise<OwnSession[]> {
      const found = await sessions.find({ where: { instructorId }, order: { seenAt: 'DESC' } });
      return found
        .filter(({ expiresAt, seenAt }) => expiresAt >= now() && seenAt + IDLE_MS >= now())
        .map(({ id, device, createdAt, seenAt, tokenHash }) => ({
          ...{ id, device, isThis: tokenHash === mine },
          createdAt: new Date(createdAt).toISOString(),
          seenAt: new Date(seenAt).toISOString(),
        }));
    },
    endByToken: async (token: string) => end(await sessions.findBy({ tokenHash: hashed(token) })),
    endOne: async (instructorId: string, id: string) => end(await sessions.findBy({ instructorId, id })),
    /** All of an instructor's; but for one, where it is given. */
    endAll: async (instructorId: string, but: string | null = null) =>
      end(await sessions.findBy({ instructorId, ...(but ? { tokenHash: Not(but) } : {}) })),
    /** Takes away those that are over. */
    async tidy(): Promise<number> {
      return (
        (await end(await sessions.findBy({ expiresAt: LessThan(now()) }))) +
        (await end(await sessions.findBy({ seenAt: LessThan(now() - IDLE_MS) })))
      );
    },
  };
}
export type Sessions = ReturnType<typeof sessionStore>;
