import { say } from '@viaticum/contract';
import { MIXES_A_POT } from '../../brush/index.js';
import { careWords, inItsLanguage } from '../../text/index.js';
import { counted } from '../../units/index.js';
import type { Finding, Rule } from '../finding.js';

/** Many mixes without a moment to change the water. */
export const waterChange: Rule = {
  id: 'water-change',
  look: (lesson, { plan }) => {
    const used = new Set<string>();
    for (const item of plan.items) {
      const step = lesson.steps.find((one) => one.id === item.stepId);
      if (
        !step ||
        step.kind === 'break' ||
        /fresh water|change the water|frisches wasser|wechsle (zuerst )?das wasser/i.test(`${step.title} ${step.say}`)
      ) {
        if (step || item.fillers?.some((one) => one.words.includes('water')) || item.kind === 'break') used.clear();
        continue;
      }
      for (const id of step.mixIds) used.add(id);
      if (used.size <= MIXES_A_POT) continue;
      const finding: Finding = {
        id: `water-change/${step.id}`,
        rule: 'water-change',
        about: step.title,
        words: say`${counted(used.size, 'mix', 'mixes')} ${used.size === 1 ? 'has' : 'have'} gone into the same water by here.`,
        reason: say('Common practice: dull water dulls the next colour. Change it in a pause.'),
        serious: false,
        place: { station: 'steps', stepId: step.id },
        fix: {
          words: say('Say it here'),
          command: 'editStep',
          args: { id: step.id, step: { say: `${inItsLanguage(lesson, () => careWords.water)} ${step.say}`.slice(0, 20_000) } },
        },
      };
      return [finding];
    }
    return [];
  },
};
