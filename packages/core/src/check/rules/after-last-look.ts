import { say } from '@viaticum/contract';
import { laysPaint } from '../../derived/index.js';
import type { Finding, Rule } from '../finding.js';

/** Paint that is laid after the last look and the signature. */
export const afterLastLook: Rule = {
  id: 'after-last-look',
  look: (lesson) => {
    const last = lesson.steps.findIndex((step) => step.role === 'last');
    if (last < 0) return [];
    return lesson.steps.slice(last + 1).flatMap((step): Finding[] =>
      laysPaint(step) && step.role !== 'after-sign'
        ? [
            {
              id: `after-last-look/${step.id}`,
              rule: 'after-last-look',
              about: step.title,
              words: say('This is painted after the last look and the signature.'),
              reason: say('Common practice: once it is signed, nothing is painted any more.'),
              serious: false,
              place: { station: 'steps', stepId: step.id },
              fix: { words: say('Put it before the last look'), command: 'moveStep', args: { id: step.id, to: last } },
            },
          ]
        : [],
    );
  },
};
