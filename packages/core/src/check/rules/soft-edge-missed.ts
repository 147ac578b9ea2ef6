import { say } from '@viaticum/contract';
import { wishOf } from '../../contact/index.js';
import { areaName, bordersBetween } from '../../derived/index.js';
import { minutesInWords, the } from '../../units/index.js';
import type { Finding, Rule } from '../finding.js';

const LEAST_MM = 12;

/** A border that is wished soft, of which the second colour comes when the first has set. */
export const softEdgeMissed: Rule = {
  id: 'soft-edge-missed',
  look: (lesson, { plan }) => {
    const firsts = new Map<string, (typeof plan.coats)[number]>();
    for (const coat of plan.coats) if (!firsts.has(coat.areaId)) firsts.set(coat.areaId, coat);
    const borders = bordersBetween(lesson);
    return lesson.areas.flatMap((one, i): Finding[] =>
      lesson.areas.slice(i + 1).flatMap((other): Finding[] => {
        const [a, b] = [firsts.get(one.id), firsts.get(other.id)];
        if (!a || !b || a.stepId === b.stepId || (borders.get(one.id)?.get(other.id) ?? 0) < LEAST_MM) return [];
        if (wishOf(lesson, one.id, other.id) !== 'soft') return [];
        const [early, late] = a.laidToMin <= b.laidToMin ? [a, b] : [b, a];
        const ageMin = late.laidFromMin - early.laidToMin;
        if (early.openMin === null || ageMin <= early.openMin) return [];
        return [
          {
            id: `soft-edge-missed/${one.id}/${other.id}`,
            rule: 'soft-edge-missed',
            about: say('Soft edge'),
            words: say`${minutesInWords(Math.max(1, ageMin))} lie between ${the(areaName(lesson, early.areaId))} and ${the(areaName(lesson, late.areaId))}: too late to soften their edge.`,
            reason: say(
              'Physics: paint that has set does not blend. Paint both as one wet passage, repaint a strip of the first colour, or scumble.',
            ),
            serious: false,
            place: { station: 'steps', stepId: late.stepId, areaId: late.areaId },
          },
        ];
      }),
    );
  },
};
