import { say } from '@viaticum/contract';
import type { Rule } from '../finding.js';

/** Mist so often that the paint runs. */
export const mistRuns: Rule = {
  id: 'mist-runs',
  look: (lesson, { misses }) =>
    misses
      .filter((miss) => miss.kind === 'runs')
      .map((miss) => ({
        id: `mist-runs/${miss.stepId}/${miss.areaId}`,
        rule: 'mist-runs',
        about: lesson.steps.find((step) => step.id === miss.stepId)?.title ?? say('Mist'),
        words: say('Misted so often the paint takes in more water than it can hold, and runs.'),
        reason: say('Physics: beyond a fifth of the solids a film flows by itself. Mist only paint that is being blended.'),
        serious: true,
        place: { station: 'steps' as const, stepId: miss.stepId, areaId: miss.areaId },
        fix: {
          words: say('Leave the mist out'),
          command: 'editStep' as const,
          args: { id: miss.stepId, step: {}, clear: ['medium' as const, 'mistEveryMin' as const] },
        },
      })),
};
