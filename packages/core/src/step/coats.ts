import type { Lesson, Mark, Need, Room, Step } from '@viaticum/contract';
import { brushOf } from '../brush/index.js';
import {
  absorbed,
  type Coat,
  type CoatTimes,
  coatRange,
  coatTimes,
  dryerMinutes,
  films,
  markFilmUm,
  type WetFilm,
  wetFilm,
} from '../coat/index.js';
import {
  airForStep,
  areasWorkedOn,
  coverOf,
  extentsOf,
  isOnlyMarks,
  loadFactor,
  marksOf,
  memo,
  schoolFor,
} from '../derived/index.js';
import type { StepMinutes } from './duration.js';

/** Minutes to the rungs; `Infinity` where they are never reached. */
export type Rungs = Pick<CoatTimes, 'openMin' | 'paintOverMin' | 'touchDryMin' | 'firmH' | 'cureH'>;

/** What a step lays on one area. */
export type LaidCoat = {
  step: Step;
  areaId: string;
  coat: Coat;
  times: CoatTimes;
  /** The ladder that waits are reckoned with, and the one for windows: both the likely one, or the careful ends of its range. */
  drying: Rungs;
  staying: Rungs;
  wetUm: number;
  /** Minutes that the hand takes to lay it. */
  layMin: number;
  /** Of what lies wet there, the share that this step brought: the rest was wet beneath it. */
  ownShare: number;
};

const times = memo((key: string) => {
  const [coat, room] = JSON.parse(key) as [Coat, Room];
  return coatTimes(coat, room);
}, 400);
const ranges = memo((key: string) => {
  const [coat, room] = JSON.parse(key) as [Coat, Room];
  return coatRange(coat, room);
}, 400);

/** What the drying model needs to know of a room. */
export const airOf = ({ airC, humidity, airSpeed, sunWPerM2, calibration }: Room) => ({
  airC,
  humidity,
  airSpeed,
  ...(sunWPerM2 === undefined ? {} : { sunWPerM2 }),
  ...(calibration === undefined ? {} : { calibration }),
});
const keyOf = (coat: Coat, room: Room) => JSON.stringify([coat, airOf(room)]);

/** The ladder of a coat in a room, worked out once; the likely range likewise. */
export const timesOf = (coat: Coat, room: Room): CoatTimes => times(keyOf(coat, room));
export const rangeOf = (coat: Coat, room: Room) => ranges(keyOf(coat, room));

/**
 * How often the mist is passed so that paint stays workable for so long: as seldom as is enough, in half minutes; where nothing is
 * enough without making it run, what keeps it open longest.
 */
export function mistEvery(coat: Coat, room: Room, takesMin: number): number {
  const { mist: _, ...dry } = coat;
  const { openMin } = timesOf(dry, room);
  if (!Number.isFinite(openMin) || openMin >= takesMin) return 10;
  let best = { everyMin: 0.5, openMin: 0 };
  for (let everyMin = Math.max(0.5, Math.floor(openMin * 1.8) / 2); everyMin >= 0.5; everyMin -= 0.5) {
    const misted = timesOf({ ...dry, mist: { everyMin, untilMin: takesMin } }, room);
    if (misted.mist?.runs) continue;
    if (misted.openMin >= takesMin) return everyMin;
    if (misted.openMin > best.openMin) best = { everyMin, openMin: misted.openMin };
  }
  return best.everyMin;
}

/**
 * What a step's coat is laid on: the coat that lies there, the minutes between the end of that one and the beginning of this, and whether
 * it goes into it wet without being asked to.
 */
export type Beneath = { below: LaidCoat | undefined; gapMin?: number; into?: boolean };
type Age = 'youngest' | 'mean' | 'oldest';

/**
 * How old the paint of the coat beneath is where the strokes of this one meet it, minutes. Laid the same way round, part by part,
 * every stroke meets paint of much the same age; any other way the first meets the last, and the last the first.
 */
function ageBeneath(step: Step, own: StepMinutes, below: LaidCoat, gapMin: number, age: Age): number {
  const lead = gapMin + own.showMin + own.leadMin;
  const [before, after] = [below.layMin, own.doMin - own.leadMin];
  if (age === 'mean') return lead + (before + after) / 2;
  if (age === 'youngest') return lead + (step.partByPart ? Math.min(before, after) : 0);
  return lead + oldestStroke(step, before, after);
}

/** How old the oldest paint is that a step still goes into, beyond the minutes between: both coats' laying, as far as it counts. */
export const oldestStroke = (step: Step, before: number, after: number): number =>
  step.laying === 'edges-last' ? after : step.partByPart ? Math.max(before, after) : before + after;

/**
 * A step's coat on an area as the drying model takes it, with the wet paint that it goes into: likely, or as the youngest or the
 * oldest paint that its strokes meet.
 */
export function coatOf(
  lesson: Lesson,
  step: Step,
  areaId: string,
  own: StepMinutes,
  { below, gapMin = 0, into = false }: Beneath,
  age: Age = 'mean',
): Coat {
  const isInto = (into || step.needs === 'wet' || step.needs === 'damp') && below !== undefined;
  const technique = step.technique as NonNullable<Step['technique']>;
  const coat: Coat = {
    technique,
    ...narrowFilm(lesson, step, areaId),
    absorbGPerM2: below ? absorbed.acrylic : absorbed[lesson.support.absorbency],
    ...(step.paint && step.paint !== 'ordinary' ? { paint: step.paint } : {}),
    ...(step.medium === 'retarder' ? { retarder: true } : {}),
    ...(step.medium === 'gel' ? { gel: true } : {}),
    ...(step.underFilm ? { underFilm: step.underFilm } : {}),
    ...(step.waterShareOfMix === undefined ? {} : { waterShareOfMix: step.waterShareOfMix }),
    ...(isInto
      ? {
          onWet: filmAt(
            below.times,
            Math.max(ageBeneath(step, own, below, gapMin, age), step.needs === 'damp' ? below.times.openMin : 0),
          ),
        }
      : {}),
  };
  if (step.medium !== 'mist') return coat;
  const laying = own.doMin - own.leadMin;
  return {
    ...coat,
    mist: { everyMin: step.mistEveryMin ?? mistEvery(coat, airForStep(lesson, step), laying), untilMin: laying },
  };
}

/** A brush loaded with two colours carries more; paint as it comes out of the tube stands higher (our judgement). */
const TWO_ON_BRUSH = 1.5;
const undiluted = (lesson: Lesson, step: Step): number =>
  schoolFor(lesson, step).thinning === 'hardly' && (step.technique === 'block-in' || step.technique === 'blend') ? 1.2 : 1;

/** The film of a step that is not its technique's own: laid thin or generously, of marks that lie apart, or of a fine brush. */
function narrowFilm(lesson: Lesson, step: Step, areaId: string): Pick<Coat, 'wetUm' | 'marks'> {
  const usual = films[step.technique as NonNullable<Step['technique']>].wetUm;
  const full = usual * loadFactor[step.load ?? 'normal'] * (step.loading ? TWO_ON_BRUSH : 1) * undiluted(lesson, step);
  if (!isOnlyMarks(step)) {
    const brush = brushOf(step.brushId);
    const most = Math.min(full, brush ? markFilmUm('lines', brush.widthMm) : full);
    return most === usual ? {} : { wetUm: most };
  }
  const here = marksOf(lesson, step).filter((mark) => mark.areaId === areaId);
  if (here.length === 0) return {};
  // The widest of them dry last.
  const widest = here.reduce((most, mark) => (mark.widthMm > most.widthMm ? mark : most));
  return {
    wetUm: widest.tool
      ? markFilmUm(widest.kind, widest.widthMm, widest.tool)
      : Math.min(full, markFilmUm(widest.kind, widest.widthMm)),
    marks: { shape: isDrop(widest) ? 'disc' : 'strip', widthMm: widest.widthMm, share: coverOf(lesson, step) },
  };
}
const isDrop = ({ kind }: Mark) => kind === 'dots' || kind === 'scatter' || kind === 'spatter';

/** What a coat still holds `minutes` after it was laid; all of it where it does not dry at all. */
function filmAt({ curve }: CoatTimes, minutes: number): WetFilm {
  const at = curve.find((moment) => moment.min >= minutes) ?? (curve.at(-1) as CoatTimes['curve'][number]);
  return { water: at.water, solids: at.solids, humectant: at.humectant };
}

/** Lays a step's coat on an area: its ladder, with dryers where the step is dried with them, and the careful ends where asked for. */
export function lay(lesson: Lesson, step: Step, areaId: string, own: StepMinutes, beneath: Beneath): LaidCoat {
  const coat = coatOf(lesson, step, areaId, own, beneath);
  const air = airForStep(lesson, step);
  const likely = timesOf(coat, air);
  // Waits are reckoned with the youngest paint that strokes go into, windows with the oldest.
  const [youngest, oldest] = coat.onWet
    ? (['youngest', 'oldest'] as const).map((age) => coatOf(lesson, step, areaId, own, beneath, age))
    : [coat, coat];
  const { onWet: _, underFilm: __, ...alone } = coat;
  const film = wetFilm(alone);
  const whole = wetFilm(coat);
  const ownShare = film.solids / whole.solids;
  let drying: Rungs = timesOf(youngest as Coat, air);
  let staying: Rungs = timesOf(oldest as Coat, air);
  if (lesson.planning.cautious) {
    drying = { ...rangeOf(youngest as Coat, air).late, cureH: likely.cureH };
    staying = { ...rangeOf(oldest as Coat, air).early, cureH: likely.cureH };
  }
  const dryer = step.dryer ? dryerTurn(lesson, step, coat) : null;
  if (dryer)
    drying = {
      ...drying,
      paintOverMin: Math.min(drying.paintOverMin, dryer.paintOverMin),
      touchDryMin: Math.min(drying.touchDryMin, dryer.touchDryMin),
    };
  return { step, areaId, coat, times: likely, drying, staying, wetUm: film.wetUm, layMin: own.doMin - own.leadMin, ownShare };
}

/**
 * Minutes until all that a step has laid is dried for everybody, spot by spot, with the room's dryers going round; null where there
 * is none or it must not be relied on.
 */
export function dryerTurn(lesson: Lesson, step: Step, coat: Coat): { paintOverMin: number; touchDryMin: number } | null {
  const { dryers, seats } = lesson.room;
  if (!dryers || dryers.count < 1) return null;
  const { widthMm, heightMm } = lesson.support;
  const areas = areasWorkedOn(lesson, step);
  const laidCm2 = extentsOf(lesson).reduce((sum, one) => sum + (areas.includes(one.id) ? one.areaCm2 : 0), 0);
  const areaM2 = step.wholeCanvas ? (widthMm * heightMm) / 1e6 : laidCm2 / 1e4;
  const one = dryerMinutes(coat, airForStep(lesson, step), areaM2);
  if (!one) return null;
  const turns = Math.ceil((seats ?? USUAL_SEATS) / dryers.count);
  return { paintOverMin: one.paintOverMin * turns, touchDryMin: one.touchDryMin * turns };
}

/** So many share the dryers where nobody said how many seats there are (our judgement): not everybody holds one. */
const USUAL_SEATS = 8;

/** Minutes from when a part was laid until the rung is reached. */
export function rungMinutes(need: Need, coat: Rungs): number {
  const rungs: Record<Need, number> = {
    auto: 0,
    any: 0,
    wet: 0,
    damp: coat.openMin,
    paintOver: coat.paintOverMin,
    touchDry: coat.touchDryMin,
    firm: coat.firmH * 60,
    cured: coat.cureH * 60,
  };
  return rungs[need];
}
