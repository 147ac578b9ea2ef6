import { type TEnum, type TSchema, Type } from 'typebox';
import { letters } from './limits.js';

/** Small shapes that more than one part of the document uses. */
export const strict = { additionalProperties: false } as const;
export const oneOf = <const T extends string[]>(values: readonly [...T]): TEnum<T> => Type.Enum<T>(values);
export const optional = <T extends TSchema>(schema: T) => Type.Optional(schema);

/** Names that every plain object answers to: none may be an id, or looking one up would find what nobody put there. */
export const RESERVED_IDS = ['__proto__', 'prototype', 'constructor', 'toString', 'valueOf', 'hasOwnProperty'] as const;
/** ASCII letters, digits, `_` and `-`, and none of the {@link RESERVED_IDS}. */
export const ID_PATTERN = `^(?!(?:${RESERVED_IDS.join('|')})$)[A-Za-z0-9_-]+$`;
export const Id = Type.String({ minLength: 1, maxLength: 32, pattern: ID_PATTERN });
/** A record by ids, without a prototype: it answers to what was put in and to nothing else. */
export const byId = <T>(entries: Iterable<readonly [string, T]> = []): Record<string, T> => {
  const record: Record<string, T> = Object.create(null);
  for (const [id, one] of entries) record[id] = one;
  return record;
};
const idPattern = new RegExp(ID_PATTERN);
/** Whether a text can be an id. */
export const isId = (text: string): boolean => text.length <= 32 && idPattern.test(text);

export const Name = Type.String({ minLength: 1, maxLength: letters.name });
export const Point = Type.Tuple([
  Type.Number({ minimum: -20000, maximum: 20000 }),
  Type.Number({ minimum: -20000, maximum: 20000 }),
]);
export type Id = string;
