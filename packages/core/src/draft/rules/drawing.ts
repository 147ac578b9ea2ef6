import type { School, Step } from '@viaticum/contract';
import { worded } from '@viaticum/contract';

/** How the drawing gets onto the canvas, one entry for each choice of the school. */
export const drawingRules: Record<School['drawing'], { reason: string; step: { kind: Step['kind']; title: string } | null }> =
  worded(
    {
      tracing: { reason: 'A tracing gives beginners accuracy.', step: { kind: 'transfer', title: 'Trace the drawing' } },
      direct: {
        reason: 'Drawing straight on the canvas is quick and free.',
        step: { kind: 'draw', title: 'Draw on the canvas' },
      },
      grid: { reason: 'A grid scales the picture by hand.', step: { kind: 'draw', title: 'Draw by the grid' } },
      envelope: {
        reason: 'An envelope and its negative shapes give the proportions.',
        step: { kind: 'draw', title: 'Draw the envelope, then its gaps' },
      },
      'thin-paint': {
        reason: 'Thin paint puts no dirt into the colours.',
        step: { kind: 'draw', title: 'Draw with thin paint' },
      },
      none: { reason: 'Without a drawing the brush stays spontaneous.', step: null },
    },
    ['say', 'watch', 'checkpoint', 'finish', 'title', 'reason', 'ahead', 'look', 'brushed', 'sprayed', 'name', 'words'],
  );

/** When it is drawn: after how much of the painting. */
export const drawWhenRules: Record<School['drawWhen'], { reason: string; after: 'nothing' | 'ground' | 'background' | 'far' }> =
  worded(
    {
      'before-anything': { reason: 'One drawing at the beginning serves for all.', after: 'nothing' },
      'after-ground': { reason: 'Lines on the dry ground are not buried by it.', after: 'ground' },
      'after-background': { reason: 'Fresh lines where the background would bury them.', after: 'background' },
      'after-far-planes': { reason: 'Each plane is drawn when it is needed.', after: 'far' },
    },
    ['say', 'watch', 'checkpoint', 'finish', 'title', 'reason', 'ahead', 'look', 'brushed', 'sprayed', 'name', 'words'],
  );
