import { say } from '@viaticum/contract';
import { minutesInWords } from '../../units/index.js';
import type { Rule } from '../finding.js';

/** So much may a plan be over the length that was asked for. */
const KEPT_SHARE = 0.05;

/** A lesson longer than it was asked to be. */
export const tooLong: Rule = {
  id: 'too-long',
  look: ({ wantedMin, steps, planning }, { plan }) => {
    if (wantedMin === undefined || plan.never || planning.cutsBefore?.length) return [];
    if (plan.endMin <= wantedMin * (1 + KEPT_SHARE)) return [];
    const canGo = steps.filter((step) => step.mayBeLeftOut).length;
    return [
      {
        id: 'too-long',
        rule: 'too-long',
        about: say('Length'),
        words: say`It lasts ${minutesInWords(plan.endMin)}, where ${minutesInWords(wantedMin)} was asked for.`,
        reason:
          canGo > 0
            ? say('Your own wish. Above the list of steps, “Another length” shows what could go and what it saves.')
            : say('Your own wish. Mark steps that may be left out, join areas, or part it into two sessions.'),
        serious: false,
        place: { station: 'steps' },
      },
    ];
  },
};
