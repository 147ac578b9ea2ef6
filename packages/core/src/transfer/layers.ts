import { type Lesson, noWords, type Step } from '@viaticum/contract';
import { bordersBetween, buriedAt, momentsOf, placedLines } from '../derived/index.js';

export { buriedAt, type Moment, momentsOf, neededAt, type PlacedLine, placedLines } from '../derived/index.js';

/** A second transfer that lines need: before which step, and which pairs of areas border there. */
export type SecondTransfer = { beforeAt: number; beforeId: string; pairs: [string, string][] };

/**
 * Borders that will be painted over before they are used, and the fewest further transfers that bring them all back in time: each
 * lies after the last step that buries a line and not later than the step that needs it. Reckoned from the areas alone, without drawing
 * lines; borders shorter than `leastMm` are left out. Empty where no step transfers at all.
 */
export function secondTransfers(lesson: Lesson, leastMm = 20): SecondTransfer[] {
  if (momentsOf(lesson)[0]?.stepId === null) return [];
  const borders = bordersBetween(lesson);
  const ids = lesson.areas.map((area) => area.id);
  const lost: { pair: [string, string]; after: number; until: number }[] = [];
  for (const [i, one] of ids.entries())
    for (const other of ids.slice(i + 1)) {
      if ((borders.get(one)?.get(other) ?? 0) < leastMm) continue;
      const [placed] = placedLines(lesson, [{ kind: 'border' as const, areaIds: [other, one] }]);
      if (!placed || placed.buriedAt === null || placed.neededAt >= lesson.steps.length) continue;
      let after = placed.buriedAt;
      for (let next = buriedAt(lesson, [other, one], after, placed.neededAt); next !== null; ) {
        after = next;
        next = buriedAt(lesson, [other, one], after, placed.neededAt);
      }
      lost.push({ pair: [other, one], after, until: placed.neededAt });
    }
  // The earliest end first: a transfer there serves every line that is lost before it and needed after it.
  const out: SecondTransfer[] = [];
  for (const { pair, after, until } of lost.sort((a, b) => a.until - b.until)) {
    const known = out.find(({ beforeAt }) => beforeAt > after && beforeAt <= until);
    if (known) known.pairs.push(pair);
    else out.push({ beforeAt: until, beforeId: (lesson.steps[until] as Step).id, pairs: [pair] });
  }
  return out;
}

/** The step that transfers such lines again; it stands directly before the one that needs them. */
export function againStep(lesson: Lesson, { beforeAt, pairs }: SecondTransfer, id: string, title: string): Step {
  return {
    id,
    stageId: (lesson.steps[beforeAt] as Step).stageId,
    kind: 'transfer',
    title: title.slice(0, 120),
    areaIds: [...new Set(pairs.map(([front]) => front))],
    markIds: [],
    mixIds: [],
    needs: 'touchDry',
    ...noWords,
  };
}
