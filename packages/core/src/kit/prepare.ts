import type { Lesson, Studio } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { coatTimes } from '../coat/index.js';
import { counted, volumeInWords } from '../units/index.js';
import { groupOf, groupParts, supportsOf } from './parts.js';
import { type Premix, storageLife } from './premix.js';

/** Several coats on many boards: so many minutes each, by so many people, with a wait after each coat; `places`: flat ones in the rack. */
export type Boards = { boards: number; eachMin: number; people: number; waitMin: number[]; places?: number };

/**
 * When each coat begins, min, and when the last is dry: the next coat begins when the first board may be coated again and the coat before is
 * laid. With fewer flat places than boards they go in waves, each taking all its coats.
 */
export function coatBoards({ boards, eachMin, people, waitMin, places = 0 }: Boards): {
  starts: number[];
  endMin: number;
  waves: number;
} {
  const waves = places > 0 ? Math.ceil(boards / places) : 1;
  const starts: number[] = [];
  let at = 0;
  for (let wave = 0; wave < waves; wave++) {
    const here = places > 0 ? Math.min(places, boards - wave * places) : boards;
    const layMin = (here * eachMin) / Math.max(1, people);
    waitMin.forEach((wait, k) => {
      if (wave === 0) starts.push(at);
      const isLast = k === waitMin.length - 1;
      at += isLast ? layMin + wait : Math.max(layMin, eachMin + wait);
    });
  }
  return { starts, endMin: at, waves };
}

/** A flat place in the rack takes a board and a hand's width round it, mm. */
const PLACE_MM = 50;
export const rackM2 = (boards: number, widthMm: number, heightMm: number): number =>
  (boards * (widthMm + PLACE_MM) * (heightMm + PLACE_MM)) / 1_000_000;

/** A coat on a board with a two-inch flat: set down and taken up, and two passes at four metres a minute. */
export const boardMin = (widthMm: number, heightMm: number): number => 0.5 + ((widthMm * heightMm) / 1e6 / (0.0508 * 4)) * 2;

/** "13 canvases", "1 board". */
export const supportsInWords = ({ support }: Pick<Lesson, 'support'>, count: number): string =>
  support.kind === 'canvas'
    ? counted(count, 'canvas', 'canvases')
    : support.kind === 'board'
      ? counted(count, 'board')
      : counted(count, 'sheet');

/** Something to be done before the class. Minutes counted back from when the class begins: negative. */
export type PrepTask = {
  key: string;
  what: string;
  /** How long it takes those who do it, min. */
  minutes: number;
  /** Who does it, counted from 1: one of those who prepare, or all of them together. */
  who: number[];
  startMin: number;
  endMin: number;
  /** What it then waits for, in words. */
  then?: string;
  caution?: string;
  /** It cannot be done in time any more. */
  late?: true;
};

const SAND_CAUTION = () =>
  say('Dust: outdoors or wet, with a mask as its maker says; sweep wet. Labels and the maker’s safety sheet decide.');
const GESSO_COATS = 2;
const LONGEST_WAIT_MIN = 7 * 24 * 60;
const DAY = 24 * 60;
/** Nobody prepares by night: between these minutes of the day. */
const HOURS = { from: 8 * 60, to: 21 * 60 };

/** The last stretch of working hours of so many minutes that ends by a time (minutes before the class, negative); over nights where it must. */
function lastSlot(endBy: number, minutes: number, beginsAtMinOfDay: number): { start: number; end: number } {
  let end = endBy;
  const ofDay = (at: number) => (((beginsAtMinOfDay + at) % DAY) + DAY) % DAY;
  if (ofDay(end) > HOURS.to) end -= ofDay(end) - HOURS.to;
  else if (ofDay(end) < HOURS.from) end -= ofDay(end) + DAY - HOURS.to;
  let start = end;
  let left = minutes;
  while (left > 0) {
    const room = ofDay(start) - HOURS.from;
    if (room <= 0) {
      // On to the evening before.
      start -= ofDay(start) + DAY - HOURS.to;
      continue;
    }
    const part = Math.min(left, room);
    start -= part;
    left -= part;
    if (left > 0) start -= HOURS.from + DAY - HOURS.to;
  }
  return { start, end };
}

type Parts = { lesson: Lesson; isRaw: boolean };

/** The ground of the boards: gesso where they are raw, sanded between, and what the support names; from the last backwards. */
function groundTasks({
  lesson,
  isRaw,
}: Parts): { key: string; what: string; minutes: number; dryMin: number; then: string; caution?: string }[] {
  const parts = groupParts(lesson);
  const boards = parts.reduce((sum, part) => sum + supportsOf(part), 0);
  const room = lesson.room;
  const lay = parts.reduce(
    (sum, part) => sum + supportsOf(part) * boardMin(part.lesson.support.widthMm, part.lesson.support.heightMm),
    0,
  );
  const dry = (technique: 'gesso' | 'wash' | 'block-in', rung: 'touch' | 'firm', absorb: number) => {
    const times = coatTimes({ technique, absorbGPerM2: absorb }, room);
    // In air in which it never dries a week is waited, and the air says the rest.
    return Math.min(LONGEST_WAIT_MIN, rung === 'touch' ? times.touchDryMin : times.firmH * 60);
  };
  const out: ReturnType<typeof groundTasks> = [];
  if (isRaw)
    for (let k = 1; k <= GESSO_COATS; k++)
      out.push({
        key: `gesso ${k}`,
        what: say`${k === 1 ? say('First') : say('Second')} coat of gesso on ${supportsInWords(lesson, boards)}`,
        minutes: lay,
        dryMin: k === GESSO_COATS ? dry('gesso', 'firm', 8) : dry('gesso', 'touch', 15),
        then: k === GESSO_COATS ? say('dries until it is firm enough to sand') : say('dries until it is touch-dry'),
      });
  if (isRaw)
    out.push({
      key: 'sand',
      what: say`Sand ${supportsInWords(lesson, boards)} and wipe them`,
      minutes: lay * 0.6,
      dryMin: 0,
      then: '',
      caution: SAND_CAUTION(),
    });
  lesson.support.groundCoats.forEach(({ technique }, k) => {
    out.push({
      key: `ground ${k}`,
      what: say`Tone ${supportsInWords(lesson, boards)}: ${lesson.mixes.find(({ id }) => id === lesson.support.groundCoats[k]?.mixId)?.name ?? say('ground')}`,
      minutes: lay,
      dryMin: dry(technique === 'wash' ? 'wash' : 'block-in', 'touch', 8),
      then: say('dries until it is touch-dry'),
    });
  });
  return out;
}

const PRINT_MIN = 8;
const SHOP_MIN = 45;
const SHOPS_CLOSE = 18 * 60;
const TABLES_MIN = 2.5;
const PALETTE_MIN = 1.5;
const TRACE_MIN = 6;

/**
 * What is to be done before the class, counted back from when it begins, the first first: shopping, grounds with what they wait for, prints,
 * tracing on the day, batches no earlier than they keep, tables and palettes, a reading of the air; what many hands shorten is done by all who
 * prepare, the rest by one of them while others do something else. Nothing of it is class time.
 */
export function preparation(lesson: Lesson, studio: Studio, premixed: readonly Premix[], nowMs?: number): PrepTask[] {
  const group = groupOf(lesson);
  const beginsMs = lesson.kit?.beginsAt ? Date.parse(lesson.kit.beginsAt) : null;
  const begins = beginsMs === null ? 14 * 60 : new Date(beginsMs).getUTCHours() * 60 + new Date(beginsMs).getUTCMinutes();
  const isRaw = lesson.support.kind === 'board' && lesson.support.absorbency !== 'acrylic';
  const tasks: PrepTask[] = [];
  /** From when on each of those who prepare is busy until the class begins. */
  const free = Array.from({ length: studio.helpers }, () => 0);
  /** Puts a task as late as it may end and those who do it are free; gives when it begins. What is shared takes all of them, and their parts of its minutes. */
  const put = (
    key: string,
    what: string,
    hands: number,
    endBy: number,
    { isShared, ...more }: { isShared?: true } & Partial<PrepTask> = {},
  ): number => {
    const who = isShared ? free.map((_, one) => one) : [free.indexOf(Math.max(...free))];
    const minutes = hands / who.length;
    const { start, end } = lastSlot(Math.min(endBy, ...who.map((one) => free[one] as number)), minutes, begins);
    for (const one of who) free[one] = start;
    tasks.push({
      key,
      what,
      minutes: Math.round(minutes),
      who: who.map((one) => one + 1),
      startMin: start,
      endMin: end,
      ...more,
    });
    return start;
  };
  const { heads, teaching } = group;
  const painters = heads + teaching;
  const read = put('air', say('Read the air at the easels and note it'), 3, 0);
  const seats = put(
    'tables',
    say`Set up ${counted(Math.ceil(heads / group.tableOf), 'table')} and ${counted(painters, 'easel')}`,
    painters * TABLES_MIN,
    read,
    { isShared: true },
  );
  const palettes = put(
    'palettes',
    say`Lay out ${counted(painters, 'palette')}: tubes, knife, towels, two pots`,
    painters * PALETTE_MIN,
    seats,
    { isShared: true },
  );
  const batches = premixed.filter(({ isBatch }) => isBatch);
  for (const { mix, batch } of [...batches].reverse()) {
    if (!batch) continue;
    const keeps = storageLife(batch.container?.kind ?? 'bag', lesson.room).minutes;
    put(
      `batch ${mix.id}`,
      say`Mix ${mix.name}: ${volumeInWords(batch.ml)}, fill ${batch.portions} portions, label them`,
      batch.minutes,
      palettes,
      {
        then: say`keeps ${Math.round(keeps / DAY)} days in ${batch.container?.kind === 'jar' ? say('jars') : say('bags')}`,
      },
    );
  }
  let at = palettes;
  const traced = lesson.steps.filter((step) => step.kind === 'transfer' && step.ahead);
  if (traced.length > 0)
    at = put('trace', say`Trace the drawing onto ${supportsInWords(lesson, painters)}`, painters * TRACE_MIN, at, {
      isShared: true,
    });
  if (lesson.school.drawing === 'tracing')
    put('print', say`Print and cut ${counted(painters, 'drawing')}`, PRINT_MIN + painters, at);
  let dryBy = at;
  for (const one of [...groundTasks({ lesson, isRaw })].reverse())
    dryBy = put(one.key, one.what, one.minutes, dryBy - one.dryMin, {
      isShared: true,
      ...(one.then && { then: one.then }),
      ...(one.caution && { caution: one.caution }),
    });
  // The day before at the latest, while shops are open.
  const first = Math.min(...tasks.map(({ startMin }) => startMin));
  put('shop', say('Buy what the list says'), SHOP_MIN, Math.min(first, -begins - (DAY - SHOPS_CLOSE)));
  const untilClass = beginsMs !== null && nowMs !== undefined ? (nowMs - beginsMs) / 60_000 : Number.NEGATIVE_INFINITY;
  return tasks
    .sort((one, other) => one.startMin - other.startMin)
    .map((task) => (task.startMin < untilClass ? { ...task, late: true as const } : task));
}

/** Who does it, in words: "all 2 together", "person 2"; nothing where one prepares alone. */
export function doneBy({ who }: Pick<PrepTask, 'who'>, helpers: number): string {
  if (helpers < 2) return '';
  return who.length > 1 ? say`all ${helpers} together` : say`person ${who[0]}`;
}
