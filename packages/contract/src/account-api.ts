import { type Static, Type } from 'typebox';
import { languages } from './language.js';

const strict = { additionalProperties: false } as const;

/** Letters of a password at the least. Length is what counts; no kinds of letters are asked for. */
export const PASSWORD_LETTERS = 12;
const AccountName = Type.String({ minLength: 1, maxLength: 120, pattern: '^\\S(.*\\S)?$' });
const AnyPassword = Type.String({ minLength: 1, maxLength: 200 });
const NewPassword = Type.String({ minLength: PASSWORD_LETTERS, maxLength: 200 });
/** Six digits of an authenticator, or one of the codes that were written down. */
const SecondFactor = Type.String({ minLength: 6, maxLength: 20 });

export const SignIn = Type.Object(
  { name: Type.String({ minLength: 1, maxLength: 120 }), password: AnyPassword, code: Type.Optional(SecondFactor) },
  strict,
);
/** A new account: that of the owner, or of who was invited. */
export const NewAccount = Type.Object({ name: AccountName, password: NewPassword }, strict);
export const ChangePassword = Type.Object({ password: AnyPassword, next: NewPassword }, strict);
export const ByPassword = Type.Object({ password: AnyPassword }, strict);
export const ByCode = Type.Object({ code: SecondFactor }, strict);
export const Forgotten = Type.Object({ name: Type.String({ minLength: 1, maxLength: 120 }) }, strict);
export const FollowAccountLink = Type.Object({ name: Type.Optional(AccountName), password: NewPassword }, strict);
export const SaveAccount = Type.Object({ isOff: Type.Boolean() }, strict);
/** What stands at the end of a link that was handed out. */
export const TokenParam = Type.Object({ token: Type.String({ pattern: '^[\\w-]{1,64}$' }) }, strict);

/** How somebody measures and in which language they read, wherever a lesson does not say it by itself (its lengths it does). */
export const Measures = Type.Object(
  {
    temperature: Type.Enum(['C', 'F']),
    volume: Type.Enum(['ml', 'fl oz']),
    clock: Type.Enum(['24', '12']),
    language: Type.Optional(Type.Enum([...languages])),
  },
  strict,
);
export type Measures = Static<typeof Measures>;

export type SignIn = Static<typeof SignIn>;
export type NewAccount = Static<typeof NewAccount>;
export type ChangePassword = Static<typeof ChangePassword>;
export type FollowAccountLink = Static<typeof FollowAccountLink>;

/** `owner` runs this installation; `demo` is the account that ships with it. */
export type AccountRole = 'owner' | 'instructor' | 'demo';
/** `measures`: null where they were never said. */
export type Instructor = { name: string; role: AccountRole; measures?: Measures | null };
/** Who is signed in, and whether this browser may set up the owner, because there is none yet. */
export type SessionAnswer = { instructor: Instructor | null; needsOwner: boolean };
export type OwnSession = { id: string; device: string; createdAt: string; seenAt: string; isThis: boolean };
export type AccountAnswer = Instructor & {
  hasSecondFactor: boolean;
  /** Codes that were written down and not used yet. */
  codesLeft: number;
  /** After so many days names of students are erased; null: they stay. */
  retentionDays: number | null;
  sessions: OwnSession[];
};
/** What an authenticator is told: the secret in base 32, and the address that holds it. */
export type SecondFactorAnswer = { secret: string; address: string };
export type OneAccount = Instructor & { id: string; createdAt: string; isOff: boolean; lessons: number; seenAt: string | null };
export type Invitation = { id: string; madeAt: string; expiresAt: string };
/** A letter about an account in the outbox stand-in, which sends nothing. */
export type AccountLetter = { id: string; at: string; toName: string; subject: string; text: string };
export type AccountsAnswer = { accounts: OneAccount[]; invitations: Invitation[]; letters: AccountLetter[] };
/** What a link that was handed out is for. */
export type AccountLinkAnswer = { kind: 'invite' | 'reset'; name: string | null; expiresAt: string };
/** When backups were last made: by night beside the data, and into a file that somebody took elsewhere. `since`: from when there is work. */
export type BackupsAnswer = { nightlyAt: string | null; elsewhereAt: string | null; mayMake: boolean; since: string };
