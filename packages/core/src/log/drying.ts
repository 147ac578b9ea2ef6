import type { ClassLog } from '@viaticum/contract';
import { type Factor, factorOf, fitEffects, type Observation, type Spread } from './fit.js';

/** How drying differs from the model, as logarithms: by room, paint, technique, class and coat (our judgement; no published source). */
export const drying: Spread = {
  kinds: { room: 0.18, paint: 0.1, technique: 0.1 },
  class: 0.1,
  one: 0.25,
  nonsense: 0.1,
  wide: 1.2,
};
const YEAR_MS = 365.25 * 24 * 3_600_000;

/** What touches of logged classes tell of drying: a coat each, between which shares of the model's minutes it became dry. */
export function dryingTests(logs: readonly { id: string; log: ClassLog }[], now: number): Observation[] {
  return logs.flatMap(({ id, log }) =>
    log.touches.map(
      ({ predictedMin, wetAtMin, dryAtMin, technique }): Observation => ({
        lo: wetAtMin ? Math.log(wetAtMin / predictedMin) : Number.NEGATIVE_INFINITY,
        hi: dryAtMin ? Math.log(dryAtMin / predictedMin) : Number.POSITIVE_INFINITY,
        effects: [`room:${log.room}`, ...(technique ? [`technique:${technique}`] : [])],
        class: id,
        years: Math.max(0, now - new Date(log.at).getTime()) / YEAR_MS,
      }),
    ),
  );
}

/** How much longer coats dry in a room than the model says, and from how much that is known. */
export function roomFactor(tests: readonly Observation[], room: string): Factor & { coats: number; classes: number } {
  const own = tests.filter(({ effects }) => effects.includes(`room:${room}`));
  return {
    ...factorOf(fitEffects(tests, drying), [`room:${room}`]),
    coats: own.length,
    classes: new Set(own.map((test) => test.class)).size,
  };
}
