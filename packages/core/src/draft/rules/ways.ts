import type { Lesson, School, Step } from '@viaticum/contract';
import { worded } from '@viaticum/contract';
import { schoolFor } from '../../derived/index.js';

type Painted = Omit<Step, 'id' | 'stageId'>;
/** What a choice of the school makes of a painting step, with a sentence for the students. */
type Way = { applies: (step: Painted, lesson: Lesson) => boolean; fields?: Partial<Step>; say: string };

const isBase = (step: Painted): boolean => step.coverShare === undefined && step.coatOf === undefined;
const isFlat = ({ technique }: Painted): boolean => technique === 'block-in' || technique === 'blend';
const hasSeveral = (step: Painted): boolean => step.mixIds.length > 1;
const isDry = (step: Painted): boolean => step.medium === undefined && step.needs !== 'wet';
const none: Way = { applies: () => false, say: '' };

/** How paint is thinned (common practice, no published source). */
const thinning: Record<School['thinning'], Way> = worded(
  {
    medium: none,
    water: {
      applies: (step) => isFlat(step) && isBase(step) && isDry(step) && step.passageId === undefined,
      fields: { waterShareOfMix: 0.15 },
      say: 'A little water in the paint, so that it runs off the brush like cream.',
    },
    hardly: {
      applies: (step) => isFlat(step) && isBase(step),
      say: 'Paint as it comes out of the tube, no water.',
    },
    'film-or-mist': {
      applies: (step) => step.technique === 'blend' && isBase(step) && isDry(step),
      fields: { underFilm: 'water' },
      say: 'Wet the area first with a thin film of clear water, and paint into it.',
    },
  },
  ['say', 'watch', 'checkpoint', 'finish', 'title', 'reason', 'ahead', 'look', 'brushed', 'sprayed', 'name', 'words'],
);

/** How waiting is dealt with: what is kept wet. Dryers are put where they shorten the lesson, once it has its times. */
const drying: Record<School['drying'], Way> = worded(
  {
    wait: none,
    dryer: none,
    'keep-wet': {
      applies: (step) => isFlat(step) && isBase(step) && isDry(step) && (step.technique === 'blend' || hasSeveral(step)),
      fields: { medium: 'mist' },
      say: 'A breath of mist over it whenever it begins to drag.',
    },
  },
  ['say', 'watch', 'checkpoint', 'finish', 'title', 'reason', 'ahead', 'look', 'brushed', 'sprayed', 'name', 'words'],
);

const loading: Record<School['loading'], Way> = worded(
  {
    one: none,
    'half-mixed': {
      applies: (step) => hasSeveral(step) && step.passageId === undefined && step.technique !== 'glaze',
      fields: { loading: 'half-mixed' },
      say: 'Pick up both colours and do not mix them through: they break apart along the stroke.',
    },
    double: {
      applies: (step) => hasSeveral(step) && step.passageId === undefined && step.technique !== 'glaze',
      fields: { loading: 'double' },
      say: 'The dark on one corner of the brush and the light on the other; the light side stays on the side of the light.',
    },
  },
  ['say', 'watch', 'checkpoint', 'finish', 'title', 'reason', 'ahead', 'look', 'brushed', 'sprayed', 'name', 'words'],
);

const mixing: Record<School['mixing'], Way> = worded(
  {
    palette: none,
    'on-the-brush': loading['half-mixed'],
    'on-the-canvas': {
      applies: (step) => isFlat(step) && hasSeveral(step) && step.passageId === undefined,
      fields: { technique: 'blend' },
      say: 'The lighter colour first as a wet bed, then the stronger one into it: they mix on the canvas.',
    },
    'all-premixed': none,
  },
  ['say', 'watch', 'checkpoint', 'finish', 'title', 'reason', 'ahead', 'look', 'brushed', 'sprayed', 'name', 'words'],
);

const brushCare: Record<School['brushCare'], Way> = worded(
  {
    wipe: none,
    wash: { applies: hasSeveral, say: 'Wash the brush out between the colours, and squeeze it dry.' },
    'several-brushes': { applies: hasSeveral, say: 'One brush for the darks, another for the lights.' },
  },
  ['say', 'watch', 'checkpoint', 'finish', 'title', 'reason', 'ahead', 'look', 'brushed', 'sprayed', 'name', 'words'],
);

/** A painting step as the choices of its area's school would have it. */
export function inItsWay<T extends Painted>(lesson: Lesson, step: T, told: Set<string> = new Set()): T {
  if (step.kind !== 'paint') return step;
  const school = schoolFor(lesson, step);
  const ways = [
    thinning[school.thinning],
    drying[school.drying],
    loading[school.loading],
    mixing[school.mixing],
    brushCare[school.brushCare],
  ];
  const made = { ...step };
  for (const way of ways)
    if (way.applies(made, lesson)) {
      Object.assign(made, way.fields);
      if (!made.say.includes(way.say) && !told.has(way.say)) made.say = `${made.say}${made.say ? ' ' : ''}${way.say}`;
      told.add(way.say);
    }
  return made;
}

/** What is done to a drawing on paper before it is traced, minutes of wiping its dust off, and what is said of it. */
export const transferRules: Record<School['transferMedium'], { ahead: string | null; say: string }> = worded(
  {
    'transfer-paper': { ahead: null, say: '' },
    'light-paper': {
      ahead: null,
      say: 'The light line shows on the toned ground; one opaque coat covers it, a glaze does not.',
    },
    graphite: {
      ahead: 'Rub soft graphite over the back of the drawing, and wipe it with a tissue so that it does not smear.',
      say: 'Its back is rubbed with graphite: press lightly, graphite shines through pale transparent paint.',
    },
    charcoal: {
      ahead: 'Rub charcoal over the back of the drawing and knock the dust off outdoors.',
      say: 'Wipe the dust off with a dry brush when all lines are there: charcoal greys what is painted over it.',
    },
    chalk: {
      ahead: 'Rub white chalk over the back of the drawing and knock the dust off.',
      say: 'Chalk shows on the dark ground. Wipe the dust off with a dry brush when all lines are there.',
    },
  },
  ['say', 'watch', 'checkpoint', 'finish', 'title', 'reason', 'ahead', 'look', 'brushed', 'sprayed', 'name', 'words'],
);

/** What is said of varnish when the picture is signed. */
export const varnishRules: Record<School['varnish'], string> = worded(
  {
    none: '',
    brushed: 'Varnish it with a wide soft brush, but only when it has cured: not before two weeks, thick paint later.',
    sprayed: 'Varnish it from a can, outdoors, when it has cured: not before two weeks, thick paint later.',
  },
  ['say', 'watch', 'checkpoint', 'finish', 'title', 'reason', 'ahead', 'look', 'brushed', 'sprayed', 'name', 'words'],
);

/** How near the picture is to be, where one looks at it. */
export const fidelityRules: Record<School['fidelity'], { compares: boolean; look: string }> = worded(
  {
    altered: { compares: false, look: '' },
    true: { compares: true, look: '' },
    'no-reference': { compares: false, look: 'There is no picture to compare it with: does it please you?' },
  },
  ['say', 'watch', 'checkpoint', 'finish', 'title', 'reason', 'ahead', 'look', 'brushed', 'sprayed', 'name', 'words'],
);
