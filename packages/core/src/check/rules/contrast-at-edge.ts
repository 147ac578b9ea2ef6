import { compositionFindings } from '../composed.js';
import type { Rule } from '../finding.js';

/** The lightest place at an edge of the canvas. Measured on the areas in their painted colours. */
export const contrastAtEdge: Rule = {
  id: 'contrast-at-edge',
  look: (lesson) => compositionFindings(lesson, 'contrast-at-edge', ['bright-edge']),
};
