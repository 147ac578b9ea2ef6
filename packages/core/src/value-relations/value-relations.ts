import type { Lab, Lesson, Step } from '@viaticum/contract';
import { deltaE00 } from '@viaticum/kernels/colour';
import { areasWorkedOn, bordersBetween, coverOf, laysPaint, looksOf, visibleOf } from '../derived/index.js';

/** What an area is to look like in the end, and what the steps make of it. */
export type AreaDue = {
  areaId: string;
  /** The mean colour it should have: what was set for it, or what the picture has there. Null where nothing is known. */
  target: Lab | null;
  /** The step and the stage by which it stands: those of its last coat that covers a good part of it. */
  dueStepId: string | null;
  dueStageId: string | null;
  /** Its mean colour when all is painted, and how much lighter (+) or darker (−) it is than wanted. */
  last: Lab | null;
  offL: number | null;
};

/** A step that turns round how two neighbours stand to each other in value, or sets it right again. */
export type RelationChange = {
  stepId: string;
  kind: 'breaks' | 'repairs';
  areaId: string;
  neighbourId: string;
  /** By how much lighter (+) or darker (−) the area is than its neighbour after the step, and how it should be. */
  isL: number;
  shouldL: number;
};
export type Relations = {
  areas: AreaDue[];
  changes: RelationChange[];
  /** By step the mean colour of every area after it; null while it is bare. */
  after: Map<string, Map<string, Lab | null>>;
};

const GOOD_PART = 0.3;
/** Neighbours nearer in value than this have no order; beyond it a turned order is seen at once (common practice, no published source). */
const SEEN_L = 5;
/** Neighbours share at least so much of an edge. */
const SHARED_MM = 10;

/** The colour of an area after a coat: what the coat covers in its mixes' mean, the rest as it was. */
export function colourAfter(lesson: Lesson, step: Step, before: Lab | null): Lab | null {
  const looks = looksOf(lesson);
  const labs = step.mixIds.flatMap((id) => {
    const lab = looks.get(id)?.colour?.lab;
    return lab ? [lab] : [];
  });
  if (labs.length === 0) return before;
  const own = [0, 1, 2].map((c) => labs.reduce((sum, lab) => sum + (lab[c] as number), 0) / labs.length) as Lab;
  if (before === null) return own;
  const share = coverOf(lesson, step) * (opacity[step.technique ?? 'block-in'] ?? 1);
  return before.map((value, c) => value + ((own[c] as number) - value) * share) as Lab;
}
/** How much of what it covers a technique hides (from memory). */
const opacity: Partial<Record<NonNullable<Step['technique']>, number>> = {
  glaze: 0.4,
  wash: 0.8,
  scumble: 0.5,
  'dry-brush': 0.7,
  'under-film': 0,
};

/**
 * For each area the value it should have and the step by which it is due, and the steps that break or repair how it stands to its
 * neighbours. Worked out from the mixes' mean colours alone, without the picture. Remembered while areas, mixes and steps stay.
 */
export function relationsOf(lesson: Lesson): Relations {
  const { areas, things, mixes, tubes, steps, marks, support, overlapMm } = lesson;
  const key = [areas, things, mixes, tubes, steps, marks, support, overlapMm];
  const known = kept.find((one) => one.key.every((part, i) => part === key[i]));
  if (known) return known.found;
  const found = workOut(lesson);
  kept.unshift({ key, found });
  kept.length = Math.min(kept.length, 3);
  return found;
}
const kept: { key: unknown[]; found: Relations }[] = [];

function workOut(lesson: Lesson): Relations {
  const borders = bordersBetween(lesson);
  const seen = new Set(visibleOf(lesson).flatMap((part) => (part.areaCm2 > 0 ? [part.id] : [])));
  const areas = lesson.areas.filter((area) => seen.has(area.id));
  const targets = new Map(areas.map((area) => [area.id, targetOf(lesson, area)]));
  const now = new Map<string, Lab | null>(areas.map((area) => [area.id, null]));
  const after: Relations['after'] = new Map();
  const due = new Map<string, Step>();
  const changes: RelationChange[] = [];
  const isTurned = (one: string, other: string): { turned: boolean; isL: number; shouldL: number } | null => {
    const [a, b, wantA, wantB] = [now.get(one), now.get(other), targets.get(one), targets.get(other)];
    if (!a || !b || !wantA || !wantB) return null;
    const [isL, shouldL] = [a[0] - b[0], wantA[0] - wantB[0]];
    if (Math.abs(shouldL) < SEEN_L) return null;
    return { turned: isL * Math.sign(shouldL) < -SEEN_L / 2, isL, shouldL };
  };
  for (const step of lesson.steps) {
    if (laysPaint(step) && step.mixIds.length > 0) {
      const worked = areasWorkedOn(lesson, step).filter((id) => now.has(id));
      const pairs = worked.flatMap((id) =>
        [...(borders.get(id) ?? [])].flatMap(([other, mm]) => (mm >= SHARED_MM && now.has(other) ? [[id, other] as const] : [])),
      );
      const before = pairs.map(([one, other]) => isTurned(one, other));
      for (const id of worked) {
        now.set(id, colourAfter(lesson, step, now.get(id) ?? null));
        if (coverOf(lesson, step) >= GOOD_PART && !step.wholeCanvas) due.set(id, step);
      }
      const told = new Set<string>();
      pairs.forEach(([one, other], i) => {
        const key = [one, other].sort().join();
        const is = isTurned(one, other);
        if (!is || told.has(key) || step.wholeCanvas) return;
        const was = before[i]?.turned ?? false;
        if (is.turned === was) return;
        told.add(key);
        const { isL, shouldL } = is;
        changes.push({ stepId: step.id, kind: is.turned ? 'breaks' : 'repairs', areaId: one, neighbourId: other, isL, shouldL });
      });
    }
    after.set(step.id, new Map(now));
  }
  return {
    changes,
    after,
    areas: areas.map(({ id }): AreaDue => {
      const [target, last, step] = [targets.get(id) ?? null, now.get(id) ?? null, due.get(id)];
      return {
        areaId: id,
        target,
        dueStepId: step?.id ?? null,
        dueStageId: step?.stageId ?? null,
        last,
        offL: target && last ? last[0] - target[0] : null,
      };
    }),
  };
}

/** What was set for the area; otherwise the mean of the targets of the mixes that are for it. */
function targetOf(lesson: Lesson, area: Lesson['areas'][number]): Lab | null {
  if (area.targetLab) return area.targetLab;
  const own = lesson.mixes.flatMap((mix) => (mix.areaId === area.id && mix.targetLab ? [mix.targetLab] : []));
  if (own.length === 0) return null;
  return [0, 1, 2].map((c) => own.reduce((sum, lab) => sum + (lab[c] as number), 0) / own.length) as Lab;
}

/** Mean difference (ΔE00) of all areas from what they should be after a step, weighed by their areas; null while one is bare. */
export function offAfter(lesson: Lesson, relations: Relations, stepId: string): number | null {
  const areas = new Map(visibleOf(lesson).map((part) => [part.id, part.areaCm2]));
  const state = relations.after.get(stepId);
  let [sum, all] = [0, 0];
  for (const { areaId, target } of relations.areas) {
    const is = state?.get(areaId);
    if (!is) return null;
    if (!target) continue;
    const area = areas.get(areaId) ?? 0;
    sum += area * deltaE00(is, target);
    all += area;
  }
  return all > 0 ? sum / all : null;
}
