import { type Static, Type } from 'typebox';
import { limits } from '../limits.js';
import { Id, Name, oneOf, optional, Point, strict } from '../shapes.js';
import { Lab, Sha256, Share, Words } from './values.js';

export const techniques = [
  'wash',
  'glaze',
  'dry-brush',
  'scumble',
  'block-in',
  'blend',
  'loaded',
  'gesso',
  'impasto',
  'under-film',
  'spatter',
] as const;

/** What a step asks of the paint that it touches; `auto`: what its kind of work asks, where going on would hurt. */
export const needs = ['auto', 'any', 'wet', 'damp', 'paintOver', 'touchDry', 'firm', 'cured'] as const;

/** Orders in which the parts of a coat are laid; `gap` keeps a hair's breadth away from wet neighbours, closed later. */
export const layings = ['edges-first', 'edges-last', 'gap', 'top-down', 'across'] as const;
export const loads = ['thin', 'normal', 'generous'] as const;
/** Several mixes on one brush: half mixed, or one on each side of it. */
export const loadings = ['half-mixed', 'double'] as const;

export const stepKinds = ['paint', 'draw', 'prepare', 'transfer', 'dry', 'look', 'practise', 'break'] as const;

/** How a range of paint dries, beside ordinary acrylic. */
export const paintKinds = ['ordinary', 'slow', 're-wettable'] as const;

export const media = ['retarder', 'gel', 'glazing-medium', 'mist'] as const;

/** Sides of an area: away from the light and towards it, and by the canvas. */
export const sides = ['shade', 'light', 'top', 'bottom', 'left', 'right'] as const;
export type Side = (typeof sides)[number];

export const markKinds = ['lines', 'hairs', 'dots', 'tufts', 'scatter', 'spatter', 'unit'] as const;
/** What a mark is laid with, where that is not what usually goes with its kind. */
export const markTools = ['liner', 'rake', 'tip', 'handle', 'fan', 'flick', 'sponge', 'knife', 'brush'] as const;
export type MarkTool = (typeof markTools)[number];

/** Marks laid in an area: so many lines, hairs, dots, tufts, a scatter or spatter, or a unit repeated. */
export const Mark = Type.Object(
  {
    id: Id,
    name: Name,
    areaId: Id,
    kind: oneOf(markKinds),
    tool: optional(oneOf(markTools)),
    count: Type.Integer({ minimum: 1, maximum: 2000 }),
    lengthMm: Type.Number({ minimum: 0.2, maximum: 2000 }),
    widthMm: Type.Number({ minimum: 0.2, maximum: 100 }),
    /** How much thinner a mark ends than it begins: 0 not at all, 1 to nothing. */
    taper: Type.Number({ minimum: 0, maximum: 1 }),
    /** Its own direction; without one it follows the area's. */
    directionDeg: optional(Type.Number({ minimum: -180, maximum: 180 })),
    /** Set evenly round this point; without one they are strewn over the area. */
    round: optional(
      Type.Object(
        {
          at: Point,
          radiusMm: Type.Number({ minimum: 1, maximum: 3000 }),
          /** The first of them lies so far round from the right; 0 where nothing is said. */
          turnDeg: optional(Type.Number({ minimum: -180, maximum: 180 })),
        },
        strict,
      ),
    ),
    /** Drawn one by one, each along its own line (mm, from where the brush sets down): whiskers, masts, stems. Their number and mean length follow. */
    along: optional(
      Type.Array(Type.Array(Point, { minItems: 2, maxItems: limits.linePoints }), { minItems: 1, maxItems: limits.along }),
    ),
    /** What it shall look like; without it, it takes the lightest mix of its area. */
    targetLab: optional(Lab),
    /** Laid so often over itself; once where nothing is said. */
    coats: optional(Type.Integer({ minimum: 1, maximum: 8 })),
    /** Areas covered up while it is laid. */
    protectIds: optional(Type.Array(Id, { maxItems: 60 })),
  },
  strict,
);

export type Mark = Omit<Static<typeof Mark>, 'along'> & { along?: [number, number][][] };

/** Orders in which the colours of a passage are laid: the light one first and darker ones towards it, corners first, or downwards. */
export const passageOrders = ['light-out', 'dark-in', 'top-down', 'by-hand'] as const;

/** Where on its area a colour of a passage lies: all over it where nothing is said. */
export const placements = ['top', 'bottom', 'left', 'right', 'corners', 'middle'] as const;
export type PassagePlacement = (typeof placements)[number];

/** Several colours at places on one or more areas, worked as one wet coat. */
export const Passage = Type.Object(
  {
    id: Id,
    name: Name,
    areaIds: Type.Array(Id, { minItems: 1, maxItems: limits.areaIds }),
    /** Which mix lies where, in the order of laying. */
    places: Type.Array(Type.Object({ mixId: Id, areaId: Id, at: optional(oneOf(placements)) }, strict), {
      maxItems: limits.places,
    }),
    order: oneOf(passageOrders),
    /** Only the seams between its colours are softened, or all of it is gone over once more. */
    soften: oneOf(['seams', 'whole'] as const),
  },
  strict,
);

export type Passage = Static<typeof Passage>;

/** Goings over a surface after its first coat, in this order. */
export const stepPasses = ['darks', 'middles', 'lights'] as const;
export type StepPass = (typeof stepPasses)[number];

export const strokes = [
  'tap',
  'stamp',
  'drag',
  'pull',
  'feather',
  'cut-in',
  'criss-cross',
  'circle',
  'roll',
  'flick',
  'lift-off',
] as const;

/** A canvas prepared ahead, painted up to the end of a step, so that a demonstration goes on without waiting. */
export const Sample = Type.Object({ id: Id, name: Name, afterStepId: Id }, strict);

export type Sample = Static<typeof Sample>;

export const Stage = Type.Object({ id: Id, name: Name }, strict);

export type Stage = Static<typeof Stage>;

export const Step = Type.Object(
  {
    id: Id,
    stageId: Id,
    kind: oneOf(stepKinds),
    title: Name,
    /** Where it is done: on these areas, … */
    areaIds: Type.Array(Id, { maxItems: limits.areaIds }),
    /** … or on all of them, with what lies between; a step of neither (a break) is done nowhere. */
    wholeCanvas: optional(Type.Literal(true)),
    markIds: Type.Array(Id, { maxItems: limits.markIds }),
    mixIds: Type.Array(Id, { maxItems: limits.mixIds }),
    brushId: optional(Id),
    technique: optional(oneOf(techniques)),
    medium: optional(oneOf(media)),
    waterShareOfMix: optional(Share),
    coverShare: optional(Type.Number({ exclusiveMinimum: 0, maximum: 1 })),
    /** Only on one side of its areas, from where it fades out. */
    side: optional(oneOf(sides)),
    needs: oneOf(needs),
    partByPart: optional(Type.Boolean()),
    /** In which order its parts are laid: its edges first or last, or along a way. Edges first where nothing is said. */
    laying: optional(oneOf(layings)),
    /** How much paint the brush carries: rubbed out thin, usual, or generous. */
    load: optional(oneOf(loads)),
    /** Its mixes go onto the brush together; otherwise one after the other. */
    loading: optional(oneOf(loadings)),
    /** It goes over the surfaces of its areas with strokes of their own. */
    pass: optional(oneOf(stepPasses)),
    /** It is a further coat of what this step lays. */
    coatOf: optional(Id),
    paint: optional(oneOf(paintKinds)),
    /** Minutes between two passes of mist, where the medium is mist. */
    mistEveryMin: optional(Type.Number({ minimum: 0.5, maximum: 120 })),
    /** A film of water or gel laid first, to paint into. */
    underFilm: optional(oneOf(['water', 'gel'] as const)),
    /** The coat is dried with the room's hair dryers. */
    dryer: optional(Type.Boolean()),
    stroke: optional(oneOf(strokes)),
    /** Done again until it is right: what to look for, and how often at most. */
    repeat: optional(
      Type.Object(
        {
          most: Type.Integer({ minimum: 2, maximum: 500 }),
          until: Type.String({ maxLength: 300 }),
          /** So often it is done as a rule. */
          expected: optional(Type.Integer({ minimum: 1, maximum: 500 })),
        },
        strict,
      ),
    ),
    /** A photograph of a canvas at this stage, shown in place of the computed picture. */
    photoSha256: optional(Sha256),
    showMin: optional(Type.Number({ minimum: 0, maximum: 600 })),
    doMin: optional(Type.Number({ minimum: 0, maximum: 600 })),
    say: Words,
    watch: Words,
    checkpoint: Words,
    finish: Words,
    mayBeLeftOut: optional(Type.Boolean()),
    /** The wet passage that it paints as one coat. */
    passageId: optional(Id),
    /** Done before the class, at home, on its own clock. */
    ahead: optional(Type.Literal(true)),
    /** The last look and signing, after which nothing is painted; or a correction after it all the same. */
    role: optional(oneOf(['last', 'after-sign'] as const)),
  },
  strict,
);

export type Step = Static<typeof Step>;
/** What is said with a step of which nothing is said. */
export const noWords = { say: '', watch: '', checkpoint: '', finish: '' } as const satisfies Partial<Step>;

export type PaintKind = (typeof paintKinds)[number];

export type MarkKind = (typeof markKinds)[number];

export type StrokeKind = (typeof strokes)[number];

export type Technique = (typeof techniques)[number];

export type Need = (typeof needs)[number];

export type Laying = (typeof layings)[number];

export type Load = (typeof loads)[number];

export type Loading = (typeof loadings)[number];

export type StepKind = (typeof stepKinds)[number];
