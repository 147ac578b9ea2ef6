import type { School } from '@viaticum/contract';
import { worded } from '@viaticum/contract';

/** Whether and how the canvas is toned, one entry for each choice of the school. */
export const groundRules: Record<School['ground'], { reason: string; isToned: boolean; colours: 'one' | 'several' }> = worded(
  {
    'toned-one': { reason: 'Values are judged against a middle tone, and no white specks stay.', isToned: true, colours: 'one' },
    'toned-several': { reason: 'A ground in the colours to come already holds the mood.', isToned: true, colours: 'several' },
    white: { reason: 'A white ground keeps transparent colours bright.', isToned: false, colours: 'one' },
  },
  ['say', 'watch', 'checkpoint', 'finish', 'title', 'reason', 'ahead', 'look', 'brushed', 'sprayed', 'name', 'words'],
);
