import { say } from '@viaticum/contract';
import { areaName, colourBeneath, colourOf, coverOf, laysPaint } from '../../derived/index.js';
import { the } from '../../units/index.js';
import type { Finding, Rule } from '../finding.js';

/** A light must stand off by this much in lightness to read as a light; common practice, no published source. */
const LEAST = 8;

/** Lights laid on something that is hardly darker. */
export const noHeadroom: Rule = {
  id: 'no-headroom',
  look: (lesson) =>
    lesson.steps.flatMap((step, at): Finding[] => {
      const lab = colourOf(lesson, step);
      if (!laysPaint(step) || step.technique !== 'loaded' || coverOf(lesson, step) > 0.3 || !lab) return [];
      const flat = step.areaIds
        .map((id) => ({ id, beneath: colourBeneath(lesson, at, id) }))
        .find(({ beneath }) => beneath !== null && lab[0] - beneath[0] >= 0 && lab[0] - beneath[0] < LEAST);
      if (!flat?.beneath) return [];
      return [
        {
          id: `no-headroom/${step.id}/${flat.id}`,
          rule: 'no-headroom',
          about: step.title,
          words: say`On ${the(areaName(lesson, flat.id))} the light is only ${Math.round(lab[0] - flat.beneath[0])} lighter than what it lies on.`,
          reason: say('Common practice: a light needs a dark beside it.'),
          serious: false,
          place: { station: 'steps', stepId: step.id, areaId: flat.id },
        },
      ];
    }),
};
