import { type Static, Type } from 'typebox';
import { letters } from '../limits.js';

export const Words = Type.String({ maxLength: letters.words });

export const Lab = Type.Tuple([
  Type.Number({ minimum: 0, maximum: 100 }),
  Type.Number({ minimum: -160, maximum: 160 }),
  Type.Number({ minimum: -160, maximum: 160 }),
]);

export type Lab = Static<typeof Lab>;

export const Sha256 = Type.String({ pattern: '^[0-9a-f]{64}$' });

export const Share = Type.Number({ minimum: 0, maximum: 0.95 });
