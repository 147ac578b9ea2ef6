import type { Keeping, Room } from '@viaticum/contract';
import { worded } from '@viaticum/contract';
import { coatTimes, evaporation } from '../coat/index.js';
import { memo } from '../derived/index.js';

const HOUR = 60;
const DAY = 24 * HOUR;

/**
 * How heaps are kept: the share of the open air's drying that is left, the longest that anybody relies on it, and words for it.
 * Under film about a day (common practice), through the film of a bag its vapour (order of size, from memory); caps are judged.
 */
export const keepings: Record<Keeping, { share: number; capMin: number; where: string; mend: string }> = worded(
  {
    plate: {
      share: 1,
      capMin: Number.POSITIVE_INFINITY,
      where: 'on an open plate',
      mend: 'Mist them, cover them with film, or keep heaps on a wet palette.',
    },
    film: { share: 0.13, capMin: 2 * DAY, where: 'under film', mend: 'Keep them on a wet palette or in bags.' },
    'wet-palette': { share: 0, capMin: 3 * DAY, where: 'on a wet palette with its lid on', mend: 'Mix them anew.' },
    bag: { share: 0.003, capMin: 14 * DAY, where: 'in a bag with the air pressed out', mend: 'Mix them anew.' },
  },
  ['where', 'mend'],
);

/** A heap lies as a low dome: its height in mm from its ml (a cap of a sphere two and a half times as wide as high, by radius). */
const DOME = (Math.PI / 6) * (3 * 2.5 ** 2 + 1);
export const heapHeightMm = (ml: number): number => 10 * Math.cbrt(ml / DOME);
const THICKEST_UM = 5000;
const THINNEST_UM = 500;
const PLATE_M = 0.25;
/** So much of its water may leave before the paint is stiff; grams of water in a litre of paint. */
const STIFF_SHARE = 0.12;
const WATER_G_PER_L = 616;

/**
 * Minutes that a heap of so many ml stays fit to use: until it skins, or has lost an eighth of its water, or the longest that one
 * relies on such a keeping. `Infinity` in air that takes no water. Throws on a room that cannot be.
 */
export function heapKeepsMin(ml: number, kept: Keeping, room: Room): number {
  const { share, capMin } = keepings[kept];
  if (share === 0) return capMin;
  const air = { airC: room.airC, humidity: room.humidity, airSpeed: kept === 'plate' ? room.airSpeed : 0 };
  // The height counts, and by a twentieth of a millimetre at a time it is worked out once for many.
  const wetUm = Math.max(THINNEST_UM, Math.min(THICKEST_UM, Math.round(heapHeightMm(ml) * 20) * 50));
  return Math.min(capMin, keeps(JSON.stringify([wetUm, share, air])));
}
const keeps = memo((key: string) => {
  const [wetUm, share, air] = JSON.parse(key) as [number, number, Pick<Room, 'airC' | 'humidity' | 'airSpeed'>];
  const coat = { technique: 'impasto', wetUm, absorbGPerM2: 0, lengthM: PLATE_M } as const;
  const { openMin } = coatTimes(coat, { ...air, calibration: share });
  const gPerM2Min = evaporation({ ...air, lengthM: PLATE_M, waterActivity: 0.99 }).kgPerM2S * 60_000 * share;
  const stiffMin = gPerM2Min > 0 ? (STIFF_SHARE * WATER_G_PER_L * wetUm * 1e-3) / gPerM2Min : Number.POSITIVE_INFINITY;
  return Math.min(openMin, stiffMin);
}, 200);

/** Half of the time in which it would skin: so often an open heap is misted. */
export const mistHeapEveryMin = (keepsMin: number): number => Math.max(1, Math.floor(keepsMin / 2));
