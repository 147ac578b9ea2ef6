import { say } from '@viaticum/contract';
import type { Rule } from '../finding.js';

const BRIGHT_W = 300;

/** Painted in bright light outdoors, looked at indoors. */
export const brightLight: Rule = {
  id: 'bright-light',
  look: ({ room }) =>
    room.outdoors && (room.sunWPerM2 ?? 0) >= BRIGHT_W
      ? [
          {
            id: 'bright-light',
            rule: 'bright-light',
            about: say('Light'),
            words: say(
              'Painted in bright light the picture will look too dark indoors. Turn the canvas out of the sun, or go a step lighter.',
            ),
            reason: say('Common practice: values are judged in the light in which they will be seen.'),
            serious: false,
            place: { station: 'steps' },
          },
        ]
      : [],
};
