import { minutesInWords, verb, waitInWords } from '../../units/index.js';
import type { Finding, Rule } from '../finding.js';

/** A step into wet or damp paint that comes too late for it, or a step on paint that never dries in this air. */
export const windowMissed: Rule = {
  id: 'window-missed',
  look: (lesson, { misses, contradictions }) =>
    misses
      .filter((miss) => miss.kind === 'window' || miss.kind === 'never-dries')
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
        const area = lesson.areas.find((one) => one.id === miss.areaId)?.name ?? 'the paint';
        const never = miss.kind === 'never-dries';
        return {
          id: `window-missed/${miss.stepId}/${miss.areaId}`,
          rule: 'window-missed',
          about: step?.title ?? 'Step',
          words: never
            ? `The ${area} never gets dry enough in this air: the air is too damp to take the water.`
            : `The ${area} ${verb(area, 'is', 'are')} past it when this begins: ${minutesInWords(Math.floor(miss.haveMin))} are left, ${waitInWords(miss.wantMin)} are needed.`,
          reason: never
            ? 'Physics: in air near saturation no water leaves the paint.'
            : 'Physics: the paint sets while other work is done.',
          serious: true,
          place: { station: 'steps', stepId: miss.stepId, areaId: miss.areaId },
          ...(never || !step
            ? {}
            : {
                fix: {
                  words: 'Paint it on dry instead',
                  command: 'editStep' as const,
                  args: { id: step.id, step: { needs: 'paintOver' as const } },
                },
              }),
        };
      }),
};
