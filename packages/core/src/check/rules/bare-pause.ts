import { say } from '@viaticum/contract';
import { waitInWords } from '../../units/index.js';
import type { Finding, Rule } from '../finding.js';

/** So long nobody waits without anything to do. */
const MOST_BARE_MIN = 10;

/** Pauses for which there is no work. */
export const barePause: Rule = {
  id: 'bare-pause',
  look: (_, { plan }) =>
    plan.items.flatMap((item, i): Finding[] => {
      const next = plan.items[i + 1]?.stepId;
      if (item.kind !== 'pause' || (item.bareMin ?? 0) <= MOST_BARE_MIN || !next) return [];
      return [
        {
          id: `bare-pause/${next}`,
          rule: 'bare-pause',
          about: item.title,
          words: say`In this pause ${waitInWords(item.bareMin ?? 0)} are left with nothing to do.`,
          reason: say('Common practice: paint another part, dry it, make it the break, or let the next stroke be practised.'),
          serious: false,
          place: { station: 'steps', stepId: next },
        },
      ];
    }),
};
