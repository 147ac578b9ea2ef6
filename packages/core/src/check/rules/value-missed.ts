import { say } from '@viaticum/contract';
import { areasWorkedOn, laysPaint, looksOf } from '../../derived/index.js';
import type { Finding, Rule } from '../finding.js';

/** A mix may be so much lighter or darker than an area's mean and still be meant for it. */
const NEAR_L = 14;

/** An area with a value to reach that none of its mixes come near. */
export const valueMissed: Rule = {
  id: 'value-missed',
  look: (lesson) => {
    const looks = looksOf(lesson);
    return lesson.areas.flatMap((area): Finding[] => {
      if (!area.targetLab) return [];
      const laid = lesson.steps.filter(
        (step) => laysPaint(step) && step.kind === 'paint' && areasWorkedOn(lesson, step).includes(area.id),
      );
      const values = laid.flatMap((step) => step.mixIds.flatMap((id) => looks.get(id)?.colour?.lab[0] ?? []));
      if (values.length === 0) return [];
      const want = area.targetLab[0];
      const [low, high] = [Math.min(...values), Math.max(...values)];
      if (want >= low - NEAR_L && want <= high + NEAR_L) return [];
      const off = want < low ? low - want : want - high;
      return [
        {
          id: `value-missed/${area.id}`,
          rule: 'value-missed',
          about: area.name,
          words: say`All mixes for this area are at least ${Math.round(off)} ${want < low ? say('lighter') : say('darker')} than the picture has it (L* ${Math.round(want)}).`,
          reason: say('Common practice: values carry the picture; check them with half-closed eyes.'),
          serious: false,
          place: { station: 'paints', areaId: area.id, ...(laid.at(-1) ? { stepId: laid.at(-1)?.id as string } : {}) },
        },
      ];
    });
  },
};
