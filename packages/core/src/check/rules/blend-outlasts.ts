import { say, worded } from '@viaticum/contract';
import { bestOffer, type Offer } from '../../advice/index.js';
import { minutesInWords, waitInWords } from '../../units/index.js';
import type { Finding, Rule } from '../finding.js';

const mendWords: Partial<Record<Offer['kind'], string>> = worded({
  mist: 'Keep it wet with mist',
  retarder: 'Add retarder',
  gel: 'Add gel',
  'water-film': 'Paint into a film of water',
  brush: 'Take a larger brush',
  load: 'Load the brush with more paint',
});

/** A blend that takes longer than the paint stays workable. */
export const blendOutlasts: Rule = {
  id: 'blend-outlasts',
  look: (lesson, plan) =>
    plan.misses
      .filter((miss) => miss.kind === 'blend-outlasts')
      .map((miss): Finding => {
        // The first that is enough, with the least change for the student.
        const offer = bestOffer(lesson, miss.stepId, plan);
        const area = lesson.areas.find((one) => one.id === miss.areaId);
        return {
          id: `blend-outlasts/${miss.stepId}/${miss.areaId}`,
          rule: 'blend-outlasts',
          about: area?.name ?? say('Blend'),
          words: say`Blending takes ${waitInWords(miss.wantMin)}, the paint stays workable ${minutesInWords(Math.floor(miss.haveMin))}.`,
          reason: say`Physics: a film this thin in air of ${Math.round(lesson.room.airC)} °C and ${Math.round(lesson.room.humidity * 100)} %.`,
          serious: true,
          place: { station: 'steps', stepId: miss.stepId, areaId: miss.areaId },
          ...(offer ? { fix: { words: mendWords[offer.kind] ?? offer.words, command: offer.command, args: offer.args } } : {}),
        };
      }),
};
