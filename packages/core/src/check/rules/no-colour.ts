import { say } from '@viaticum/contract';
import type { Finding, Rule } from '../finding.js';

/** A step that lays paint without naming a mix. */
export const noColour: Rule = {
  id: 'no-colour',
  look: (lesson) =>
    lesson.steps
      .filter((step) => step.kind === 'paint' && step.technique !== undefined && step.mixIds.length === 0)
      .map(
        (step): Finding => ({
          id: `no-colour/${step.id}`,
          rule: 'no-colour',
          about: step.title,
          words: say('This step paints, but names no mix.'),
          reason: say('Common practice: a colour that is not on the palette list is mixed twenty ways by twenty students.'),
          serious: true,
          place: { station: 'steps', stepId: step.id },
        }),
      ),
};
