import { say } from '@viaticum/contract';
import { colourOf, laysPaint, looksOf } from '../../derived/index.js';
import type { Finding, Rule } from '../finding.js';

const keepLast = new Set(['dark-to-light', 'middle-out', 'transparent-darks']);
/** So much lighter the last lights must be than what came before, L*; common practice, no published source. */
const ROOM = 3;

/** Paint laid earlier that is as light as the lights of the last stage: a ceiling was not kept. */
export const valueCeiling: Rule = {
  id: 'value-ceiling',
  look: (lesson) => {
    const last = lesson.stages.at(-1)?.id;
    if (!keepLast.has(lesson.school.values) || lesson.stages.length < 2) return [];
    const painting = lesson.steps.filter((step) => step.kind === 'paint' && laysPaint(step));
    const lights = painting.flatMap((step) =>
      step.stageId === last ? step.mixIds.flatMap((id) => looksOf(lesson).get(id)?.colour?.lab[0] ?? []) : [],
    );
    if (lights.length === 0) return [];
    const ceiling = Math.max(...lights);
    return painting.flatMap((step): Finding[] => {
      const lab = colourOf(lesson, step);
      if (step.stageId === last || !lab || lab[0] <= ceiling - ROOM) return [];
      return [
        {
          id: `value-ceiling/${step.id}`,
          rule: 'value-ceiling',
          about: step.title,
          words:
            lab[0] > ceiling
              ? say('This is lighter than every light of the last stage: those will not show as lights.')
              : say('This is as light as the last lights: they will hardly show on it.'),
          reason: say('School: the lightest lights come last. Keep what comes before a step below them.'),
          serious: false,
          place: { station: 'steps', stepId: step.id },
        },
      ];
    });
  },
};
