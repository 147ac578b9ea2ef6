import { type Static, Type } from 'typebox';
import { Room } from './lesson/index.js';
import { Id } from './shapes.js';

const strict = { additionalProperties: false } as const;
const Minutes = Type.Number({ minimum: 0 });

/** One entry of the timetable that a class works through. Times are minutes from the start of the class. */
export const PlanItem = Type.Object(
  {
    kind: Type.Enum(['step', 'pause', 'break']),
    stepId: Type.Optional(Id),
    title: Type.String(),
    startMin: Minutes,
    endMin: Minutes,
    showMin: Minutes,
    /** Why a pause is there, as a sentence. */
    reason: Type.Optional(Type.String()),
    areaIds: Type.Array(Id),
    meanwhile: Type.Optional(Type.String()),
    /** What fills a pause, in order, with its minutes; the rest of it is bare. */
    fillers: Type.Optional(
      Type.Array(
        Type.Object({ words: Type.String(), minutes: Minutes, mixIds: Type.Optional(Type.Array(Id, { maxItems: 20 })) }, strict),
        { maxItems: 20 },
      ),
    ),
    bareMin: Type.Optional(Minutes),
  },
  strict,
);

export const PlanCoat = Type.Object(
  {
    stepId: Id,
    areaId: Id,
    mixIds: Type.Array(Id),
    laidFromMin: Minutes,
    laidToMin: Minutes,
    /** Counted from when a part was laid; null where it never dries. */
    openMin: Type.Union([Minutes, Type.Null()]),
    paintOverMin: Type.Union([Minutes, Type.Null()]),
    touchDryMin: Type.Union([Minutes, Type.Null()]),
    firmMin: Type.Union([Minutes, Type.Null()]),
    dryUm: Type.Number(),
    wetUm: Type.Number(),
    coverShare: Type.Number(),
  },
  strict,
);

export const Plan = Type.Object(
  {
    room: Room,
    items: Type.Array(PlanItem, { maxItems: 1200 }),
    coats: Type.Array(PlanCoat, { maxItems: 20000 }),
    endMin: Minutes,
    waitMin: Minutes,
    /** Some of its paint never dries in this air, or forms no film in this cold: its minutes mean nothing. */
    never: Type.Optional(Type.Literal(true)),
    /** Touch tests had made coats dry so many times longer when this plan was worked out in mid-class; 1 where missing. */
    dryFactor: Type.Optional(Type.Number({ exclusiveMinimum: 0 })),
  },
  strict,
);

export type PlanItem = Static<typeof PlanItem>;
export type PlanCoat = Static<typeof PlanCoat>;
export type Plan = Static<typeof Plan>;
