import { say } from '@viaticum/contract';
import { shortTubeName } from '../../mix/index.js';
import type { Finding, Rule } from '../finding.js';

/** A recipe with a tube that students will not have. */
export const tubeNotBrought: Rule = {
  id: 'tube-not-brought',
  look: (lesson) =>
    lesson.tubes
      .filter((tube) => tube.students === false)
      .flatMap((tube) => {
        const mixes = lesson.mixes.filter((mix) => mix.recipe.some((part) => part.tubeId === tube.id));
        if (mixes.length === 0) return [];
        return [
          {
            id: `tube-not-brought/${tube.id}`,
            rule: 'tube-not-brought',
            about: shortTubeName(tube),
            words: say`Students will not have this tube, but ${mixes.length === 1 ? say`${mixes[0]?.name} needs it` : say`${mixes.length} mixes need it`}.`,
            reason: say('Common practice: a colour shown at the start that is not on the list stops the class later.'),
            serious: true,
            place: { station: 'paints', tubeId: tube.id },
            fix: {
              words: say('Put it on the students’ list'),
              command: 'setTube',
              args: { id: tube.id, tube: {}, clear: ['students'] },
            },
          } satisfies Finding,
        ];
      }),
};
