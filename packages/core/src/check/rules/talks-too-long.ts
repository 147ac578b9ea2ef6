import { say } from '@viaticum/contract';
import { readingMinutes } from '../../text/index.js';
import { minutesInWords } from '../../units/index.js';
import type { Finding, Rule } from '../finding.js';

/** A little more is said freely than is read. */
const SLACK_MIN = 0.5;

/** Words that take longer to say than there are minutes to show. */
export const talksTooLong: Rule = {
  id: 'talks-too-long',
  look: ({ steps }, { minutes }) =>
    steps.flatMap((step): Finding[] => {
      const takes = readingMinutes(step.say);
      const own = minutes.get(step.id);
      const has = own ? own.showMin + (step.kind === 'paint' ? 0 : own.doMin) : 0;
      if (takes <= has + SLACK_MIN) return [];
      return [
        {
          id: `talks-too-long/${step.id}`,
          rule: 'talks-too-long',
          about: step.title,
          words: say`What you say here takes ${minutesInWords(takes)} to say; ${minutesInWords(has)} ${has < 1.5 ? 'is' : 'are'} planned to show.`,
          reason: say('Common practice: read aloud, about 130 words a minute.'),
          serious: false,
          place: { station: 'steps', stepId: step.id },
          fix: {
            words: say`Show for ${minutesInWords(Math.ceil(takes))}`,
            command: 'editStep',
            args: { id: step.id, step: { showMin: Math.min(600, Math.ceil(takes)) } },
          },
        },
      ];
    }),
};
