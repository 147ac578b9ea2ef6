import { type Static, Type } from 'typebox';
import { type Language, languages } from './language.js';
import { Lesson, Method, Room, School, Step } from './lesson/index.js';
import { type ClassEvent, FirstName, type FollowSheet } from './live.js';
import { Id } from './shapes.js';
import type { LessonRole } from './sharing-api.js';
import type { ShelfPlace } from './shelf-api.js';

const strict = { additionalProperties: false } as const;

export const NewLesson = Type.Object({ document: Lesson }, strict);
export const SaveLesson = Type.Object({ baseRevision: Type.Integer({ minimum: 0 }), document: Lesson }, strict);
/** Simulated students for a rehearsal, and whether a simulated sensor tells the room's air. */
export const Rehearsal = Type.Object(
  {
    students: Type.Integer({ minimum: 0, maximum: 40 }),
    level: Type.Enum(['beginner', 'improver', 'experienced']),
    sensor: Type.Boolean(),
    seed: Type.Optional(Type.Integer({ minimum: 0, maximum: 1e9 })),
  },
  strict,
);
export const RevisionParam = Type.Object({ id: Id, revisionId: Type.String({ pattern: '^[1-9]\\d{0,8}$' }) }, strict);
/** What a version is called; null: nothing any more. */
export const SaveRevision = Type.Object(
  { name: Type.Union([Type.String({ minLength: 1, maxLength: 120 }), Type.Null()]) },
  strict,
);
export const NewClass = Type.Object({ lessonId: Id, rehearsal: Type.Optional(Rehearsal) }, strict);
/** Which of the machine's addresses the phones are told. */
export const SaveAddress = Type.Object({ address: Type.String({ pattern: '^https?://[^/\\s]{1,150}', maxLength: 200 }) }, strict);
/** In which language phones, wall and letters of a class are. */
export const SaveLanguage = Type.Object({ language: Type.Enum([...languages]) }, strict);
/** A class that is to come: when and where, and who is expected by their first names. */
export const Invite = Type.Object(
  {
    startsAt: Type.String({ pattern: '^\\d{4}-\\d\\d-\\d\\dT\\d\\d:\\d\\d(:\\d\\d(\\.\\d+)?)?Z$', maxLength: 30 }),
    timeZone: Type.String({ minLength: 1, maxLength: 60 }),
    place: Type.String({ maxLength: 120 }),
    seats: Type.Integer({ minimum: 1, maximum: 1200 }),
    roster: Type.Array(Type.Object({ firstName: FirstName, personId: Type.Optional(Id) }, strict), { maxItems: 300 }),
  },
  strict,
);
export const NewInvite = Type.Object({ lessonId: Id, invite: Invite }, strict);
export const SaveInvite = Type.Object({ invite: Invite }, strict);
/** What the instructor keeps of a student for themself: a note, and whom they are from earlier classes (null: nobody known). */
export const SaveOfStudent = Type.Object(
  {
    note: Type.Optional(Type.String({ maxLength: 1000 })),
    personId: Type.Optional(Type.Union([Id, Type.Null()])),
  },
  strict,
);
export const NewPerson = Type.Object({ firstName: FirstName }, strict);
export const CodeParam = Type.Object({ code: Type.String({ maxLength: 40 }) });
export const SaveRoom = Type.Object({ room: Room }, strict);
/** What an instructor keeps for other lessons: some steps, or a way of drafting. */
export const Kept = Type.Union([
  Type.Object(
    {
      kind: Type.Literal('steps'),
      name: Type.String({ minLength: 1, maxLength: 120 }),
      steps: Type.Array(Step, { minItems: 1, maxItems: 60 }),
    },
    strict,
  ),
  Type.Object(
    { kind: Type.Literal('method'), name: Type.String({ minLength: 1, maxLength: 120 }), school: School, method: Method },
    strict,
  ),
]);
export const SaveKept = Type.Object({ kept: Kept }, strict);
/** Lists come in pages: what stands behind the one with this id. */
export const PageQuery = Type.Object({ before: Type.Optional(Id) }, strict);
export const IdParam = Type.Object({ id: Id }, strict);

export type NewLesson = { document: Lesson };
export type SaveLesson = { baseRevision: number; document: Lesson };
export type NewClass = Static<typeof NewClass>;
export type Rehearsal = Static<typeof Rehearsal>;
export type Invite = Static<typeof Invite>;
export type SaveOfStudent = Static<typeof SaveOfStudent>;

/** Every error answer: a stable code, and a sentence that says what is wrong and what to do. */
export type ApiError = { code: string; message: string; requestId?: string; details?: unknown };
/** What the shelf shows of a lesson without reading its document. */
export type LessonOnCard = {
  widthMm: number;
  heightMm: number;
  units: 'in' | 'cm';
  steps: number;
  /** Of its plan; null where it has none. */
  endMin: number | null;
  waitMin: number;
  /** Some of its paint never dries in its room. */
  never?: true;
  /** Its minutes are reckoned with the longest that drying may take. */
  cautious?: true;
  pictureSha256: string | null;
  lastStepId: string | null;
};
/** `by`: whose it is, where it is shared by somebody else. */
export type LessonCard = {
  id: string;
  title: string;
  revision: number;
  updatedAt: string;
  card: LessonOnCard;
  role: LessonRole;
  by: string | null;
} & ShelfPlace;
export type LessonAnswer = { id: string; revision: number; document: Lesson; savedAt: string; role: LessonRole };
/**
 * `auto`: saved by itself, thinned by age; `kept`: the one of two at once that did not stand; `won`: the other; `pinned`: taught or
 * handed out. All but the first stay.
 */
export type RevisionKind = 'auto' | 'kept' | 'won' | 'pinned';
/** How long a deleted lesson lies in the bin, days. */
export const BIN_DAYS = 30;
export type BinnedLesson = { id: string; title: string; removedAt: string };
export type RevisionAnswer = {
  id: number;
  number: number;
  kind: RevisionKind;
  name: string | null;
  savedAt: string;
  /** Who saved it. */
  author: string;
  isPresent: boolean;
};
export type SaveAnswer = { revision: number; savedAt: string };
export type ConflictAnswer = ApiError & { current: LessonAnswer; keptRevision: number };
export type PictureAnswer = { sha256: string; widthPx: number; heightPx: number };
export type ClassAnswer = {
  id: string;
  code: string;
  lessonId: string;
  title: string;
  state: string;
  openedAt: string;
  addresses: string[];
  reachable: boolean;
  language: Language;
  rehearsal: boolean;
  invite: Invite | null;
};
/** What whoever has the code of a class may know of it. */
export type JoinAnswer = {
  code: string;
  title: string;
  state: string;
  address: string;
  /** How many are expected; once the class is open, the names on its list. */
  expected: number;
  offered: string[];
  startsAt: string | null;
  timeZone: string | null;
  place: string | null;
};
/** Links for those who help in a class without an account. */
export const DeviceParam = Type.Object(
  { code: Type.String({ maxLength: 40 }), role: Type.Enum(['co', 'assistant', 'sensor', 'camera']) },
  strict,
);
export type DeviceRole = Static<typeof DeviceParam>['role'];
export type ClassLinks = Record<DeviceRole, string>;
export type OfStudent = { note: string; personId: string | null };
/** Someone who came before, with how much longer than the plan they take (null: not known yet), and between what in four cases of five. */
export type Person = {
  id: string;
  firstName: string;
  classes: number;
  pace: number | null;
  paceFrom?: number;
  paceTo?: number;
};
/** `dueAt`: the day on which it is to be thought of. */
export type Letter = {
  id: string;
  at: string;
  dueAt: string | null;
  to: string;
  subject: string;
  text: string;
  attachment: string | null;
};
/** All that happened in a class, with what is needed to show it. */
export type ClassRecord = {
  title: string;
  events: ClassEvent[];
  sheet: FollowSheet;
  lesson: Lesson;
  students: Record<string, OfStudent>;
};
/** A room that an instructor keeps for other lessons. */
export type SavedRoom = { id: string; room: Room };
export type Kept = Static<typeof Kept>;
export type KeptAnswer = { id: string; kept: Kept };
