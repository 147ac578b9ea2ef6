import { laysPaint } from '../../plan/index.js';
import type { Finding, Rule } from '../finding.js';

/** Paint through which a drawn line still shows. */
const thin = new Set(['wash', 'glaze', 'under-film']);

/** Lines that are painted over on the whole canvas before anything uses them. */
export const lostDrawing: Rule = {
  id: 'lost-drawing',
  look: (lesson) =>
    lesson.steps.flatMap((step, at): Finding[] => {
      if (step.kind !== 'transfer' && step.kind !== 'draw') return [];
      const cover = lesson.steps.findIndex(
        (one, i) =>
          i > at &&
          laysPaint(one) &&
          one.zoneIds.length === 0 &&
          one.markIds.length === 0 &&
          !thin.has(one.technique ?? '') &&
          (one.coverShare ?? 1) > 0.6,
      );
      const covering = lesson.steps[cover];
      if (!covering) return [];
      return [
        {
          id: `lost-drawing/${step.id}`,
          rule: 'lost-drawing',
          about: step.title,
          words: `“${covering.title}” covers the lines before they are needed.`,
          reason: 'Common practice: drawings get lost under paint. Draw after it, or transfer a second time.',
          serious: true,
          place: { station: 'steps', stepId: step.id },
          mend: { words: `Draw after step ${cover + 1}`, command: 'moveStep', args: { id: step.id, to: cover } },
        },
      ];
    }),
};
