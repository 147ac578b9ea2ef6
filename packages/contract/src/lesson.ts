import { type Static, Type } from 'typebox';
import { Drawing, TwinOf } from './drawing.js';
import { limits } from './limits.js';
import { Id, Name, oneOf, optional, Point, strict } from './shapes.js';

/** The document version written by this build; older ones are upgraded on reading (`core/lesson`). */
export const SCHEMA_VERSION = 6;

const Words = Type.String({ maxLength: 20000 });
const Lab = Type.Tuple([
  Type.Number({ minimum: 0, maximum: 100 }),
  Type.Number({ minimum: -160, maximum: 160 }),
  Type.Number({ minimum: -160, maximum: 160 }),
]);
const Sha256 = Type.String({ pattern: '^[0-9a-f]{64}$' });
const Share = Type.Number({ minimum: 0, maximum: 0.95 });

/** The choices of a school, default first (see the guide to schools in the interface catalogue). */
export const schoolChoices = {
  order: ['background-first', 'subject-first', 'whole-together', 'part-by-part'],
  values: ['dark-to-light', 'extremes-first', 'middle-out', 'white-first', 'transparent-darks'],
  layers: ['dry-layers', 'one-wet-session', 'glazes'],
  mixing: ['palette', 'on-the-brush', 'on-the-canvas', 'all-premixed'],
  ground: ['toned-one', 'toned-several', 'white'],
  drawing: ['tracing', 'direct', 'grid', 'envelope', 'thin-paint', 'none'],
  drawWhen: ['before-anything', 'after-ground', 'after-background', 'after-far-planes'],
  transferMedium: ['transfer-paper', 'graphite', 'charcoal', 'chalk'],
  fidelity: ['altered', 'true', 'no-reference'],
  drying: ['wait', 'dryer', 'keep-wet'],
  black: ['mixed-darks', 'tinted-near-black', 'black-allowed'],
  palette: ['smallest', 'primaries-and-white', 'rich'],
  thinning: ['medium', 'water', 'hardly', 'film-or-mist'],
  detail: ['suggest', 'render'],
  brushCare: ['wipe', 'wash', 'several-brushes'],
  teaching: ['show-then-do', 'paint-along'],
  varnish: ['none', 'brushed', 'sprayed'],
} as const;

export const School = Type.Object(
  {
    order: oneOf(schoolChoices.order),
    values: oneOf(schoolChoices.values),
    layers: oneOf(schoolChoices.layers),
    mixing: oneOf(schoolChoices.mixing),
    ground: oneOf(schoolChoices.ground),
    drawing: oneOf(schoolChoices.drawing),
    drawWhen: oneOf(schoolChoices.drawWhen),
    transferMedium: oneOf(schoolChoices.transferMedium),
    fidelity: oneOf(schoolChoices.fidelity),
    drying: oneOf(schoolChoices.drying),
    black: oneOf(schoolChoices.black),
    palette: oneOf(schoolChoices.palette),
    thinning: oneOf(schoolChoices.thinning),
    detail: oneOf(schoolChoices.detail),
    brushCare: oneOf(schoolChoices.brushCare),
    teaching: oneOf(schoolChoices.teaching),
    varnish: oneOf(schoolChoices.varnish),
  },
  strict,
);

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

/** The room a lesson is painted in. `humidity` is a fraction 0-1, `airSpeed` m/s; outdoors that is the wind. */
export const Room = Type.Object(
  {
    name: Name,
    ...air,
    outdoors: optional(Type.Boolean()),
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
    /** Time added to what students do, as a share of it. */
    slackShare: optional(Type.Number({ minimum: 0, maximum: 1 })),
  },
  strict,
);

export const absorbencies = ['sealed', 'acrylic', 'gesso', 'raw'] as const;
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
export const needs = ['any', 'wet', 'damp', 'paintOver', 'touchDry', 'firm', 'cured'] as const;
export const stepKinds = ['paint', 'draw', 'prepare', 'transfer', 'dry', 'look', 'practise', 'break'] as const;
/** How a range of paint dries, beside ordinary acrylic. */
export const paintKinds = ['ordinary', 'slow', 're-wettable'] as const;
export const media = ['retarder', 'gel', 'glazing-medium', 'mist'] as const;

export const Support = Type.Object(
  {
    kind: oneOf(['canvas', 'board', 'paper'] as const),
    widthMm: Type.Number({ minimum: 10, maximum: 5000 }),
    heightMm: Type.Number({ minimum: 10, maximum: 5000 }),
    marginMm: optional(Type.Number({ minimum: 0, maximum: 500 })),
    wrapMm: optional(Type.Number({ minimum: 0, maximum: 200 })),
    absorbency: oneOf(absorbencies),
    groundCoats: Type.Array(Type.Object({ mixId: Id, technique: oneOf(techniques) }, strict), { maxItems: limits.groundCoats }),
  },
  strict,
);

/** Where a picture lies under the canvas: canvas mm = offset + R(rotation)·(flip·px·mmPerPx). */
export const Placement = Type.Object(
  {
    mmPerPx: Type.Number({ exclusiveMinimum: 0, maximum: 1000 }),
    xMm: Type.Number({ minimum: -20000, maximum: 20000 }),
    yMm: Type.Number({ minimum: -20000, maximum: 20000 }),
    rotationDeg: Type.Number({ minimum: -180, maximum: 180 }),
    flip: Type.Boolean(),
  },
  strict,
);

const Byte = Type.Number({ minimum: 0, maximum: 255 });
/** A place in a picture (its own pixels) and the mean sRGB found there. */
const Spot = Type.Object({ xPx: Type.Number(), yPx: Type.Number(), rgb: Type.Tuple([Byte, Byte, Byte]) }, strict);
/** What the eye knew to be neutral and to be white when the picture was taken; the colours are corrected by it. */
export const Correction = Type.Object({ neutral: optional(Spot), white: optional(Spot) }, strict);
export const takenAs = ['daylight', 'lamp', 'print', 'screen', 'unknown'] as const;

export const Reference = Type.Object(
  {
    id: Id,
    pictureSha256: Sha256,
    widthPx: Type.Integer({ minimum: 1 }),
    heightPx: Type.Integer({ minimum: 1 }),
    role: oneOf(['whole', 'detail', 'light'] as const),
    placement: Placement,
    /** What was photographed: a thing in some light, a print, a screen. Says how far its colours can be trusted. */
    taken: optional(oneOf(takenAs)),
    correction: optional(Correction),
    /** Beyond its edge the picture goes on with its last pixels, so that a crop may reach past it. */
    extend: optional(Type.Boolean()),
    permission: Type.Object(
      {
        kind: oneOf(['unset', 'own', 'permission', 'public-domain', 'commissioned'] as const),
        by: optional(Type.String({ maxLength: 200 })),
        year: optional(Type.Integer({ minimum: 0, maximum: 3000 })),
      },
      strict,
    ),
  },
  strict,
);

const Ring = Type.Array(Point, { minItems: 3, maxItems: 4000 });
/** GeoJSON MultiPolygon coordinates in canvas mm; the first point of a ring is not repeated at its end. */
export const Outline = Type.Array(Type.Array(Ring, { minItems: 1, maxItems: 200 }), { minItems: 1, maxItems: 200 });

export const Zone = Type.Object(
  {
    id: Id,
    name: Name,
    elementId: optional(Id),
    /** The area that it follows, being part of a twin. */
    twinOfId: optional(Id),
    outline: Outline,
    edges: optional(
      Type.Array(Type.Object({ with: Id, kind: oneOf(['hard', 'soft', 'lost'] as const) }, strict), { maxItems: 60 }),
    ),
    targetLab: optional(Lab),
    directionDeg: optional(Type.Number({ minimum: -180, maximum: 180 })),
    /** Strokes that run towards a point, or round one, in place of one direction. */
    flow: optional(Type.Object({ kind: oneOf(['towards', 'round'] as const), at: Point }, strict)),
    /** Nothing is painted here before this step. */
    keepFreeUntil: optional(Id),
  },
  strict,
);

export const markKinds = ['lines', 'dots', 'tufts', 'scatter', 'spatter', 'unit'] as const;
/** Marks laid in an area: so many lines, dots, tufts, a scatter or spatter, or a unit repeated. */
export const Mark = Type.Object(
  {
    id: Id,
    name: Name,
    zoneId: Id,
    kind: oneOf(markKinds),
    count: Type.Integer({ minimum: 1, maximum: 2000 }),
    lengthMm: Type.Number({ minimum: 0.2, maximum: 2000 }),
    widthMm: Type.Number({ minimum: 0.2, maximum: 100 }),
    /** How much thinner a mark ends than it begins: 0 not at all, 1 to nothing. */
    taper: Type.Number({ minimum: 0, maximum: 1 }),
    /** Its own direction; without one it follows the area's. */
    directionDeg: optional(Type.Number({ minimum: -180, maximum: 180 })),
    /** Set evenly round this point; without one they are strewn over the area. */
    round: optional(Type.Object({ at: Point, radiusMm: Type.Number({ minimum: 1, maximum: 3000 }) }, strict)),
    /** Areas covered up while it is laid. */
    protectIds: optional(Type.Array(Id, { maxItems: 60 })),
  },
  strict,
);

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

export const fates = ['kept', 'dropped', 'moved', 'added'] as const;
/** A thing in the picture, made of zones. A moved one: canvas = about + scale · (picture − about) + (dx, dy), in mm. */
export const Element = Type.Object(
  {
    id: Id,
    name: Name,
    fate: oneOf(fates),
    move: optional(
      Type.Object(
        {
          dxMm: Type.Number({ minimum: -20000, maximum: 20000 }),
          dyMm: Type.Number({ minimum: -20000, maximum: 20000 }),
          scale: Type.Number({ minimum: 0.05, maximum: 20 }),
          aboutXMm: Type.Number({ minimum: -20000, maximum: 20000 }),
          aboutYMm: Type.Number({ minimum: -20000, maximum: 20000 }),
        },
        strict,
      ),
    ),
    facing: optional(oneOf(['left', 'right'] as const)),
    twinOf: optional(TwinOf),
    /** The picture an added element is cut from; without one it is drawn in its zones' own colours. */
    fromReferenceId: optional(Id),
  },
  strict,
);

/** A tube of one's own, known by samples painted out and dry: its mass tone, and a tint with so many parts of titanium white. */
export const OwnTube = Type.Object(
  {
    name: Name,
    masstoneLab: Lab,
    tint: optional(Type.Object({ lab: Lab, whiteParts: Type.Number({ exclusiveMinimum: 0, maximum: 200 }) }, strict)),
  },
  strict,
);

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
    finish: oneOf(['gloss', 'satin', 'matt'] as const),
    sizeMl: optional(Type.Number({ exclusiveMinimum: 0, maximum: 5000 })),
    priceMinor: optional(Type.Integer({ minimum: 0 })),
  },
  strict,
);

export const Amount = Type.Union([Type.Integer({ minimum: 1, maximum: 99 }), oneOf(['touch', 'speck'] as const)]);
export const RecipePart = Type.Object({ tubeId: Id, parts: Amount }, strict);

/** Another heap as part of a mix, by volume. */
export const HeapPart = Type.Object({ mixId: Id, parts: Amount }, strict);

export const Mix = Type.Object(
  {
    id: Id,
    name: Name,
    targetLab: optional(Lab),
    /** Whether the target is what the dry paint shall look like (as a rule), or the wet. */
    targetState: optional(oneOf(['dry', 'wet'] as const)),
    /** The area that the target was taken from. */
    zoneId: optional(Id),
    /** Other areas that it is used for as well. */
    alsoZoneIds: optional(Type.Array(Id, { maxItems: 60 })),
    recipe: Type.Array(RecipePart, { maxItems: limits.recipe }),
    /** Heaps that this one is mixed from, beside tubes. */
    heaps: optional(Type.Array(HeapPart, { maxItems: limits.heaps })),
    /** A strong tube let down with a weak one beforehand: recipes may use it like a tube. */
    letDown: optional(Type.Boolean()),
    /** Parts of clear medium to one of paint, where it is used as a glaze. */
    mediumParts: optional(Type.Number({ minimum: 0, maximum: 100 })),
    waterShareOfMix: optional(Share),
  },
  strict,
);

export const Stage = Type.Object({ id: Id, name: Name }, strict);

export const Step = Type.Object(
  {
    id: Id,
    stageId: Id,
    kind: oneOf(stepKinds),
    title: Name,
    zoneIds: Type.Array(Id, { maxItems: limits.zoneIds }),
    markIds: Type.Array(Id, { maxItems: limits.markIds }),
    mixIds: Type.Array(Id, { maxItems: limits.mixIds }),
    brushId: optional(Id),
    technique: optional(oneOf(techniques)),
    medium: optional(oneOf(media)),
    waterShareOfMix: optional(Share),
    coverShare: optional(Type.Number({ exclusiveMinimum: 0, maximum: 1 })),
    needs: oneOf(needs),
    partByPart: optional(Type.Boolean()),
    /** The edge shared with the paint it goes into is laid last, so that all of its working time is left for it. */
    sharedEdgeLast: optional(Type.Boolean()),
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
      Type.Object({ most: Type.Integer({ minimum: 2, maximum: 500 }), until: Type.String({ maxLength: 300 }) }, strict),
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
  },
  strict,
);

/** An instructor's own way of drafting, beside the choices of the school. */
export const Method = Type.Object(
  {
    name: Name,
    /** Coats of an area at most. */
    coats: optional(Type.Integer({ minimum: 1, maximum: 8 })),
    /** How later coats are laid, and on what share of their area. */
    laterTechnique: optional(oneOf(techniques)),
    laterShare: optional(Type.Number({ minimum: 0.05, maximum: 1 })),
    /** Areas smaller than this share of the canvas get one coat. */
    plainBelowShare: optional(Type.Number({ minimum: 0, maximum: 0.5 })),
    breakEveryMin: optional(Type.Number({ minimum: 15, maximum: 240 })),
    /** What is said with a technique, in the instructor's own words. */
    says: optional(Type.Array(Type.Object({ technique: oneOf(techniques), say: Words }, strict), { maxItems: 20 })),
  },
  strict,
);

/** The same lesson for others, kept as what differs from it. */
export const Variant = Type.Object(
  {
    id: Id,
    name: Name,
    support: optional(
      Type.Object(
        { widthMm: Type.Number({ minimum: 10, maximum: 5000 }), heightMm: Type.Number({ minimum: 10, maximum: 5000 }) },
        strict,
      ),
    ),
    level: optional(oneOf(['beginner', 'improver', 'experienced'] as const)),
    handed: optional(oneOf(['right', 'left'] as const)),
    /** For children: simpler, with materials labelled for them only. */
    children: optional(Type.Boolean()),
    /** Tubes and brushes that are not there. */
    withoutTubeIds: optional(Type.Array(Id, { maxItems: 60 })),
    withoutBrushIds: optional(Type.Array(Type.String({ maxLength: 40 }), { maxItems: 60 })),
    leaveOutStepIds: optional(Type.Array(Id, { maxItems: 400 })),
    changes: Type.Array(Type.Object({ stepId: Id, step: Type.Partial(Step) }, strict), { maxItems: 400 }),
  },
  strict,
);

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
    elements: Type.Array(Element, { maxItems: limits.elements }),
    zones: Type.Array(Zone, { maxItems: limits.zones }),
    /** The zone that the picture is about. */
    subjectZoneId: optional(Id),
    /** How far paint laid first runs past its edge. */
    overlapMm: Type.Number({ minimum: 0, maximum: 60 }),
    marks: Type.Array(Mark, { maxItems: limits.marks }),
    /** The hand that paints, where an order depends on it. */
    handed: optional(oneOf(['right', 'left'] as const)),
    drawing: Drawing,
    tubes: Type.Array(Tube, { maxItems: limits.tubes }),
    mixes: Type.Array(Mix, { maxItems: limits.mixes }),
    stages: Type.Array(Stage, { maxItems: limits.stages }),
    steps: Type.Array(Step, { maxItems: limits.steps }),
    planning: Planning,
    samples: Type.Array(Sample, { maxItems: limits.samples }),
    variants: Type.Array(Variant, { maxItems: limits.variants }),
    setAside: Type.Array(
      Type.Object({ finding: Type.String({ maxLength: 200 }), why: Type.String({ maxLength: 500 }) }, strict),
      { maxItems: limits.setAside },
    ),
  },
  strict,
);

export type Lab = Static<typeof Lab>;
export type School = Static<typeof School>;
export type Room = Static<typeof Room>;
export type RoomHour = Static<typeof RoomHour>;
export type Planning = Static<typeof Planning>;
export type PaintKind = (typeof paintKinds)[number];
export type Support = Static<typeof Support>;
export type Placement = Static<typeof Placement>;
export type Reference = Static<typeof Reference>;
export type Correction = Static<typeof Correction>;
export type Element = Static<typeof Element>;
export type Outline = [number, number][][][];
export type Zone = Omit<Static<typeof Zone>, 'outline'> & { outline: Outline };
export type Tube = Static<typeof Tube>;
export type Amount = number | 'touch' | 'speck';
export type RecipePart = { tubeId: string; parts: Amount };
export type HeapPart = { mixId: string; parts: Amount };
export type Mix = Omit<Static<typeof Mix>, 'recipe' | 'heaps'> & { recipe: RecipePart[]; heaps?: HeapPart[] };
export type OwnTube = Static<typeof OwnTube>;
export type Method = Static<typeof Method>;
export type Mark = Static<typeof Mark>;
export type MarkKind = (typeof markKinds)[number];
export type StrokeKind = (typeof strokes)[number];
export type Sample = Static<typeof Sample>;
export type Variant = Omit<Static<typeof Variant>, 'changes'> & { changes: { stepId: string; step: Partial<Step> }[] };
export type Stage = Static<typeof Stage>;
export type Step = Static<typeof Step>;
export type Lesson = Omit<Static<typeof Lesson>, 'zones' | 'mixes' | 'variants'> & {
  zones: Zone[];
  mixes: Mix[];
  variants: Variant[];
};
export type Technique = (typeof techniques)[number];
export type Need = (typeof needs)[number];
export type Absorbency = (typeof absorbencies)[number];
export type StepKind = (typeof stepKinds)[number];
export type Level = Lesson['level'];
