import { say } from '@viaticum/contract';
import { brushInWords, brushOf } from '../../brush/index.js';
import type { Finding, Rule } from '../finding.js';

/** A brush of this width and less draws detail, mm. */
const FINE_MM = 3;

/** Fine strokes in what lies far behind: they pull it forward. */
export const fineInSoft: Rule = {
  id: 'fine-in-soft',
  look: (lesson) => {
    const isFine = (widthMm: number | undefined) => widthMm !== undefined && widthMm <= FINE_MM;
    // Where the near things are painted no coarser, it is the picture's way.
    const near = lesson.steps.some((step) =>
      step.areaIds.some((id) => {
        const role = lesson.areas.find((area) => area.id === id)?.role;
        return (role === 'subject' || role === 'feature') && isFine(brushOf(step.brushId)?.widthMm);
      }),
    );
    if (near) return [];
    return lesson.steps.flatMap((step): Finding[] => {
      const brush = brushOf(step.brushId);
      const area = lesson.areas.find((one) => step.areaIds.includes(one.id) && (one.role === 'background' || one.role === 'sky'));
      if (!area || !brush || !isFine(brush.widthMm) || step.kind !== 'paint') return [];
      return [
        {
          id: `fine-in-soft/${step.id}`,
          rule: 'fine-in-soft',
          about: step.title,
          words: say`The ${brushInWords(brush)} draws finer in ${area.name} than anything is drawn in the subject.`,
          reason: say('Common practice: detail comes forward. What lies behind is painted with the larger brushes.'),
          serious: false,
          place: { station: 'steps', stepId: step.id },
        },
      ];
    });
  },
};
