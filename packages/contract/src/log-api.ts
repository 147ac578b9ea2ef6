import { type Static, Type } from 'typebox';
import type { Technique } from './lesson/index.js';
import { Id, Name, strict } from './shapes.js';

/** Where what is logged comes from. A rehearsal is never logged. */
export type LoggedKind = 'class' | 'by-hand';
/** One step, pause or break of a logged class; minutes. `actual` null: it was never come to. */
export type LoggedItem = {
  kind: 'step' | 'pause' | 'break';
  stepId: string | null;
  title: string;
  technique: Technique | null;
  planned: number | null;
  actual: number | null;
  /** How many were there for it, said Done, are taken for done, and asked for help. */
  present: number;
  done: number;
  assumed: number;
  asks: number;
  reasons: string[];
  note?: string;
  /** A pause that was cut short: so much before its paint was dry the class painted on. */
  paintedOnMin?: number;
  /** A pause that a touch ended: so much before its time. */
  touchedEarlyMin?: number;
};
/** What touches told of one coat: minutes after it was laid at which it was last found wet and first found dry, against the model’s. */
export type LoggedTouch = {
  stepId: string | null;
  technique: Technique | null;
  predictedMin: number;
  wetAtMin?: number;
  dryAtMin?: number;
};
/** How long one student took for a step, between which minutes, against the plan. `who`: the student’s number in the class. */
export type LoggedPace = { stepId: string; technique: Technique | null; planned: number; from: number; to: number; who: number };
/** All that is kept of a class that was taught: nobody is named. */
export type ClassLog = {
  kind: LoggedKind;
  title: string;
  lessonId: string;
  /** When it began (ISO). */
  at: string;
  room: string;
  air: { airC: number; humidity: number } | null;
  students: number;
  level: 'beginner' | 'improver' | 'experienced';
  plannedMin: number;
  actualMin: number;
  finished: number;
  items: LoggedItem[];
  touches: LoggedTouch[];
  paces: LoggedPace[];
  note: string;
};
/** A class as the Log station lists it. `code`: of a class that was taught here; its record can be opened. */
export type LoggedClass = { id: string; code: string | null; log: ClassLog };

/** A class that was taught without the application, as somebody noted it. */
export const ByHand = Type.Object(
  {
    title: Name,
    at: Type.String({ pattern: '^\\d{4}-\\d\\d-\\d\\d', maxLength: 30 }),
    students: Type.Integer({ minimum: 1, maximum: 1200 }),
    items: Type.Array(
      Type.Object(
        {
          title: Name,
          planned: Type.Union([Type.Null(), Type.Number({ minimum: 0, maximum: 600 })]),
          actual: Type.Union([Type.Null(), Type.Number({ minimum: 0, maximum: 600 })]),
          note: Type.String({ maxLength: 500 }),
        },
        strict,
      ),
      { minItems: 1, maxItems: 400 },
    ),
    note: Type.String({ maxLength: 4000 }),
  },
  strict,
);
export type ByHand = Static<typeof ByHand>;
export const NewByHand = Type.Object({ lessonId: Id, byHand: ByHand }, strict);
export const SaveLogNote = Type.Object({ note: Type.String({ maxLength: 4000 }) }, strict);
/** What of the log is asked for: of one lesson, with words in it, after the class with this id. */
export const LogQuery = Type.Object(
  {
    lesson: Type.Optional(Id),
    words: Type.Optional(Type.String({ minLength: 1, maxLength: 120 })),
    before: Type.Optional(Id),
  },
  strict,
);
