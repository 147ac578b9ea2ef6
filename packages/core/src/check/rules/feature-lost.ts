import { say } from '@viaticum/contract';
import { outlineLength } from '../../area/index.js';
import { brushes, brushInWords, brushOf } from '../../brush/index.js';
import { visibleOf } from '../../derived/index.js';
import { capital } from '../../units/index.js';
import type { Finding, Rule } from '../finding.js';

/** A brush wider than this share of a feature cannot draw what is in it. */
const MOST_SHARE = 0.5;
const SUITS_SHARE = 0.25;

/** A feature painted with a brush that is too wide for it. */
export const featureLost: Rule = {
  id: 'feature-lost',
  look: (lesson) => {
    const parts = new Map(visibleOf(lesson).map((part) => [part.id, part]));
    return lesson.steps.flatMap((step): Finding[] => {
      const brush = brushOf(step.brushId);
      const area = lesson.areas.find((one) => one.feature && step.areaIds.length === 1 && one.id === step.areaIds[0]);
      const part = area && parts.get(area.id);
      if (!brush || !area || !part || part.areaCm2 <= 0 || step.kind !== 'paint' || step.pass || step.markIds.length > 0)
        return [];
      const wide = (200 * part.areaCm2) / Math.max(1, outlineLength(part.outline));
      if (brush.widthMm <= MOST_SHARE * wide) return [];
      const rounds = brushes.filter((one) => one.type === 'round').sort((a, b) => b.widthMm - a.widthMm);
      const better = rounds.find((one) => one.widthMm <= SUITS_SHARE * wide) ?? rounds.at(-1);
      const isBetter = better !== undefined && better.widthMm <= MOST_SHARE * wide;
      return [
        {
          id: `feature-lost/${step.id}`,
          rule: 'feature-lost',
          about: step.title,
          words: say`${capital(area.name)}: ${Math.max(1, Math.round(wide))} mm wide on this canvas. The ${brushInWords(brush)} paints over what is in it.`,
          reason: say(
            'Common practice: a brush of a fifth to a quarter of what it draws. On a larger canvas there is more room.',
          ),
          serious: false,
          place: { station: 'steps', stepId: step.id, areaId: area.id },
          ...(isBetter
            ? {
                fix: {
                  words: say`Take the ${brushInWords(better)}`,
                  command: 'editStep' as const,
                  args: { id: step.id, step: { brushId: better.id } },
                },
              }
            : {}),
        },
      ];
    });
  },
};
