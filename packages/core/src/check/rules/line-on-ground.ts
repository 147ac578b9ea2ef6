import type { School } from '@viaticum/contract';
import { laysPaint } from '../../plan/index.js';
import type { Finding, Rule } from '../finding.js';
import { colourOf } from '../painted.js';

/** Lightness of the lines that each medium leaves; from memory. */
const lines: Record<School['transferMedium'], number> = { 'transfer-paper': 40, graphite: 45, charcoal: 25, chalk: 92 };
const GESSO = 94;
/** Under this difference in lightness lines are hard to see; from memory. */
const LEAST = 15;

/** A line that hardly shows on the ground it is drawn on. */
export const lineOnGround: Rule = {
  id: 'line-on-ground',
  look: (lesson) =>
    lesson.steps.flatMap((step, at): Finding[] => {
      if (step.kind !== 'transfer') return [];
      const under = lesson.steps
        .slice(0, at)
        .filter((one) => laysPaint(one) && one.zoneIds.length === 0)
        .at(-1);
      const ground = (under && colourOf(lesson, under)?.[0]) ?? GESSO;
      const medium = lesson.school.transferMedium;
      const contrast = Math.abs(lines[medium] - ground);
      if (contrast >= LEAST) return [];
      const better = ground > 60 ? 'charcoal' : 'chalk';
      return [
        {
          id: `line-on-ground/${step.id}`,
          rule: 'line-on-ground',
          about: step.title,
          words: `The lines differ from the ground by ${Math.round(contrast)} in lightness and will hardly show.`,
          reason: 'Common practice: under 15 a line is hard to see.',
          serious: false,
          place: { station: 'steps', stepId: step.id },
          mend: {
            words: better === 'chalk' ? 'Draw with chalk' : 'Draw with charcoal',
            command: 'setSchool',
            args: { school: { transferMedium: better } },
          },
        },
      ];
    }),
};
