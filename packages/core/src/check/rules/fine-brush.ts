import { say } from '@viaticum/contract';
import { brushes, brushInWords, brushOf } from '../../brush/index.js';
import { visibleOf } from '../../derived/index.js';
import type { Finding, Rule } from '../finding.js';

/** An area that stays soft wants a brush of at least this share of its size. */
const SHARE = 0.06;

/** Too fine a brush on a blend that should stay soft. */
export const fineBrush: Rule = {
  id: 'fine-brush',
  look: (lesson) => {
    const parts = new Map(visibleOf(lesson).map((part) => [part.id, part.areaCm2]));
    return lesson.steps.flatMap((step): Finding[] => {
      const brush = brushOf(step.brushId);
      if (step.technique !== 'blend' || !brush) return [];
      const area = Math.min(...step.areaIds.map((id) => parts.get(id) ?? 0));
      const least = SHARE * Math.sqrt(area) * 10;
      if (!Number.isFinite(area) || brush.widthMm >= least) return [];
      const wider = brushes.filter((one) => one.type === 'flat' && one.widthMm >= least).sort((a, b) => a.widthMm - b.widthMm)[0];
      return [
        {
          id: `fine-brush/${step.id}`,
          rule: 'fine-brush',
          about: step.title,
          words: say`The ${brushInWords(brush)} is too fine for a soft passage of this size: it leaves stripes.`,
          reason: say('Common practice: a soft area has a smallest brush.'),
          serious: false,
          place: { station: 'steps', stepId: step.id },
          ...(wider
            ? {
                fix: {
                  words: say`Take the ${brushInWords(wider)}`,
                  command: 'editStep' as const,
                  args: { id: step.id, step: { brushId: wider.id } },
                },
              }
            : {}),
        },
      ];
    });
  },
};
