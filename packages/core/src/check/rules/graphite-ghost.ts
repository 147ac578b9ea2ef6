import { say } from '@viaticum/contract';
import { looksOf } from '../../derived/index.js';
import { the } from '../../units/index.js';
import type { Finding, Rule } from '../finding.js';

/** Lighter than this a thin coat hides no grey line (from memory). */
const PALE_L = 65;
const thin = new Set(['wash', 'glaze']);

/** Graphite under pale paint that stays transparent: its line shines through for good. */
export const graphiteGhost: Rule = {
  id: 'graphite-ghost',
  look: (lesson) => {
    const { transferMedium, drawing } = lesson.school;
    const isGraphite = (drawing === 'tracing' && transferMedium === 'graphite') || drawing === 'direct' || drawing === 'grid';
    if (!isGraphite || !lesson.steps.some(({ kind }) => kind === 'transfer' || kind === 'draw')) return [];
    const looks = looksOf(lesson);
    return lesson.areas.flatMap((area): Finding[] => {
      const own = lesson.steps.filter((step) => step.kind === 'paint' && step.technique && step.areaIds.includes(area.id));
      const last = own.at(-1);
      if (!last || own.some(({ technique }) => technique && !thin.has(technique))) return [];
      const pale = last.mixIds.some((id) => (looks.get(id)?.colour?.lab[0] ?? 0) > PALE_L);
      if (!pale) return [];
      return [
        {
          id: `graphite-ghost/${area.id}`,
          rule: 'graphite-ghost',
          about: area.name,
          words: say`Graphite lines will show through ${the(area.name)}: it is only glazed, and pale.`,
          reason: say('Common practice: graphite ghosts under pale transparent paint; a light line hardly does.'),
          serious: false,
          place: { station: 'steps', stepId: last.id },
          fix: {
            words: say('Use light transfer paper'),
            command: 'setSchool',
            args: { school: { drawing: 'tracing', transferMedium: 'light-paper' } },
          },
        },
      ];
    });
  },
};
