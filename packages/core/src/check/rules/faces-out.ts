import { compositionFindings } from '../composed.js';
import type { Rule } from '../finding.js';

/** A thing that faces or leans out of the picture. Measured on the areas in their painted colours. */
export const facesOut: Rule = {
  id: 'faces-out',
  look: (lesson) => compositionFindings(lesson, 'faces-out', ['facing', 'lean']),
};
