import { say } from '@viaticum/contract';
import { contradictionInWords, waysOut } from '../../advice/index.js';
import type { Finding, Fix, Rule } from '../finding.js';

/** Pins, windows and breaks that cannot all be kept in this order; the smallest set of them, with a way out. */
export const contradiction: Rule = {
  id: 'contradiction',
  look: (lesson, plan) =>
    plan.contradictions.map((one): Finding => {
      const [way] = waysOut(lesson, plan, one);
      const stepId = one.pins.flatMap((pin) => ('step' in pin ? [pin.step] : [pin.then]))[0] ?? one.constraints[0]?.to;
      const title = lesson.steps.find((step) => step.id === stepId)?.title;
      return {
        id: `contradiction/${[...one.constraints.map((constraint) => constraint.id), ...one.pins.map((pin) => JSON.stringify(pin))].join('+')}`.slice(
          0,
          200,
        ),
        rule: 'contradiction',
        about: title ?? say('Plan'),
        words: contradictionInWords(lesson, plan, one),
        reason:
          one.pins.length > 0
            ? say('Your own pin: it is left out of the plan until this is settled.')
            : say('Physics: the paint sets while other work is done.'),
        serious: true,
        place: { station: 'steps', ...(stepId ? { stepId } : {}) },
        ...(way ? { fix: { words: way.words, command: way.command, args: way.args } as Fix } : {}),
      };
    }),
};
