import { type Cut, type Lesson, proposedCuts, say } from '@viaticum/contract';
import { visibleOf } from '../../derived/index.js';
import { driedBefore, filmPlan } from '../filming/film-plan.js';
import { filmDefaults, type Noted, type Take, takesOf } from '../filming/takes.js';
import { type Piece, pieceInShort } from '../kinds.js';
import { type Allocation, allocate, chooseTakes, type Lengths } from './allocate.js';

/** The cuts of a lesson; where none is decided upon those that are proposed. */
export const cutsOf = ({ film }: Pick<Lesson, 'film'>): readonly Cut[] => film?.cuts ?? proposedCuts;

/** A stretch of a cut. Frames from its beginning; `src` seconds from the take's first picture. */
export type Shot = {
  kind: 'piece' | 'hold' | 'dry';
  takeId: string;
  slate: string;
  /** The step that it shows; the one that waited, for drying. */
  stepId: string | null;
  piece?: Piece;
  from: number;
  to: number;
  srcFrom: number;
  srcTo: number;
  speed: number;
  /** Shown by its first gesture and its end, with a dissolve between. */
  isJump?: true;
  /** Minutes that paint dried, hidden by the cut. */
  dryMin?: number;
};

/** A part of a film: its takes, its frames, and what it starts from. */
export type FilmPart = {
  number: number;
  of: number;
  takeIds: string[];
  from: number;
  to: number;
  /** The canvas that it begins with, as a recap: after this step; null for the first. */
  recapStepId: string | null;
  mixes: string[];
  brushes: string[];
  /** Its lines must be drawn again first, by this step. */
  transferStepId: string | null;
  next: string | null;
};

/** A cut laid out: what stands where, how fast it runs, and whether it is as long as wished. */
export type Timeline = {
  cut: Cut;
  fps: number;
  wishS: number;
  takes: Take[];
  /** Takes that the cut could show and does not. */
  left: Take[];
  shots: Shot[];
  frames: number;
  allocation: Allocation;
  /** Where it is a part of a film: what it begins from and needs. */
  part?: FilmPart;
};

/** A card that stands for drying is shown so long; a piece that is jumped over as well (first gesture, dissolve, result). */
const DRY_CARD_S = 4;
export const JUMP_S = 3;
/** A short film's card need only be read. */
const SHORT_CARD_S = 2.5;
const FULL_S = 720;
export const mayJump = ({ kind }: Piece): boolean => kind === 'repeat' || kind === 'filling' || kind === 'tracing';

/** The least and most that a piece can be dragged to, in seconds; below its least a repetition is jumped over. */
export const reachOfPiece = (piece: Piece): [number, number] => [
  mayJump(piece) && piece.lowS > JUMP_S ? JUMP_S : piece.lowS,
  piece.rawS,
];

function lengthsOf(takes: readonly Take[], fixed: ReadonlyMap<string, number>): Lengths[] {
  return takes.map(({ id, pieces, voiceS }) => ({
    id,
    ...(voiceS > 0 && { voiceS }),
    pieces: pieces.map((piece) => {
      const said = fixed.get(piece.id);
      if (said === undefined) return piece;
      const [least, most] = reachOfPiece(piece);
      return { ...piece, fixedS: Math.max(least, Math.min(most, said)) };
    }),
  }));
}

/** A take as a short cut shows it: without speech, of a stroke only its first seconds. */
const inShort = (take: Take): Take => ({
  ...take,
  voiceS: 0,
  pieces: take.pieces.filter(({ kind }) => kind !== 'speech').map(pieceInShort),
});

/** The length of a cut: as wished, or what such films usually have, within what its takes can be (to half a minute). */
function wishOf(cut: Cut, { leastS, mostS }: Pick<Allocation, 'leastS' | 'mostS'>, fullS: number): number {
  if (cut.lengthSec !== undefined) return cut.lengthSec;
  if (cut.isShort) return Math.min(180, Math.max(90, Math.round(fullS / 30) * 10));
  const usual = Math.min(mostS, Math.max(FULL_S, leastS * 1.15));
  return Math.max(30, Math.ceil(usual / 30) * 30);
}

/** A cut of a lesson's takes, laid out to the frame; see {@link allocate}. Throws where there is no such cut. */
export function timelineOf(lesson: Lesson, cutId: string, noted?: Noted): Timeline {
  const cut = cutsOf(lesson).find(({ id }) => id === cutId);
  if (!cut) throw new RangeError(say('This cut is not in the lesson any more. Choose another.'));
  const fps = lesson.film?.fps ?? filmDefaults.fps;
  const all = takesOf(lesson, noted).filter(({ isLeftOut }) => !isLeftOut);
  const out = new Set(cut.leaveOut);
  const isShort = cut.isShort ?? false;
  const open = all.filter(({ id }) => !out.has(id)).map((take) => (isShort ? inShort(take) : take));
  const fixed = new Map((cut.fixed ?? []).map(({ pieceId, sec }) => [pieceId, sec]));
  const dried = driedBefore(filmPlan(lesson).plan);
  const cardS = isShort ? SHORT_CARD_S : DRY_CARD_S;
  const lengthOf = (takes: readonly Take[], wish: number) =>
    allocate(lengthsOf(takes, fixed), wish, cardS * driesIn(takes, all, dried).size);
  const measure = (takes: readonly Take[]) => lengthOf(takes, Number.POSITIVE_INFINITY);
  // What is proposed does not move with what is dragged.
  const plain = allocate(lengthsOf(open, new Map()), Number.POSITIVE_INFINITY, cardS * driesIn(open, all, dried).size);
  const fullS = isShort ? wishOf({ id: '', name: '' }, measureFull(all, dried), 0) : 0;
  const wishS = wishOf(cut, plain, fullS);
  const takes = isShort ? chosen(lesson, open, wishS, (one) => measure(one).leastS) : open;
  const allocation = lengthOf(takes, wishS);
  const shown = new Set(takes.map(({ id }) => id));
  const left = all.filter(({ id }) => !shown.has(id));
  return { cut, fps, wishS, takes, left, ...laidOut(takes, all, allocation, fps, driesIn(takes, all, dried), cardS), allocation };
}
const measureFull = (all: readonly Take[], dried: ReadonlyMap<string, unknown>) =>
  allocate(lengthsOf(all, new Map()), Number.POSITIVE_INFINITY, DRY_CARD_S * dried.size);

/** Minutes of drying before each step that is shown: those before takes left out come to the next step that is shown. */
function driesIn(
  takes: readonly Take[],
  all: readonly Take[],
  dried: ReadonlyMap<string, { minutes: number; isNight: boolean }>,
): Map<string, number> {
  const shown = new Set(takes.map(({ id }) => id));
  const found = new Map<string, number>();
  let minutes = 0;
  let isFirst = true;
  for (const { id, kind, stepIds } of all) {
    if (kind !== 'canvas') continue;
    for (const stepId of stepIds) {
      const own = dried.get(stepId);
      if (own && !isFirst) minutes += own.isNight ? Math.max(own.minutes, A_NIGHT_MIN) : own.minutes;
      isFirst = false;
      if (!shown.has(id)) continue;
      if (minutes > 0) found.set(stepId, minutes);
      minutes = 0;
    }
  }
  return found;
}

function laidOut(
  takes: readonly Take[],
  all: readonly Take[],
  { shown, held }: Allocation,
  fps: number,
  dries: ReadonlyMap<string, number>,
  cardS: number,
): Pick<Timeline, 'shots' | 'frames'> {
  const shots: Shot[] = [];
  let [seconds, frames] = [0, 0];
  /** Ends are rounded, not lengths: the whole is exact to the frame. */
  const put = (long: number, shot: Omit<Shot, 'from' | 'to'>) => {
    seconds += long;
    const to = Math.round(seconds * fps);
    if (to > frames) shots.push({ ...shot, from: frames, to });
    frames = to;
  };
  const begins = beginnings(all);
  for (const take of takes) {
    const own = { takeId: take.id, slate: take.slate };
    const waits = new Map(
      take.kind === 'canvas' ? take.stepIds.flatMap((id) => (dries.has(id) ? [[id, dries.get(id) as number] as const] : [])) : [],
    );
    const dry = (stepId: string) => {
      const dryMin = waits.get(stepId);
      if (dryMin === undefined) return;
      waits.delete(stepId);
      put(cardS, { ...own, kind: 'dry', stepId, srcFrom: 0, srcTo: 0, speed: 1, dryMin });
    };
    for (const piece of take.pieces) {
      // Of steps in one take the drying of each stands before its own first piece.
      for (const id of take.stepIds.slice(0, take.stepIds.indexOf(piece.stepId ?? '') + 1)) dry(id);
      const s = shown.get(piece.id);
      if (s === undefined) continue;
      const srcFrom = begins.get(piece.id) ?? 0;
      const isJump = s < piece.lowS - 1e-6;
      const base = { ...own, piece, stepId: piece.stepId, srcFrom, srcTo: srcFrom + piece.rawS };
      put(s, { ...base, kind: 'piece', speed: isJump ? 1 : piece.rawS / s, ...(isJump && { isJump }) });
    }
    const hold = held.get(take.id);
    if (hold)
      put(hold, { ...own, kind: 'hold', stepId: take.stepIds.at(-1) ?? null, srcFrom: take.rawS, srcTo: take.rawS, speed: 1 });
  }
  return { shots, frames };
}
/** Where each piece begins in what was filmed of its take. */
function beginnings(takes: readonly Take[]): Map<string, number> {
  const found = new Map<string, number>();
  for (const { pieces } of takes) {
    let at = 0;
    for (const { id, rawS } of pieces) {
      found.set(id, at);
      at += rawS;
    }
  }
  return found;
}
const A_NIGHT_MIN = 12 * 60;

/** Which takes a short cut shows: opening, last result and one heap in any case, the others by what they change in the picture. */
function chosen(lesson: Lesson, open: readonly Take[], wishS: number, leastOf: (takes: readonly Take[]) => number): Take[] {
  const { plan } = filmPlan(lesson);
  const areas = new Map(visibleOf(lesson).map(({ id, areaCm2 }) => [id, areaCm2]));
  const all = [...areas.values()].reduce((sum, cm2) => sum + cm2, 0) || 1;
  const share = new Map<string, number>();
  for (const { stepId, areaId, coverShare } of plan.coats)
    share.set(stepId, (share.get(stepId) ?? 0) + (coverShare * (areas.get(areaId) ?? 0)) / all);
  const canvas = open.filter(({ kind }) => kind === 'canvas');
  const firstHeap = open.find(({ kind }) => kind === 'palette');
  const kept = chooseTakes(
    open.map((take) => ({
      id: take.id,
      leastS: leastOf([take]) + (take.kind === 'canvas' ? SHORT_CARD_S / 2 : 0),
      isMust: take.kind === 'opening' || take === canvas.at(-1) || take === firstHeap,
      value: valueIn(take, share),
    })),
    wishS,
  );
  if (kept) return open.filter(({ id }) => kept.has(id));
  const last = canvas.at(-1);
  return open.filter((take) => take.kind === 'opening' || take === last);
}

function valueIn({ kind, stepIds, pieces }: Take, share: ReadonlyMap<string, number>): number {
  const worth = Math.max(0, ...pieces.filter((one) => one.kind !== 'speech' && one.kind !== 'result').map((one) => one.worth), 1);
  if (kind === 'canvas') return worth * (0.08 + stepIds.reduce((sum, id) => sum + (share.get(id) ?? 0), 0));
  return kind === 'palette' ? worth * 0.06 : 0.02;
}
