import { say } from '@viaticum/contract';
import { firstPaints, overlapsBetween, seenAreas } from '../../derived/index.js';
import { the } from '../../units/index.js';
import type { Finding, Rule } from '../finding.js';

/** In a school that paints the background first: an area begun before one that lies behind it and touches it. */
export const againstOrder: Rule = {
  id: 'against-order',
  look: (lesson) => {
    if (lesson.school.order !== 'background-first') return [];
    const areas = seenAreas(lesson);
    const overlaps = overlapsBetween(lesson);
    const found: Finding[] = [];
    areas.forEach((front, i) => {
      const at = firstPaints(lesson, front.id);
      if (at < 0) return;
      const late = areas
        .slice(0, i)
        .filter((back) => firstPaints(lesson, back.id) > at && overlaps.get(front.id)?.has(back.id))
        .sort((a, b) => firstPaints(lesson, b.id) - firstPaints(lesson, a.id))[0];
      const step = lesson.steps[at];
      if (!late || !step) return;
      found.push({
        id: `against-order/${front.id}/${late.id}`,
        rule: 'against-order',
        about: step.title,
        words: say`Work on ${the(front.name)} begins before ${the(late.name)}, which lies behind.`,
        reason: say('School: background first, so that soft overlaps come by themselves.'),
        serious: false,
        place: { station: 'steps', stepId: step.id, areaId: front.id },
        fix: {
          words: say`Paint ${the(late.name)} first`,
          command: 'moveStep',
          args: { id: lesson.steps[firstPaints(lesson, late.id)]?.id as string, to: at },
        },
      });
    });
    return found;
  },
};
