import { type Static, Type } from 'typebox';
import { limits } from '../limits.js';
import { Id, Name, optional, strict } from '../shapes.js';

const air = {
  airC: Type.Number({ minimum: -20, maximum: 60 }),
  humidity: Type.Number({ minimum: 0, maximum: 1 }),
  airSpeed: Type.Number({ minimum: 0, maximum: 20 }),
  sunWPerM2: optional(Type.Number({ minimum: 0, maximum: 1200 })),
};

const MinuteOfDay = Type.Number({ minimum: 0, maximum: 1440 });

/** The air at one time of the day: from a logger, or forecast. */
export const RoomHour = Type.Object(
  { atMin: MinuteOfDay, ...air, airSpeed: optional(Type.Number({ minimum: 0, maximum: 20 })) },
  strict,
);

export type RoomHour = Static<typeof RoomHour>;

/** The room a lesson is painted in. `humidity` is a fraction 0-1, `airSpeed` m/s; outdoors that is the wind. */
export const Room = Type.Object(
  {
    name: Name,
    ...air,
    outdoors: optional(Type.Boolean()),
    /** How much faster water leaves paint here than by the model: found by touch tests of classes, and taken over by the instructor. */
    calibration: optional(Type.Number({ minimum: 0.4, maximum: 2.5 })),
    /** Touch tests from before this day say less of it: something has changed there. */
    learntSince: optional(Type.String({ pattern: '^\\d{4}-\\d\\d-\\d\\d$' })),
    seats: optional(Type.Integer({ minimum: 1, maximum: 300 })),
    dryers: optional(
      Type.Object(
        { count: Type.Integer({ minimum: 0, maximum: 100 }), watts: Type.Number({ minimum: 100, maximum: 5000 }) },
        strict,
      ),
    ),
    circuits: optional(
      Type.Object(
        {
          count: Type.Integer({ minimum: 1, maximum: 50 }),
          amps: Type.Number({ minimum: 1, maximum: 100 }),
          volts: Type.Number({ minimum: 50, maximum: 500 }),
        },
        strict,
      ),
    ),
    /** Air by the time of day; between two entries it changes evenly. */
    hours: optional(Type.Array(RoomHour, { maxItems: 300 })),
    /** When the class begins, and until when there is light to paint by. */
    startAtMin: optional(MinuteOfDay),
    lightUntilMin: optional(MinuteOfDay),
  },
  strict,
);

export type Room = Static<typeof Room>;

/** What the instructor holds to in the plan: pins, breaks, evenings, and how careful it is. Times are minutes. */
export const Planning = Type.Object(
  {
    pins: Type.Array(
      Type.Union([
        Type.Object({ stepId: Id, startMin: Type.Number({ minimum: 0, maximum: 20000 }) }, strict),
        Type.Object({ firstId: Id, thenId: Id }, strict),
      ]),
      { maxItems: limits.pins },
    ),
    breaks: optional(
      Type.Object(
        {
          lengthMin: Type.Number({ minimum: 1, maximum: 120 }),
          everyMin: Type.Number({ minimum: 10, maximum: 600 }),
        },
        strict,
      ),
    ),
    /** The lesson may be spread over so many sessions, each no longer than so; coats dry in between. */
    sessions: optional(
      Type.Object(
        { most: Type.Integer({ minimum: 2, maximum: 12 }), limitMin: Type.Number({ minimum: 20, maximum: 1000 }) },
        strict,
      ),
    ),
    /** Steps before which a session ends. */
    cutsBefore: optional(Type.Array(Id, { maxItems: 12 })),
    /** Reckons with the late end of what drying may take and the early end of what stays workable. */
    cautious: optional(Type.Boolean()),
    /** Wet paint that the instructor goes on beside or over all the same: of this step, in that step, on this area or on all. */
    waived: optional(
      Type.Array(
        Type.Object(
          { fromStepId: Id, toStepId: Id, areaId: optional(Id), why: optional(Type.String({ maxLength: 300 })) },
          strict,
        ),
        { maxItems: limits.waived },
      ),
    ),
    /** Minutes before its time at which paint may be met all the same; by the wait itself where nothing is said. */
    toleranceMin: optional(Type.Number({ minimum: 0, maximum: 30 })),
    /** How far (ΔE00) a colour may be changed by wet paint that it picks up. */
    harmLimit: optional(Type.Number({ minimum: 1, maximum: 40 })),
    /** Time added to what students do, as a share of it. */
    slackShare: optional(Type.Number({ minimum: 0, maximum: 1 })),
  },
  strict,
);

export type Planning = Static<typeof Planning>;
