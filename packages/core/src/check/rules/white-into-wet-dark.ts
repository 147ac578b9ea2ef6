import { say } from '@viaticum/contract';
import { areaName, areasWorkedOn, colourBeneath, colourOf } from '../../derived/index.js';
import { the } from '../../units/index.js';
import type { Finding, Rule } from '../finding.js';

const LIGHT = 85;
const DARK = 45;

/** A light laid into a dark that is still wet. */
export const whiteIntoWetDark: Rule = {
  id: 'white-into-wet-dark',
  look: (lesson) =>
    lesson.steps.flatMap((step, at): Finding[] => {
      const lab = colourOf(lesson, step);
      if (step.needs !== 'wet' || !lab || lab[0] < LIGHT) return [];
      const dark = areasWorkedOn(lesson, step).find((id) => (colourBeneath(lesson, at, id)?.[0] ?? 100) < DARK);
      if (!dark) return [];
      return [
        {
          id: `white-into-wet-dark/${step.id}`,
          rule: 'white-into-wet-dark',
          about: step.title,
          words: say`A light goes into the wet dark of ${the(areaName(lesson, dark))}: it will sink in and turn grey.`,
          reason: say('Common practice: white laid on a wet dark sinks in and dulls.'),
          serious: false,
          place: { station: 'steps', stepId: step.id, areaId: dark },
          fix: { words: say('Let the dark dry first'), command: 'editStep', args: { id: step.id, step: { needs: 'paintOver' } } },
        },
      ];
    }),
};
