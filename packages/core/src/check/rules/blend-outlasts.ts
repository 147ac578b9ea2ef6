import { minutesInWords, waitInWords } from '../../units/index.js';
import type { Finding, Rule } from '../finding.js';

/** A blend that takes longer than the paint stays workable. */
export const blendOutlasts: Rule = {
  id: 'blend-outlasts',
  look: (lesson, { misses }) =>
    misses
      .filter((miss) => miss.kind === 'blend-outlasts')
      .map((miss): Finding => {
        const step = lesson.steps.find((one) => one.id === miss.stepId);
        const zone = lesson.zones.find((one) => one.id === miss.zoneId);
        return {
          id: `blend-outlasts/${miss.stepId}/${miss.zoneId}`,
          rule: 'blend-outlasts',
          about: zone?.name ?? 'Blend',
          words: `Blending takes ${waitInWords(miss.wantMin)}, the paint stays workable ${minutesInWords(Math.floor(miss.haveMin))}.`,
          reason: `Physics: a film this thin in air of ${Math.round(lesson.room.airC)} °C and ${Math.round(lesson.room.humidity * 100)} %.`,
          serious: true,
          place: { station: 'steps', stepId: miss.stepId, zoneId: miss.zoneId },
          ...(step?.medium === 'retarder'
            ? {}
            : {
                mend: {
                  words: 'Add retarder',
                  command: 'editStep' as const,
                  args: { id: miss.stepId, step: { medium: 'retarder' as const } },
                },
              }),
        };
      }),
};
