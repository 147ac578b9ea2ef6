import { say } from '@viaticum/contract';
import { minutesInWords } from '../../units/index.js';
import type { Rule } from '../finding.js';

/** A session that lasts longer than it may. */
export const sessionTooLong: Rule = {
  id: 'session-too-long',
  look: ({ planning, steps }, { plan }) => {
    const { sessions, cutsBefore = [] } = planning;
    if (!sessions) return [];
    let begun = 0;
    let worst = 0;
    for (const item of plan.items) {
      if (item.stepId && cutsBefore.includes(item.stepId)) begun = item.startMin;
      worst = Math.max(worst, item.endMin - begun);
    }
    if (worst <= sessions.limitMin) return [];
    const first = steps[0];
    return [
      {
        id: 'session-too-long',
        rule: 'session-too-long',
        about: say('Sessions'),
        words: say`One session lasts ${minutesInWords(worst)}, longer than the ${minutesInWords(sessions.limitMin)} it may. Ask for the plans: they find where to end each session.`,
        reason: say('Your own limit.'),
        serious: true,
        place: { station: 'steps', ...(first ? { stepId: first.id } : {}) },
      },
    ];
  },
};
