import type { Keeping, Lesson, Mix, Plan } from '@viaticum/contract';
import { memo } from '../derived/index.js';
import { recipeCost, recipeParts } from '../mix/index.js';
import { heapKeepsMin, keepings, mistHeapEveryMin } from './heap.js';
import { layingsOf } from './layings.js';

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

/** The least that anybody mixes, ml; and what palette and brush keep on the average (judged; the kit reckons it piece by piece). */
const LEAST_ML = 1;
const LOST_SHARE = 0.35;

/** Tube paint of each mix that one painter lays, ml. */
function volumes(lesson: Lesson): Map<string, number> {
  const found = new Map<string, number>();
  for (const { step, mixId, ml } of layingsOf(lesson)) if (step) found.set(mixId, (found.get(mixId) ?? 0) + ml);
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
