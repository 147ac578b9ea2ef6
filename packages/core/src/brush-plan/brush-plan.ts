import type { Lab, Lesson, Step } from '@viaticum/contract';
import { deltaE00 } from '@viaticum/kernels/colour';
import { BRUSH_HARDENS_MIN, type Brush, brushes, brushOf, MIXES_A_POT } from '../brush/index.js';
import { looksOf } from '../derived/index.js';
import type { LessonPlan } from '../plan/index.js';
import { cheapestAssignment } from './assignment.js';

/** One use of a brush: the step, whether it must be washed before (or a wipe is enough), and how long it waited since its last use. */
export type BrushUse = { stepId: string; before: 'clean' | 'wipe' | 'wash'; waitedMin: number };
/** A brush in the hand: what it is, whether it is kept for darks or lights, and all its uses in order. */
export type PlannedBrush = {
  brush: Brush;
  kept: 'darks' | 'lights' | null;
  uses: BrushUse[];
  /** Others that would do. */
  substitutes: Brush[];
  /** After this step it waits so long that it hardens unless it is rinsed. */
  hardens: { afterStepId: string; waitMin: number }[];
};
export type BrushPlan = {
  brushes: PlannedBrush[];
  washes: number;
  /** Washes where every step takes the one brush of its kind, as it is written. */
  washesAsWritten: number;
  /** Steps before which to change the water, with the mixes that have gone into it. */
  freshWater: { stepId: string; mixes: number }[];
};

/** Colours nearer than this (ΔE00) follow each other in one brush after a wipe (common practice, no published source). */
const WIPE = 9;
/** A light in a brush that held a dark takes thorough washing. */
const DARKER_BY = 18;
const WASH = 1;
const THOROUGH = 1.6;
/** One brush more to buy and to hold is worth so many washes. */
const ANOTHER = 2.2;
const DARK = 45;
const SUBSTITUTE = 0.3;

type Use = { step: Step; brush: Brush; first: Lab; last: Lab; startMin: number; endMin: number };

/**
 * Brushes given to steps so that washing is least: every step follows, in one brush of its kind, the step that costs least to follow, or takes
 * another of the kind; exact, as an assignment. Where the school keeps several brushes, darks and lights never share one. Times come
 * from the plan.
 */
export function brushPlan(lesson: Lesson, plan: LessonPlan): BrushPlan {
  const uses = usesOf(lesson, plan);
  const apart = lesson.school.brushCare === 'several-brushes';
  const another = apart ? 0.9 : ANOTHER;
  const follow = (before: Use, after: Use): number => {
    if (before.brush.id !== after.brush.id || before.endMin > after.startMin + 1e-9) return Number.POSITIVE_INFINITY;
    if (apart && isDark(before.last) !== isDark(after.first)) return Number.POSITIVE_INFINITY;
    return costOf(before, after);
  };
  const n = uses.length;
  // Column k < n: follows use k; column n + i: a brush of its own.
  const cost = uses.map((use, i) =>
    Array.from({ length: 2 * n }, (_, column) => {
      if (column >= n) return column === n + i ? another : Number.POSITIVE_INFINITY;
      return column < i ? follow(uses[column] as Use, use) : Number.POSITIVE_INFINITY;
    }),
  );
  const follows = n > 0 ? cheapestAssignment(cost) : [];
  const chains = new Map<number, number>();
  const planned: { brush: Brush; list: Use[] }[] = [];
  uses.forEach((use, i) => {
    const before = follows[i] as number;
    const chain = before < n ? (chains.get(before) as number) : planned.push({ brush: use.brush, list: [] }) - 1;
    chains.set(i, chain);
    (planned[chain] as (typeof planned)[number]).list.push(use);
  });
  const brushList = planned.map(({ brush, list }) => plannedBrush(brush, list, apart));
  return {
    brushes: brushList,
    washes: brushList.reduce((sum, one) => sum + one.uses.filter((use) => use.before === 'wash').length, 0),
    washesAsWritten: asWritten(uses),
    freshWater: freshWater(lesson, plan),
  };
}

const isDark = ([l]: Lab) => l < DARK;

function usesOf(lesson: Lesson, { plan }: LessonPlan): Use[] {
  const looks = looksOf(lesson);
  return plan.items.flatMap((item): Use[] => {
    const step = lesson.steps.find((one) => one.id === item.stepId);
    const brush = brushOf(step?.brushId);
    const labs = (step?.mixIds ?? []).flatMap((id) => {
      const lab = looks.get(id)?.colour?.lab;
      return lab ? [lab] : [];
    });
    const [first, last] = [labs[0], labs.at(-1)];
    if (!step || !brush || !first || !last) return [];
    return [{ step, brush, first, last, startMin: item.startMin, endMin: item.endMin }];
  });
}

function kindOf(before: Use, after: Use): 'wipe' | 'wash' {
  return deltaE00(before.last, after.first) <= WIPE && after.first[0] - before.last[0] < DARKER_BY ? 'wipe' : 'wash';
}
function costOf(before: Use, after: Use): number {
  if (kindOf(before, after) === 'wipe') return 0.05;
  return after.first[0] - before.last[0] > DARKER_BY ? THOROUGH : WASH;
}

function asWritten(uses: readonly Use[]): number {
  const last = new Map<string, Use>();
  let washes = 0;
  for (const use of uses) {
    const before = last.get(use.brush.id);
    if (before && kindOf(before, use) === 'wash') washes++;
    last.set(use.brush.id, use);
  }
  return washes;
}

function plannedBrush(brush: Brush, list: readonly Use[], apart: boolean): PlannedBrush {
  const uses = list.map((use, i): BrushUse => {
    const before = list[i - 1];
    if (!before) return { stepId: use.step.id, before: 'clean', waitedMin: 0 };
    return { stepId: use.step.id, before: kindOf(before, use), waitedMin: use.startMin - before.endMin };
  });
  const hardens = uses.flatMap((use, i) =>
    use.waitedMin > BRUSH_HARDENS_MIN && brush.type !== 'knife'
      ? [{ afterStepId: (uses[i - 1] as BrushUse).stepId, waitMin: use.waitedMin }]
      : [],
  );
  const [first] = list;
  return {
    brush,
    kept: apart && first ? (isDark(first.first) ? 'darks' : 'lights') : null,
    uses,
    hardens,
    substitutes: substitutesFor(brush),
  };
}

/** Other brushes whose width is within a third, those that hold paint alike first. */
export function substitutesFor(brush: Brush): Brush[] {
  const alike: Partial<Record<Brush['type'], Brush['type'][]>> = {
    flat: ['angled', 'filbert'],
    angled: ['flat'],
    filbert: ['flat', 'round'],
    round: ['filbert', 'rigger'],
    rigger: ['round'],
    hake: ['flat'],
    mop: ['filbert', 'fan'],
    fan: ['mop'],
    rake: ['fan', 'flat'],
  };
  return (alike[brush.type] ?? []).flatMap((type) => {
    const near = brushes
      .filter((one) => one.type === type && Math.abs(one.widthMm - brush.widthMm) <= SUBSTITUTE * brush.widthMm)
      .sort((a, b) => Math.abs(a.widthMm - brush.widthMm) - Math.abs(b.widthMm - brush.widthMm))[0];
    return near ? [near] : [];
  });
}

/** Water is changed in the last pause before it would dull a mix, otherwise before the step that does. */
function freshWater(lesson: Lesson, { plan }: LessonPlan): BrushPlan['freshWater'] {
  const out: BrushPlan['freshWater'] = [];
  let used = new Set<string>();
  for (const item of plan.items) {
    const step = lesson.steps.find((one) => one.id === item.stepId);
    if (!step) continue;
    if (step.kind === 'break') used = new Set();
    const after = new Set([...used, ...step.mixIds]);
    if (after.size > MIXES_A_POT && used.size > 0) {
      out.push({ stepId: step.id, mixes: used.size });
      used = new Set(step.mixIds);
    } else used = after;
  }
  return out;
}
