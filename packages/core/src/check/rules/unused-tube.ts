import { say } from '@viaticum/contract';
import { usedMixes } from '../../derived/index.js';
import { shortTubeName } from '../../mix/index.js';
import { isBeingWritten } from '../coverage.js';
import type { Finding, Rule } from '../finding.js';

/** A tube that no step uses: in no recipe, or only in mixes that no step needs. */
export const unusedTube: Rule = {
  id: 'unused-tube',
  look: (lesson) => {
    if (isBeingWritten(lesson)) return [];
    const needed = usedMixes(lesson);
    // While no step names a mix yet, all mixes count.
    const mixes = lesson.mixes.filter((mix) => needed.size === 0 || needed.has(mix.id));
    const used = new Set(mixes.flatMap((mix) => mix.recipe.map((part) => part.tubeId)));
    return lesson.tubes
      .filter((tube) => !used.has(tube.id) && lesson.mixes.length > 0)
      .map(
        (tube): Finding => ({
          id: `unused-tube/${tube.id}`,
          rule: 'unused-tube',
          about: shortTubeName(tube),
          words: say('No step uses this tube.'),
          reason: say('Common practice: a list of tubes that are then not used costs every student.'),
          serious: false,
          place: { station: 'paints', tubeId: tube.id },
          fix: { words: say('Remove the tube'), command: 'removeTube', args: { id: tube.id } },
        }),
      );
  },
};
