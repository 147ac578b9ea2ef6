import type { Factor } from './fit.js';
import { pace } from './pace.js';
import { type LotSpread, shrunk } from './spread.js';

/** How the minutes of one person differ from the plan's, from class to class and from step to step: as {@link pace} has it. */
const personal: LotSpread = { prior: pace.person ?? 0.3, lot: pace.class, one: pace.one };

/** How much longer than planned somebody takes, from what their classes showed: the sums of logarithms, class by class; null where none did. */
export function personPace(classes: readonly { paceSum: number; paceCount: number }[]): Factor | null {
  const lots = classes.flatMap(({ paceSum, paceCount }) =>
    paceCount > 0 ? [{ mean: paceSum / paceCount, count: paceCount }] : [],
  );
  return lots.length === 0 ? null : shrunk(lots, personal);
}
