import { looksOf, nearTwins, shortTubeName, waterLimit } from '../../lesson/index.js';
import type { Finding, Rule } from '../finding.js';

/** Two heaps so alike that one would do. */
export const nearTwin: Rule = {
  id: 'near-twin',
  look: (lesson) =>
    nearTwins(lesson).map(
      ({ one, other, deltaE }): Finding => ({
        id: `near-twin/${one.id}/${other.id}`,
        rule: 'near-twin',
        about: `${one.name} and ${other.name}`,
        words: `These two heaps are hardly to be told apart (ΔE00 ${deltaE.toFixed(1)}). One would do.`,
        reason: 'Common practice: remixed colours never match, so every heap that can be spared is a fault spared.',
        serious: false,
        place: { station: 'paints', mixId: other.id },
        mend: { words: `Use ${one.name} for both`, command: 'joinMixes', args: { keep: one.id, drop: other.id } },
      }),
    ),
};

/** A recipe with a tube that students will not have. */
export const tubeNotBrought: Rule = {
  id: 'tube-not-brought',
  look: (lesson) =>
    lesson.tubes
      .filter((tube) => tube.students === false)
      .flatMap((tube) => {
        const mixes = lesson.mixes.filter((mix) => mix.recipe.some((part) => part.tubeId === tube.id));
        if (mixes.length === 0) return [];
        return [
          {
            id: `tube-not-brought/${tube.id}`,
            rule: 'tube-not-brought',
            about: shortTubeName(tube),
            words: `Students will not have this tube, but ${mixes.length === 1 ? `${mixes[0]?.name} needs it` : `${mixes.length} heaps need it`}.`,
            reason: 'Common practice: a colour shown at the start that is not on the list stops the class later.',
            serious: true,
            place: { station: 'paints', tubeId: tube.id },
            mend: {
              words: 'Put it on the students’ list',
              command: 'setTube',
              args: { id: tube.id, tube: {}, clear: ['students'] },
            },
          } satisfies Finding,
        ];
      }),
};

/** A step that lays paint without naming a heap. */
export const noColour: Rule = {
  id: 'no-colour',
  look: (lesson) =>
    lesson.steps
      .filter((step) => step.kind === 'paint' && step.technique !== undefined && step.mixIds.length === 0)
      .map(
        (step): Finding => ({
          id: `no-colour/${step.id}`,
          rule: 'no-colour',
          about: step.title,
          words: 'This step paints, but names no heap.',
          reason: 'Common practice: a colour that is not on the palette list is mixed twenty ways by twenty students.',
          serious: true,
          place: { station: 'steps', stepId: step.id },
        }),
      ),
};

/** More water in a heap than the school's way of thinning bears. */
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
          words: `${Math.round((mix.waterShareOfMix ?? 0) * 100)} % water is more than this school’s ${Math.round(limit * 100)} %. Thin with medium instead.`,
          reason: 'School and makers’ guidance: beyond a limit water spreads the binder too far, and the film lifts or chalks.',
          serious: false,
          place: { station: 'paints', mixId: mix.id },
          mend: {
            words: `Keep to ${Math.round(limit * 100)} %`,
            command: 'setThinning',
            args: { id: mix.id, waterShareOfMix: limit },
          },
        }),
      );
  },
};
