import { say } from '@viaticum/contract';
import { looksOf, usedMixes } from '../../derived/index.js';
import { listInWords } from '../../units/index.js';
import type { Rule } from '../finding.js';

/** Darks are mixes below this L*; so many of them within so little run into one. */
const DARK = 30;
const BAND = 4;
const MANY = 3;

/** Several darks in a narrow band, where dry paint no longer tells them apart. */
export const blackBand: Rule = {
  id: 'black-band',
  look: (lesson) => {
    const used = usedMixes(lesson);
    const darks = [...looksOf(lesson).values()]
      .filter(({ mix, colour }) => used.has(mix.id) && colour !== null && colour.lab[0] < DARK)
      .map(({ mix, colour }) => ({ mix, l: (colour as NonNullable<typeof colour>).lab[0] }))
      .sort((one, other) => one.l - other.l);
    const from = darks.findIndex((one, i) => {
      const end = darks[i + MANY - 1];
      return end !== undefined && end.l - one.l < BAND;
    });
    const [first] = darks.slice(from);
    if (from < 0 || !first) return [];
    const band = darks.filter(({ l }) => l >= first.l && l - first.l < BAND);
    return [
      {
        id: `black-band/${first.mix.id}`,
        rule: 'black-band',
        about: listInWords(band.map(({ mix }) => mix.name)),
        words: say`These darks lie within ${BAND} steps of lightness: dry, they run into one. Lighten some of them, or join them.`,
        reason:
          lesson.finish === 'gloss'
            ? say('Common practice: the blackest dark is kept for the accents.')
            : say`Physics: a ${lesson.finish} surface sends some of the light back from everything, so that darks crowd in a narrow band.`,
        serious: false,
        place: { station: 'paints', mixId: first.mix.id },
      },
    ];
  },
};
