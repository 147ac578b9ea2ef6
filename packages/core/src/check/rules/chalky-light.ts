import { say } from '@viaticum/contract';
import { chroma, looksOf, usedMixes } from '../../derived/index.js';
import { isWhite } from '../../mix/index.js';
import type { Finding, Rule } from '../finding.js';

const LIGHT = 70;
/** So much chroma less than wanted, and so small a share of it, that a light looks chalky; common practice, no published source. */
const LOST = 5;
const SHARE = 0.75;
const MUCH_WHITE = 0.6;

/** Lights made with white alone, which have lost the colour that was wanted. */
export const chalkyLight: Rule = {
  id: 'chalky-light',
  look: (lesson) => {
    const used = usedMixes(lesson);
    const whites = new Set(lesson.tubes.filter(isWhite).map((tube) => tube.id));
    return [...looksOf(lesson).values()].flatMap(({ mix, colour, parts }): Finding[] => {
      if (!colour || !mix.targetLab || !used.has(mix.id) || colour.lab[0] < LIGHT) return [];
      const [has, wanted] = [chroma(colour.lab), chroma(mix.targetLab)];
      const all = parts.reduce((sum, part) => sum + part.weight, 0);
      const white = parts.reduce((sum, part) => sum + (part.tubeId && whites.has(part.tubeId) ? part.weight : 0), 0);
      if (wanted - has < LOST || has > SHARE * wanted || white < MUCH_WHITE * all) return [];
      return [
        {
          id: `chalky-light/${mix.id}`,
          rule: 'chalky-light',
          about: mix.name,
          words: say(
            'This light is chalky: white has taken its colour. Use less white and a cleaner tube of its hue, or glaze it over white when it is dry.',
          ),
          reason: say('Common practice: white cools and dulls what it lightens.'),
          serious: false,
          place: { station: 'paints', mixId: mix.id },
        },
      ];
    });
  },
};
