import { compositionFindings } from '../composed.js';
import type { Rule } from '../finding.js';

/** An even number of like things. Measured on the areas in their painted colours. */
export const evenCount: Rule = {
  id: 'even-count',
  look: (lesson) => compositionFindings(lesson, 'even-count', ['even-count']),
};
