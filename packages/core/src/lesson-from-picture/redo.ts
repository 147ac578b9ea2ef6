import type { Lab, Lesson, Mix } from '@viaticum/contract';
import { deltaE00 } from '@viaticum/kernels/colour';
import type { Rgba } from '@viaticum/kernels/raster';
import { droppedAreas } from '../document/index.js';
import { type CarriedSteps, carried, draftInTime } from '../draft/index.js';
import { planLesson } from '../plan/index.js';
import { type Begun, type InsideOptions, inside } from './inside.js';

/** What becomes of a lesson when its areas are others: mixes and steps that stay, change, come and go, and its length before and after. */
export type Redone = {
  lesson: Lesson;
  mixes: { kept: Mix[]; changed: { from: Mix; to: Mix }[]; fresh: Mix[]; gone: Mix[] };
  steps: CarriedSteps;
  minutes: { before: number; after: number };
};

/**
 * A lesson carried along with its areas: `fresh` is the lesson `old` with other areas in place. Mixes that are still right stay with
 * their recipes, others change or go; steps are drafted anew, and what the instructor wrote in those that stood before stays. Nothing
 * of it is taken by itself.
 */
export function* redoLesson(
  old: Lesson,
  fresh: Lesson,
  picture: Rgba,
  ids: () => string,
  options: InsideOptions = {},
): Generator<Begun, Redone> {
  // What is dropped is neither looked at nor painted; it stays where it is in the list, to come back.
  const dropped = new Set(droppedAreas(fresh));
  const looked = yield* inside({ ...fresh, areas: fresh.areas.filter((area) => !dropped.has(area)) }, picture, ids, options);
  const { hints } = looked;
  const known = new Map(looked.ready.areas.map((area) => [area.id, area]));
  const ready = { ...looked.ready, areas: fresh.areas.map((area) => known.get(area.id) ?? area) };
  const { mixes, renamed } = matchedMixes(old, ready);
  const named = (id: string) => renamed.get(id) ?? id;
  const shares = new Map(
    [...(hints.shares ?? [])].map(([areaId, list]) => [areaId, list.map((one) => ({ ...one, mixId: named(one.mixId) }))]),
  );
  yield { share: 0.92, doing: 'steps' };
  const start: Lesson = {
    ...ready,
    mixes: [...mixes.kept, ...mixes.changed.map(({ to }) => to), ...mixes.fresh],
    stages: [],
    steps: [],
    passages: [],
    leftOut: [],
  };
  const { lesson, steps } = carried(old, draftInTime(start, ids, { ...hints, shares }));
  const end = (one: Lesson) => planLesson(one).plan.endMin;
  return { lesson, mixes, steps, minutes: { before: end(old), after: end(lesson) } };
}

/** A mix nearer than this (ΔE00) to what is wanted stays; one nearer than the second is changed to it. */
const STAYS = 3;
const CHANGES = 8;

/** The mixes of a lesson that serve what is wanted now, and by what ids the wanted ones go. */
function matchedMixes(old: Lesson, { mixes: wanted }: Lesson): { mixes: Redone['mixes']; renamed: Map<string, string> } {
  const mixes: Redone['mixes'] = { kept: [], changed: [], fresh: [], gone: [] };
  const renamed = new Map<string, string>();
  const left = new Set(old.mixes);
  const pairs = wanted
    .flatMap((to) => old.mixes.map((from) => ({ to, from, off: apart(from, to) })))
    .filter((pair) => pair.off <= CHANGES)
    .sort((a, b) => a.off - b.off);
  const places = ({ areaId, alsoAreaIds }: Mix) => ({ ...(areaId ? { areaId } : {}), ...(alsoAreaIds ? { alsoAreaIds } : {}) });
  for (const { to, from, off } of pairs) {
    if (!left.has(from) || renamed.has(to.id)) continue;
    left.delete(from);
    renamed.set(to.id, from.id);
    const { areaId: _, alsoAreaIds: __, ...own } = from;
    if (off <= STAYS) mixes.kept.push({ ...own, ...places(to) });
    else mixes.changed.push({ from, to: { ...to, id: from.id } });
  }
  mixes.fresh = wanted.filter((mix) => !renamed.has(mix.id));
  // What a person made for itself, or something else is made of, stays.
  const needed = new Set([
    ...old.support.groundCoats.map((coat) => coat.mixId),
    ...old.mixes.flatMap((mix) => mix.mixedFrom?.map((part) => part.mixId) ?? []),
  ]);
  for (const mix of left) {
    if (mix.areaId === undefined || needed.has(mix.id)) mixes.kept.push(mix);
    else mixes.gone.push(mix);
  }
  return { mixes, renamed };
}

const apart = (one: Mix, other: Mix): number =>
  one.targetLab && other.targetLab ? deltaE00(one.targetLab as Lab, other.targetLab as Lab) : Number.POSITIVE_INFINITY;
