import { say } from '@viaticum/contract';
import { contrastOn, GESSO_L, groundsAt } from '../../transfer/index.js';
import type { Finding, Rule } from '../finding.js';

/** A line that hardly shows on the ground it is drawn on. */
export const lineOnGround: Rule = {
  id: 'line-on-ground',
  look: (lesson) =>
    lesson.steps.flatMap((step, at): Finding[] => {
      if (step.kind !== 'transfer') return [];
      const grounds = groundsAt(lesson, at, []);
      const ground = grounds[0]?.l ?? GESSO_L;
      const { least: contrast, isHard } = contrastOn(lesson.school.transferMedium, grounds);
      if (!isHard) return [];
      const better = ground > 60 ? 'charcoal' : 'light-paper';
      return [
        {
          id: `line-on-ground/${step.id}`,
          rule: 'line-on-ground',
          about: step.title,
          words: say`The lines differ from the ground by ${Math.round(contrast)} in lightness and will hardly show.`,
          reason: say('Common practice: under 15 a line is hard to see.'),
          serious: false,
          place: { station: 'steps', stepId: step.id },
          fix: {
            words: better === 'light-paper' ? say('Use light transfer paper') : say('Draw with charcoal'),
            command: 'setSchool',
            args: { school: { transferMedium: better } },
          },
        },
      ];
    }),
};
