import { type Static, Type } from 'typebox';
import type { Shelf } from './lesson/index.js';
import { Id } from './shapes.js';

const strict = { additionalProperties: false } as const;

/** How many lessons a shelf shows, labels a lesson has, courses there are and lessons one has. */
export const shelfLimits = { lessons: 2000, labels: 8, courses: 100, ofCourse: 40 } as const;

const Label = Type.String({ minLength: 1, maxLength: 40, pattern: '^\\S(.*\\S)?$' });
/** Where a lesson stands for one instructor: on the shelf or put away, under which labels. */
export const ShelfPlace = Type.Object(
  { isArchived: Type.Boolean(), labels: Type.Array(Label, { maxItems: shelfLimits.labels, uniqueItems: true }) },
  strict,
);
export type ShelfPlace = Static<typeof ShelfPlace>;

export const FindQuery = Type.Object({ words: Type.String({ minLength: 1, maxLength: 120 }) }, strict);
/** A lesson in which all the words stand, with the first places. */
export type FoundLesson = { id: string; places: { kind: string; name: string; excerpt: string }[] };

export const SaveCourse = Type.Object(
  {
    title: Type.String({ minLength: 1, maxLength: 120, pattern: '\\S' }),
    lessonIds: Type.Array(Id, { maxItems: shelfLimits.ofCourse, uniqueItems: true }),
  },
  strict,
);
export type SaveCourse = Static<typeof SaveCourse>;
/** Lessons in the order in which they are taught. */
export type Course = SaveCourse & { id: string; updatedAt: string };

/** A line of what a course needs: bought or brought once for all of its lessons. `of`: places of the lessons that need it, from 0. */
export type CourseLine = {
  key: string;
  shelf: Shelf;
  name: string;
  amount: string;

  of: number[];
  costMinor: number | null;
};
export type CourseKit = {
  heads: number;
  currency: string;
  lines: CourseLine[];
  /** What all priced lines cost together, and what has no price. */
  costMinor: number;
  unpriced: number;
};
