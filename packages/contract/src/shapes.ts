import { type TEnum, type TSchema, Type } from 'typebox';

/** Small shapes that more than one part of the document uses. */
export const strict = { additionalProperties: false } as const;
export const oneOf = <const T extends string[]>(values: readonly [...T]): TEnum<T> => Type.Enum<T>(values);
export const optional = <T extends TSchema>(schema: T) => Type.Optional(schema);

export const Id = Type.String({ minLength: 1, maxLength: 32, pattern: '^[A-Za-z0-9_-]+$' });
export const Name = Type.String({ minLength: 1, maxLength: 120 });
export const Point = Type.Tuple([
  Type.Number({ minimum: -20000, maximum: 20000 }),
  Type.Number({ minimum: -20000, maximum: 20000 }),
]);
export type Id = string;
