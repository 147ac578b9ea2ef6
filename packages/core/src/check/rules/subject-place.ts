import { compositionFindings } from '../composed.js';
import type { Rule } from '../finding.js';

/** The subject in the very middle, or all but touching the edge. Measured on the areas in their painted colours. */
export const subjectPlace: Rule = {
  id: 'subject-place',
  look: (lesson) => compositionFindings(lesson, 'subject-place', ['subject-centre', 'subject-edge']),
};
