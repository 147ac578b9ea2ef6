import type { Outline } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { outlineArea, outlineBox } from '../../area/index.js';
import { areaName, visibleOf } from '../../derived/index.js';
import type { Finding, Rule } from '../finding.js';

const EVEN = 0.12;
const LIKE = 3;

/** Like things side by side with evenly spaced openings between them. */
export const evenGaps: Rule = {
  id: 'even-gaps',
  look: (lesson) =>
    visibleOf(lesson).flatMap((part): Finding[] => {
      const gaps = gapsOf(part.outline);
      if (gaps.length < 2) return [];
      const mean = gaps.reduce((sum, gap) => sum + gap, 0) / gaps.length;
      if (mean <= 1 || Math.max(...gaps) - Math.min(...gaps) > EVEN * mean) return [];
      return [
        {
          id: `even-gaps/${part.id}`,
          rule: 'even-gaps',
          about: areaName(lesson, part.id),
          words: say`${gaps.length + 1} like things stand at even distances (${Math.round(mean)} mm).`,
          reason: say('Common practice: openings unevenly spaced look grown, even ones look counted. A pattern may want it so.'),
          serious: false,
          place: { station: 'picture', areaId: part.id },
        },
      ];
    }),
};

/** Openings between the like parts of an outline that stand side by side, from left to right. */
function gapsOf(outline: Outline): number[] {
  const areas = outline.map((polygon) => outlineArea([polygon]));
  const largest = Math.max(0, ...areas);
  const boxes = outline
    .flatMap((polygon, i) => ((areas[i] as number) > largest / LIKE ? (outlineBox([polygon]) ?? []) : []))
    .sort((one, other) => one.x - other.x);
  const top = Math.max(...boxes.map((box) => box.y));
  const foot = Math.min(...boxes.map((box) => box.y + box.height));
  if (boxes.length < 3 || foot <= top) return [];
  return boxes.slice(1).map((box, i) => box.x - ((boxes[i] as typeof box).x + (boxes[i] as typeof box).width));
}
