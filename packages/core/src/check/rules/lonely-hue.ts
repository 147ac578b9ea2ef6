import { say } from '@viaticum/contract';
import { chroma, huesApart, laysPaint, looksOf } from '../../derived/index.js';
import type { Finding, Rule } from '../finding.js';

const STRONG = 30;
const ALIKE = 35;

/** A strong hue that occurs in one place only. Measured on the mixes, not on the photograph. */
export const lonelyHue: Rule = {
  id: 'lonely-hue',
  look: (lesson) => {
    const looks = looksOf(lesson);
    const uses = lesson.steps
      .filter(laysPaint)
      .flatMap((step) =>
        step.mixIds.flatMap((id) => (step.wholeCanvas ? ['canvas'] : step.areaIds).map((areaId) => ({ id, areaId, step }))),
      );
    if (new Set(uses.map((use) => use.areaId)).size < 3) return [];
    const tinted = uses.flatMap((use) => {
      const lab = looks.get(use.id)?.colour?.lab;
      return lab && chroma(lab) > 10 ? [{ ...use, lab }] : [];
    });
    const told = new Set<string>();
    return tinted.flatMap((one): Finding[] => {
      if (told.has(one.id) || chroma(one.lab) < STRONG) return [];
      told.add(one.id);
      if (tinted.some((other) => other.areaId !== one.areaId && huesApart(other.lab, one.lab) < ALIKE)) return [];
      const name = lesson.mixes.find((mix) => mix.id === one.id)?.name ?? say('a mix');
      return [
        {
          id: `lonely-hue/${one.id}`,
          rule: 'lonely-hue',
          about: name,
          words: say`The hue of ${name} occurs in one place only.`,
          reason: say(
            'Common practice: a hue that occurs once looks foreign. Put a touch of it elsewhere, or leave it as the eye-catcher on purpose.',
          ),
          serious: false,
          place: { station: 'steps', stepId: one.step.id, mixId: one.id },
        },
      ];
    });
  },
};
