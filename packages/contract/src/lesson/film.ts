import { type Static, Type } from 'typebox';
import { worded } from '../language.js';
import { limits } from '../limits.js';
import { Id, Name, oneOf, optional, strict } from '../shapes.js';
import { Sha256 } from './values.js';

/** Where the camera stands. */
export const cameraPlaces = ['canvas', 'palette', 'wide', 'hands'] as const;
export type CameraPlace = (typeof cameraPlaces)[number];
/** What lights what is filmed. */
export const filmLights = ['window', 'lamp', 'lamps-crossed', 'other'] as const;
export type FilmLight = (typeof filmLights)[number];
/** Whether it is spoken while it is filmed, afterwards over the pictures, or not at all. */
export const voices = ['live', 'after', 'none'] as const;
export type Voice = (typeof voices)[number];
export const frameRates = [24, 25, 30] as const;
export const cardCorners = ['lower-left', 'upper-left', 'upper-right'] as const;
export type CardCorner = (typeof cardCorners)[number];

/** A take, a piece of one, a caption or a card: it follows from a step (`step/canvas`, `step/mix/mix`, `step/canvas/3`), and is kept by that name. */
const Derived = Type.String({ minLength: 1, maxLength: 160, pattern: '^[A-Za-z0-9_-]+(/[A-Za-z0-9_.-]+)*$' });
const Seconds = Type.Number({ minimum: 0, maximum: 43_200 });
const Ms = Type.Integer({ minimum: 0, maximum: 43_200_000 });
const Line = Type.String({ minLength: 1, maxLength: 500 });

/** What a person decided about a take that follows from the steps. */
export const TakeEdit = Type.Object(
  {
    takeId: Derived,
    place: optional(oneOf(cameraPlaces)),
    voice: optional(oneOf(voices)),
    /** How long filming it takes, where that is known better than the plan does. */
    rawSec: optional(Type.Number({ minimum: 1, maximum: 43_200 })),
    mustSee: optional(Line),
    mustSay: optional(Line),
    leftOut: optional(Type.Literal(true)),
  },
  strict,
);
export type TakeEdit = Static<typeof TakeEdit>;

/** A take of one's own, after another one or at the end. */
export const OwnTake = Type.Object(
  {
    id: Id,
    title: Name,
    afterTakeId: optional(Derived),
    place: oneOf(cameraPlaces),
    rawSec: Type.Number({ minimum: 1, maximum: 43_200 }),
  },
  strict,
);
export type OwnTake = Static<typeof OwnTake>;

/** A film to be cut from the takes. */
export const Cut = Type.Object(
  {
    id: Id,
    name: Name,
    /** A short one chooses among the takes and leaves speech out; otherwise all of them are in it. */
    isShort: optional(Type.Literal(true)),
    /** As long as it shall be; proposed where nothing is said. */
    lengthSec: optional(Type.Number({ minimum: 5, maximum: 43_200 })),
    /** Parts of about this length. */
    partSec: optional(Type.Number({ minimum: 60, maximum: 7200 })),
    fixed: optional(Type.Array(Type.Object({ pieceId: Derived, sec: Seconds }, strict), { maxItems: limits.pieces })),
    leaveOut: optional(Type.Array(Derived, { maxItems: limits.takes })),
    captions: optional(
      Type.Array(Type.Object({ key: Derived, text: Type.String({ maxLength: 84 }) }, strict), { maxItems: limits.captions }),
    ),
    cards: optional(
      Type.Array(
        Type.Object(
          {
            key: Derived,
            text: optional(Line),
            corner: optional(oneOf(cardCorners)),
            hidden: optional(Type.Literal(true)),
          },
          strict,
        ),
        { maxItems: limits.takes },
      ),
    ),
  },
  strict,
);
export type Cut = Static<typeof Cut>;

/** The cuts that are proposed where none is decided upon. */
export const proposedCuts: readonly Cut[] = worded(
  [
    { id: 'full', name: 'Full' },
    { id: 'summary', name: 'Summary', isShort: true },
    { id: 'minute', name: 'One minute', isShort: true, lengthSec: 60 },
  ],
  ['name'],
);

/** A finished film that stands beside the steps. */
export const JoinedFilm = Type.Object(
  {
    id: Id,
    name: Name,
    fileSha256: Sha256,
    type: oneOf(['video/mp4', 'video/webm'] as const),
    bytes: Type.Integer({ minimum: 1 }),
    durationMs: Ms,
    widthPx: Type.Integer({ minimum: 1, maximum: 16_384 }),
    heightPx: Type.Integer({ minimum: 1, maximum: 16_384 }),
    chapters: Type.Array(Type.Object({ stepId: Id, fromMs: Ms, toMs: Ms }, strict), { maxItems: limits.steps }),
    /** Where a stroke begins, to which one goes back. */
    strokes: Type.Array(Type.Object({ stepId: Id, atMs: Ms }, strict), { maxItems: limits.strokeMarks }),
    /** What is said in it, as WebVTT. */
    captions: optional(Type.String({ maxLength: 400_000 })),
  },
  strict,
);
export type JoinedFilm = Static<typeof JoinedFilm>;

/** How a lesson is filmed, as far as that does not follow from the lesson. */
export const Film = Type.Object(
  {
    fps: optional(Type.Union(frameRates.map((fps) => Type.Literal(fps)))),
    wordsPerMinute: optional(Type.Integer({ minimum: 60, maximum: 260 })),
    bitRateMbps: optional(Type.Number({ minimum: 1, maximum: 400 })),
    cardGb: optional(Type.Number({ minimum: 1, maximum: 4000 })),
    batteryMin: optional(Type.Integer({ minimum: 5, maximum: 1200 })),
    /** How often a take is filmed until it is good. */
    takesPerGood: optional(Type.Number({ minimum: 1, maximum: 5 })),
    lights: optional(
      Type.Array(Type.Object({ place: oneOf(cameraPlaces), light: oneOf(filmLights) }, strict), {
        maxItems: cameraPlaces.length,
      }),
    ),
    takeEdits: optional(Type.Array(TakeEdit, { maxItems: limits.takes })),
    ownTakes: optional(Type.Array(OwnTake, { maxItems: limits.ownTakes })),
    /** An order of filming that is held to. */
    order: optional(Type.Array(Derived, { maxItems: limits.takes })),
    cuts: optional(Type.Array(Cut, { minItems: 1, maxItems: limits.cuts })),
    films: optional(Type.Array(JoinedFilm, { minItems: 1, maxItems: limits.films })),
  },
  strict,
);
export type Film = Static<typeof Film>;
