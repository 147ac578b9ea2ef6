import { type Static, Type } from 'typebox';
import { limits } from '../limits.js';
import { Id, Name, oneOf, optional, strict } from '../shapes.js';
import { Lab, Share } from './values.js';

/** How the surface of dry paint mirrors. */
export const finishes = ['matt', 'satin', 'gloss'] as const;
export type Finish = (typeof finishes)[number];

/** What a heap of paint is kept on, or in. */
export const keepings = ['plate', 'film', 'wet-palette', 'bag'] as const;
export type Keeping = (typeof keepings)[number];

const Um = Type.Number({ exclusiveMinimum: 0, maximum: 1000 });

/** A tube of one's own, known by samples painted out and dry: its mass tone, and a tint with so many parts of titanium white. */
export const OwnTube = Type.Object(
  {
    name: Name,
    masstoneLab: Lab,
    tint: optional(Type.Object({ lab: Lab, whiteParts: Type.Number({ exclusiveMinimum: 0, maximum: 200 }) }, strict)),
    /** Two films of it, thin and thick (dry µm), read over black and over white. */
    drawdowns: optional(
      Type.Object(
        {
          dryUm: Type.Tuple([Um, Um]),
          overBlack: Type.Tuple([Lab, Lab]),
          overWhite: Type.Tuple([Lab, Lab]),
          black: Lab,
          white: Lab,
        },
        strict,
      ),
    ),
    /** The surface of the samples; satin unless said otherwise. */
    finish: optional(oneOf(finishes)),
  },
  strict,
);

export type OwnTube = Static<typeof OwnTube>;

export const Tube = Type.Object(
  {
    id: Id,
    /** The tube of the table; for one of one's own the nearest of it, which lends its opacity and cautions. */
    pigment: Type.String({ minLength: 1, maxLength: 40 }),
    own: optional(OwnTube),
    /** Whether the instructor has it, and whether students will; both unless said otherwise. */
    owned: optional(Type.Boolean()),
    students: optional(Type.Boolean()),
    /** In the search for a smaller palette: kept in any case, or left out in any case. */
    palette: optional(oneOf(['must', 'must-not'] as const)),
    grade: oneOf(['artist', 'student'] as const),
    sizeMl: optional(Type.Number({ exclusiveMinimum: 0, maximum: 5000 })),
    priceMinor: optional(Type.Integer({ minimum: 0 })),
  },
  strict,
);

export type Tube = Static<typeof Tube>;

/** Less than a part: what the tip of a knife takes up, once, twice or three times. */
export const smallAmounts = ['touch', 'speck', '2 touches', '3 touches', '2 specks', '3 specks'] as const;
export type SmallAmount = (typeof smallAmounts)[number];
export const Amount = Type.Union([Type.Integer({ minimum: 1, maximum: 99 }), oneOf(smallAmounts)]);

export type Amount = number | SmallAmount;

export const RecipePart = Type.Object({ tubeId: Id, parts: Amount }, strict);

export type RecipePart = { tubeId: string; parts: Amount };

/** Another mix as part of a mix, by volume. */
export const MixedPart = Type.Object({ mixId: Id, parts: Amount }, strict);

export type MixedPart = { mixId: string; parts: Amount };

export const Mix = Type.Object(
  {
    id: Id,
    name: Name,
    targetLab: optional(Lab),
    /** Whether the target is what the dry paint shall look like (as a rule), or the wet. */
    targetState: optional(oneOf(['dry', 'wet'] as const)),
    /** The area that the target was taken from. */
    areaId: optional(Id),
    /** Other areas that it is used for as well. */
    alsoAreaIds: optional(Type.Array(Id, { maxItems: 60 })),
    recipe: Type.Array(RecipePart, { maxItems: limits.recipe }),
    /** Mixes that this one is mixed from, beside tubes. */
    mixedFrom: optional(Type.Array(MixedPart, { maxItems: limits.mixedFrom })),
    /** A strong tube let down with a weak one beforehand: recipes may use it like a tube. */
    letDown: optional(Type.Boolean()),
    /** Parts of clear medium to one of paint, where it is used as a glaze. */
    mediumParts: optional(Type.Number({ minimum: 0, maximum: 100 })),
    waterShareOfMix: optional(Share),
  },
  strict,
);

export type Mix = Omit<Static<typeof Mix>, 'recipe' | 'mixedFrom'> & { recipe: RecipePart[]; mixedFrom?: MixedPart[] };
