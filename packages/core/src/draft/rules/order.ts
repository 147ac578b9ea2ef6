import type { School } from '@viaticum/contract';
import { capital } from '../../units/index.js';
import type { ZoneFacts } from '../facts.js';

/** How a school goes over the canvas: which zones come in which stage, and whether a zone is finished before the next. */
export type OrderRule = {
  reason: string;
  stages: (zones: readonly ZoneFacts[]) => { name: string; zones: ZoneFacts[] }[];
  /** All coats of a zone in its own stage, or first all first coats. */
  finishesEach: boolean;
};

const subjectsOf = (zones: readonly ZoneFacts[]) => {
  const marked = zones.filter((one) => one.isSubject);
  return marked.length > 0 ? marked : zones.slice(-1);
};
const without = (zones: readonly ZoneFacts[], some: readonly ZoneFacts[]) => zones.filter((one) => !some.includes(one));

/** The order of painting, one entry for each choice of the school. */
export const orderRules: Record<School['order'], OrderRule> = {
  'background-first': {
    reason: 'Soft overlaps come by themselves over a finished background.',
    finishesEach: false,
    stages: (zones) => {
      // The subject with all that lies before it comes last; where that is nearly everything, depth alone decides.
      const nearest = Math.min(...subjectsOf(zones).map((one) => one.depth));
      const behind = zones.filter((one) => one.depth < nearest);
      const isBehindEnough = behind.length * 3 >= zones.length;
      const front = isBehindEnough ? without(zones, behind) : zones.slice(Math.ceil((zones.length * 2) / 3));
      const rest = without(zones, front);
      const far = rest.slice(0, Math.ceil(rest.length / 2));
      return [
        { name: 'Background', zones: far },
        { name: 'Middle ground', zones: without(rest, far) },
        { name: isBehindEnough ? 'Subject' : 'Foreground', zones: front },
      ];
    },
  },
  'subject-first': {
    reason: 'A strong silhouette decides the gesture; the background is cut in round it.',
    finishesEach: false,
    stages: (zones) => {
      const front = subjectsOf(zones);
      return [
        { name: 'Subject', zones: front },
        { name: 'Background, cut in', zones: without(zones, front) },
      ];
    },
  },
  'whole-together': {
    reason: 'Keeping everything at one stage keeps values related.',
    finishesEach: false,
    stages: (zones) => [{ name: 'The whole surface', zones: [...zones] }],
  },
  'part-by-part': {
    reason: 'Full attention on one thing at a time.',
    finishesEach: true,
    stages: (zones) => zones.map((one) => ({ name: capital(one.zone.name), zones: [one] })),
  },
};
