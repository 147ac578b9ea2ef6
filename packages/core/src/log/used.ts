import type { HeapLeft, Level, LoggedHeap } from '@viaticum/contract';
import { helpOf } from '../pace/index.js';
import type { Factor } from './fit.js';
import { lotsOf, shrunk } from './spread.js';
import type { Logged } from './suggestion.js';

/** Of a heap that is not weighed (our judgement). */
const LEFT_SHARE: Record<HeapLeft, number> = { none: 0.03, some: 0.2, half: 0.5, most: 0.8 };
/** Fresh paint weighs so much (common practice: 1.2 to 1.4 g a ml). */
const G_PER_ML = 1.3;
/** Less than this of what was planned is taken for a heap that nobody painted with. */
const LEAST_USED = 0.05;
/** A heap's use about the plan's, from heap to heap and class to class (our judgement); what is expected beforehand counts as two heaps. */
const usedSpread = { prior: 0.3 / Math.sqrt(2), lot: 0.1, one: 0.3 };
/** Minutes of one help about the usual; what is expected beforehand counts as five helps. */
const helpSpread = { prior: 0.6 / Math.sqrt(5), lot: 0.15, one: 0.6 };
const HELP = { least: 0.3, most: 20 };

/** How much paint was used of a heap, against what was to go onto canvases, into brushes and aside for corrections. */
export function usedShare({ mixedMl, plannedMl, left, grams }: LoggedHeap): number {
  const leftMl = grams === undefined ? mixedMl * LEFT_SHARE[left] : Math.min(mixedMl, grams / G_PER_ML);
  return Math.max(LEAST_USED, (mixedMl - leftMl) / plannedMl);
}

/** How much more (above 1) paint is used than planned, from what was left of heaps. */
export function paintUsed(logs: readonly Logged[]): Factor & { observations: number; classes: number } {
  const values = logs.flatMap(({ id, log }) =>
    (log.heaps ?? []).map((heap) => ({ class: id, value: Math.log(usedShare(heap)) })),
  );
  const lots = lotsOf(values);
  return { ...shrunk(lots, usedSpread), observations: values.length, classes: lots.length };
}

/** How much longer (above 1) than usual one help takes, from the raised hand until it is lowered. */
export function helpTaken(logs: readonly Logged[], level: Level): Factor & { observations: number; classes: number } {
  const values = logs.flatMap(({ id, log }) =>
    log.level !== level
      ? []
      : log.items.flatMap(({ helpMin = [] }) =>
          helpMin.flatMap((minutes) =>
            minutes >= HELP.least && minutes <= HELP.most
              ? [{ class: id, value: Math.log(minutes / helpOf[level].minutes) }]
              : [],
          ),
        ),
  );
  const lots = lotsOf(values);
  return { ...shrunk(lots, helpSpread), observations: values.length, classes: lots.length };
}
