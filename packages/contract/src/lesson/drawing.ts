import { type Static, Type } from 'typebox';
import { limits } from '../limits.js';
import { Id, Name, oneOf, optional, Point, strict } from '../shapes.js';

/** A line of one's own: cubic Bézier curves in a row, 3n + 1 points in canvas mm. */
export const OwnLine = Type.Object(
  {
    id: Id,
    name: optional(Name),
    curve: Type.Array(Point, { minItems: 4, maxItems: 3001 }),
    /** The area it belongs to; without one it is found by where it lies. */
    areaId: optional(Id),
    /** The step before which it is needed; without one that is found by its area. */
    stepId: optional(Id),
  },
  strict,
);

/** What a person decided about a computed line: the one of these areas that passes nearest to this place. */
export const LineEdit = Type.Object(
  {
    areas: Type.Array(Id, { minItems: 1, maxItems: 2 }),
    kind: oneOf(['border', 'inner'] as const),
    at: Point,
    gone: optional(Type.Boolean()),
    stepId: optional(Id),
    /** How far a smoother line may lie from the computed one, in mm. */
    smoothMm: optional(Type.Number({ minimum: 0.4, maximum: 20 })),
  },
  strict,
);

/** A named place on the canvas, by which a drawing is checked. */
export const Landmark = Type.Object({ id: Id, name: Name, at: Point }, strict);

/** How the picture is seen: its middle on the horizon, and how far the eye is from the canvas. */
export const Eye = Type.Object(
  {
    xMm: Type.Number({ minimum: -20000, maximum: 20000 }),
    horizonMm: Type.Number({ minimum: -20000, maximum: 20000 }),
    distanceMm: Type.Number({ minimum: 10, maximum: 100000 }),
  },
  strict,
);

const base = { id: Id, /** The step before which it is needed. */ stepId: optional(Id) };
const Mm = Type.Number({ minimum: 0.5, maximum: 20000 });
const Areas = Type.Array(Id, { minItems: 1, maxItems: limits.areas });
/** What is drawn once and repeated round a centre. */
export const motifUnits = ['leaf', 'drop', 'v', 'dots', 'arc', 'spiral', 'own'] as const;
export type MotifUnit = (typeof motifUnits)[number];
/** One ring of a motif: its unit between two distances from the middle, on every spoke. */
export const MotifRing = Type.Object(
  {
    unit: oneOf(motifUnits),
    fromMm: Type.Number({ minimum: 0, maximum: 3000 }),
    toMm: Type.Number({ minimum: 1, maximum: 3000 }),
    widthMm: Type.Number({ minimum: 0.5, maximum: 2000 }),
    /** How many dots lie in a row. */
    dots: optional(Type.Integer({ minimum: 1, maximum: 40 })),
    /** A line of one's own: along the spoke from 0 to 1, across it in half widths. */
    own: optional(Type.Array(Point, { minItems: 2, maxItems: 400 })),
    /** Set between the spokes; pointing inwards; every other one mirrored. */
    between: optional(Type.Boolean()),
    turned: optional(Type.Boolean()),
    mirrored: optional(Type.Boolean()),
  },
  strict,
);
export type MotifRing = Static<typeof MotifRing>;

/** Help lines on the canvas, each worked out exactly from a few numbers. */
export const Construction = Type.Union([
  Type.Object(
    {
      ...base,
      kind: Type.Literal('grid'),
      columns: Type.Integer({ minimum: 1, maximum: 60 }),
      rows: Type.Integer({ minimum: 1, maximum: 60 }),
      /** The canvas is so many times the printed picture. */
      ratio: Type.Number({ minimum: 0.1, maximum: 50 }),
      /** Within the cells: their halves, and their diagonals. */
      halves: optional(Type.Boolean()),
      crossed: optional(Type.Boolean()),
    },
    strict,
  ),
  Type.Object({ ...base, kind: Type.Literal('diagonals') }, strict),
  Type.Object({ ...base, kind: Type.Literal('thirds') }, strict),
  Type.Object(
    {
      ...base,
      kind: Type.Literal('envelope'),
      areaIds: Areas,
      shadowIds: Type.Array(Id, { maxItems: limits.areas }),
      sides: Type.Integer({ minimum: 3, maximum: 24 }),
      /** Bits thinner than this are left out. */
      thinMm: Type.Number({ minimum: 0, maximum: 500 }),
    },
    strict,
  ),
  Type.Object(
    {
      ...base,
      kind: Type.Literal('radial'),
      at: Point,
      radiusMm: Mm,
      parts: Type.Integer({ minimum: 2, maximum: 120 }),
      startDeg: Type.Number({ minimum: -360, maximum: 360 }),
      /** Rings as shares of the radius. */
      rings: Type.Array(Type.Number({ minimum: 0.01, maximum: 3 }), { maxItems: 20 }),
    },
    strict,
  ),
  Type.Object(
    {
      ...base,
      kind: Type.Literal('motif'),
      at: Point,
      /** So many spokes, the first at `startDeg` (0 to the right, clockwise). */
      parts: Type.Integer({ minimum: 2, maximum: 120 }),
      startDeg: Type.Number({ minimum: -360, maximum: 360 }),
      rings: Type.Array(MotifRing, { minItems: 1, maxItems: 20 }),
    },
    strict,
  ),
  Type.Object({ ...base, kind: Type.Literal('ellipse'), at: Point, halfWidthMm: Mm }, strict),
  Type.Object(
    {
      ...base,
      kind: Type.Literal('spacing'),
      first: Point,
      second: Point,
      vanishing: Point,
      count: Type.Integer({ minimum: 2, maximum: 100 }),
      /** How tall the first one is. */
      heightMm: Mm,
      /** They stand along this path over rising ground, from the first one on. */
      path: optional(Type.Array(Point, { minItems: 2, maxItems: 60 })),
    },
    strict,
  ),
  Type.Object(
    {
      ...base,
      kind: Type.Literal('vanishing'),
      points: Type.Array(Point, { minItems: 1, maxItems: 2 }),
      lines: Type.Integer({ minimum: 3, maximum: 60 }),
    },
    strict,
  ),
  Type.Object(
    {
      ...base,
      kind: Type.Literal('shadow'),
      foot: Point,
      head: Point,
      /** Of a thing that leans: the place on the ground straight under its head. */
      under: optional(Point),
    },
    strict,
  ),
  Type.Object({ ...base, kind: Type.Literal('shapes'), areaIds: Areas }, strict),
  Type.Object({ ...base, kind: Type.Literal('features'), areaIds: Areas }, strict),
]);

/** What a person decided about the drawing; the lines themselves are computed. */
export const Drawing = Type.Object(
  {
    /** 0 the heaviest line alone, 1 every fold. */
    amount: Type.Number({ minimum: 0, maximum: 1 }),
    own: Type.Array(OwnLine, { maxItems: limits.own }),
    edits: Type.Array(LineEdit, { maxItems: limits.edits }),
    constructions: Type.Array(Construction, { maxItems: limits.constructions }),
    landmarks: Type.Array(Landmark, { maxItems: limits.landmarks }),
    /** How far a landmark may be off. */
    toleranceMm: Type.Number({ minimum: 0.5, maximum: 100 }),
    eye: optional(Eye),
  },
  strict,
);

/** A twin follows every change of another thing: its reflection in still water, or paint pulled straight down from it. */
export const TwinOf = Type.Object(
  {
    thingId: Id,
    kind: oneOf(['reflection', 'pull'] as const),
    /** Where the thing stands on the canvas, how high its bank is above the water, and from how high it is seen. */
    baseMm: Type.Number({ minimum: -20000, maximum: 20000 }),
    bankM: Type.Number({ minimum: 0, maximum: 1000 }),
    /** The bank itself, as far as it is seen: mirrored with the thing. */
    bankAreaIds: optional(Type.Array(Id, { maxItems: 20 })),
    eyeM: Type.Number({ minimum: 0.1, maximum: 10000 }),
    horizonMm: Type.Number({ minimum: -20000, maximum: 20000 }),
    /** How long a pull is, as a share of the thing's height. */
    share: optional(Type.Number({ minimum: 0.05, maximum: 3 })),
    /** The area it lies on; it comes directly in front of it. */
    onAreaId: optional(Id),
  },
  strict,
);

export type OwnLine = Static<typeof OwnLine>;
export type LineEdit = Static<typeof LineEdit>;
export type Landmark = Static<typeof Landmark>;
export type Eye = Static<typeof Eye>;
export type Construction = Static<typeof Construction>;
export type ConstructionKind = Construction['kind'];
export type Drawing = Static<typeof Drawing>;
export type TwinOf = Static<typeof TwinOf>;
