import { say } from '@viaticum/contract';
import { areaName } from '../../derived/index.js';
import { the, verb } from '../../units/index.js';
import { relationsOf } from '../../value-relations/index.js';
import type { Finding, Rule } from '../finding.js';

/** Neighbours whose order in value matters, and is clearly turned round. */
const MATTERS_L = 10;
const TURNED_L = 5;

/** A step that turns round how its area stands to a neighbour, and no later step sets it right. */
export const neighbours: Rule = {
  id: 'neighbours',
  look: (lesson) => {
    const { changes } = relationsOf(lesson);
    return changes.flatMap((change, i): Finding[] => {
      const { stepId, areaId, neighbourId, isL, shouldL } = change;
      if (change.kind !== 'breaks' || Math.abs(shouldL) < MATTERS_L || Math.abs(isL) < TURNED_L) return [];
      const pair = [areaId, neighbourId].sort().join();
      const isMended = changes
        .slice(i + 1)
        .some((later) => later.kind === 'repairs' && [later.areaId, later.neighbourId].sort().join() === pair);
      if (isMended) return [];
      const [one, other] = [areaName(lesson, areaId), areaName(lesson, neighbourId)];
      return [
        {
          id: `neighbours/${stepId}/${areaId}/${neighbourId}`,
          rule: 'neighbours',
          about: lesson.steps.find((step) => step.id === stepId)?.title ?? one,
          words: say`After this step ${the(one)} ${verb(one, 'is', 'are')} ${isL > 0 ? say('lighter') : say('darker')} than ${the(other)}, and should be ${isL > 0 ? say('darker') : say('lighter')}. No later step sets it right.`,
          reason: say(
            'Common practice: values wrong beside their neighbours are the commonest fault, and the fault seems to be the neighbour’s.',
          ),
          serious: false,
          place: { station: 'steps', stepId, areaId },
        },
      ];
    });
  },
};
