import type { Level, School } from '@viaticum/contract';
import { worded } from '@viaticum/contract';

/** How much is said with the brush, one entry for each choice of the school: the coats of an area at most, and the share a detail covers. */
export const detailRules: Record<School['detail'], { reason: string; coats: number; share: number }> = worded(
  {
    suggest: { reason: 'Suggesting keeps attention on the whole.', coats: 3, share: 0.35 },
    render: { reason: 'Rendering brings likeness.', coats: 6, share: 0.5 },
  },
  ['say', 'watch', 'checkpoint', 'finish', 'title', 'reason', 'ahead', 'look', 'brushed', 'sprayed', 'name', 'words'],
);

/** Areas smaller than this share of the canvas get one coat at a level. */
export const plainBelow: Record<Level, number> = { beginner: 0.03, improver: 0.015, experienced: 0.006 };
