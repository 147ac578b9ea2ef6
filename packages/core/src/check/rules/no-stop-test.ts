import { say } from '@viaticum/contract';
import type { Rule } from '../finding.js';

const MANY = 3;

/** Many things that may be left out, and nobody asks whether they are needed. */
export const noStopTest: Rule = {
  id: 'no-stop-test',
  look: ({ steps }) => {
    const optional = steps.filter((step) => step.mayBeLeftOut);
    const [first] = optional;
    if (!first || optional.length < MANY) return [];
    const painted = steps.findIndex((step) => step.kind === 'paint');
    const last = steps.indexOf(optional.at(-1) as (typeof steps)[number]);
    if (steps.some((step, i) => step.kind === 'look' && i > painted && i <= last)) return [];
    return [
      {
        id: 'no-stop-test',
        rule: 'no-stop-test',
        about: say('When it is enough'),
        words: say`${optional.length} steps may be left out, but nothing asks whether they are needed.`,
        reason: say(
          'Common practice: before the last touches everybody steps back and asks whether another hour makes it better, or only busier.',
        ),
        serious: false,
        place: { station: 'steps', stepId: first.id },
      },
    ];
  },
};
