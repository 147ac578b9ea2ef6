import { say } from '@viaticum/contract';
import { minutesInWords } from '../../units/index.js';
import type { Rule } from '../finding.js';

/** A lesson that lasts longer than the light to paint by. */
export const lightEnds: Rule = {
  id: 'light-ends',
  look: ({ room }, { plan }) => {
    const { startAtMin, lightUntilMin } = room;
    if (startAtMin === undefined || lightUntilMin === undefined) return [];
    const over = startAtMin + plan.endMin - lightUntilMin;
    if (over <= 0) return [];
    return [
      {
        id: 'light-ends',
        rule: 'light-ends',
        about: say('Light'),
        words: say`The light goes ${minutesInWords(over)} before the end. Begin earlier, or paint fewer steps outdoors.`,
        reason: say('The room: the light holds until the time you entered. Outdoors mind sun, heat and traffic.'),
        serious: true,
        place: { station: 'steps' },
      },
    ];
  },
};
