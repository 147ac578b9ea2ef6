import { isOnlyMarks, laysPaint, zonesWorkedOn } from '../../derived/index.js';
import type { Finding, Rule } from '../finding.js';

/** A zone that no step paints. */
export const unpaintedZone: Rule = {
  id: 'unpainted-zone',
  look: (lesson) => {
    if (lesson.steps.length === 0) return [];
    const painted = new Set(
      lesson.steps
        .filter((step) => laysPaint(step) && step.kind === 'paint' && !isOnlyMarks(step))
        .flatMap((step) => zonesWorkedOn(lesson, step)),
    );
    return lesson.zones
      .filter((zone) => !painted.has(zone.id))
      .map(
        (zone): Finding => ({
          id: `unpainted-zone/${zone.id}`,
          rule: 'unpainted-zone',
          about: zone.name,
          words: 'No step paints this area.',
          reason: 'Common practice: bare patches are found when details begin.',
          serious: true,
          place: { station: 'steps', zoneId: zone.id },
        }),
      );
  },
};
