import { say } from '@viaticum/contract';
import { areaName, areasWorkedOn, drawsLines, laysPaint } from '../../derived/index.js';
import { areaRung, rungWord } from '../../step/index.js';
import { verb } from '../../units/index.js';
import type { Finding, Rule } from '../finding.js';

/** A step that asks for nothing beneath, and meets paint that is still wet. */
export const tooWet: Rule = {
  id: 'too-wet',
  look: (lesson, { plan }) =>
    lesson.steps.flatMap((step): Finding[] => {
      const acts = laysPaint(step) || drawsLines(step);
      if (step.needs !== 'any' || !acts) return [];
      const start = plan.items.find((item) => item.stepId === step.id)?.startMin ?? 0;
      const own = new Set(plan.coats.filter((coat) => coat.stepId === step.id).map((coat) => coat.areaId));
      const before = plan.coats.filter((coat) => coat.stepId !== step.id && coat.laidToMin <= start + 1e-9);
      const wet = areasWorkedOn(lesson, step)
        .filter((id) => own.size === 0 || own.has(id))
        .map((id) => ({ id, rung: areaRung(before, id, start).rung }))
        .find(({ rung }) => rung === 'workable' || rung === 'damp');
      // Parts of one divided step follow each other on purpose.
      if (!wet || / part \d+ of \d+$/.test(step.title)) return [];
      return [
        {
          id: `too-wet/${step.id}`,
          rule: 'too-wet',
          about: step.title,
          words: say`The ${areaName(lesson, wet.id)} ${verb(areaName(lesson, wet.id), 'is', 'are')} still ${rungWord[wet.rung]} when this begins, and the step does not say what it needs beneath.`,
          reason: say('Physics: paint laid over wet paint mixes with it; a hand or a tracing smears it.'),
          serious: false,
          place: { station: 'steps', stepId: step.id, areaId: wet.id },
          fix: {
            words: laysPaint(step) ? say('Let it dry first') : say('Wait until it is touch-dry'),
            command: 'editStep',
            args: { id: step.id, step: { needs: laysPaint(step) ? 'paintOver' : 'touchDry' } },
          },
        },
      ];
    }),
};
