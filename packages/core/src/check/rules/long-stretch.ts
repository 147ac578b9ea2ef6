import { minutesInWords } from '../../units/index.js';
import type { Rule } from '../finding.js';

const LONGEST_MIN = 60;
const BREAK_MIN = 5;

/** A long stretch of work without a break or a pause that serves as one. */
export const longStretch: Rule = {
  id: 'long-stretch',
  look: (_lesson, { plan }) => {
    let from = 0;
    let worst = { minutes: 0, stepId: '' };
    for (const item of plan.items) {
      if (item.kind !== 'step' && item.endMin - item.startMin >= BREAK_MIN) from = item.endMin;
      else if (item.endMin - from > worst.minutes) worst = { minutes: item.endMin - from, stepId: item.stepId ?? '' };
    }
    if (worst.minutes <= LONGEST_MIN) return [];
    return [
      {
        id: 'long-stretch',
        rule: 'long-stretch',
        about: 'Break',
        words: `No pause of five minutes for ${minutesInWords(worst.minutes)}.`,
        reason: 'Common practice: eyes, backs and attention last about an hour.',
        serious: false,
        place: { station: 'steps', ...(worst.stepId ? { stepId: worst.stepId } : {}) },
      },
    ];
  },
};
