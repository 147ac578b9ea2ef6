import type { School, Step } from '@viaticum/contract';
import { worded } from '@viaticum/contract';

/** What a later coat of an area does, and what it needs beneath. */
export type LayersRule = {
  reason: string;
  later: Pick<Step, 'needs'> & {
    technique: NonNullable<Step['technique']>;
    partByPart?: true;
    medium?: 'retarder' | 'glazing-medium';
  };
};

/** How coats follow each other, one entry for each choice of the school. */
export const layersRules: Record<School['layers'], LayersRule> = worded(
  {
    'dry-layers': {
      reason: 'A dry layer can be corrected without spoiling the one beneath.',
      later: { needs: 'paintOver', technique: 'dry-brush' },
    },
    'one-wet-session': {
      reason: 'Wet into wet gives softness and unity.',
      later: { needs: 'wet', technique: 'scumble', partByPart: true, medium: 'retarder' },
    },
    glazes: {
      reason: 'Glazes over an opaque layer give depth.',
      later: { needs: 'touchDry', technique: 'glaze', medium: 'glazing-medium' },
    },
  },
  ['say', 'watch', 'checkpoint', 'finish', 'title', 'reason', 'ahead', 'look', 'brushed', 'sprayed', 'name', 'words'],
);
