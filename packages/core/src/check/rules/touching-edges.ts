import { compositionFindings } from '../composed.js';
import type { Rule } from '../finding.js';

/** Lines that end just on things, and things that just touch. Measured on the areas in their painted colours. */
export const touchingEdges: Rule = {
  id: 'touching-edges',
  look: (lesson) => compositionFindings(lesson, 'touching-edges', ['tangent']),
};
