import { type Static, Type } from 'typebox';
import { limits } from '../limits.js';
import { Id, Name, oneOf, optional, Point, strict } from '../shapes.js';
import { TwinOf } from './drawing.js';
import { OwnChoices } from './school.js';
import { techniques } from './steps.js';
import { Lab, Sha256 } from './values.js';

export const edgeKinds = ['hard', 'soft', 'lost'] as const;
/** What a border shall be: both colours kept apart, or they may soften into each other, or they shall. */
export const edgeWishes = ['clean', 'may-soften', 'soft'] as const;
export type EdgeKind = (typeof edgeKinds)[number];
export type EdgeWish = (typeof edgeWishes)[number];

export const absorbencies = ['sealed', 'acrylic', 'gesso', 'raw'] as const;

export const Support = Type.Object(
  {
    kind: oneOf(['canvas', 'board', 'paper'] as const),
    widthMm: Type.Number({ minimum: 10, maximum: 5000 }),
    heightMm: Type.Number({ minimum: 10, maximum: 5000 }),
    marginMm: optional(Type.Number({ minimum: 0, maximum: 500 })),
    wrapMm: optional(Type.Number({ minimum: 0, maximum: 200 })),
    absorbency: oneOf(absorbencies),
    groundCoats: Type.Array(Type.Object({ mixId: Id, technique: oneOf(techniques) }, strict), { maxItems: limits.groundCoats }),
  },
  strict,
);

export type Support = Static<typeof Support>;

/** Where a picture lies under the canvas: canvas mm = offset + R(rotation)·(flip·px·mmPerPx). */
export const Placement = Type.Object(
  {
    mmPerPx: Type.Number({ exclusiveMinimum: 0, maximum: 1000 }),
    xMm: Type.Number({ minimum: -20000, maximum: 20000 }),
    yMm: Type.Number({ minimum: -20000, maximum: 20000 }),
    rotationDeg: Type.Number({ minimum: -180, maximum: 180 }),
    flip: Type.Boolean(),
  },
  strict,
);

export type Placement = Static<typeof Placement>;

const Byte = Type.Number({ minimum: 0, maximum: 255 });

/** A place in a picture (its own pixels) and the mean sRGB found there. */
const Spot = Type.Object({ xPx: Type.Number(), yPx: Type.Number(), rgb: Type.Tuple([Byte, Byte, Byte]) }, strict);

/** What the eye knew to be neutral and to be white when the picture was taken; the colours are corrected by it. */
export const Correction = Type.Object({ neutral: optional(Spot), white: optional(Spot) }, strict);

export type Correction = Static<typeof Correction>;

export const takenAs = ['daylight', 'lamp', 'print', 'screen', 'unknown'] as const;

export const Reference = Type.Object(
  {
    id: Id,
    pictureSha256: Sha256,
    widthPx: Type.Integer({ minimum: 1 }),
    heightPx: Type.Integer({ minimum: 1 }),
    role: oneOf(['whole', 'detail', 'light'] as const),
    placement: Placement,
    /** What was photographed: a thing in some light, a print, a screen. Says how far its colours can be trusted. */
    taken: optional(oneOf(takenAs)),
    correction: optional(Correction),
    /** Beyond its edge the picture goes on with its last pixels, so that a crop may reach past it. */
    extend: optional(Type.Boolean()),
    permission: Type.Object(
      {
        kind: oneOf(['unset', 'own', 'permission', 'public-domain', 'commissioned'] as const),
        by: optional(Type.String({ maxLength: 200 })),
        year: optional(Type.Integer({ minimum: 0, maximum: 3000 })),
      },
      strict,
    ),
  },
  strict,
);

export type Reference = Static<typeof Reference>;

const Ring = Type.Array(Point, { minItems: 3, maxItems: 4000 });

/** What an area is in the picture, from the farthest to what is looked at first. */
export const areaRoles = ['sky', 'background', 'water', 'ground', 'foliage', 'made', 'subject', 'feature'] as const;
export type AreaRole = (typeof areaRoles)[number];

/** What a thing is made of, as far as it asks for strokes of its own. */
export const surfaceKinds = [
  'short-fur',
  'long-hair',
  'feathers',
  'scales',
  'skin',
  'leaves',
  'grass',
  'petals',
  'clouds',
  'ripples',
  'foam',
  'bark',
  'boards',
  'stone',
  'snow',
  'glass',
  'cloth',
  'strands',
  'built',
] as const;
export type Surface = (typeof surfaceKinds)[number];

/** A thing as a body, on which light makes shapes: `axisDeg` of a cylinder or cone (0 lying, 90 standing), `edge` the nearest corner of a box, in mm. */
export const formKinds = ['round', 'cylinder', 'cone', 'box', 'flat', 'cloud'] as const;
export type FormKind = (typeof formKinds)[number];
export const BodyForm = Type.Object(
  {
    kind: oneOf(formKinds),
    axisDeg: optional(Type.Number({ minimum: -180, maximum: 180 })),
    edge: optional(Point),
  },
  strict,
);
export type BodyForm = Static<typeof BodyForm>;

/** GeoJSON MultiPolygon coordinates in canvas mm; the first point of a ring is not repeated at its end. */
export const Outline = Type.Array(Type.Array(Ring, { minItems: 1, maxItems: 200 }), { minItems: 1, maxItems: 200 });

export type Outline = [number, number][][][];

export const Area = Type.Object(
  {
    id: Id,
    name: Name,
    thingId: optional(Id),
    role: optional(oneOf(areaRoles)),
    surface: optional(oneOf(surfaceKinds)),
    /** How its surface runs, combed by hand: a few strokes in mm. */
    combed: optional(Type.Array(Type.Array(Point, { minItems: 2, maxItems: limits.combedPoints }), { maxItems: limits.combed })),
    form: optional(BodyForm),
    /** The area that it follows, being part of a twin. */
    twinOfId: optional(Id),
    outline: Outline,
    edges: optional(
      Type.Array(
        Type.Object(
          {
            with: Id,
            kind: oneOf(edgeKinds),
            /** As it was measured in the picture: from a tenth to nine tenths of the change (mm), and how large that is (ΔE00). */
            widthMm: optional(Type.Number({ minimum: 0, maximum: 1000 })),
            contrast: optional(Type.Number({ minimum: 0, maximum: 200 })),
            /** What is wanted of it on the canvas; by its kind where nothing is said. */
            wish: optional(oneOf(edgeWishes)),
          },
          strict,
        ),
        { maxItems: 60 },
      ),
    ),
    targetLab: optional(Lab),
    directionDeg: optional(Type.Number({ minimum: -180, maximum: 180 })),
    /** Strokes that run towards a point, or round one, in place of one direction. */
    flow: optional(Type.Object({ kind: oneOf(['towards', 'round'] as const), at: Point }, strict)),
    /** Small and looked at first: an eye, a mouth, a window with light in it. */
    feature: optional(Type.Literal(true)),
    /** How it is painted, where that differs from the lesson. */
    ownWay: optional(OwnChoices),
    /** Nothing is painted here before this step. */
    keepFreeUntil: optional(Id),
  },
  strict,
);

export type Area = Omit<Static<typeof Area>, 'outline' | 'combed'> & {
  outline: Outline;
  combed?: [number, number][][];
};

export const fates = ['kept', 'dropped', 'moved', 'added'] as const;

/** A thing in the picture, made of areas. A moved one: canvas = about + scale · (picture − about) + (dx, dy), in mm. */
export const Thing = Type.Object(
  {
    id: Id,
    name: Name,
    fate: oneOf(fates),
    move: optional(
      Type.Object(
        {
          dxMm: Type.Number({ minimum: -20000, maximum: 20000 }),
          dyMm: Type.Number({ minimum: -20000, maximum: 20000 }),
          scale: Type.Number({ minimum: 0.05, maximum: 20 }),
          aboutXMm: Type.Number({ minimum: -20000, maximum: 20000 }),
          aboutYMm: Type.Number({ minimum: -20000, maximum: 20000 }),
        },
        strict,
      ),
    ),
    facing: optional(oneOf(['left', 'right'] as const)),
    twinOf: optional(TwinOf),
    /** The picture an added thing is cut from; without one it is drawn in its areas' own colours. */
    fromReferenceId: optional(Id),
  },
  strict,
);

export type Thing = Static<typeof Thing>;

export type Absorbency = (typeof absorbencies)[number];
