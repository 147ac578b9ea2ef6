import { areasWorkedOn, isOnlyMarks, laysPaint } from '../../derived/index.js';
import type { Finding, Rule } from '../finding.js';

/** An area that no step paints. */
export const unpaintedArea: Rule = {
  id: 'unpainted-area',
  look: (lesson) => {
    if (lesson.steps.length === 0) return [];
    const painted = new Set(
      lesson.steps
        .filter((step) => laysPaint(step) && step.kind === 'paint' && !isOnlyMarks(step))
        .flatMap((step) => areasWorkedOn(lesson, step)),
    );
    return lesson.areas
      .filter((area) => !painted.has(area.id))
      .map(
        (area): Finding => ({
          id: `unpainted-area/${area.id}`,
          rule: 'unpainted-area',
          about: area.name,
          words: 'No step paints this area.',
          reason: 'Common practice: bare patches are found when details begin.',
          serious: true,
          place: { station: 'steps', areaId: area.id },
        }),
      );
  },
};
