import { type Static, Type } from 'typebox';
import type { CameraPlace, FilmLight } from './lesson/index.js';
import { Id } from './shapes.js';

const strict = { additionalProperties: false } as const;

/** Where films are uploaded, in resumable pieces (the tus protocol 1.0.0), and served by the SHA-256 of what is in them. */
export const FILMS_PATH = '/api/films';
export const filmLimits = {
  /** The largest film, and all films of an instructor together, in bytes. */
  fileBytes: 8_000_000_000,
  quotaBytes: 20_000_000_000,
  /** Uploads of one instructor at once. */
  uploads: 2,
  /** A piece of an upload. */
  pieceBytes: 8 * 1024 * 1024,
} as const;
export const filmTypes = ['video/mp4', 'video/webm'] as const;
export type FilmType = (typeof filmTypes)[number];

/** A film that an instructor has uploaded. */
export type FilmFile = { sha256: string; name: string; type: FilmType; bytes: number; createdAt: number };
export type FilmsAnswer = { films: FilmFile[]; usedBytes: number; quotaBytes: number };
export const FinishUpload = Type.Object({ sha256: Type.String({ pattern: '^[0-9a-f]{64}$' }) }, strict);

/** A take as a phone beside the easel shows it. */
export type SheetTake = {
  id: string;
  slate: string;
  title: string;
  place: CameraPlace;
  light: FilmLight;
  minutes: number;
  mustSee: string[];
  mustSay: string[];
  notes: string[];
  /** The canvas as it must stand: after this step, in words; null where it is bare. */
  startsAfter: string | null;
};
/** The shooting list of a lesson, in the order of filming. */
export type ShootSheet = { title: string; takes: SheetTake[] };

/** What is noted with one tap while filming. */
export const ShootNote = Type.Object(
  {
    id: Id,
    at: Type.Integer({ minimum: 0 }),
    takeId: Type.String({ minLength: 1, maxLength: 160 }),
    kind: Type.Enum(['started', 'stopped', 'good', 'again']),
  },
  strict,
);
export type ShootNote = Static<typeof ShootNote>;
export const ShootNotes = Type.Object({ notes: Type.Array(ShootNote, { minItems: 1, maxItems: 200 }) }, strict);
export type ShootAnswer = { sheet: ShootSheet; notes: ShootNote[] };
/** The address at which a shooting list is ticked; empty where there is none. */
export type ShootLink = { address: string };
