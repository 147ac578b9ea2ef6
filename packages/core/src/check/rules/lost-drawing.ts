import type { Lesson } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { areaName, laysPaint } from '../../derived/index.js';
import { againStep, secondTransfers } from '../../transfer/index.js';
import { listInWords } from '../../units/index.js';
import type { Finding, Rule } from '../finding.js';

/** Paint through which a drawn line still shows. */
const thin = new Set(['wash', 'glaze', 'under-film']);

/** Lines that are painted over before the step that needs them: on the whole canvas, or at the edges of some areas. */
export const lostDrawing: Rule = {
  id: 'lost-drawing',
  look: (lesson) => [...coveredWhole(lesson), ...buriedEdges(lesson)],
};

function coveredWhole(lesson: Lesson): Finding[] {
  return lesson.steps.flatMap((step, at): Finding[] => {
    if (step.kind !== 'transfer' && step.kind !== 'draw') return [];
    const cover = lesson.steps.findIndex(
      (one, i) => i > at && laysPaint(one) && one.wholeCanvas && !thin.has(one.technique ?? '') && (one.coverShare ?? 1) > 0.6,
    );
    const covering = lesson.steps[cover];
    if (!covering) return [];
    return [
      {
        id: `lost-drawing/${step.id}`,
        rule: 'lost-drawing',
        about: step.title,
        words: say`“${covering.title}” covers the lines before they are needed.`,
        reason: say('Common practice: drawings get lost under paint. Draw after it, or transfer a second time.'),
        serious: true,
        place: { station: 'steps', stepId: step.id },
        fix: { words: say`Draw after step ${cover + 1}`, command: 'moveStep', args: { id: step.id, to: cover } },
      },
    ];
  });
}

/** Where a ground covers everything that is said already; the edges of single areas are told together, by the first transfer that is missing. */
function buriedEdges(lesson: Lesson): Finding[] {
  if (coveredWhole(lesson).length > 0) return [];
  const [first, ...more] = secondTransfers(lesson);
  if (!first) return [];
  const step = lesson.steps[first.beforeAt] as Lesson['steps'][number];
  const names = [...new Set(first.pairs.map(([front]) => areaName(lesson, front)))];
  const said = names.length > 3 ? say`${names.slice(0, 3).join(', ')} and others` : listInWords(names);
  return [
    {
      id: `lost-drawing/before/${step.id}`,
      rule: 'lost-drawing',
      about: step.title,
      words: say`The edges of ${said} are painted over before they are needed${more.length > 0 ? say`; ${more.length === 1 ? say('once more') : say`${more.length} times more`} later` : ''}.`,
      reason: say(
        'Common practice: drawings get lost under paint that runs past its edge. Transfer them again, or leave the line to be seen.',
      ),
      serious: false,
      place: { station: 'steps', stepId: step.id },
      fix: {
        words: say`Transfer again before step ${first.beforeAt + 1}`,
        command: 'addStep',
        args: {
          // One such step before a step is enough, so its id may follow from that one's.
          step: againStep(lesson, first, `tr${step.id}`.slice(0, 32), say`Trace again: ${said}`),
          at: first.beforeAt,
        },
      },
    },
  ];
}
