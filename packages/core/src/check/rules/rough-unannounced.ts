import { say } from '@viaticum/contract';
import { announcement, inItsLanguage } from '../../text/index.js';
import { roughestStage } from '../../value-relations/index.js';
import type { Rule } from '../finding.js';

/** The stage that looks worst, and nobody is told. */
export const roughUnannounced: Rule = {
  id: 'rough-unannounced',
  look: (lesson) => {
    const rough = roughestStage(lesson);
    const step = lesson.steps.find((one) => one.id === rough?.stepId);
    if (!rough || !step) return [];
    const said = lesson.steps.some((one) => /worst|rough|ugly|am schlechtesten|der rohe teil|hässlich/i.test(one.say));
    if (said) return [];
    return [
      {
        id: `rough-unannounced/${rough.stageId}`,
        rule: 'rough-unannounced',
        about: rough.name,
        words: say('At the end of this stage the picture looks its worst, and nobody is told beforehand.'),
        reason: say('Common practice: students give up at the rough stage unless they know that it is meant.'),
        serious: false,
        place: { station: 'steps', stepId: step.id },
        fix: {
          words: say('Announce it'),
          command: 'editStep',
          args: {
            id: step.id,
            step: { say: `${inItsLanguage(lesson, () => announcement(rough.name))} ${step.say}`.trim().slice(0, 20_000) },
          },
        },
      },
    ];
  },
};
