import type { AreaRole, School } from '@viaticum/contract';
import { say, worded } from '@viaticum/contract';
import { capital } from '../../units/index.js';
import type { AreaFacts } from '../facts.js';

/** How a school goes over the canvas: which areas come in which stage, and whether an area is finished before the next. */
export type OrderRule = {
  reason: string;
  stages: (areas: readonly AreaFacts[]) => { name: string; areas: AreaFacts[] }[];
  /** All coats of an area in its own stage, or first all first coats. */
  finishesEach: boolean;
};

const subjectsOf = (areas: readonly AreaFacts[]) => {
  const marked = areas.filter((one) => one.isSubject);
  return marked.length > 0 ? marked : areas.slice(-1);
};
const without = (areas: readonly AreaFacts[], some: readonly AreaFacts[]) => areas.filter((one) => !some.includes(one));

/** By what areas are, where all of them say it: what lies behind the subject, the subject, its features, what stands before it. */
function byRole(areas: readonly AreaFacts[]): { name: string; areas: AreaFacts[] }[] | null {
  if (areas.length === 0 || areas.some(({ area }) => area.role === undefined)) return null;
  const are = (...roles: AreaRole[]) => areas.filter(({ area }) => area.role && roles.includes(area.role));
  const subject = are('subject');
  const nearest = Math.min(...subject.map((one) => one.depth));
  const others = are('water', 'ground', 'foliage', 'made');
  return [
    { name: say('Background'), areas: are('sky', 'background') },
    { name: say('Middle ground'), areas: others.filter((one) => one.depth < nearest) },
    { name: say('Subject'), areas: subject },
    { name: say('Features'), areas: are('feature') },
    { name: say('Foreground'), areas: others.filter((one) => one.depth >= nearest) },
  ].filter((group) => group.areas.length > 0);
}

/** The order of painting, one entry for each choice of the school. */
export const orderRules: Record<School['order'], OrderRule> = worded(
  {
    'background-first': {
      reason: 'Soft overlaps come by themselves over a finished background.',
      finishesEach: false,
      stages: (areas) => {
        const told = byRole(areas);
        if (told) return told;
        // The subject with all that lies before it comes last; where that is nearly everything, depth alone decides.
        const nearest = Math.min(...subjectsOf(areas).map((one) => one.depth));
        const behind = areas.filter((one) => one.depth < nearest);
        const isBehindEnough = behind.length * 3 >= areas.length;
        const front = isBehindEnough ? without(areas, behind) : areas.slice(Math.ceil((areas.length * 2) / 3));
        const rest = without(areas, front);
        const far = rest.slice(0, Math.ceil(rest.length / 2));
        return [
          { name: say('Background'), areas: far },
          { name: say('Middle ground'), areas: without(rest, far) },
          { name: isBehindEnough ? say('Subject') : say('Foreground'), areas: front },
        ];
      },
    },
    'subject-first': {
      reason: 'A strong silhouette decides the gesture; the background is cut in round it.',
      finishesEach: false,
      stages: (areas) => {
        const front = subjectsOf(areas);
        return [
          { name: say('Subject'), areas: front },
          { name: say('Background, cut in'), areas: without(areas, front) },
        ];
      },
    },
    'whole-together': {
      reason: 'Keeping everything at one stage keeps values related.',
      finishesEach: false,
      stages: (areas) => [{ name: say('The whole surface'), areas: [...areas] }],
    },
    'part-by-part': {
      reason: 'Full attention on one thing at a time.',
      finishesEach: true,
      stages: (areas) => areas.map((one) => ({ name: capital(one.area.name), areas: [one] })),
    },
  },
  ['say', 'watch', 'checkpoint', 'finish', 'title', 'reason', 'ahead', 'look', 'brushed', 'sprayed', 'name', 'words'],
);
