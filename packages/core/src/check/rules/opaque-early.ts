import { say } from '@viaticum/contract';
import { firstPaints, laysPaint, seenAreas } from '../../derived/index.js';
import { isWhite } from '../../mix/index.js';
import type { Finding, Rule } from '../finding.js';

/** White in a mix before the whole canvas is covered, in a school that begins with transparent darks. */
export const opaqueEarly: Rule = {
  id: 'opaque-early',
  look: (lesson) => {
    if (lesson.school.values !== 'transparent-darks') return [];
    const whites = new Set(lesson.tubes.filter(isWhite).map((tube) => tube.id));
    const firsts = seenAreas(lesson).map((area) => firstPaints(lesson, area.id));
    // What is never painted says so itself; covered is the canvas when the last of the others is begun.
    const coveredAt = Math.max(...firsts);
    return lesson.steps.slice(0, Math.max(0, coveredAt)).flatMap((step): Finding[] => {
      if (step.kind !== 'paint' || !laysPaint(step)) return [];
      const mix = lesson.mixes.find((one) => step.mixIds.includes(one.id) && one.recipe.some((part) => whites.has(part.tubeId)));
      if (!mix) return [];
      return [
        {
          id: `opaque-early/${step.id}`,
          rule: 'opaque-early',
          about: step.title,
          words: say`White is in “${mix.name}” before the whole canvas is covered: opaque paint in the darks takes their depth.`,
          reason: say('School: transparent darks come first, opaque lights later.'),
          serious: false,
          place: { station: 'steps', stepId: step.id },
        },
      ];
    });
  },
};
