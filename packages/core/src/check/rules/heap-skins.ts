import { say } from '@viaticum/contract';
import { type Heap, heapsOf } from '../../heap/index.js';
import { counted, listInWords, minutesInWords, waitInWords } from '../../units/index.js';
import type { Finding, Rule } from '../finding.js';

const MOST_NAMED = 4;
const named = (heaps: readonly Heap[]): string => {
  const names = heaps.slice(0, MOST_NAMED).map(({ mix, longest }) => say`${mix.name} after ${minutesInWords(longest.restMin)}`);
  const more = heaps.length - names.length;
  return listInWords(more > 0 ? [...names, say`${more} more`] : names);
};

/** Heaps that have skinned when they are needed again, and such as were mixed ahead too early as work for a pause. */
export const heapSkins: Rule = {
  id: 'heap-skins',
  look: (lesson, { plan }) => {
    const late = heapsOf(lesson, plan).filter((heap) => heap.late);
    return [late.filter((heap) => heap.isPremixed), late.filter((heap) => !heap.isPremixed)].flatMap((heaps, k): Finding[] => {
      const [first] = heaps;
      if (!first) return [];
      const keepsMin = Math.min(...heaps.map((heap) => heap.keepsMin));
      const ahead = say`${counted(heaps.length, 'mix', 'mixes')} mixed ahead in a pause ${heaps.length === 1 ? 'has' : 'have'} skinned when the brush comes`;
      const rests = say`${counted(heaps.length, 'heap')} ${heaps.length === 1 ? 'has' : 'have'} skinned when the brush comes back`;
      const touchy = heaps.filter((heap) => (heap.late?.rematchDeltaE ?? 0) > 4).map(({ mix }) => mix.name);
      return [
        {
          id: `heap-skins/${k === 0 ? 'ahead' : 'rest'}`,
          rule: 'heap-skins',
          about: say('Heaps'),
          words: say`${k === 0 ? ahead : rests}: ${named(heaps)}; ${first.kept.where} they keep ${waitInWords(keepsMin)}. ${first.kept.mend}`,
          reason: say`Physics: a heap dries as a film does, and mixed anew it never quite matches${touchy.length > 0 ? say` (least of all ${listInWords(touchy.slice(0, MOST_NAMED))})` : ''}.`,
          serious: false,
          place: { station: 'paints' },
        },
      ];
    });
  },
};
