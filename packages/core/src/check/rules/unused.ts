import { shortTubeName } from '../../lesson/index.js';
import { laysPaint, zonesOf } from '../../plan/index.js';
import type { Finding, Rule } from '../finding.js';

/** A zone that no step paints. */
export const unpaintedZone: Rule = {
  id: 'unpainted-zone',
  look: (lesson) => {
    if (lesson.steps.length === 0) return [];
    const painted = new Set(
      lesson.steps.filter((step) => laysPaint(step) && step.kind === 'paint').flatMap((step) => zonesOf(lesson, step)),
    );
    return lesson.zones
      .filter((zone) => !painted.has(zone.id))
      .map(
        (zone): Finding => ({
          id: `unpainted-zone/${zone.id}`,
          rule: 'unpainted-zone',
          about: zone.name,
          words: 'No step paints this area.',
          reason: 'Common practice: bare patches are found when details begin.',
          serious: true,
          place: { station: 'steps', zoneId: zone.id },
        }),
      );
  },
};

/** A mix that no step uses. */
export const unusedMix: Rule = {
  id: 'unused-mix',
  look: (lesson) => {
    const used = new Set([
      ...lesson.steps.flatMap((step) => step.mixIds),
      ...lesson.support.groundCoats.map((coat) => coat.mixId),
      ...lesson.mixes.flatMap((mix) => mix.heaps?.map((part) => part.mixId) ?? []),
    ]);
    return lesson.mixes
      .filter((mix) => !used.has(mix.id) && !mix.letDown && lesson.steps.length > 0)
      .map(
        (mix): Finding => ({
          id: `unused-mix/${mix.id}`,
          rule: 'unused-mix',
          about: mix.name,
          words: 'No step uses this mix.',
          reason: 'Common practice: students mix what they are told and wonder.',
          serious: false,
          place: { station: 'paints', mixId: mix.id },
          mend: { words: 'Take the mix away', command: 'removeMix', args: { id: mix.id } },
        }),
      );
  },
};

/** A tube in no recipe. */
export const unusedTube: Rule = {
  id: 'unused-tube',
  look: (lesson) => {
    const used = new Set(lesson.mixes.flatMap((mix) => mix.recipe.map((part) => part.tubeId)));
    return lesson.tubes
      .filter((tube) => !used.has(tube.id) && lesson.mixes.length > 0)
      .map(
        (tube): Finding => ({
          id: `unused-tube/${tube.id}`,
          rule: 'unused-tube',
          about: shortTubeName(tube),
          words: 'No recipe uses this tube.',
          reason: 'Common practice: a list of tubes that are then not used costs every student.',
          serious: false,
          place: { station: 'paints', tubeId: tube.id },
          mend: { words: 'Take the tube away', command: 'removeTube', args: { id: tube.id } },
        }),
      );
  },
};
