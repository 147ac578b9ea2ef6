import type { Lesson, Variant } from '@viaticum/contract';
import { memo } from '../derived/index.js';
import { type LessonPlan, planLesson } from '../plan/index.js';
import { withVariant } from '../variant/index.js';
import type { MixVolume } from './volumes.js';

/** A part of the group: the lesson as these paint it. The first part paints it as it is, and so do who teaches. */
export type GroupPart = { lesson: Lesson; heads: number; teaching: number } & (
  | { variant: null; plan: null }
  | { variant: Variant; plan: LessonPlan }
);
export type Group = { heads: number; teaching: number; tableOf: number };

/** How many paint, how many canvases the instructor paints along, and how many sit at a table. */
export const groupOf = ({ kit = {} }: Pick<Lesson, 'kit'>): Group => ({
  heads: kit.heads ?? 12,
  teaching: kit.teaching ?? 1,
  tableOf: kit.tableOf ?? 4,
});

/** The parts of the group: the lesson as it is, then every variant that some of them paint. Their heads are the group's heads; never more. A variant
 * comes with its plan. Kept for the lessons asked for last: paint, brushes, supports and boards all go by it. */
export const groupParts = memo((lesson: Lesson): [GroupPart, ...GroupPart[]] => {
  const { heads, teaching } = groupOf(lesson);
  let left = heads;
  const others = (lesson.kit?.others ?? []).flatMap(({ variantId, heads: wanted }): GroupPart[] => {
    const variant = lesson.variants.find(({ id }) => id === variantId);
    const own = Math.min(left, wanted);
    if (!variant || own === 0) return [];
    left -= own;
    const varied = withVariant(lesson, variant).lesson;
    return [{ lesson: varied, variant, plan: planLesson(varied), heads: own, teaching: 0 }];
  });
  return [{ lesson, variant: null, plan: null, heads: left, teaching }, ...others];
});

/** Flat supports of a part: everybody's, who teaches, and one in so many to spare. */
const SPARE = 10;
export const supportsOf = ({ heads, teaching }: GroupPart): number => heads + teaching + Math.ceil(heads / SPARE);

const amounts = ['canvas', 'brush', 'kept', 'palette', 'skin', 'growth', 'total', 'portion'] as const;
/** What a painter of the group needs on the mean, ml, where parts of it paint the lesson in other ways; by the mixes of the first. */
export function meanVolumes(parts: readonly { heads: number; volumes: readonly MixVolume[] }[]): MixVolume[] {
  const heads = parts.reduce((sum, part) => sum + part.heads, 0);
  const byMix = new Map<string, MixVolume>();
  for (const part of parts)
    for (const volume of part.volumes) {
      const found = byMix.get(volume.mixId);
      const mean: MixVolume = found ?? {
        ...volume,
        canvas: 0,
        brush: 0,
        kept: 0,
        palette: 0,
        skin: 0,
        growth: 0,
        total: 0,
        portion: 0,
      };
      for (const amount of amounts) mean[amount] += (volume[amount] * part.heads) / heads;
      mean.largest = Math.max(mean.largest, volume.largest);
      mean.openHours = Math.max(mean.openHours, volume.openHours);
      byMix.set(volume.mixId, mean);
    }
  return [...byMix.values()];
}
