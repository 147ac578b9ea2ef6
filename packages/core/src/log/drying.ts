import type { ClassLog } from '@viaticum/contract';
import { type Fit, fitEffects, type Observation, type Spread } from './fit.js';

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

/** How much longer (above 1) coats dry in a room than the model says, with the bounds of its 80 % interval. */
export type DryingFactor = { factor: number; from: number; to: number; coats: number; classes: number };
const Z80 = 1.2816;

export function dryingFactor(fit: Fit, tests: readonly Observation[], room: string): DryingFactor {
  const { mean, sd } = fit.of([[`room:${room}`, 1]]);
  const own = tests.filter(({ effects }) => effects.includes(`room:${room}`));
  return {
    factor: Math.exp(mean),
    from: Math.exp(mean - Z80 * sd),
    to: Math.exp(mean + Z80 * sd),
    coats: own.length,
    classes: new Set(own.map((test) => test.class)).size,
  };
}
export const fitDrying = (tests: readonly Observation[]): Fit => fitEffects(tests, drying);
