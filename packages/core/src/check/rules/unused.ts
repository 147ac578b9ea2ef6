import type { Lesson } from '@viaticum/contract';
import { isOnlyMarks, shortTubeName } from '../../lesson/index.js';
import { laysPaint, zonesOf } from '../../plan/index.js';
import type { Finding, Rule } from '../finding.js';

/** A zone that no step paints. */
export const unpaintedZone: Rule = {
  id: 'unpainted-zone',
  look: (lesson) => {
    if (lesson.steps.length === 0) return [];
    const painted = new Set(
      lesson.steps
        .filter((step) => laysPaint(step) && step.kind === 'paint' && !isOnlyMarks(step))
        .flatMap((step) => zonesOf(lesson, step)),
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

/** The heaps that steps or the ground use, with those that they are mixed from. */
function usedMixes(lesson: Lesson): Set<string> {
  const open = [...lesson.steps.flatMap((step) => step.mixIds), ...lesson.support.groundCoats.map((coat) => coat.mixId)];
  const used = new Set<string>();
  for (let id = open.pop(); id !== undefined; id = open.pop()) {
    if (used.has(id)) continue;
    used.add(id);
    open.push(...(lesson.mixes.find((mix) => mix.id === id)?.heaps?.map((part) => part.mixId) ?? []));
  }
  return used;
}

/** A mix that no step uses. */
export const unusedMix: Rule = {
  id: 'unused-mix',
  look: (lesson) => {
    const used = usedMixes(lesson);
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

/** A tube that no step uses: in no recipe, or only in heaps that no step needs. */
export const unusedTube: Rule = {
  id: 'unused-tube',
  look: (lesson) => {
    const needed = usedMixes(lesson);
    // While no step names a heap yet, all heaps count.
    const mixes = lesson.mixes.filter((mix) => needed.size === 0 || needed.has(mix.id));
    const used = new Set(mixes.flatMap((mix) => mix.recipe.map((part) => part.tubeId)));
    return lesson.tubes
      .filter((tube) => !used.has(tube.id) && lesson.mixes.length > 0)
      .map(
        (tube): Finding => ({
          id: `unused-tube/${tube.id}`,
          rule: 'unused-tube',
          about: shortTubeName(tube),
          words: 'No step uses this tube.',
          reason: 'Common practice: a list of tubes that are then not used costs every student.',
          serious: false,
          place: { station: 'paints', tubeId: tube.id },
          mend: { words: 'Take the tube away', command: 'removeTube', args: { id: tube.id } },
        }),
      );
  },
};
