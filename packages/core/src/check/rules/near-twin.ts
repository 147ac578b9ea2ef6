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
        about: `${one.name} and ${other.name}`,
        words: `These two mixes are hardly to be told apart. One would do.`,
        reason: 'Common practice: remixed colours never match, so every mix that can be spared is a fault spared.',
        serious: false,
        place: { station: 'paints', mixId: other.id },
        fix: { words: `Use ${one.name} for both`, command: 'joinMixes', args: { keep: one.id, drop: other.id } },
      }),
    ),
};
