import { say } from '@viaticum/contract';
import { looksOf, waterLimit } from '../../derived/index.js';
import type { Finding, Rule } from '../finding.js';

/** More water in a mix than the school's way of thinning bears. */
export const tooMuchWater: Rule = {
  id: 'too-much-water',
  look: (lesson) => {
    const limit = waterLimit[lesson.school.thinning];
    return [...looksOf(lesson).values()]
      .filter(({ mix }) => (mix.waterShareOfMix ?? 0) > limit)
      .map(
        ({ mix }): Finding => ({
          id: `too-much-water/${mix.id}`,
          rule: 'too-much-water',
          about: mix.name,
          words: say`${Math.round((mix.waterShareOfMix ?? 0) * 100)} % water is more than this school’s ${Math.round(limit * 100)} %. Thin with medium instead.`,
          reason: say(
            'School and makers’ guidance: beyond a limit water spreads the binder too far, and the film lifts or chalks.',
          ),
          serious: false,
          place: { station: 'paints', mixId: mix.id },
          fix: {
            words: say`Keep to ${Math.round(limit * 100)} %`,
            command: 'setThinning',
            args: { id: mix.id, waterShareOfMix: limit },
          },
        }),
      );
  },
};
