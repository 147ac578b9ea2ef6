import type { Lesson } from '@viaticum/contract';
import { bordersBetween } from '../derived/index.js';
import type { LaidCoat, StepMinutes } from '../step/index.js';
import { contactBetween } from './contact.js';
import { asksNothing, hiddenLater, hides, LEAST_EDGE_MM, reachesEdge } from './contacts.js';

/** Two steps that meet along a border, and the wait that each order of them asks for; minutes from the end of the first. */
export type EdgePair = { one: string; other: string; oneFirstMin: number; otherFirstMin: number };

/**
 * All pairs of steps that meet along a border, whichever is done first: those of which at least one order asks for a wait. Each wait is the
 * least that any order of the rest leaves, so that a search with them never claims too much.
 */
export function edgePairs(lesson: Lesson, laid: readonly LaidCoat[], minutes: ReadonlyMap<string, StepMinutes>): EdgePair[] {
  const borders = bordersBetween(lesson);
  const coats = laid.filter(({ step }) => reachesEdge(step) && !step.wholeCanvas && !step.ahead);
  const found = new Map<string, EdgePair>();
  for (const [i, first] of coats.entries())
    for (const second of coats.slice(i + 1)) {
      if (first.step === second.step || first.areaId === second.areaId) continue;
      const lengthMm = borders.get(first.areaId)?.get(second.areaId) ?? 0;
      if (lengthMm < LEAST_EDGE_MM || second.step.areaIds.includes(first.areaId)) continue;
      const there = leastWait(lesson, coats, first, second, minutes, lengthMm);
      const back = leastWait(lesson, coats, second, first, minutes, lengthMm);
      if (there <= 0 && back <= 0) continue;
      const key = `${first.step.id}/${second.step.id}`;
      const known = found.get(key);
      found.set(key, {
        one: first.step.id,
        other: second.step.id,
        oneFirstMin: Math.max(there, known?.oneFirstMin ?? 0),
        otherFirstMin: Math.max(back, known?.otherFirstMin ?? 0),
      });
    }
  return [...found.values()];
}

/** The wait of the second coat for the first; less where another coat over the first can come between and take its place. */
function leastWait(
  lesson: Lesson,
  coats: readonly LaidCoat[],
  first: LaidCoat,
  second: LaidCoat,
  minutes: ReadonlyMap<string, StepMinutes>,
  lengthMm: number,
): number {
  const { step, areaId, wetUm } = second;
  if (asksNothing(lesson, step) || hiddenLater(lesson, step, areaId)) return 0;
  const act = { step, areaId, wetUm, minutes: minutes.get(step.id) as StepMinutes };
  const contact = contactBetween(lesson, first, minutes.get(first.step.id) as StepMinutes, act, 'edge', lengthMm);
  if (contact.waived || contact.need === 'any') return 0;
  const over = coats.find((coat) => coat.areaId === first.areaId && isAfter(lesson, coat, first) && hides(lesson, coat.step));
  const own = over && (minutes.get(over.step.id) as StepMinutes);
  return own ? Math.min(contact.waitMin, own.showMin + own.doMin) : contact.waitMin;
}

const isAfter = (lesson: Lesson, one: LaidCoat, other: LaidCoat): boolean =>
  lesson.steps.indexOf(one.step) > lesson.steps.indexOf(other.step);
