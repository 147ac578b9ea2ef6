import { say } from '@viaticum/contract';
import { BRUSH_HARDENS_MIN, brushInWords, brushOf } from '../../brush/index.js';
import { careWords, inItsLanguage } from '../../text/index.js';
import { minutesInWords } from '../../units/index.js';
import type { Rule } from '../finding.js';

/** A brush that lies about loaded until it is used again, in a school that wipes rather than washes. */
export const brushHardens: Rule = {
  id: 'brush-hardens',
  look: (lesson, { plan }) => {
    const { steps, school } = lesson;
    if (school.brushCare !== 'wipe') return [];
    const last = new Map<string, { stepId: string; endMin: number }>();
    for (const item of plan.items) {
      const step = steps.find((one) => one.id === item.stepId);
      if (!step) continue;
      if (!step.brushId || step.mixIds.length === 0) continue;
      const used = last.get(step.brushId);
      const brush = brushOf(step.brushId);
      if (used && brush && brush.type !== 'knife' && item.startMin - used.endMin > BRUSH_HARDENS_MIN) {
        const before = steps.find((one) => one.id === used.stepId);
        if (before)
          return [
            {
              id: `brush-hardens/${before.id}`,
              rule: 'brush-hardens',
              about: before.title,
              words: say`After this the ${brushInWords(brush)} waits ${minutesInWords(item.startMin - used.endMin)} for its next use, and nobody is told to rinse it.`,
              reason: say('Common practice: a loaded brush hardens within minutes in the air.'),
              serious: false,
              place: { station: 'steps', stepId: before.id },
              fix: {
                words: say('Say it here'),
                command: 'editStep',
                args: {
                  id: before.id,
                  step: {
                    say: `${before.say}${before.say ? ' ' : ''}${inItsLanguage(lesson, () => careWords.rinse)}`.slice(0, 20_000),
                  },
                },
              },
            },
          ];
      }
      if (/rinse|wash (it|the brush|your brush)|spül|wasch/i.test(step.say)) last.clear();
      else last.set(step.brushId, { stepId: step.id, endMin: item.endMin });
    }
    return [];
  },
};
