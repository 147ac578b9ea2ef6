import type {
  AccountLetter,
  AccountLinkAnswer,
  AccountRole,
  AccountsAnswer,
  Invitation,
  Measures,
  OneAccount,
} from '@viaticum/contract';
import { say, serverErrors } from '@viaticum/contract';
import { nanoid } from 'nanoid';
import { In, LessThan, Not } from 'typeorm';
import { AccountLetterEntity, AccountLinkEntity, ClassEntity, InstructorEntity } from '../db/entities.js';
import type { Database } from '../db/source.js';
import { ApiFault, notFound } from '../errors.js';
import type { Passwords } from './password.js';
import { intervalOf, newSecondFactor, newSpareCodes, useSpareCode } from './second-factor.js';
import { hashed, newToken, type Sessions } from './sessions.js';

const HOUR_MS = 3_600_000;
const INVITE_MS = 7 * 24 * HOUR_MS;
const RESET_MS = HOUR_MS;
const MOST_INVITATIONS = 50;

type Parts = { database: Database; passwords: Passwords; sessions: Sessions; now?: () => number };

/** Accounts: the owner's, those of who was invited, the demo's; passwords, second factors, links that are handed out. */
export function accountStore({ database: { source }, passwords, sessions, now = () => Date.now() }: Parts) {
  const { manager } = source;
  const one = async (id: string): Promise<InstructorEntity> => {
    const found = await manager.findOneBy(InstructorEntity, { id });
    if (!found) throw notFound('account');
    return found;
  };
  /** What a row that may not stand twice says. The database holds that there is one owner. */
  const clash = (error: { code?: string; message: string }): unknown => {
    if (error.code !== 'ER_DUP_ENTRY') return error;
    return new ApiFault(error.message.includes('uq_one_owner') ? serverErrors.ownerThere : serverErrors.nameTaken);
  };
  /** Names that differ in letters' size or accents only are one to the database, so that nobody is mistaken for another. */
  const add = async (name: string, passwordHash: string, role: AccountRole): Promise<InstructorEntity> => {
    const id = nanoid(12);
    await manager.insert(InstructorEntity, { id, name, passwordHash, role, createdAt: now() }).catch((error) => {
      throw clash(error);
    });
    return one(id);
  };
  const hasOwner = () => manager.existsBy(InstructorEntity, { role: 'owner' });
  const linkOf = async (token: string): Promise<AccountLinkEntity> => {
    const link = await manager.findOneBy(AccountLinkEntity, { tokenHash: hashed(token) });
    if (!link || link.expiresAt < now()) throw new ApiFault(serverErrors.linkOver);
    return link;
  };
  const addLink = async (kind: 'invite' | 'reset', instructorId: string | null, forMs: number) => {
    const token = newToken();
    const link = { tokenHash: hashed(token), id: nanoid(12), kind, instructorId, madeAt: now(), expiresAt: now() + forMs };
    await manager.insert(AccountLinkEntity, link);
    return { token, id: link.id };
  };

  return {
    one,
    hasOwner,
    /** The first account of an installation. Two at once: one of them is told that it has an owner. */
    async makeOwner(name: string, password: string, caller: string): Promise<InstructorEntity> {
      if (await hasOwner()) throw new ApiFault(serverErrors.ownerThere);
      return add(name, await passwords.hash(password, caller), 'owner');
    },
    /** Whether digits or a code that was written down let this account in; either is good once. */
    async takeSecondFactor({ id, secondFactor, secondFactorUsed, spareCodes }: InstructorEntity, code: string): Promise<boolean> {
      if (!secondFactor) return true;
      const interval = intervalOf(secondFactor, code, secondFactorUsed, now());
      if (interval !== null) {
        const taken = await manager.update(
          InstructorEntity,
          { id, secondFactorUsed: LessThan(interval) },
          { secondFactorUsed: interval },
        );
        return taken.affected === 1;
      }
      const left = useSpareCode(JSON.parse(spareCodes) as string[], code);
      if (!left) return false;
      return (await manager.update(InstructorEntity, { id, spareCodes }, { spareCodes: JSON.stringify(left) })).affected === 1;
    },
    async mustFit(id: string, password: string, caller: string): Promise<InstructorEntity> {
      const account = await one(id);
      if (!(await passwords.fits(password, account.passwordHash, caller))) throw new ApiFault(serverErrors.wrongOwnPassword);
      return account;
    },
    /** Sets a password and ends the sessions that were begun with the former one, but for the one that asks. */
    async setPassword(id: string, password: string, caller: string, but: string | null): Promise<void> {
      await manager.update(InstructorEntity, { id }, { passwordHash: await passwords.hash(password, caller) });
      await sessions.endAll(id, but);
    },
    async beginSecondFactor(id: string): Promise<{ secret: string; address: string }> {
      const fresh = newSecondFactor((await one(id)).name);
      await manager.update(InstructorEntity, { id }, { secondFactorPending: fresh.secret });
      return fresh;
    },
    /** The first digits of a new authenticator: from here on it is asked for. Gives the codes to write down. */
    async confirmSecondFactor(id: string, code: string): Promise<string[]> {
      const { secondFactorPending: secret } = await one(id);
      if (!secret) throw new ApiFault(serverErrors.noSecondFactor);
      const interval = intervalOf(secret, code, 0, now());
      if (interval === null) throw new ApiFault(serverErrors.wrongSecondFactor);
      const { codes, hashes } = newSpareCodes();
      await manager.update(
        InstructorEntity,
        { id },
        { secondFactor: secret, secondFactorPending: null, secondFactorUsed: interval, spareCodes: JSON.stringify(hashes) },
      );
      return codes;
    },
    /**
     * Takes an account away with all that is its own. What others taught from its lessons stays theirs: those lessons go into their bins.
     * Throws where a class of it is open, and where the owner would leave others behind.
     */
    async leave(id: string): Promise<void> {
      const { role, name } = await one(id);
      if (role === 'demo') throw new ApiFault(serverErrors.demoStays);
      await source.transaction(async (within) => {
        if (role === 'owner' && (await within.countBy(InstructorEntity, { role: 'instructor' })) > 0)
          throw new ApiFault(serverErrors.ownerLeavesLast);
        if (await within.existsBy(ClassEntity, { ownerId: id, phase: Not(In(['planned', 'ended'])) }))
          throw new ApiFault(serverErrors.classStillOpen);
        // What was opened by it closes, before nobody knows any more what that was.
        await sessions.endAll(id);
        await within.query(
          `UPDATE lesson JOIN class ON class.lesson_id = lesson.id AND class.owner_id <> lesson.owner_id
           SET lesson.owner_id = class.owner_id, lesson.removed_at = ? WHERE lesson.owner_id = ?`,
          [now(), id],
        );
        await within.delete(AccountLetterEntity, { toName: name });
        await within.delete(InstructorEntity, { id });
      });
    },
    async setMeasures(id: string, measures: Measures): Promise<void> {
      await manager.update(InstructorEntity, { id }, { measures: JSON.stringify(measures) });
    },
    async dropSecondFactor(id: string): Promise<void> {
      await manager.update(
        InstructorEntity,
        { id },
        { secondFactor: null, secondFactorPending: null, secondFactorUsed: 0, spareCodes: '[]' },
      );
    },

    /** All accounts with how many lessons stand on their shelves, open invitations, and letters in the outbox stand-in. */
    async all(): Promise<AccountsAnswer> {
      const rows = (await source.query(
        `SELECT i.id, i.name, i.role, i.created_at AS createdAt, i.is_off AS isOff, MAX(s.seen_at) AS seenAt,
           (SELECT COUNT(*) FROM lesson l WHERE l.owner_id = i.id AND l.removed_at IS NULL) AS lessons
         FROM instructor i LEFT JOIN session s ON s.instructor_id = i.id GROUP BY i.id ORDER BY i.role = 'owner' DESC, i.created_at, i.name`,
      )) as Record<string, string | number | null>[];
      const iso = (ms: unknown) => new Date(Number(ms)).toISOString();
      const accounts = rows.map(({ id, name, role, createdAt, isOff, seenAt, lessons }) => ({
        ...{ id, name, role, isOff: Boolean(isOff), lessons: Number(lessons) },
        ...{ createdAt: iso(createdAt), seenAt: seenAt === null ? null : iso(seenAt) },
      })) as OneAccount[];
      const invitations = await manager.find(AccountLinkEntity, { where: { kind: 'invite' }, order: { madeAt: 'DESC' } });
      const letters = await manager.find(AccountLetterEntity, { order: { at: 'DESC' } });
      return {
        accounts,
        invitations: invitations
          .filter(({ expiresAt }) => expiresAt >= now())
          .map(({ id, madeAt, expiresAt }): Invitation => ({ id, madeAt: iso(madeAt), expiresAt: iso(expiresAt) })),
        letters: letters
          .filter(({ expiresAt }) => expiresAt >= now())
          .map(({ id, at, toName, subject, text }): AccountLetter => ({ id, at: iso(at), toName, subject, text })),
      };
    },
    /** A link by which one person makes an account; shown once. */
    async invite(): Promise<string> {
      if ((await manager.countBy(AccountLinkEntity, { kind: 'invite' })) >= MOST_INVITATIONS)
        throw new ApiFault(serverErrors.invitationsFull);
      return (await addLink('invite', null, INVITE_MS)).token;
    },
    async takeBackInvitation(id: string): Promise<void> {
      const { affected } = await manager.delete(AccountLinkEntity, { id, kind: 'invite' });
      if (!affected) throw notFound('invitation');
    },
    async switchOff(id: string, isOff: boolean): Promise<void> {
      const account = await one(id);
      if (account.role === 'owner') throw new ApiFault(serverErrors.ownerStays);
      await manager.update(InstructorEntity, { id }, { isOff });
      if (isOff) await sessions.endAll(id);
    },
    /** A letter with a link for a new password, in the outbox stand-in. A former one is good no longer. */
    async sendReset(name: string, addressOf: (token: string) => string): Promise<void> {
      const account = await manager.findOneBy(InstructorEntity, { name, isOff: false });
      if (!account) return;
      await manager.delete(AccountLinkEntity, { kind: 'reset', instructorId: account.id });
      const { token, id } = await addLink('reset', account.id, RESET_MS);
      await manager.insert(AccountLetterEntity, {
        ...{ id: nanoid(12), at: now(), expiresAt: now() + RESET_MS, toName: account.name, linkId: id },
        subject: say('A new password for Viaticum'),
        text: say`${account.name},\n\nsomebody asked for a new password for your account. Choose it here within an hour:\n${addressOf(token)}\n\nIf it was not you, do nothing: your password stays as it is.`,
      });
    },
    async link(token: string): Promise<AccountLinkAnswer> {
      const { kind, instructorId, expiresAt } = await linkOf(token);
      const name = instructorId ? (await one(instructorId)).name : null;
      return { kind, name, expiresAt: new Date(expiresAt).toISOString() };
    },
    /** Makes the account or sets the password that a link is for. The link is used up first: of two who follow it at once one does. */
    async follow(token: string, name: string | undefined, password: string, caller: string): Promise<InstructorEntity> {
      const link = await linkOf(token);
      const hash = await passwords.hash(password, caller);
      const use = async () => {
        const { affected } = await manager.delete(AccountLinkEntity, { tokenHash: link.tokenHash });
        if (!affected) throw new ApiFault(serverErrors.linkOver);
      };
      if (link.kind === 'reset' && link.instructorId) {
        await use();
        await manager.update(InstructorEntity, { id: link.instructorId }, { passwordHash: hash });
        await sessions.endAll(link.instructorId);
        return one(link.instructorId);
      }
      if (!name) throw new ApiFault(serverErrors.nameWanted);
      // A name that is taken does not use up the invitation.
      if (await manager.existsBy(InstructorEntity, { name })) throw new ApiFault(serverErrors.nameTaken);
      await use();
      return add(name, hash, 'instructor');
    },
    async tidy(): Promise<void> {
      await manager.delete(AccountLinkEntity, { expiresAt: LessThan(now()) });
      await manager.delete(AccountLetterEntity, { expiresAt: LessThan(now()) });
    },
  };
}
export type Accounts = ReturnType<typeof accountStore>;
