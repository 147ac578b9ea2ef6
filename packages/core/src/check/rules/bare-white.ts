import { coverOf, laysPaint, seenZones } from '../../derived/index.js';
import type { Finding, Rule } from '../finding.js';

const details = new Set(['loaded', 'spatter', 'impasto']);

/** Bare white left when details begin. */
export const bareWhite: Rule = {
  id: 'bare-white',
  look: (lesson) => {
    const covered = new Set<string>();
    const all = seenZones(lesson);
    for (const step of lesson.steps) {
      if (!laysPaint(step)) continue;
      if (step.zoneIds.length === 0) return [];
      const bare = all.filter((zone) => !covered.has(zone.id) && !step.zoneIds.includes(zone.id));
      const later = bare.filter((zone) => lesson.steps.some((one) => laysPaint(one) && one.zoneIds.includes(zone.id)));
      const isDetail = details.has(step.technique ?? '') && coverOf(lesson, step) < 0.5;
      if (isDetail && later.length > 0) {
        const finding: Finding = {
          id: `bare-white/${step.id}`,
          rule: 'bare-white',
          about: step.title,
          words: `Details begin while the ${later[0]?.name as string} is still bare white.`,
          reason: 'Common practice: the whole surface is covered before any detail, or values cannot be judged.',
          serious: false,
          place: { station: 'steps', stepId: step.id, zoneId: later[0]?.id as string },
          mend: { words: 'Move the detail to the end', command: 'moveStep', args: { id: step.id, to: lesson.steps.length - 1 } },
        };
        return [finding];
      }
      for (const id of step.zoneIds) covered.add(id);
    }
    return [];
  },
};
