import { say } from '@viaticum/contract';
import { bordersBetween, marksOf } from '../../derived/index.js';
import type { Finding, Rule } from '../finding.js';

/** Spatter beside areas that nobody covers up. */
export const spatterUnprotected: Rule = {
  id: 'spatter-unprotected',
  look: (lesson) => {
    const borders = bordersBetween(lesson);
    return lesson.steps.flatMap((step) =>
      marksOf(lesson, step).flatMap((mark): Finding[] => {
        if (mark.kind !== 'spatter' || mark.protectIds?.length) return [];
        const beside = [...(borders.get(mark.areaId)?.keys() ?? [])];
        if (beside.length === 0) return [];
        return [
          {
            id: `spatter-unprotected/${mark.id}`,
            rule: 'spatter-unprotected',
            about: mark.name,
            words: say('Nothing is covered up while this is spattered: drops will fall on all that lies beside it.'),
            reason: say('Common practice: cover what must stay clean, mind eyes, neighbours and a slippery floor.'),
            serious: false,
            place: { station: 'steps', stepId: step.id, areaId: mark.areaId },
            fix: { words: say('Cover the neighbours'), command: 'editMark', args: { id: mark.id, mark: { protectIds: beside } } },
          },
        ];
      }),
    );
  },
};
