import { say } from '@viaticum/contract';
import { usedMixes } from '../../derived/index.js';
import { isBeingWritten } from '../coverage.js';
import type { Finding, Rule } from '../finding.js';

/** A mix that no step uses. */
export const unusedMix: Rule = {
  id: 'unused-mix',
  look: (lesson) => {
    if (isBeingWritten(lesson)) return [];
    const used = usedMixes(lesson);
    return lesson.mixes
      .filter((mix) => !used.has(mix.id) && !mix.letDown && lesson.steps.length > 0)
      .map(
        (mix): Finding => ({
          id: `unused-mix/${mix.id}`,
          rule: 'unused-mix',
          about: mix.name,
          words: say('No step uses this mix.'),
          reason: say('Common practice: students mix what they are told and wonder.'),
          serious: false,
          place: { station: 'paints', mixId: mix.id },
          fix: { words: say('Delete the mix'), command: 'removeMix', args: { id: mix.id } },
        }),
      );
  },
};
