import { type Coat, type CoatRoom, type CoatTimes, coatTimes } from './coat.js';
import { dryer, films, uncertainty } from './constants.js';
import { saturationDensity } from './evaporation.js';

type Rungs = Pick<CoatTimes, 'openMin' | 'paintOverMin' | 'touchDryMin' | 'firmH'>;
export type CoatRange = { early: Rungs; late: Rungs; curves: { early: CoatTimes['curve']; late: CoatTimes['curve'] } };

/**
 * The likely range of a coat's ladder: its model at the corners of what is not known well (film ±25 %, draught ±50 % with still
 * air of 2-4 W/m²K, absorption ±50 %). Minutes and hours as in {@link coatTimes}; the curves are those of the quickest and the slowest corner.
 */
export function coatRange(coat: Coat, room: CoatRoom): CoatRange {
  const corners: CoatTimes[] = [];
  const wetUm = coat.wetUm ?? films[coat.technique].wetUm;
  const absorb = coat.absorbGPerM2 ?? 2;
  const [still, moving] = uncertainty.naturalConvection;
  for (const thick of [1 - uncertainty.film, 1 + uncertainty.film])
    for (const [draught, naturalConvection] of [
      [1 - uncertainty.draught, still],
      [1 + uncertainty.draught, moving],
    ] as const)
      for (const soaked of [1 - uncertainty.absorption, 1 + uncertainty.absorption])
        corners.push(
          coatTimes(
            { ...coat, wetUm: wetUm * thick, absorbGPerM2: absorb * soaked },
            { ...room, airSpeed: room.airSpeed * draught, naturalConvection },
          ),
        );
  const pick = (choose: (...values: number[]) => number): Rungs => ({
    openMin: choose(...corners.map((one) => one.openMin)),
    paintOverMin: choose(...corners.map((one) => one.paintOverMin)),
    touchDryMin: choose(...corners.map((one) => one.touchDryMin)),
    firmH: choose(...corners.map((one) => one.firmH)),
  });
  const byTouch = [...corners].sort((a, b) => a.touchDryMin - b.touchDryMin || a.paintOverMin - b.paintOverMin);
  return {
    early: pick(Math.min),
    late: pick(Math.max),
    curves: { early: (byTouch[0] as CoatTimes).curve, late: (byTouch.at(-1) as CoatTimes).curve },
  };
}

/** The air a hair dryer blows onto a spot in a room: hot, with no more vapour in it than the room holds. */
export const dryerAir = (room: CoatRoom): CoatRoom => ({
  airC: dryer.airC,
  humidity: Math.min(1, (room.humidity * saturationDensity(room.airC)) / saturationDensity(dryer.airC)),
  airSpeed: dryer.airSpeed,
  ...(room.calibration === undefined ? {} : { calibration: room.calibration }),
});

/**
 * Minutes until an area of `areaM2` is dried with one hair dryer, spot by spot, to each rung. Null where nobody should rely on it: an
 * impasto forms a skin under hot air and stays soft beneath.
 */
export function dryerMinutes(coat: Coat, room: CoatRoom, areaM2: number): { paintOverMin: number; touchDryMin: number } | null {
  if (coat.technique === 'impasto') return null;
  const { paintOverMin, touchDryMin } = coatTimes({ ...coat, lengthM: Math.sqrt(dryer.spotM2) }, dryerAir(room));
  const spots = Math.max(1, areaM2 / dryer.spotM2);
  return { paintOverMin: paintOverMin * spots, touchDryMin: touchDryMin * spots };
}
