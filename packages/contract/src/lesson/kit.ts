import { type Static, Type } from 'typebox';
import { worded } from '../language.js';
import { limits } from '../limits.js';
import { Id, Name, oneOf, optional, strict } from '../shapes.js';

/** How a mix comes onto the palettes: made once for all, mixed by each, or as the lesson's reasons say. */
export const premixings = ['batch', 'palette'] as const;
export type Premixing = (typeof premixings)[number];

/** How a tube goes round: one for all, one a table, or one each. */
export const sharings = ['handed-round', 'a-table', 'each'] as const;
export type Sharing = (typeof sharings)[number];

/** For how much is bought: what a usual class needs, or enough nine times in ten. */
export const buyings = ['mean', 'sure'] as const;
export type Buying = (typeof buyings)[number];

/** Who brings a thing. `either`: the student's own where they have it, otherwise the studio's. */
export const bringers = ['studio', 'student', 'either'] as const;
export type Bringer = (typeof bringers)[number];

/** The shelves of a shop, in the order in which one walks along them. */
export const shelves = ['paint', 'mediums', 'brushes', 'supports', 'paper', 'sundries'] as const;
export type Shelf = (typeof shelves)[number];
export const shelfNames: Readonly<Record<Shelf, string>> = worded({
  paint: 'Paint',
  mediums: 'Mediums',
  brushes: 'Brushes',
  supports: 'Canvases and boards',
  paper: 'Paper and tape',
  sundries: 'Sundries',
});

/** Something that no step asks for, but this lesson needs. */
export const Extra = Type.Object(
  {
    id: Id,
    name: Name,
    shelf: oneOf(shelves),
    /** So many for each painter, or for the whole group. */
    count: Type.Integer({ minimum: 1, maximum: 1000 }),
    per: oneOf(['head', 'group'] as const),
  },
  strict,
);
export type Extra = Static<typeof Extra>;

/** What a lesson's kit is reckoned for, where it does not follow from the lesson. All of it may be left unsaid. */
export const Kit = Type.Object(
  {
    /** How many paint; twelve where nothing is said. */
    heads: optional(Type.Integer({ minimum: 1, maximum: 300 })),
    /** Canvases that the instructor paints along; one where nothing is said. */
    teaching: optional(Type.Integer({ minimum: 0, maximum: 10 })),
    /** Painters at a table; four where nothing is said. */
    tableOf: optional(Type.Integer({ minimum: 1, maximum: 30 })),
    /** Who brings what as a rule. */
    by: optional(oneOf(['studio', 'mixed', 'students'] as const)),
    /** How many of them paint a variant of the lesson; the rest paint it as it is. */
    others: optional(
      Type.Array(Type.Object({ variantId: Id, heads: Type.Integer({ minimum: 1, maximum: 300 }) }, strict), { maxItems: 20 }),
    ),
    /** Whether paint is bought for what a class needs on the mean, or so that nine classes in ten have enough. */
    buys: optional(oneOf(buyings)),
    premix: optional(Type.Array(Type.Object({ mixId: Id, how: oneOf(premixings) }, strict), { maxItems: limits.mixes })),
    sharing: optional(Type.Array(Type.Object({ tubeId: Id, how: oneOf(sharings) }, strict), { maxItems: limits.tubes })),
    /** Brushes of the table that two share. */
    sharedBrushes: optional(Type.Array(Type.String({ minLength: 1, maxLength: 40 }), { maxItems: 60 })),
    /** Things by their key, with who brings them. */
    who: optional(
      Type.Array(Type.Object({ what: Type.String({ minLength: 1, maxLength: 80 }), by: oneOf(bringers) }, strict), {
        maxItems: 300,
      }),
    ),
    extras: optional(Type.Array(Extra, { maxItems: limits.extras })),
    /** The students are children: only what is labelled for their age. */
    children: optional(Type.Boolean()),
    /** When the class begins (ISO, UTC): what is prepared is counted back from it. */
    beginsAt: optional(Type.String({ maxLength: 40 })),
    /** What each pays, and what the class costs whoever comes, in the smallest coin of the studio's money. */
    feeMinor: optional(Type.Integer({ minimum: 0, maximum: 100_000_000 })),
    fixedMinor: optional(Type.Integer({ minimum: 0, maximum: 100_000_000 })),
  },
  strict,
);
export type Kit = Static<typeof Kit>;

const Minor = Type.Integer({ minimum: 0, maximum: 100_000_000 });
const Ml = Type.Number({ minimum: 0, maximum: 1_000_000 });
/** A paint by what it is, not by whose lesson it is in: pigment and grade, or the name of a tube of one's own. */
const PaintKey = Type.String({ minLength: 1, maxLength: 160 });

const Factor = Type.Number({ minimum: 0, maximum: 5 });

/** What an instructor has and pays, whatever the lesson. */
export const Studio = Type.Object(
  {
    currency: Type.String({ minLength: 3, maxLength: 3, pattern: '^[A-Z]{3}$' }),
    /** Tubes as the shop sells them. */
    prices: Type.Array(
      Type.Object({ paint: PaintKey, sizeMl: Type.Number({ exclusiveMinimum: 0, maximum: 5000 }), priceMinor: Minor }, strict),
      { maxItems: 1000 },
    ),
    /** What is in the cupboard. */
    stock: Type.Array(Type.Object({ paint: PaintKey, ml: Ml }, strict), { maxItems: 500 }),
    /** Bags and jars that there are, ml. */
    containers: Type.Array(
      Type.Object({ kind: oneOf(['bag', 'jar'] as const), ml: Type.Number({ exclusiveMinimum: 0, maximum: 5000 }) }, strict),
      { maxItems: 40 },
    ),
    /** Flat places in the rack, and people who prepare. */
    rack: Type.Integer({ minimum: 0, maximum: 1000 }),
    helpers: Type.Integer({ minimum: 1, maximum: 20 }),
    /** The room: its air, and how often an hour it is changed. */
    roomM3: Type.Number({ minimum: 5, maximum: 100_000 }),
    airChanges: Type.Number({ minimum: 0.1, maximum: 50 }),
    /** Watts that hang on the dryers' circuit besides. */
    otherW: Type.Integer({ minimum: 0, maximum: 100_000 }),
    sinks: Type.Integer({ minimum: 0, maximum: 100 }),
    /** How much more or less is lost than is usual, as factors: learnt by weighing what is left. */
    losses: Type.Object({ brush: Factor, kept: Factor, palette: Factor, growth: Factor }, strict),
    /** What people who come again have, by the names under which things are known in every lesson. */
    has: Type.Array(
      Type.Object({ personId: Id, things: Type.Array(Type.String({ minLength: 1, maxLength: 180 }), { maxItems: 200 }) }, strict),
      { maxItems: 2000 },
    ),
  },
  strict,
);
export type Studio = Static<typeof Studio>;

/** A studio of which nothing is known yet. */
export const newStudio: Studio = {
  currency: 'EUR',
  prices: [],
  stock: [],
  containers: [
    { kind: 'bag', ml: 100 },
    { kind: 'bag', ml: 30 },
    { kind: 'jar', ml: 50 },
    { kind: 'jar', ml: 250 },
  ],
  rack: 0,
  helpers: 1,
  roomM3: 150,
  airChanges: 2,
  otherW: 0,
  sinks: 1,
  losses: { brush: 1, kept: 1, palette: 1, growth: 1 },
  has: [],
};
