import { say } from '@viaticum/contract';
import { heldMin } from '../../plan/index.js';
import { percentInWords } from '../../units/index.js';
import type { Rule } from '../finding.js';

/** More than this of a class spent waiting is more than a class bears; below so many minutes it is no matter. */
const MOST_SHARE = 0.1;
const LEAST_MIN = 10;

/** A class that waits too much for paint. */
export const waitingShare: Rule = {
  id: 'waiting-share',
  look: (lesson, planned) => {
    const { plan } = planned;
    const held = plan.never ? 0 : heldMin(lesson, planned, Math.max(LEAST_MIN, MOST_SHARE * plan.endMin));
    const share = plan.endMin > 0 ? held / plan.endMin : 0;
    if (share <= MOST_SHARE || held < LEAST_MIN) return [];
    const longest = plan.items.reduce<(typeof plan.items)[number] | null>(
      (most, item) =>
        item.kind === 'pause' && item.endMin - item.startMin > (most ? most.endMin - most.startMin : 0) ? item : most,
      null,
    );
    const next = longest ? plan.items[plan.items.indexOf(longest) + 1]?.stepId : undefined;
    return [
      {
        id: 'waiting-share',
        rule: 'waiting-share',
        about: say('Waiting'),
        words:
          plan.waitMin >= held - 1
            ? say`${percentInWords(share)} of this class is waiting. The longest wait is before the step shown.`
            : say`${percentInWords(share)} of this class is waiting for paint, some of it filled with practice.`,
        reason: say(
          'Common practice: under a tenth. Paint another part first, lay first coats thin, or give the pause some work.',
        ),
        serious: false,
        place: { station: 'steps', ...(next ? { stepId: next } : {}) },
      },
    ];
  },
};
