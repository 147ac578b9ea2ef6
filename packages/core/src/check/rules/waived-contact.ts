import { say } from '@viaticum/contract';
import { areaName } from '../../derived/index.js';
import { counted, listInWords } from '../../units/index.js';
import type { Rule } from '../finding.js';

/** Wet paint that the instructor goes on beside or over all the same: said quietly, so that nobody forgets it. */
export const waivedContact: Rule = {
  id: 'waived-contact',
  look: (lesson, { contacts }) => {
    const waived = contacts.filter((one) => one.waived);
    const [first] = waived;
    if (!first) return [];
    const names = [...new Set(waived.map((one) => areaName(lesson, one.areaId)))].slice(0, 3);
    return [
      {
        id: 'waived-contact',
        rule: 'waived-contact',
        about: say('Painted on all the same'),
        words: say`You paint on over or beside wet paint ${waived.length === 1 ? say('once') : counted(waived.length, 'time')}: ${listInWords(names)}.`,
        reason: say('Your own wish. What lies on wet paint is one film with it, and dries later.'),
        serious: false,
        place: { station: 'steps', stepId: first.toStepId },
        fix: {
          words: say('Take it back'),
          command: 'unwaiveContact',
          args: { contacts: waived.map(({ fromStepId, toStepId, areaId }) => ({ fromStepId, toStepId, areaId })) },
        },
      },
    ];
  },
};
