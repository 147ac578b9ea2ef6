import { say } from '@viaticum/contract';
import { counted, listInWords } from '../../units/index.js';
import { bareAreas, isBeingWritten } from '../coverage.js';
import type { Finding, Rule } from '../finding.js';

const id = 'unpainted-area';

/** An area that no step paints; while the lesson is being written, all of them in one line. */
export const unpaintedArea: Rule = {
  id,
  look: (lesson) => {
    if (lesson.steps.length === 0) return [];
    const bare = bareAreas(lesson);
    if (isBeingWritten(lesson)) {
      const named = bare.slice(0, 2).map((area) => area.name);
      const more = bare.length - named.length;
      return [
        {
          id: `${id}/to-come`,
          rule: id,
          about: say`${counted(bare.length, 'area')} to come`,
          words: say`No step paints ${listInWords([...named, ...(more > 0 ? [say`${more} more`] : [])])} yet.`,
          reason: say('The lesson is being written: more than half of its areas wait for their steps.'),
          serious: false,
          place: { station: 'steps' },
        },
      ];
    }
    return bare.map(
      (area): Finding => ({
        id: `${id}/${area.id}`,
        rule: id,
        about: area.name,
        words: say('No step paints this area.'),
        reason: say('Common practice: bare patches are found when details begin.'),
        serious: true,
        place: { station: 'steps', areaId: area.id },
      }),
    );
  },
};
