import { compositionFindings } from '../composed.js';
import type { Rule } from '../finding.js';

/** A line that runs across, level and unbroken. Measured on the areas in their painted colours. */
export const unbrokenLine: Rule = {
  id: 'unbroken-line',
  look: (lesson) => compositionFindings(lesson, 'unbroken-line', ['unbroken-line']),
};
