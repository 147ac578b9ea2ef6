import { say } from '@viaticum/contract';
import { areaName } from '../../derived/index.js';
import { the } from '../../units/index.js';
import type { Finding, Rule } from '../finding.js';

/** A thing and its reflection painted in one step: the reflection needs its thing, and the water, before it. */
export const mirrorWithThing: Rule = {
  id: 'mirror-with-thing',
  look: ({ areas, steps, ...lesson }) =>
    steps.flatMap((step): Finding[] => {
      if (step.kind !== 'paint') return [];
      const twin = areas.find((area) => area.twinOfId && step.areaIds.includes(area.id) && step.areaIds.includes(area.twinOfId));
      if (!twin) return [];
      return [
        {
          id: `mirror-with-thing/${step.id}`,
          rule: 'mirror-with-thing',
          about: step.title,
          words: say`${step.title} paints ${the(areaName({ areas, steps, ...lesson }, twin.twinOfId as string))} and its reflection at once.`,
          reason: say(
            'Common practice: the thing and the water first, then the reflection as a step of its own, a little duller, softened at once.',
          ),
          serious: false,
          place: { station: 'steps', stepId: step.id, areaId: twin.id },
        },
      ];
    }),
};
