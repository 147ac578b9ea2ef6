import { say } from '@viaticum/contract';
import { looksOf, usedMixes } from '../../derived/index.js';
import type { Rule } from '../finding.js';

const UMBERS = new Set(['PBr7-BU', 'PBr7-RU']);
const DARK = 35;

/** The darkest dark of the palette is an umber by itself. */
export const umberAlone: Rule = {
  id: 'umber-alone',
  look: (lesson) => {
    const used = usedMixes(lesson);
    const darkest = [...looksOf(lesson).values()]
      .filter((look) => used.has(look.mix.id) && look.colour && look.colour.lab[0] < DARK)
      .sort((one, other) => (one.colour?.lab[0] ?? 0) - (other.colour?.lab[0] ?? 0))[0];
    const [only] = darkest?.mix.recipe ?? [];
    const tube = lesson.tubes.find((one) => one.id === only?.tubeId);
    if (!darkest || !only || !tube || darkest.mix.recipe.length > 1 || !UMBERS.has(tube.pigment)) return [];
    const blue = lesson.tubes.find((one) => one.pigment === 'PB29');
    return [
      {
        id: `umber-alone/${darkest.mix.id}`,
        rule: 'umber-alone',
        about: darkest.mix.name,
        words: say`The darkest dark is umber by itself: too warm and too pale${blue ? '' : say('. Add ultramarine to the tubes')}.`,
        reason: say('Common practice: with ultramarine an umber makes a black.'),
        serious: false,
        place: { station: 'paints', mixId: darkest.mix.id },
        ...(blue
          ? {
              fix: {
                words: say('Mix it with ultramarine'),
                command: 'setRecipe' as const,
                args: {
                  id: darkest.mix.id,
                  recipe: [
                    { tubeId: tube.id, parts: 1 },
                    { tubeId: blue.id, parts: 1 },
                  ],
                },
              },
            }
          : {}),
      },
    ];
  },
};
