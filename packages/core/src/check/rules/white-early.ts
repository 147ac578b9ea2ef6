import { say } from '@viaticum/contract';
import { colourOf, laysPaint } from '../../derived/index.js';
import type { Finding, Rule } from '../finding.js';

const keepLast = new Set(['dark-to-light', 'middle-out', 'transparent-darks']);
/** What counts as pure white: titanium white has about 96. */
const WHITE = 94;

/** Pure white before the last stage, in a school that keeps it for last. */
export const whiteEarly: Rule = {
  id: 'white-early',
  look: (lesson) => {
    if (!keepLast.has(lesson.school.values) || lesson.stages.length < 2) return [];
    const last = lesson.stages.at(-1)?.id;
    return lesson.steps.flatMap((step): Finding[] => {
      const lab = colourOf(lesson, step);
      if (step.kind !== 'paint' || !laysPaint(step) || step.stageId === last || !lab || lab[0] < WHITE) return [];
      return [
        {
          id: `white-early/${step.id}`,
          rule: 'white-early',
          about: step.title,
          words: say('Pure white is used before the last stage: nothing brighter is left for the end.'),
          reason: say('School: the lightest lights come last.'),
          serious: false,
          place: { station: 'steps', stepId: step.id },
          fix: {
            words: say('Move it to the last stage'),
            command: 'editStep',
            args: { id: step.id, step: { stageId: last as string } },
          },
        },
      ];
    });
  },
};
