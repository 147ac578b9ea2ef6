import { type Static, Type } from 'typebox';
import { Lesson, Method, Room, School, Step } from './lesson.js';

const strict = { additionalProperties: false } as const;

export const SignIn = Type.Object(
  { name: Type.String({ minLength: 1, maxLength: 120 }), password: Type.String({ minLength: 1, maxLength: 200 }) },
  strict,
);
export const NewLesson = Type.Object({ document: Lesson }, strict);
export const SaveLesson = Type.Object({ baseRevision: Type.Integer({ minimum: 0 }), document: Lesson }, strict);
export const NewClass = Type.Object({ lessonId: Type.String({ minLength: 1, maxLength: 32 }) }, strict);
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
export const IdParam = Type.Object({ id: Type.String({ minLength: 1, maxLength: 32 }) }, strict);

export type SignIn = Static<typeof SignIn>;
export type NewLesson = { document: Lesson };
export type SaveLesson = { baseRevision: number; document: Lesson };
export type NewClass = Static<typeof NewClass>;

/** Every error answer: a stable code, and a sentence that says what is wrong and what to do. */
export type ApiError = { code: string; message: string; details?: unknown };
export type LessonCard = { id: string; title: string; revision: number; updatedAt: string; document: Lesson };
export type LessonAnswer = { id: string; revision: number; document: Lesson; savedAt: string };
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
};
/** A room that an instructor keeps for other lessons. */
export type SavedRoom = { id: string; room: Room };
export type Kept = Static<typeof Kept>;
export type KeptAnswer = { id: string; kept: Kept };
export type Instructor = { name: string };
