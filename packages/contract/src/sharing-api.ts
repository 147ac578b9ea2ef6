import { type Static, Type } from 'typebox';
import { Id } from './shapes.js';

const strict = { additionalProperties: false } as const;

/** What somebody may do with a lesson; each may do what the one before may. */
export const lessonRoles = ['reader', 'editor', 'owner'] as const;
export type LessonRole = (typeof lessonRoles)[number];
/** Roles that are given to others. */
export type GivenRole = Exclude<LessonRole, 'owner'>;
const GivenRole = Type.Enum(['reader', 'editor']);

/** How long a link by which a lesson is shared holds, days. */
export const SHARE_DAYS = 14;

export const NewShareLink = Type.Object({ role: GivenRole }, strict);
export const SaveSharer = Type.Object({ role: GivenRole }, strict);
export const SharerParam = Type.Object({ id: Id, personId: Id }, strict);
export const ShareLinkParam = Type.Object({ id: Id, linkId: Id }, strict);
export type NewShareLink = Static<typeof NewShareLink>;

export type Sharer = { id: string; name: string; role: GivenRole };
export type ShareLink = { id: string; role: GivenRole; madeAt: string; expiresAt: string };
/** With whom a lesson is shared. The open links are told to its owner only. */
export type SharingAnswer = { role: LessonRole; owner: string; people: Sharer[]; links: ShareLink[] };
/** The address is told once: only its hash is kept. */
export type ShareLinkMade = ShareLink & { address: string };
/** What a link that was handed out leads to. */
export type SharedAnswer = { lessonId: string; title: string; owner: string; role: GivenRole; has: LessonRole | null };

/** What a browser tells while a lesson is open in it. */
export const SaveHere = Type.Object({ seat: Id, place: Type.String({ maxLength: 40 }) }, strict);
export type SaveHere = Static<typeof SaveHere>;
/** Somebody who has the lesson open elsewhere, where on the bench, and whether they may change it. */
export type Around = { seat: string; name: string; isYou: boolean; place: string; role: LessonRole };
/** `savedBy`: who saved that revision; null: oneself. */
export type AroundAnswer = { people: Around[]; revision: number; savedBy: string | null };
