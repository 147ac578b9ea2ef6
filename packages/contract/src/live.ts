import { type Static, Type } from 'typebox';
import type { Measures } from './account-api.js';
import type { Language } from './language.js';
import type { JoinedFilm } from './lesson/index.js';
import { Plan } from './plan.js';
import { Id } from './shapes.js';

const strict = { additionalProperties: false } as const;

export const FirstName = Type.String({ minLength: 1, maxLength: 40, pattern: '\\S' });
export const handReasons = ['colour', 'brush', 'too-wet', 'drawing', 'lost', 'other'] as const;
/** What one may say of a step: done about now, done when the class went on, still at it, or left out. */
export const answers = ['now', 'when-we-went-on', 'still', 'left-out'] as const;
export type Answer = (typeof answers)[number];
/** What a student may have beside tubes and brushes; a step is worded for what they have. */
export const helpers = ['mist', 'retarder', 'damp-brush', 'transfer-paper', 'graphite'] as const;
const Has = Type.Array(Type.Enum([...helpers]), { maxItems: helpers.length });
const Air = { airC: Type.Number({ minimum: -10, maximum: 50 }), humidity: Type.Number({ minimum: 0, maximum: 1 }) };
const Tenths = (count: number) => Type.Array(Type.Integer({ minimum: -1 }), { minItems: count, maxItems: count });
const Message = Type.String({ minLength: 1, maxLength: 160, pattern: '\\S' });
/** Where a film that all follow together stands: played on from there since the event, or at rest. */
const FilmPlace = {
  filmId: Id,
  atMs: Type.Integer({ minimum: 0, maximum: 43_200_000 }),
  isPlaying: Type.Boolean(),
  rate: Type.Number({ minimum: 0.5, maximum: 2 }),
};
/** How fast time runs in a rehearsal. */
const Speed = Type.Number({ minimum: 1, maximum: 60 });
/** Six signs, none of which is easily taken for another (no 0 O 1 I L 5 S 8 B U V). */
export const CODE_ALPHABET = '234679ACDEFGHJKMNPQRTWXYZ';
export const CODE_PATTERN = `^[${CODE_ALPHABET}]{6}$`;

/** Where a class is taught in groups: the one that is meant. */
const OfGroup = { group: Type.Optional(Id) };
const GroupName = Type.Object({ id: Id, name: Type.String({ minLength: 1, maxLength: 30, pattern: '\\S' }) }, strict);

const command = <T extends string, P extends Record<string, ReturnType<typeof Type.String> | object>>(type: T, fields: P) =>
  Type.Object({ type: Type.Literal(type), ...fields } as { type: ReturnType<typeof Type.Literal<T>> } & P, strict);

export const commandSchemas = {
  join: command('join', {
    firstName: FirstName,
    kit: Type.Array(Id, { maxItems: 60 }),
    has: Type.Optional(Has),
  }),
  /** Tubes and tools are others than was said at the door. */
  kit: command('kit', { studentId: Id, kit: Type.Array(Id, { maxItems: 60 }), has: Type.Optional(Has) }),
  seat: command('seat', { studentId: Id, seat: Type.Integer({ minimum: 0, maximum: 1300 }) }),
  rename: command('rename', { studentId: Id, firstName: FirstName }),
  remove: command('remove', { studentId: Id }),
  goOn: command('goOn', { from: Type.Integer({ minimum: -1, maximum: 2000 }), ...OfGroup }),
  /** Straight to another item of the plan: forward leaves out what lies between, back does it again. */
  goTo: command('goTo', {
    from: Type.Integer({ minimum: -1, maximum: 2000 }),
    to: Type.Integer({ minimum: 0, maximum: 2000 }),
    ...OfGroup,
  }),
  /** On from a pause before it is over: the next step lies on wet paint, and the log says so. */
  paintOn: command('paintOn', { from: Type.Integer({ minimum: 0, maximum: 2000 }), ...OfGroup }),
  takeBack: command('takeBack', OfGroup),
  hold: command('hold', OfGroup),
  resume: command('resume', OfGroup),
  extend: command('extend', { minutes: Type.Number({ exclusiveMinimum: 0, maximum: 60 }), ...OfGroup }),
  /** The class in groups, each with its own pace; who is not named goes with the first. */
  divide: command('divide', {
    groups: Type.Array(GroupName, { minItems: 2, maxItems: 6 }),
    of: Type.Array(Type.Object({ studentId: Id, group: Id }, strict), { maxItems: 1300 }),
  }),
  /** All together again, where one of the groups is. */
  together: command('together', { where: Id }),
  move: command('move', { studentId: Id, group: Id }),
  done: command('done', { studentId: Id, stepId: Id }),
  notYet: command('notYet', { studentId: Id, stepId: Id }),
  /** What a student says of a step when asked; or the desk, having looked. */
  answer: command('answer', { studentId: Id, stepId: Id, is: Type.Enum([...answers]) }),
  /** A step that the class left was looked at again. */
  look: command('look', { studentId: Id, stepId: Id }),
  /** Somebody went and saw that all is well. */
  seen: command('seen', { studentId: Id }),
  hand: command('hand', { studentId: Id, reason: Type.Enum([...handReasons]) }),
  handDown: command('handDown', { studentId: Id }),
  touchTest: command('touchTest', { areaId: Id, dry: Type.Boolean(), ...OfGroup }),
  /** A touch test of that class time was a mistake. */
  touchBack: command('touchBack', { at: Type.Integer() }),
  /** The rest of the plan worked out again from what really happened; from the item that the desk saw. */
  replan: command('replan', {
    from: Type.Integer({ minimum: 0, maximum: 2000 }),
    quickest: Type.Optional(Type.Boolean()),
    ...OfGroup,
  }),
  climate: command('climate', { ...Air, airSpeed: Type.Optional(Type.Number({ minimum: 0, maximum: 20 })) }),
  say: command('say', { text: Message }),
  film: command('film', FilmPlace),
  speed: command('speed', { speed: Speed }),
  end: command('end', {}),
};

export const Command = Type.Union([
  commandSchemas.join,
  commandSchemas.divide,
  commandSchemas.together,
  commandSchemas.move,
  commandSchemas.kit,
  commandSchemas.seat,
  commandSchemas.goTo,
  commandSchemas.replan,
  commandSchemas.climate,
  commandSchemas.say,
  commandSchemas.film,
  commandSchemas.speed,
  commandSchemas.rename,
  commandSchemas.remove,
  commandSchemas.goOn,
  commandSchemas.paintOn,
  commandSchemas.takeBack,
  commandSchemas.hold,
  commandSchemas.resume,
  commandSchemas.extend,
  commandSchemas.done,
  commandSchemas.notYet,
  commandSchemas.answer,
  commandSchemas.look,
  commandSchemas.seen,
  commandSchemas.hand,
  commandSchemas.handDown,
  commandSchemas.touchTest,
  commandSchemas.touchBack,
  commandSchemas.end,
]);

/**
 * Since version 2: what was said without a network has the class time at which it was said (ms); `rough` where the clock of the screen
 * could not be believed.
 */
const Dated = { saidAt: Type.Optional(Type.Integer()), rough: Type.Optional(Type.Literal(true)) };
const SinceDated = Type.Union([Type.Literal(1), Type.Literal(2)]);

/** What happened, as the log keeps it. `v` is the version of the event's own shape. */
export const EventBody = Type.Union([
  Type.Object(
    {
      type: Type.Literal('opened'),
      v: Type.Literal(1),
      revision: Type.Integer(),
      plan: Plan,
      code: Type.String(),
      /** Time can be made to run faster, and the students are simulated. */
      rehearsal: Type.Optional(Type.Boolean()),
    },
    strict,
  ),
  Type.Object(
    {
      type: Type.Literal('joined'),
      v: Type.Literal(1),
      studentId: Id,
      firstName: FirstName,
      kit: Type.Array(Type.String()),
      has: Type.Optional(Has),
      /** Somebody of the same first name is here: their easel has an edge of a colour of its own. */
      edge: Type.Optional(Type.Integer({ minimum: 1, maximum: 4 })),
      /** The group that they come to, where the class is taught in groups. */
      group: Type.Optional(Id),
    },
    strict,
  ),
  Type.Object(
    { type: Type.Literal('kitChanged'), v: Type.Literal(1), studentId: Id, kit: Type.Array(Type.String()), has: Has },
    strict,
  ),
  Type.Object({ type: Type.Literal('seated'), v: Type.Literal(1), studentId: Id, seat: Type.Integer({ minimum: 0 }) }, strict),
  Type.Object({ type: Type.Literal('replanned'), v: Type.Literal(1), plan: Plan, ...OfGroup }, strict),
  Type.Object(
    {
      type: Type.Literal('divided'),
      v: Type.Literal(1),
      groups: Type.Array(GroupName),
      of: Type.Array(Type.Object({ studentId: Id, group: Id }, strict)),
    },
    strict,
  ),
  Type.Object({ type: Type.Literal('joinedTogether'), v: Type.Literal(1), where: Id }, strict),
  Type.Object({ type: Type.Literal('movedTo'), v: Type.Literal(1), studentId: Id, group: Id }, strict),
  /** Of version 1: `factor` is how much longer than planned coats dry in this air, one for all. */
  Type.Object(
    { type: Type.Literal('climateNoted'), v: Type.Literal(1), ...Air, airSpeed: Type.Number(), factor: Type.Number() },
    strict,
  ),
  /**
   * The air with what it does to every coat of the plan, in tenths of a minute, -1 for never. Coats that are alike share a row: `row` gives
   * it for each coat in the plan's order (-1: as planned), `rows` the minutes until it is no longer open, may be painted over, is
   * touch-dry and firm, `left` what it still takes to be painted over and to be touch-dry once it has dried 0, 25, 50, 75, 90, 95 and 98 %.
   */
  Type.Object(
    {
      type: Type.Literal('climateNoted'),
      v: Type.Literal(2),
      ...Air,
      airSpeed: Type.Number(),
      rows: Type.Array(Tenths(4), { maxItems: 2000 }),
      row: Type.Array(Type.Integer({ minimum: -1 }), { maxItems: 4000 }),
      left: Type.Array(Tenths(14), { maxItems: 2000 }),
    },
    strict,
  ),
  Type.Object({ type: Type.Literal('said'), v: Type.Literal(1), text: Message }, strict),
  Type.Object({ type: Type.Literal('filmSet'), v: Type.Literal(1), ...FilmPlace }, strict),
  /** `real`: the server's own time at which the class's time was that of the event. */
  Type.Object({ type: Type.Literal('speedSet'), v: Type.Literal(1), speed: Speed, real: Type.Integer() }, strict),
  Type.Object({ type: Type.Literal('renamed'), v: Type.Literal(1), studentId: Id, firstName: FirstName }, strict),
  Type.Object({ type: Type.Literal('removed'), v: Type.Literal(1), studentId: Id }, strict),
  Type.Object(
    {
      type: Type.Literal('itemStarted'),
      v: Type.Literal(1),
      index: Type.Integer({ minimum: 0 }),
      ...OfGroup,
      /** A pause was cut short for it: whose paint was still wet, and how long it wanted yet. */
      paintedOn: Type.Optional(
        Type.Object({ areaIds: Type.Array(Id, { maxItems: 60 }), leftMin: Type.Number({ minimum: 0 }) }, strict),
      ),
    },
    strict,
  ),
  Type.Object(
    { type: Type.Literal('itemTakenBack'), v: Type.Literal(1), index: Type.Integer({ minimum: -1 }), ...OfGroup },
    strict,
  ),
  Type.Object({ type: Type.Literal('held'), v: Type.Literal(1), ...OfGroup }, strict),
  Type.Object({ type: Type.Literal('resumed'), v: Type.Literal(1), ...OfGroup }, strict),
  Type.Object({ type: Type.Literal('extended'), v: Type.Literal(1), minutes: Type.Number(), ...OfGroup }, strict),
  Type.Object(
    {
      type: Type.Literal('stepDone'),
      v: SinceDated,
      studentId: Id,
      stepId: Id,
      /** The desk said it, having looked: done by then, nobody knows since when. */
      by: Type.Optional(Type.Literal('desk')),
      ...Dated,
    },
    strict,
  ),
  Type.Object(
    { type: Type.Literal('answered'), v: SinceDated, studentId: Id, stepId: Id, is: Type.Enum([...answers]), ...Dated },
    strict,
  ),
  Type.Object({ type: Type.Literal('lookedBack'), v: SinceDated, studentId: Id, stepId: Id, ...Dated }, strict),
  Type.Object({ type: Type.Literal('seen'), v: Type.Literal(1), studentId: Id }, strict),
  Type.Object({ type: Type.Literal('stepUndone'), v: SinceDated, studentId: Id, stepId: Id, ...Dated }, strict),
  Type.Object(
    { type: Type.Literal('handRaised'), v: SinceDated, studentId: Id, reason: Type.Enum([...handReasons]), ...Dated },
    strict,
  ),
  Type.Object({ type: Type.Literal('handLowered'), v: SinceDated, studentId: Id, ...Dated }, strict),
  /** Of version 1 the factor of the class was another one; since version 2 it is known which coat was touched, and dry frees it. */
  Type.Object(
    {
      type: Type.Literal('touchTested'),
      v: Type.Union([Type.Literal(1), Type.Literal(2)]),
      areaId: Id,
      dry: Type.Boolean(),
      stepId: Type.Optional(Id),
      ...OfGroup,
    },
    strict,
  ),
  Type.Object({ type: Type.Literal('touchTakenBack'), v: Type.Literal(1), at: Type.Integer() }, strict),
  Type.Object({ type: Type.Literal('ended'), v: Type.Literal(1) }, strict),
]);

export const ClassEvent = Type.Object(
  {
    seq: Type.Integer({ minimum: 1 }),
    at: Type.Integer(),
    actor: Type.String({ maxLength: 40 }),
    body: EventBody,
  },
  strict,
);

/**
 * A command under its id. What was kept without a network says when it was pressed (ms of the server's clock as the screen knew it), by how
 * much that may be wrong (ms), and how far the screen had seen the log.
 */
const Numbered = {
  id: Id,
  command: Command,
  pressed: Type.Optional(Type.Number()),
  bound: Type.Optional(Type.Number({ minimum: 0 })),
  seenSeq: Type.Optional(Type.Integer({ minimum: 0 })),
};

/** What a client may send over the class connection. */
export const ClientFrame = Type.Union([
  Type.Object(
    {
      type: Type.Literal('hello'),
      after: Type.Integer({ minimum: 0 }),
      token: Type.Optional(Type.String({ maxLength: 80 })),
      /** Of an assistant or a sensor: the key of the link that the instructor gave. */
      key: Type.Optional(Type.String({ maxLength: 120 })),
    },
    strict,
  ),
  Type.Object({ type: Type.Literal('command'), ...Numbered }, strict),
  /** Several at once, in the order in which they were said; each is answered under its own id. */
  Type.Object(
    { type: Type.Literal('commands'), commands: Type.Array(Type.Object(Numbered, strict), { minItems: 1, maxItems: 16 }) },
    strict,
  ),
  Type.Object({ type: Type.Literal('ping'), sent: Type.Number() }, strict),
  /** The desk's answer to those who wait at the door, by the ids of their commands. */
  Type.Object({ type: Type.Literal('admit'), ids: Type.Array(Id, { minItems: 1, maxItems: 600 }), yes: Type.Boolean() }, strict),
]);

export type Helper = (typeof helpers)[number];
export type HandReason = (typeof handReasons)[number];
export type Command = Static<typeof Command>;
export type CommandType = Command['type'];
export type EventBody = Static<typeof EventBody>;
export type ClassEvent = Static<typeof ClassEvent>;
export type ClientFrame = Static<typeof ClientFrame>;
/** A command as it is sent. */
export type NumberedCommand = Omit<Extract<ClientFrame, { type: 'command' }>, 'type'>;

/** Somebody who waits for the desk's yes: there are more from one network than were planned, or somebody was taken out before. */
export type AtTheDoor = { id: string; firstName: string; why: 'more-than-planned' | 'taken-out' };
/** Reasons for which the server ends a connection for good: signed out; a link that lets nobody in any more. */
export const CLOSED = { signedOut: 4401, noLink: 4403, over: 4410 } as const;

/** Since when (the server's ms) students who were connected are not, by their id. */
export type Away = Record<string, number>;

/**
 * Events of the log's stretch from one number to another. Of those a phone gets what is of the class and of its own student: a number that
 * is not among them is of somebody else.
 */
type Stretch = { from: number; to: number; events: ClassEvent[] };

/** What the server sends over the class connection. */
export type ServerFrame =
  /** `head`: how far the log goes. Where the stretch begins with 1, what was known before is forgotten. */
  | ({ type: 'hello'; head: number; now: number; you: string | null; connected: string[]; away: Away } & Stretch)
  | ({ type: 'events' } & Stretch)
  | { type: 'ack'; id: string; seq: number; token?: string; studentId?: string }
  | { type: 'refused'; id: string; code: string; message: string }
  /** A join that the desk must say yes to. */
  | { type: 'waiting'; id: string }
  | { type: 'door'; waiting: AtTheDoor[] }
  /** Whether what is said can be kept; a sentence where it cannot just now. */
  | { type: 'storage'; fault: string | null }
  | { type: 'presence'; connected: string[]; away: Away }
  | { type: 'camera'; at: number; simulated: boolean }
  | { type: 'pong'; sent: number; now: number };

/** One layer of a stage picture: how a step changes what is seen of an area (`line`: its drawn outline). */
export type PaintLayer = { areaId: string; kind: 'line' | 'flat' | 'blend' | 'broken'; colours: string[]; share: number };
export type SheetMix = {
  id: string;
  name: string;
  rgb: string;
  wetRgb: string;
  words: string;
  parts: { name: string; rgb: string; weight: number }[];
  /** Where its mix lies on the palette, in words. */
  place?: string;
  /** For a student who lacks a tube: what is different from the colour shown to all, and the recipe with all tubes. */
  instead?: string;
  full?: string;
};
/** Other recipes for a student who lacks some tubes, by mix; a mix that is not named stays as it is. */
export type OtherRecipes = Record<string, SheetMix>;
export type SheetStep = {
  number: number;
  title: string;
  kind: string;
  lines: string[];
  checkpoint: string;
  brush: string | null;
  /** The same brush in metric words. */
  brushMetric?: string | null;
  technique: string | null;
  /** The movement of the brush, where the lesson says one. */
  stroke?: string | null;
  /** What is to be counted while it is done, with what to look for before stopping. */
  counts?: { name: string; count: number; until: string }[];
  areaIds: string[];
  mixes: SheetMix[];
  layers: PaintLayer[];
};
/** What a phone needs to show a lesson: computed on the server from the pinned revision and the plan. */
export type FollowSheet = {
  title: string;
  /** In which language it is said. */
  language?: Language;
  /** How the instructor of the class measures. */
  measures?: Measures;
  canvas: { widthMm: number; heightMm: number; bareRgb: string };
  areas: { id: string; name: string; path: string; top: number; bottom: number }[];
  /** What each student should have. */
  tubes: { id: string; name: string; rgb: string }[];
  steps: Record<string, SheetStep>;
  stepCount: number;
  /** The grid by which the drawing is copied, where the lesson has one. */
  grid?: { columns: number; rows: number };
  units?: 'in' | 'cm';
  /** Films that stand beside its steps. */
  films?: JoinedFilm[];
  /** Steps that may be left out: their minutes, and how much of the picture they change (cm² times ΔE00). */
  leaveOut?: Record<string, { minutes: number; weight: number }>;
  /** Other ways of doing a step, for what a student has; the first that fits is shown. */
  ways?: Record<string, { helper: Helper; words: string }[]>;
};
/** A lesson to paint alone, from a link. */
export type AloneSheet = { sheet: FollowSheet; plan: Plan };
