import { say } from '@viaticum/contract';
import type { Finding, Rule } from '../finding.js';

/** Thick paint dried with a hair dryer. */
export const impastoDryer: Rule = {
  id: 'impasto-dryer',
  look: ({ steps }) =>
    steps
      .filter((step) => step.technique === 'impasto' && step.dryer)
      .map(
        (step): Finding => ({
          id: `impasto-dryer/${step.id}`,
          rule: 'impasto-dryer',
          about: step.title,
          words: say('Thick paint only skins over under a hair dryer. It stays wet beneath.'),
          reason: say('Physics: water leaves a thick film by slow diffusion; warm air closes its surface first.'),
          serious: true,
          place: { station: 'steps', stepId: step.id },
          fix: { words: say('Let it dry by itself'), command: 'editStep', args: { id: step.id, step: {}, clear: ['dryer'] } },
        }),
      ),
};
