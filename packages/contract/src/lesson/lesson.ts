import { type Static, Type } from 'typebox';
import { limits } from '../limits.js';
import { Id, Name, oneOf, optional, strict } from '../shapes.js';
import { Drawing } from './drawing.js';
import { Film } from './film.js';
import { Kit } from './kit.js';
import { Learnt } from './learnt.js';
import { finishes, keepings, Mix, Tube } from './paints.js';
import { Area, Reference, Support, Thing } from './picture.js';
import { Planning, Room } from './room.js';
import { Method, School } from './school.js';
import { Mark, Passage, Sample, Stage, Step } from './steps.js';
import { Variant } from './variant.js';

/** The document version written by this build; older ones are upgraded on reading (`core/lesson`). */
export const SCHEMA_VERSION = 12;

export const Lesson = Type.Object(
  {
    schemaVersion: Type.Literal(SCHEMA_VERSION),
    title: Name,
    language: Type.String({ minLength: 2, maxLength: 12 }),
    units: oneOf(['in', 'cm'] as const),
    level: oneOf(['beginner', 'improver', 'experienced'] as const),
    wantedMin: optional(Type.Number({ minimum: 1, maximum: 10000 })),
    school: School,
    method: optional(Method),
    room: Room,
    support: Support,
    references: Type.Array(Reference, { maxItems: limits.references }),
    light: optional(
      Type.Object(
        {
          azimuthDeg: Type.Number({ minimum: 0, maximum: 360 }),
          elevationDeg: Type.Number({ minimum: 0, maximum: 90 }),
        },
        strict,
      ),
    ),
    things: Type.Array(Thing, { maxItems: limits.things }),
    areas: Type.Array(Area, { maxItems: limits.areas }),
    /** The area that the picture is about. */
    subjectAreaId: optional(Id),
    /** How far paint laid first runs past its edge. */
    overlapMm: Type.Number({ minimum: 0, maximum: 60 }),
    marks: Type.Array(Mark, { maxItems: limits.marks }),
    /** The hand that paints, where an order depends on it. */
    handed: optional(oneOf(['right', 'left'] as const)),
    drawing: Drawing,
    /** The surface of the paint that is used, in which all its colours are reckoned. */
    finish: oneOf(finishes),
    /** What heaps of paint lie on through a class; by the school where nothing is said. */
    heapsOn: optional(oneOf(keepings)),
    /** Its mixes were last seen as an earlier table of pigments showed them. */
    formerPaint: optional(Type.Literal(true)),
    /** It was last planned by rules under which a step waited for all paint on its areas and beside them. */
    formerWaits: optional(Type.Literal(true)),
    tubes: Type.Array(Tube, { maxItems: limits.tubes }),
    mixes: Type.Array(Mix, { maxItems: limits.mixes }),
    stages: Type.Array(Stage, { maxItems: limits.stages }),
    steps: Type.Array(Step, { maxItems: limits.steps }),
    passages: Type.Array(Passage, { maxItems: limits.passages }),
    /** Steps left out for its length, each with the one that it stood after; they can be brought back. */
    leftOut: Type.Array(Type.Object({ step: Step, afterId: optional(Id) }, strict), { maxItems: limits.leftOut }),
    /** What is asked before anything more is painted. */
    stopTest: optional(Type.Array(Type.String({ minLength: 1, maxLength: 300 }), { maxItems: limits.stopTest })),
    planning: Planning,
    samples: Type.Array(Sample, { maxItems: limits.samples }),
    variants: Type.Array(Variant, { maxItems: limits.variants }),
    /** What classes taught and the instructor took over, each with what it is known from. */
    learnt: optional(Type.Array(Learnt, { maxItems: limits.learnt })),
    /** How long the instructor means to take for painting it the next time. */
    targetMin: optional(Type.Number({ minimum: 1, maximum: 10000 })),
    kit: optional(Kit),
    film: optional(Film),
    setAside: Type.Array(
      Type.Object({ finding: Type.String({ maxLength: 200 }), why: Type.String({ maxLength: 500 }) }, strict),
      { maxItems: limits.setAside },
    ),
  },
  strict,
);

export type Lesson = Omit<Static<typeof Lesson>, 'areas' | 'marks' | 'mixes' | 'variants'> & {
  areas: Area[];
  marks: Mark[];
  mixes: Mix[];
  variants: Variant[];
};

export type Level = Lesson['level'];
