import { say } from '@viaticum/contract';
import { markMinutes, toolOf } from '../../derived/index.js';
import { paceOf } from '../../step/index.js';
import { minutesInWords } from '../../units/index.js';
import type { Finding, Rule } from '../finding.js';

const MANY = 100;
const WORTH_MIN = 4;

/** Hundreds of hairs drawn one by one. */
export const hairsSingly: Rule = {
  id: 'hairs-singly',
  look: (lesson) =>
    lesson.marks.flatMap((mark): Finding[] => {
      if (mark.kind !== 'hairs' || mark.count < MANY || toolOf(mark) !== 'liner') return [];
      const pace = paceOf(lesson);
      const [singly, raked] = [markMinutes(mark) * pace, markMinutes({ ...mark, tool: 'rake' }) * pace];
      if (singly - raked < WORTH_MIN) return [];
      const stepId = lesson.steps.find((step) => step.markIds.includes(mark.id))?.id;
      return [
        {
          id: `hairs-singly/${mark.id}`,
          rule: 'hairs-singly',
          about: mark.name,
          words: say`${mark.count} hairs singly take ${minutesInWords(singly)}; a rake lays them in ${minutesInWords(raked)}.`,
          reason: say(
            'Common practice: a split flat brush lays ten hairs at a stroke; the liner is for the few that are seen singly.',
          ),
          serious: false,
          place: { station: 'steps', ...(stepId ? { stepId } : {}) },
          fix: { words: say('Lay them with a rake'), command: 'editMark', args: { id: mark.id, mark: { tool: 'rake' } } },
        },
      ];
    }),
};
