import { say } from '@viaticum/contract';
import { isBeingWritten } from '../coverage.js';
import type { Finding, Rule } from '../finding.js';

/** Marks that no step lays. */
export const unpaintedMark: Rule = {
  id: 'unpainted-mark',
  look: (lesson) => {
    if (isBeingWritten(lesson)) return [];
    const laid = new Set(lesson.steps.flatMap((step) => step.markIds));
    return lesson.marks
      .filter((mark) => !laid.has(mark.id) && lesson.steps.length > 0)
      .map(
        (mark): Finding => ({
          id: `unpainted-mark/${mark.id}`,
          rule: 'unpainted-mark',
          about: mark.name,
          words: say('No step lays these marks.'),
          reason: say('Common practice: what is planned and not taught is missed in the end.'),
          serious: false,
          place: { station: 'steps', areaId: mark.areaId },
          fix: { words: say('Delete the marks'), command: 'removeMark', args: { id: mark.id } },
        }),
      );
  },
};
