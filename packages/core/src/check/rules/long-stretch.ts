import type { Lesson } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { inItsLanguage, otherWords } from '../../text/index.js';
import { minutesInWords } from '../../units/index.js';
import type { Fix, Rule } from '../finding.js';

const LONGEST_MIN = 75;
const BREAK_MIN = 5;

/** A long stretch of work without a break or a pause that serves as one. */
export const longStretch: Rule = {
  id: 'long-stretch',
  look: (lesson, { plan }) => {
    let from = 0;
    let worst = { minutes: 0, stepId: '' };
    for (const item of plan.items) {
      if (item.kind !== 'step' && item.endMin - item.startMin >= BREAK_MIN) from = item.endMin;
      else if (item.endMin - from > worst.minutes) worst = { minutes: item.endMin - from, stepId: item.stepId ?? '' };
    }
    if (worst.minutes <= LONGEST_MIN) return [];
    return [
      {
        id: 'long-stretch',
        rule: 'long-stretch',
        about: say('Break'),
        words: say`No pause of five minutes for ${minutesInWords(worst.minutes)}.`,
        reason: say('Common practice: ten minutes of rest in every hour and a quarter.'),
        serious: false,
        place: { station: 'steps', ...(worst.stepId ? { stepId: worst.stepId } : {}) },
        ...breakBefore(lesson, worst.stepId),
      },
    ];
  },
};

/** A break before the step at which the stretch grows too long. */
function breakBefore(lesson: Lesson, stepId: string): { fix?: Fix } {
  const at = lesson.steps.findIndex((step) => step.id === stepId);
  const step = lesson.steps[at];
  if (!step || step.needs === 'wet' || step.needs === 'damp' || at === 0) return {};
  const pause = {
    ...inItsLanguage(lesson, () => ({ ...otherWords.break, title: say('Break, fresh water') })),
    id: `rest-${step.id}`.slice(0, 32),
    stageId: step.stageId,
    kind: 'break' as const,
    areaIds: [],
    markIds: [],
    mixIds: [],
    needs: 'any' as const,
    showMin: 0,
    doMin: 10,
  };
  if (lesson.steps.some((one) => one.id === pause.id)) return {};
  return { fix: { words: say('Put a break before it'), command: 'addStep', args: { step: pause, at } } };
}
