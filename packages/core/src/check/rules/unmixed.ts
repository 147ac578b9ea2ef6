import { say } from '@viaticum/contract';
import type { Finding, Rule } from '../finding.js';

/** A mix used in a step without a recipe. */
export const unmixed: Rule = {
  id: 'unmixed',
  look: (lesson) =>
    lesson.mixes
      .filter(
        (mix) => mix.recipe.length === 0 && !mix.mixedFrom?.length && lesson.steps.some((step) => step.mixIds.includes(mix.id)),
      )
      .map(
        (mix): Finding => ({
          id: `unmixed/${mix.id}`,
          rule: 'unmixed',
          about: mix.name,
          words: say('Steps use this mix, but it has no recipe.'),
          reason: say('Common practice: students cannot mix a name.'),
          serious: true,
          place: { station: 'paints', mixId: mix.id },
        }),
      ),
};
