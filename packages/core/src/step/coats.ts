import type { Lesson, Need, Room, Step } from '@viaticum/contract';
import { absorbed, type Coat, type CoatTimes, coatRange, coatTimes, dryerMinutes, type WetFilm, wetFilm } from '../coat/index.js';
import { extentsOf, memo } from '../derived/index.js';
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
export const airOf = ({ airC, humidity, airSpeed, sunWPerM2 }: Room) => ({
  airC,
  humidity,
  airSpeed,
  ...(sunWPerM2 === undefined ? {} : { sunWPerM2 }),
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

/** A step's coat as the drying model takes it, over `below` where that is still wet. */
export function coatOf(lesson: Lesson, step: Step, own: StepMinutes, below: LaidCoat | undefined): Coat {
  const isInto = (step.needs === 'wet' || step.needs === 'damp') && below !== undefined;
  const coat: Coat = {
    technique: step.technique as NonNullable<Step['technique']>,
    absorbGPerM2: below ? absorbed.acrylic : absorbed[lesson.support.absorbency],
    ...(step.paint && step.paint !== 'ordinary' ? { paint: step.paint } : {}),
    ...(step.medium === 'retarder' ? { retarder: true } : {}),
    ...(step.medium === 'gel' ? { gel: true } : {}),
    ...(step.underFilm ? { underFilm: step.underFilm } : {}),
    ...(step.waterShareOfMix === undefined ? {} : { waterShareOfMix: step.waterShareOfMix }),
    ...(isInto ? { onWet: filmAt(below.times, step.needs === 'wet' ? own.showMin : below.times.openMin) } : {}),
  };
  if (step.medium !== 'mist') return coat;
  return { ...coat, mist: { everyMin: step.mistEveryMin ?? mistEvery(coat, lesson.room, own.doMin), untilMin: own.doMin } };
}

/** What a coat still holds `minutes` after it was laid; all of it where it does not dry at all. */
function filmAt({ curve }: CoatTimes, minutes: number): WetFilm {
  const at = curve.find((moment) => moment.min >= minutes) ?? (curve.at(-1) as CoatTimes['curve'][number]);
  return { water: at.water, solids: at.solids, humectant: at.humectant };
}

/** Lays a step's coat on an area: its ladder, with dryers where the step is dried with them, and the careful ends where asked for. */
export function lay(lesson: Lesson, step: Step, areaId: string, own: StepMinutes, below: LaidCoat | undefined): LaidCoat {
  const coat = coatOf(lesson, step, own, below);
  const likely = timesOf(coat, lesson.room);
  const { onWet: _, underFilm: __, ...alone } = coat;
  const film = wetFilm(alone);
  const whole = wetFilm(coat);
  const ownShare = film.solids / whole.solids;
  let drying: Rungs = likely;
  let staying: Rungs = likely;
  if (lesson.planning.cautious) {
    const { early, late } = rangeOf(coat, lesson.room);
    drying = { ...late, cureH: likely.cureH };
    staying = { ...early, cureH: likely.cureH };
  }
  const dryer = step.dryer ? dryerTurn(lesson, coat, areaId) : null;
  if (dryer)
    drying = {
      ...drying,
      paintOverMin: Math.min(drying.paintOverMin, dryer.paintOverMin),
      touchDryMin: Math.min(drying.touchDryMin, dryer.touchDryMin),
    };
  return { step, areaId, coat, times: likely, drying, staying, wetUm: film.wetUm, ownShare };
}

/** Minutes until everybody's area is dried, with the room's dryers going round; null where there is none or it must not be relied on. */
export function dryerTurn(lesson: Lesson, coat: Coat, areaId: string): { paintOverMin: number; touchDryMin: number } | null {
  const { dryers, seats } = lesson.room;
  if (!dryers || dryers.count < 1) return null;
  const areaM2 = (extentsOf(lesson).find((one) => one.id === areaId)?.areaCm2 ?? 0) / 1e4;
  const one = dryerMinutes(coat, lesson.room, areaM2);
  if (!one) return null;
  const turns = Math.ceil((seats ?? dryers.count) / dryers.count);
  return { paintOverMin: one.paintOverMin * turns, touchDryMin: one.touchDryMin * turns };
}

/** Minutes from when a part was laid until the rung is reached. */
export function rungMinutes(need: Need, coat: Rungs): number {
  const rungs: Record<Need, number> = {
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
