import { type Static, Type } from 'typebox';
import type { PaintKind, Technique } from './lesson/index.js';
import { Sha256 } from './lesson/values.js';
import { ClassEvent } from './live.js';
import { Id, Name, oneOf, strict } from './shapes.js';

/**
 * Where what is logged comes from: a class, one who painted alone from a link, the instructor's own practice, a film's takes of one day, or a
 * class as somebody noted it. A rehearsal is never logged.
 */
export const loggedKinds = ['class', 'alone', 'practice', 'takes', 'by-hand'] as const;
export type LoggedKind = (typeof loggedKinds)[number];
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
  /** The group whose time it is, where the class was taught in groups. */
  group?: string;
  /** How long each who was helped was helped, minutes from the raised hand on. */
  helpMin?: number[];
  note?: string;
  /** A pause that was cut short: so much before its paint was dry the class painted on. */
  paintedOnMin?: number;
  /** A pause that a touch ended: so much before its time. */
  touchedEarlyMin?: number;
};
export type LoggedPaint = Exclude<PaintKind, 'ordinary'> | 'retarder' | 'gel';
/** What touches told of one coat: minutes after it was laid at which it was last found wet and first found dry, against the model’s. */
export type LoggedTouch = {
  stepId: string | null;
  technique: Technique | null;
  /** Paint that dries otherwise than the ordinary one, or what was put into it. */
  paint?: LoggedPaint;
  predictedMin: number;
  wetAtMin?: number;
  dryAtMin?: number;
  /** So much longer than the bare model says was reckoned with already. */
  reckoned?: number;
};
/** How long one student took for a step, between which minutes, against the plan. `who`: the student’s number in the class. */
export type LoggedPace = {
  stepId: string;
  technique: Technique | null;
  planned: number;
  from: number;
  to: number;
  who: number;
  /** The instructor had typed the minutes: they are not the model’s. */
  typed?: true;
  /** So much longer than the bare model says was reckoned with already. */
  reckoned?: number;
};
export const heapsLeft = ['none', 'some', 'half', 'most'] as const;
export type HeapLeft = (typeof heapsLeft)[number];
const HeapMl = Type.Number({ exclusiveMinimum: 0, maximum: 100_000 });
/**
 * What was left of a heap at the end: its share, or what was weighed. Of so many ml that were mixed for all, so many were to go onto canvases,
 * into brushes and aside for corrections.
 */
export const LoggedHeap = Type.Object(
  {
    mixId: Id,
    name: Name,
    mixedMl: HeapMl,
    plannedMl: HeapMl,
    left: oneOf(heapsLeft),
    grams: Type.Optional(Type.Number({ minimum: 0, maximum: 100_000 })),
  },
  strict,
);
export type LoggedHeap = Static<typeof LoggedHeap>;
export const SaveHeaps = Type.Object({ heaps: Type.Array(LoggedHeap, { maxItems: 120 }) }, strict);
/**
 * What a photograph of one finished canvas differs in from the picture of the last stage: each area by CIELAB units against the others, each
 * thing by shares of its own width and height and of the canvas's width. No photograph is kept here.
 */
const Units = Type.Number({ minimum: -200, maximum: 200 });
const Shares = Type.Number({ minimum: -5, maximum: 5 });
export const SharePhoto = Type.Object(
  { sha256: Sha256, consent: Type.String({ minLength: 3, maxLength: 200, pattern: '\\S' }) },
  strict,
);
export type SharePhoto = Static<typeof SharePhoto>;
export const NewResult = Type.Object(
  {
    areas: Type.Array(Type.Object({ areaId: Id, name: Name, dL: Units, da: Units, db: Units }, strict), { maxItems: 400 }),
    things: Type.Array(Type.Object({ id: Id, name: Name, wide: Shares, high: Shares, offX: Shares, offY: Shares }, strict), {
      maxItems: 400,
    }),
  },
  strict,
);
export type NewResult = Static<typeof NewResult>;
/** `shared`: its photograph (by the hash of its file), and who said yes to that. */
export type LoggedResult = NewResult & { id: string; shared?: SharePhoto };
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
  /** The air as it was noted, by minutes from the beginning. */
  airs?: { minute: number; airC: number; humidity: number }[];
  /** Its groups with how many were in each. */
  groups?: { name: string; students: number }[];
  /** Areas, mixes and tubes of the lesson, to be found by. */
  names?: string[];
  heaps?: LoggedHeap[];
  results?: LoggedResult[];
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

/** Who is through a lesson in less than this share of its plan has looked at it, not painted it (our judgement). */
export const LEAST_ALONE_SHARE = 0.15;
/** What one painted alone, as their phone kept it; the plan is the server’s own. */
export const NewAloneLog = Type.Object({ events: Type.Array(ClassEvent, { minItems: 1, maxItems: 3000 }) }, strict);
export const ResultParams = Type.Object({ id: Id, resultId: Id });
/** What is remembered at a day to come: a letter to oneself, with a file for calendars. */
export const NewReminders = Type.Object(
  {
    reminders: Type.Array(
      Type.Object(
        {
          dueAt: Type.Integer({ minimum: 0 }),
          subject: Type.String({ minLength: 1, maxLength: 200 }),
          text: Type.String({ minLength: 1, maxLength: 2000 }),
        },
        strict,
      ),
      { minItems: 1, maxItems: 8 },
    ),
    /** The same days for a calendar. */
    ics: Type.String({ minLength: 1, maxLength: 60_000 }),
  },
  strict,
);
export type NewReminders = Static<typeof NewReminders>;
