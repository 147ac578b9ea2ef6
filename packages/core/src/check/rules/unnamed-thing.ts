import { say } from '@viaticum/contract';
import type { Finding, Rule } from '../finding.js';

/** Names by colour and place ("dark brown, lower 2"), or by what something is ("Thing 2"), say nothing to a class. */
const NOBODYS = /^(thing|feature|background|foliage|ding|merkmal|hintergrund|laub)( \d+)?$/i;

/** A thing that is painted under no name of its own. */
export const unnamedThing: Rule = {
  id: 'unnamed-thing',
  look: (lesson) =>
    lesson.areas.flatMap((area): Finding[] => {
      const isPainted = lesson.steps.some((step) => step.areaIds.includes(area.id));
      const isNear = area.role === 'made' || area.role === 'feature' || area.role === 'foliage';
      if (!isPainted || !isNear || !NOBODYS.test(area.name)) return [];
      return [
        {
          id: `unnamed-thing/${area.id}`,
          rule: 'unnamed-thing',
          about: area.name,
          words: say`“${area.name}” is called by no name. Its steps will be read aloud like this.`,
          reason: say('Common practice: a class paints the boat, not the brown shape on the left. Type its name under Areas.'),
          serious: false,
          place: { station: 'picture', areaId: area.id },
        },
      ];
    }),
};
