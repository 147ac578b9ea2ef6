import { say } from '@viaticum/contract';
import { laysPaint } from '../../derived/index.js';
import { minutesInWords, the } from '../../units/index.js';
import type { Finding, Rule } from '../finding.js';

/** What a ground may take of a class with its drying: while the lesson is opened and drawn it dries by itself. */
const MOST_MIN = 15;

/** Gesso and grounds that dry for long, laid while everybody looks on. */
export const preparationInClass: Rule = {
  id: 'preparation-in-class',
  look: (lesson, plan) =>
    lesson.steps.flatMap((step, at): Finding[] => {
      const isFirst = lesson.steps.slice(0, at).every((one) => one.kind !== 'paint');
      if (step.kind !== 'prepare' || step.ahead || !isFirst || !laysPaint(step)) return [];
      const own = plan.minutes.get(step.id);
      const held = plan.contacts.filter((one) => one.fromStepId === step.id && !one.waived);
      const dries = Math.max(0, ...held.map((one) => (Number.isFinite(one.neededMin) ? one.neededMin : 0)));
      const takes = (own?.showMin ?? 0) + (own?.doMin ?? 0) + dries;
      if (takes <= MOST_MIN || (step.technique !== 'gesso' && dries <= MOST_MIN)) return [];
      return [
        {
          id: `preparation-in-class/${step.id}`,
          rule: 'preparation-in-class',
          about: step.title,
          words: say`${step.title} takes ${minutesInWords(takes)} with its drying. Prepared the day before it costs the class nothing.`,
          reason: say`Common practice: ${the(say('ground'))} is laid and dried at home.`,
          serious: false,
          place: { station: 'steps', stepId: step.id },
          fix: { words: say('Do it before the class'), command: 'editStep', args: { id: step.id, step: { ahead: true } } },
        },
      ];
    }),
};
