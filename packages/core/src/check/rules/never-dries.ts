import { say } from '@viaticum/contract';
import { listInWords, percentInWords } from '../../units/index.js';
import type { Finding, Rule } from '../finding.js';

/** Coats that never dry in this air: one finding for all of them. */
export const neverDries: Rule = {
  id: 'never-dries',
  look: ({ room, steps }, { laid }): Finding[] => {
    const wet = new Set(laid.flatMap((one) => (Number.isFinite(one.drying.touchDryMin) ? [] : [one.step.id])));
    const [first] = steps.filter((step) => wet.has(step.id));
    if (!first) return [];
    const places = steps.flatMap((step, i) => (wet.has(step.id) ? [String(i + 1)] : []));
    return [
      {
        id: 'never-dries',
        rule: 'never-dries',
        about: say`${room.name}, ${percentInWords(room.humidity)} humidity`,
        words: say`In this air the paint never gets touch-dry: ${places.length === 1 ? say('step') : say('steps')} ${listInWords(places)}. The lesson has no end until the air is drier.`,
        reason: say('Physics: in air near saturation no water leaves the paint.'),
        serious: true,
        place: { station: 'steps', stepId: first.id },
      },
    ];
  },
};
