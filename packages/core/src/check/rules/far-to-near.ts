import { chroma, colourOf, huesApart, overlapsBetween, seenZones } from '../../derived/index.js';
import type { Finding, Rule } from '../finding.js';

/** Planes of one hue that step back into the distance: a nearer one that is neither darker nor stronger than the one behind it. */
export const farToNear: Rule = {
  id: 'far-to-near',
  look: (lesson) => {
    const overlaps = overlapsBetween(lesson);
    const zones = seenZones(lesson).flatMap((zone) => {
      const first = lesson.steps.find(
        (step) => step.kind === 'paint' && step.zoneIds.length === 1 && step.zoneIds[0] === zone.id,
      );
      const lab = first && colourOf(lesson, first);
      return first && lab && chroma(lab) > 6 ? [{ zone, step: first, lab }] : [];
    });
    return zones.flatMap((near, i): Finding[] => {
      const far = zones
        .slice(0, i)
        .reverse()
        .find((one) => overlaps.get(near.zone.id)?.has(one.zone.id));
      if (!far || huesApart(near.lab, far.lab) > 30) return [];
      if (near.lab[0] < far.lab[0] - 2 || chroma(near.lab) > chroma(far.lab) + 3) return [];
      return [
        {
          id: `far-to-near/${near.zone.id}/${far.zone.id}`,
          rule: 'far-to-near',
          about: near.zone.name,
          words: `In front, ${near.zone.name}: neither darker nor stronger than ${far.zone.name} behind. The two will read as one plane.`,
          reason: 'Common practice: near is darker, stronger and warmer, far is paler, bluer and softer.',
          serious: false,
          place: { station: 'paints', zoneId: near.zone.id, stepId: near.step.id },
        },
      ];
    });
  },
};
