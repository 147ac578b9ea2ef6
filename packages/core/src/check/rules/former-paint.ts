import { say } from '@viaticum/contract';
import type { Rule } from '../finding.js';

/** A lesson written with an earlier table of pigments, whose mixes nobody has looked at since. */
export const formerPaint: Rule = {
  id: 'former-paint',
  look: (lesson) => {
    if (!lesson.formerPaint || lesson.mixes.length === 0) return [];
    return [
      {
        id: 'former-paint',
        rule: 'former-paint',
        about: say('The mixes of this lesson'),
        words: say(
          'Paint is reckoned more truly than when this lesson was written: some of its mixes look different now. Look at them under Paints.',
        ),
        reason: say('Physics: the table of pigments was fitted anew.'),
        serious: false,
        place: { station: 'paints' },
        fix: { words: say('Keep all recipes'), command: 'meetPaint', args: { recipes: [] } },
      },
    ];
  },
};
