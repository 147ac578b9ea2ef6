import { type Static, Type } from 'typebox';
import { strict } from '../shapes.js';

/** Of what: drying of a technique or paint, pace of a technique or level, minutes and number of helps, paint that is used. */
export const LEARNT_KEY = '^(drying (technique|paint)|pace (technique|level)) [a-z-]{1,20}$|^(help|asks|paint)$';
const Share = Type.Number({ minimum: 0.2, maximum: 5 });
/**
 * Something that classes taught and the instructor took over: so much longer, more or oftener (above 1) than is reckoned otherwise, with the
 * bounds of its 80 % interval, from so many observations of so many classes, on that day.
 */
export const Learnt = Type.Object(
  {
    key: Type.String({ pattern: LEARNT_KEY, maxLength: 60 }),
    factor: Share,
    from: Share,
    to: Share,
    observations: Type.Integer({ minimum: 0, maximum: 1_000_000 }),
    classes: Type.Integer({ minimum: 0, maximum: 100_000 }),
    on: Type.String({ pattern: '^\\d{4}-\\d\\d-\\d\\d$' }),
  },
  strict,
);
export type Learnt = Static<typeof Learnt>;
