import type { Keeping, Lesson, Mix, Plan } from '@viaticum/contract';
import { composition, density, wetFilm } from '../coat/index.js';
import { areasWorkedOn, coverOf, extentsOf, laysPaint, memo } from '../derived/index.js';
import { recipeCost, recipeParts } from '../mix/index.js';
import { heapKeepsMin, keepings, mistHeapEveryMin } from './heap.js';

/** A mix on one painter's palette, through the plan. */
export type Heap = {
  mix: Mix;
  /** About so much paint, for one painter. */
  ml: number;
  /** When it is mixed and last used, minutes of the plan; whether that is ahead, in a pause. */
  fromMin: number;
  untilMin: number;
  isPremixed: boolean;
  /** The longest that it lies untouched, and the step that it then waits for. */
  longest: { stepId: string; restMin: number };
  kept: (typeof keepings)[Keeping];
  /** So long it stays fit to use, untouched; and how often it would have to be misted. */
  keepsMin: number;
  mistEveryMin: number;
  /** Where it has skinned before it is needed again, and how far a new one would be off when its small amounts are off. */
  late: { stepId: string; restMin: number; rematchDeltaE: number } | null;
};

/** How a lesson's heaps are kept: as it says, or by its school: in bags where all is mixed ahead, on a plate elsewhere. */
export const keepingOf = (lesson: Lesson): Keeping =>
  lesson.heapsOn ?? (lesson.school.mixing === 'all-premixed' ? 'bag' : 'plate');

/** Paint that stays on palette and brush (judged), and the least that anybody mixes, ml. */
const LOST_SHARE = 0.35;
const LEAST_ML = 1;

/** Tube paint of each mix that one painter lays, ml: painted extent times film, what is lost, and no less than a bead. */
function volumes(lesson: Lesson): Map<string, number> {
  const found = new Map<string, number>();
  const canvasCm2 = (lesson.support.widthMm * lesson.support.heightMm) / 100;
  const parts = extentsOf(lesson);
  for (const step of lesson.steps) {
    if (!laysPaint(step) || step.mixIds.length === 0) continue;
    const areas = areasWorkedOn(lesson, step);
    const cm2 = step.wholeCanvas ? canvasCm2 : parts.reduce((sum, one) => sum + (areas.includes(one.id) ? one.areaCm2 : 0), 0);
    const technique = step.technique as NonNullable<typeof step.technique>;
    const film = wetFilm({
      technique,
      ...(step.waterShareOfMix !== undefined ? { waterShareOfMix: step.waterShareOfMix } : {}),
      ...(step.medium === 'retarder' ? { retarder: true } : {}),
      ...(step.paint && step.paint !== 'ordinary' ? { paint: step.paint } : {}),
    });
    const um = film.solids / (composition.ordinary.solids * density.wetGPerUm);
    const ml = (cm2 * coverOf(lesson, step) * um) / 10_000 / step.mixIds.length;
    for (const id of step.mixIds) found.set(id, (found.get(id) ?? 0) + ml);
  }
  return found;
}

/** The heaps of a lesson through its plan, in the order in which they are mixed; those that no step uses are left out. */
export const heapsOf: (lesson: Lesson, plan: Plan) => readonly Heap[] = memo(heapsThrough, 3);

function heapsThrough(lesson: Lesson, plan: Plan): Heap[] {
  const ml = volumes(lesson);
  const kept = keepingOf(lesson);
  const ahead = new Map<string, number>();
  for (const item of plan.items)
    for (const filler of item.fillers ?? []) for (const id of filler.mixIds ?? []) ahead.set(id, item.startMin);
  const stepOf = new Map(lesson.steps.map((step) => [step.id, step]));
  const heaps = lesson.mixes.flatMap((mix): Heap[] => {
    const uses = plan.items.filter((item) => item.stepId && stepOf.get(item.stepId)?.mixIds.includes(mix.id));
    const [first] = uses;
    const last = uses.at(-1);
    if (!first || !last) return [];
    const premixed = ahead.get(mix.id);
    const fromMin = Math.min(premixed ?? first.startMin, first.startMin);
    let at = fromMin;
    let longest = { stepId: first.stepId as string, restMin: 0 };
    for (const use of uses) {
      if (use.startMin - at > longest.restMin) longest = { stepId: use.stepId as string, restMin: use.startMin - at };
      at = Math.max(at, use.endMin);
    }
    const amount = Math.max(LEAST_ML, (ml.get(mix.id) ?? 0) / (1 - LOST_SHARE));
    const keepsMin = heapKeepsMin(amount, kept, lesson.room);
    const parts = recipeParts(mix, lesson);
    const rematchDeltaE = parts ? recipeCost(parts, { finish: lesson.finish }).touchy.deltaE : 0;
    return [
      {
        mix,
        ml: amount,
        fromMin,
        untilMin: last.endMin,
        isPremixed: premixed !== undefined && premixed < first.startMin,
        longest,
        kept: keepings[kept],
        keepsMin,
        mistEveryMin: mistHeapEveryMin(keepsMin),
        late: longest.restMin > keepsMin ? { ...longest, rematchDeltaE } : null,
      },
    ];
  });
  return heaps.sort((one, other) => one.fromMin - other.fromMin);
}
