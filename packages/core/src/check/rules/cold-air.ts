import { say } from '@viaticum/contract';
import { filmForms } from '../../coat/index.js';
import { degreesInWords, degreesShown } from '../../units/index.js';
import type { Rule } from '../finding.js';

/** A room too cold for paint to form a film, or nearly so. */
export const coldAir: Rule = {
  id: 'cold-air',
  look: ({ room }, { laid }) => {
    if (laid.length === 0 || room.airC >= filmForms.soundC) return [];
    const isTooCold = room.airC < filmForms.leastC;
    return [
      {
        id: 'cold-air',
        rule: 'cold-air',
        about: `${room.name}, ${degreesInWords(room.airC)}`,
        words: isTooCold
          ? say(
              'It is too cold: acrylic paint forms no sound film here, however long one waits. Warm the room, the canvases and the paint first.',
            )
          : say('It is nearly too cold: films stay weak and everything takes long. Warm the room before the class.'),
        reason: say`Common practice: makers name about ${degreesShown(9)} to ${degreesInWords(10)} as the least at which acrylic forms a film; the label of your paint decides.`,
        serious: isTooCold,
        place: { station: 'steps' },
      },
    ];
  },
};
