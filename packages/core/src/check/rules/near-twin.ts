import { say } from '@viaticum/contract';
import { nearTwins } from '../../derived/index.js';
import type { Finding, Rule } from '../finding.js';

/** Two mixes so alike that one would do. */
export const nearTwin: Rule = {
  id: 'near-twin',
  look: (lesson) =>
    nearTwins(lesson).map(
      ({ one, other }): Finding => ({
        id: `near-twin/${one.id}/${other.id}`,
        rule: 'near-twin',
        about: say`${one.name} and ${other.name}`,
        words: say`These two mixes are hardly to be told apart. One would do.`,
        reason: say('Common practice: remixed colours never match, so every mix that can be spared is a fault spared.'),
        serious: false,
        place: { station: 'paints', mixId: other.id },
        fix: { words: say`Use ${one.name} for both`, command: 'joinMixes', args: { keep: one.id, drop: other.id } },
      }),
    ),
};
