import { say } from '@viaticum/contract';
import { coverOf, laysPaint, seenAreas } from '../../derived/index.js';
import { the, verb } from '../../units/index.js';
import type { Finding, Rule } from '../finding.js';

const details = new Set(['loaded', 'spatter', 'impasto']);

/** Bare white left when details begin. */
export const bareWhite: Rule = {
  id: 'bare-white',
  look: (lesson) => {
    const covered = new Set<string>();
    const all = seenAreas(lesson);
    for (const step of lesson.steps) {
      if (!laysPaint(step)) continue;
      if (step.wholeCanvas) return [];
      const bare = all.filter((area) => !covered.has(area.id) && !step.areaIds.includes(area.id));
      const later = bare.filter((area) => lesson.steps.some((one) => laysPaint(one) && one.areaIds.includes(area.id)));
      const isDetail = details.has(step.technique ?? '') && coverOf(lesson, step) < 0.5;
      if (isDetail && later.length > 0) {
        const finding: Finding = {
          id: `bare-white/${step.id}`,
          rule: 'bare-white',
          about: step.title,
          words: say`Details begin while ${the(later[0]?.name as string)} ${verb(later[0]?.name as string, 'is', 'are')} still bare white.`,
          reason: say('Common practice: the whole surface is covered before any detail, or values cannot be judged.'),
          serious: false,
          place: { station: 'steps', stepId: step.id, areaId: later[0]?.id as string },
          fix: {
            words: say('Move the detail to the end'),
            command: 'moveStep',
            args: { id: step.id, to: lesson.steps.length - 1 },
          },
        };
        return [finding];
      }
      for (const id of step.areaIds) covered.add(id);
    }
    return [];
  },
};
