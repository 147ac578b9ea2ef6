import { say } from '@viaticum/contract';
import { areasWorkedOn, laysPaint } from '../../derived/index.js';
import { verb } from '../../units/index.js';
import type { Finding, Rule } from '../finding.js';

/** An area that is to be kept free, and is painted before its time. */
export const keptFree: Rule = {
  id: 'kept-free',
  look: (lesson) =>
    lesson.areas.flatMap((area): Finding[] => {
      const until = lesson.steps.findIndex((step) => step.id === area.keepFreeUntil);
      const early = lesson.steps.findIndex(
        (step, i) => i < until && step.kind === 'paint' && laysPaint(step) && areasWorkedOn(lesson, step).includes(area.id),
      );
      const step = lesson.steps[early];
      if (!step) return [];
      return [
        {
          id: `kept-free/${area.id}`,
          rule: 'kept-free',
          about: step.title,
          words: say`The ${area.name} ${verb(area.name, 'is', 'are')} to be kept free until step ${until + 1}, and ${verb(area.name, 'is', 'are')} painted here.`,
          reason: say('Your own wish: you set this area aside.'),
          serious: false,
          place: { station: 'steps', stepId: step.id, areaId: area.id },
          fix: {
            words: say('Keep it free no longer'),
            command: 'setKeepFree',
            args: { id: area.id, untilStepId: null },
          },
        },
      ];
    }),
};
