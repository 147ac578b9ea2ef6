import { type Static, Type } from 'typebox';
import { Id } from './shapes.js';

const strict = { additionalProperties: false } as const;

/** After how many days the names of a class may be erased by themselves. */
export const retentionDays = [30, 90, 180, 365] as const;
/** null: names stay until somebody erases them. */
export const SaveRetention = Type.Object({ days: Type.Union([Type.Enum([...retentionDays]), Type.Null()]) }, strict);
export type SaveRetention = Static<typeof SaveRetention>;
export const StudentParam = Type.Object({ code: Type.String({ maxLength: 40 }), studentId: Id }, strict);

/** All that is stored of somebody, as they may have it: a class each, with what the log keeps of them in it. */
export type StoredOfPerson = {
  firstName: string;
  classes: {
    title: string;
    openedAt: string;
    names: string[];
    note: string;
    has: string[];
    events: { at: string; what: Record<string, unknown> }[];
    letters: { at: string; subject: string; text: string }[];
  }[];
};
