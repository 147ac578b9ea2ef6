import { compositionFindings } from '../composed.js';
import type { Rule } from '../finding.js';

/** A horizon across the middle. Measured on the areas in their painted colours. */
export const horizonInMiddle: Rule = {
  id: 'horizon-in-middle',
  look: (lesson) => compositionFindings(lesson, 'horizon-in-middle', ['horizon']),
};
