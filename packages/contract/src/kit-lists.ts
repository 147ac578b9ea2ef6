import { type Static, Type } from 'typebox';
import { Id } from './shapes.js';

const strict = { additionalProperties: false } as const;

/** The lists that are ticked on a phone. */
export const kitLists = ['shopping', 'preparing', 'packing'] as const;
export type KitListName = (typeof kitLists)[number];
/** A line of a list: under which heading it stands, what it says, and what it costs where that is known. */
export type KitRow = { key: string; group: string; words: string; about?: string; costMinor?: number };
export type KitSheet = {
  title: string;
  heads: number;
  currency: string;
  lists: Record<KitListName, KitRow[]>;
  cautions: Record<KitListName, string[]>;
};
/** The lists of a lesson with what was ticked, and when (ms). */
export type KitAnswer = { sheet: KitSheet; ticks: Record<string, number> };
/** The address at which a lesson's lists are ticked. */
export type KitLink = { address: string };

/** A lesson pack: whose it is, on which paper, in large type or not, and which of its parts in which order. */
export const packKinds = ['instructor', 'handout', 'summary', 'cards'] as const;
export type PackKind = (typeof packKinds)[number];
export const packParts = ['title', 'way', 'palette', 'steps', 'practice', 'drawing', 'needed', 'before', 'cautions'] as const;
export type PackPart = (typeof packParts)[number];
export const PackOptions = Type.Object(
  {
    kind: Type.Enum([...packKinds]),
    paper: Type.Enum(['a4', 'letter']),
    isLarge: Type.Boolean(),
    /** As the lesson is painted by others: a variant of it. */
    variantId: Type.Optional(Id),
    parts: Type.Array(Type.Enum([...packParts]), { maxItems: packParts.length, uniqueItems: true }),
  },
  strict,
);
export type PackOptions = Static<typeof PackOptions>;

/** Ticks, or takes ticks back; the last word counts. */
export const Ticks = Type.Object(
  {
    ticks: Type.Array(
      Type.Object(
        { item: Type.String({ minLength: 1, maxLength: 120 }), on: Type.Boolean(), at: Type.Integer({ minimum: 0 }) },
        strict,
      ),
      { minItems: 1, maxItems: 200 },
    ),
  },
  strict,
);
export type Ticks = Static<typeof Ticks>;
