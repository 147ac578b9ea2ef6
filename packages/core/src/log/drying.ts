import type { Room } from '@viaticum/contract';
import { fitEffects, type Known, knownOf, type Observation, type Spread } from './fit.js';
import type { Logged } from './suggestion.js';

/** How drying differs from the model, as logarithms: by room, paint, technique, class and coat (our judgement; no published source). */
export const drying: Spread = {
  kinds: { room: 0.18, paint: 0.1, technique: 0.1 },
  class: 0.1,
  one: 0.25,
  nonsense: 0.1,
  wide: 1.2,
};
const YEAR_MS = 365.25 * 24 * 3_600_000;
/** Touches from before a room was begun anew are as good as ones that are so many years older. */
const BEFORE_YEARS = 4;

/**
 * What touches of logged classes tell of drying: a coat each, between which shares of the bare model's minutes it became dry. `since`: touches
 * in this room from before that day count less.
 */
export function dryingTests(logs: readonly Logged[], now: number, since?: Pick<Room, 'name' | 'learntSince'>): Observation[] {
  return logs.flatMap(({ id, log }) => {
    const isBefore = since?.learntSince !== undefined && log.room === since.name && log.at < since.learntSince;
    return log.touches.map(({ predictedMin, wetAtMin, dryAtMin, technique, paint, reckoned = 1 }): Observation => {
      const bareMin = predictedMin / reckoned;
      return {
        lo: wetAtMin ? Math.log(wetAtMin / bareMin) : Number.NEGATIVE_INFINITY,
        hi: dryAtMin ? Math.log(dryAtMin / bareMin) : Number.POSITIVE_INFINITY,
        effects: [`room:${log.room}`, ...(technique ? [`technique:${technique}`] : []), ...(paint ? [`paint:${paint}`] : [])],
        class: id,
        years: Math.max(0, now - new Date(log.at).getTime()) / YEAR_MS + (isBefore ? BEFORE_YEARS : 0),
      };
    });
  });
}

/** How much longer coats dry in a room than the model says, and from how much that is known. */
export const roomFactor = (tests: readonly Observation[], room: string): Known =>
  knownOf(fitEffects(tests, drying), tests, `room:${room}`);

/** A room has changed where its newest classes differ from those before by so many standard deviations. */
const CHANGED_SD = 2.3;
const NEWEST = 4;
const LEAST = { coats: 8, classes: 4 };
/** Of its own a room may differ from the model, or from what it was, by as much as this. */
const open: Spread = { ...drying, kinds: { ...drying.kinds, room: 0.5 } };

/**
 * Whether coats in a room dry otherwise since its newest classes: the effect of the room from the newest four against that from all before.
 * Gives how much longer, and since which day (ISO); null where nothing speaks for it.
 */
export function roomChanged(
  logs: readonly Logged[],
  room: Pick<Room, 'name' | 'learntSince'>,
  now: number,
): { factor: number; since: string } | null {
  const own = logs
    .filter(({ log }) => log.room === room.name && log.touches.length > 0 && log.at >= (room.learntSince ?? ''))
    .sort((a, b) => a.log.at.localeCompare(b.log.at));
  const [before, newest] = [own.slice(0, -NEWEST), own.slice(-NEWEST)];
  // Both in one fit, so that techniques and paints are the same in either.
  const sides = [before, newest].map((side, k) =>
    dryingTests(side, now).map((test) => ({
      ...test,
      effects: test.effects.map((effect) => (effect.startsWith('room:') ? `room:${k}` : effect)),
    })),
  );
  const [was = [], is = []] = sides;
  if (before.length < LEAST.classes || was.length < LEAST.coats || is.length < LEAST.coats) return null;
  const { mean: off, sd } = fitEffects(sides.flat(), open).of([
    ['room:1', 1],
    ['room:0', -1],
  ]);
  if (Math.abs(off) < CHANGED_SD * sd) return null;
  return { factor: Math.exp(off), since: (newest[0] as Logged).log.at.slice(0, 10) };
}
