import { say } from '@viaticum/contract';
import { MM_PER_INCH } from '../../units/index.js';
import type { Rule } from '../finding.js';

/** A picture with fewer pixels an inch of canvas than this shows no detail at arm's length. */
const LEAST_DPI = 40;

/** A picture with too few pixels for its canvas. */
export const coarsePicture: Rule = {
  id: 'coarse-picture',
  look: ({ references }) => {
    const whole = references.find((one) => one.role === 'whole');
    const dpi = whole ? MM_PER_INCH / whole.placement.mmPerPx : LEAST_DPI;
    if (dpi >= LEAST_DPI) return [];
    return [
      {
        id: 'coarse-picture',
        rule: 'coarse-picture',
        about: say('Picture'),
        words: say`The picture has ${Math.round(dpi)} pixels for an inch of this canvas: small things in it cannot be told.`,
        reason: say(
          'Rule of thumb: from forty on, details are there to be seen at arm’s length. Take a larger picture, or a smaller canvas.',
        ),
        serious: false,
        place: { station: 'picture' },
      },
    ];
  },
};
