import type { Lesson } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { heapsOf } from '../../heap/index.js';
import { calmly, planOf } from '../../plan/index.js';
import { listInWords, minutesInWords } from '../../units/index.js';
import { filmedLesson, filmPlan } from './film-plan.js';
import { filmedInOrder, type Shootable, type ShootOrder, type ShootProblem, shootingOrder } from './shoot.js';
import { batteryMin, cardGb, filmDefaults, type Take } from './takes.js';

/** Minutes that a change of camera place takes, and that slate and framing take before a take (our judgement). */
const CHANGE_MIN = 3;
const WIDE_MIN = 6;
const SLATE_MIN = 0.5;
const changeMin = (a: string, b: string): number => (a === b ? 0 : a === 'wide' || b === 'wide' ? WIDE_MIN : CHANGE_MIN);

const minutesOfTake = ({ rawS }: Take, { film }: Lesson): number =>
  (rawS / 60) * (film?.takesPerGood ?? filmDefaults.takesPerGood) + SLATE_MIN;

/**
 * The takes as they may be filmed: the canvas in the order of painting, dry where the plan asks for it (by the slow end of drying), palette
 * and tracing before the canvas take that uses them, opening and close when all is painted.
 */
export function shootProblem(lesson: Lesson, takes: readonly Take[]): ShootProblem {
  const canvas = takes.filter(({ kind }) => kind === 'canvas');
  const takeOf = new Map(canvas.flatMap(({ id, stepIds }) => stepIds.map((step) => [step, id] as const)));
  const { problem } = planOf(calmly(filmedLesson(lesson)));
  const lags = new Map<string, { from: string; to: string; minutes: number }>();
  for (const { type, from, to, minutes = 0 } of problem.constraints) {
    const [a, b] = [takeOf.get(from), takeOf.get(to)];
    if (type !== 'dry' || !a || !b || a === b) continue;
    const key = `${a} ${b}`;
    if (minutes > (lags.get(key)?.minutes ?? 0)) lags.set(key, { from: a, to: b, minutes });
  }
  const last = canvas.at(-1)?.id;
  return {
    change: changeMin,
    dry: [...lags.values()],
    takes: takes.map((take): Shootable => {
      const { id, kind, place } = take;
      const own = { id, setup: place, minutes: minutesOfTake(take, lesson) };
      const step = take.stepIds[0];
      const into = step === undefined ? undefined : takeOf.get(step);
      if (kind === 'canvas') return { ...own, isCanvas: true };
      if (kind === 'reference') return { ...own, ...(canvas[0] && { before: canvas[0].id }) };
      if (kind === 'palette' || kind === 'tracing' || kind === 'tool') return { ...own, ...(into && { before: into }) };
      const after = kind === 'own' ? (take.afterStepId === null ? undefined : takeOf.get(take.afterStepId)) : last;
      return { ...own, ...(after && { after: [after] }) };
    }),
  };
}

/** Above so many takes only a narrow search is made, and nothing is said to be the shortest. */
const MOST_EXACT = 26;
export const isSearchedExactly = (takes: readonly Take[]): boolean => takes.length <= MOST_EXACT;

/** A list as it is filmed: when each take begins, what it needs, and what the day comes to. */
export type ShootingList = {
  order: { takeId: string; fromMin: number; endMin: number }[];
  endMin: number;
  changes: number;
  /** Minutes in which nothing can be filmed because paint dries. */
  waitMin: number;
  isProven: boolean;
  isPinned: boolean;
  /** What the pinned order costs against the best one found. */
  pinCostMin: number;
  /** What filming in the order of painting would take. */
  plainMin: number;
  cardGb: number;
  batteryMin: number;
  notes: string[];
};

/** The order of filming, the shortest found (`best`) or one that is held to, with estimates for card and battery. */
export function shootingList(lesson: Lesson, takes: readonly Take[], isNarrow: boolean): ShootingList {
  const used = takes.filter(({ isLeftOut }) => !isLeftOut);
  const problem = shootProblem(lesson, used);
  const best = shootingOrder(problem, isNarrow || !isSearchedExactly(used));
  const plain = filmedInOrder(problem, plainOrder(used));
  const pinned = lesson.film?.order;
  const held = pinned ? filmedInOrder(problem, pinnedOrder(used, pinned, problem)) : null;
  const shown: ShootOrder = held ? { ...held, isProven: false } : (best ?? { ...plain, isProven: false });
  const seconds = used.reduce((sum, { rawS }) => sum + rawS, 0);
  const without = filmedInOrder(
    { ...problem, dry: [] },
    shown.order.map(({ id }) => id),
  );
  const waitMin = Math.max(0, shown.endMin - without.endMin);
  return {
    order: shown.order.map(({ id, fromMin, endMin }) => ({ takeId: id, fromMin, endMin })),
    endMin: shown.endMin,
    changes: shown.changes,
    waitMin,
    isProven: shown.isProven,
    isPinned: held !== null,
    pinCostMin: held && best ? held.endMin - best.endMin : 0,
    plainMin: plain.endMin,
    cardGb: cardGb(seconds, lesson),
    batteryMin: batteryMin(seconds, lesson),
    notes: notesOf(lesson, used, shown, waitMin),
  };
}

/** The order of painting, opening and close when all is painted. */
const plainOrder = (takes: readonly Take[]): string[] => {
  const isLate = ({ kind }: Take) => kind === 'opening' || kind === 'close';
  return [...takes.filter((take) => !isLate(take)), ...takes.filter(isLate)].map(({ id }) => id);
};

/** A pinned order made possible: takes that are gone left out, new ones put where the lesson has them, the canvas in the order of painting. */
function pinnedOrder(takes: readonly Take[], pinned: readonly string[], { takes: shootable }: ShootProblem): string[] {
  const known = new Set(takes.map(({ id }) => id));
  const own = pinned.filter((id) => known.has(id));
  plainOrder(takes).forEach((id, i, all) => {
    if (own.includes(id)) return;
    const at = own.indexOf(all[i - 1] ?? '');
    own.splice(at + 1, 0, id);
  });
  const canvas = shootable.filter(({ isCanvas }) => isCanvas).map(({ id }) => id);
  const isCanvas = new Set(canvas);
  let k = 0;
  return own.map((id) => (isCanvas.has(id) ? (canvas[k++] as string) : id));
}

function notesOf(lesson: Lesson, takes: readonly Take[], { order }: ShootOrder, waitMin: number): string[] {
  const at = new Map(order.map((one) => [one.id, one]));
  const heaps = new Map(heapsOf(filmedLesson(lesson), filmPlan(lesson).plan).map((heap) => [heap.mix.id, heap]));
  const takeOf = new Map(
    takes.filter(({ kind }) => kind === 'canvas').flatMap((take) => take.stepIds.map((id) => [id, take.id] as const)),
  );
  const notes: string[] = [];
  const late: { slate: string; name: string; waits: number }[] = [];
  for (const { kind, mixId, slate, id, stepIds } of takes) {
    if (kind !== 'palette' || !mixId) continue;
    const used = at.get(takeOf.get(stepIds[0] as string) ?? '');
    const waits = (used?.fromMin ?? 0) - (at.get(id)?.endMin ?? 0);
    const heap = heaps.get(mixId);
    if (heap && waits > heap.keepsMin) late.push({ slate, name: heap.mix.name, waits });
  }
  const [one] = late;
  if (one && late.length === 1)
    notes.push(
      say`${one.slate}: the heap of ${one.name} waits ${minutesInWords(one.waits)} before it is used. Cover it, or film a fresh one.`,
    );
  else if (one)
    notes.push(
      say`${late.length} heaps wait up to ${minutesInWords(Math.max(...late.map(({ waits }) => waits)))} before they are used (${listInWords(late.map(({ slate }) => slate))}). Cover them, or film fresh ones.`,
    );
  if (waitMin >= 10)
    notes.push(
      say`The canvas dries ${minutesInWords(waitMin)} while nothing can be filmed. A second canvas, painted ahead, would save up to that much.`,
    );
  return notes;
}
