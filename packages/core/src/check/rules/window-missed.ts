import { say } from '@viaticum/contract';
import { minutesInWords, verb, waitInWords } from '../../units/index.js';
import type { Finding, Rule } from '../finding.js';

/** A step into wet or damp paint that comes too late for it. */
export const windowMissed: Rule = {
  id: 'window-missed',
  look: (lesson, { misses, contradictions }) =>
    misses
      .filter((miss) => miss.kind === 'window')
      // What contradicts other work says so itself.
      .filter(
        (miss) =>
          !contradictions.some(
            ({ leftOut }) =>
              typeof leftOut === 'object' && 'source' in leftOut && leftOut.source.startsWith(`${miss.stepId}/${miss.areaId}/`),
          ),
      )
      .map((miss): Finding => {
        const step = lesson.steps.find((one) => one.id === miss.stepId);
        const area = lesson.areas.find((one) => one.id === miss.areaId)?.name ?? say('the paint');
        return {
          id: `window-missed/${miss.stepId}/${miss.areaId}`,
          rule: 'window-missed',
          about: step?.title ?? say('Step'),
          words: say`The ${area} ${verb(area, 'is', 'are')} past it when this begins: ${minutesInWords(Math.floor(miss.haveMin))} are left, ${waitInWords(miss.wantMin)} are needed.`,
          reason: say('Physics: the paint sets while other work is done.'),
          serious: true,
          place: { station: 'steps', stepId: miss.stepId, areaId: miss.areaId },
          ...(!step
            ? {}
            : {
                fix: {
                  words: say('Paint it on dry instead'),
                  command: 'editStep' as const,
                  args: { id: step.id, step: { needs: 'paintOver' as const } },
                },
              }),
        };
      }),
};
