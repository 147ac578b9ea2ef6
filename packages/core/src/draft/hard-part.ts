import type { Lesson, School } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { insideOutline, outlineBox } from '../area/index.js';
import type { AreaFacts } from './facts.js';

/** Eyes, mouths and lit windows directly after what carries them, or after everything else. */
export function withHardPart(groups: { name: string; areas: AreaFacts[] }[], hardPart: School['hardPart']): typeof groups {
  if (hardPart === 'as-they-come') return groups;
  const features = groups.flatMap((group) => group.areas.filter(({ area }) => area.feature));
  if (features.length === 0) return groups;
  const rest = groups.map((group) => ({ ...group, areas: group.areas.filter(({ area }) => !area.feature) }));
  if (hardPart === 'last') return [...rest, { name: say('Features'), areas: features }].filter((group) => group.areas.length > 0);
  // Each directly after the area that it lies on: the nearest of those behind it.
  return rest.map((group) => ({
    ...group,
    areas: group.areas.flatMap((carrier) => [carrier, ...features.filter((one) => carrierOf(one, groups) === carrier)]),
  }));
}

const carrierOf = (feature: AreaFacts, groups: readonly { areas: AreaFacts[] }[]): AreaFacts | undefined =>
  groups
    .flatMap((group) => group.areas)
    .filter((one) => !one.area.feature && one.depth < feature.depth && overlaps(one, feature))
    .sort((a, b) => b.depth - a.depth)[0];

/** Whether the sheet of one area reaches under the middle of another. */
function overlaps(one: AreaFacts, feature: AreaFacts): boolean {
  const box = outlineBox(feature.area.outline.slice(0, 1));
  return box !== null && insideOutline(one.area.outline, box.x + box.width / 2, box.y + box.height / 2);
}

/** Areas that run from rim to rim, or lie behind all: nobody needs lines for them. */
export function isPlane(lesson: Lesson, { area, depth }: AreaFacts): boolean {
  if (depth === 0) return true;
  const box = outlineBox(area.outline);
  return box !== null && box.x <= RIM_MM && box.x + box.width >= lesson.support.widthMm - RIM_MM;
}
const RIM_MM = 3;
