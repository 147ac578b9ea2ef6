import { say } from '@viaticum/contract';
import { chroma, colourOf, huesApart, overlapsBetween, seenAreas } from '../../derived/index.js';
import type { Finding, Rule } from '../finding.js';

/** Planes of one hue that step back into the distance: a nearer one that is neither darker nor stronger than the one behind it. */
export const farToNear: Rule = {
  id: 'far-to-near',
  look: (lesson) => {
    const overlaps = overlapsBetween(lesson);
    const areas = seenAreas(lesson).flatMap((area) => {
      const first = lesson.steps.find(
        (step) => step.kind === 'paint' && step.areaIds.length === 1 && step.areaIds[0] === area.id,
      );
      const lab = first && colourOf(lesson, first);
      return first && lab && chroma(lab) > 6 ? [{ area, step: first, lab }] : [];
    });
    return areas.flatMap((near, i): Finding[] => {
      const far = areas
        .slice(0, i)
        .reverse()
        .find((one) => overlaps.get(near.area.id)?.has(one.area.id));
      if (!far || huesApart(near.lab, far.lab) > 30) return [];
      if (near.lab[0] < far.lab[0] - 2 || chroma(near.lab) > chroma(far.lab) + 3) return [];
      return [
        {
          id: `far-to-near/${near.area.id}/${far.area.id}`,
          rule: 'far-to-near',
          about: near.area.name,
          words: say`In front, ${near.area.name}: neither darker nor stronger than ${far.area.name} behind. The two will read as one plane.`,
          reason: say('Common practice: near is darker, stronger and warmer, far is paler, bluer and softer.'),
          serious: false,
          place: { station: 'paints', areaId: near.area.id, stepId: near.step.id },
        },
      ];
    });
  },
};
