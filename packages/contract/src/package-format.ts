import { type Static, Type } from 'typebox';
import { SaveCourse } from './shelf-api.js';

const strict = { additionalProperties: false } as const;
const Sha256 = Type.String({ pattern: '^[0-9a-f]{64}$' });
/** A place inside a package: folders and a name, of letters that every system takes. */
const Place = Type.String({ pattern: '^[a-z]+/[\\w.-]{1,160}$' });

export const packageLimits = {
  /** Of the file that is sent, bytes. */
  fileBytes: 2 * 1024 ** 3,
  /** Of all that it unfolds to. */
  unfoldedBytes: 4 * 1024 ** 3,
  entries: 12_000,
  lessons: 2000,
  lessonBytes: 8 * 1024 ** 2,
} as const;

/** `viaticum.json` of a lesson package: what lies in it, and where. */
export const PackageManifest = Type.Object(
  {
    format: Type.Literal('viaticum-lessons'),
    version: Type.Literal(1),
    madeAt: Type.String({ maxLength: 40 }),
    lessons: Type.Array(
      Type.Object(
        { file: Place, title: Type.String({ maxLength: 200 }), pictures: Type.Array(Sha256, { maxItems: 100 }) },
        strict,
      ),
      { maxItems: packageLimits.lessons },
    ),
    /** `sha256` is the name by which lessons call a picture, `contentSha256` of the file that is here. */
    pictures: Type.Array(Type.Object({ sha256: Sha256, file: Place, contentSha256: Sha256 }, strict), {
      maxItems: packageLimits.entries,
    }),
    /** Courses by the places of their lessons in this package. */
    courses: Type.Array(
      Type.Object({ title: SaveCourse.properties.title, lessons: Type.Array(Place, { maxItems: 40 }) }, strict),
      {
        maxItems: 100,
      },
    ),
    /** Rooms, steps and methods that were kept for other lessons: one file. */
    kept: Type.Optional(Place),
  },
  strict,
);
export type PackageManifest = Static<typeof PackageManifest>;

/** What came of a package that was brought in. */
export type BroughtIn = {
  added: { id: string; title: string }[];
  /** Titles of what stands on the shelf already, to the last word. */
  there: string[];
  courses: number;
  kept: number;
};
