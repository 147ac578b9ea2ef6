import type { Lab, Lesson, Mix, Step } from '@viaticum/contract';
import { deltaE00 } from '@viaticum/kernels/colour';
import { putBack } from '../draft/index.js';
import type { Redone } from './redo.js';

/**
 * The lesson as redone, but for what was refused (ids of mixes and steps that change, come or go): a change that is refused leaves what
 * stood, what is refused to come does not come (steps that want such a mix take the nearest one), and what is refused to go stays.
 */
export function withRefused(old: Lesson, { lesson, mixes, steps }: Redone, refused: ReadonlySet<string>): Lesson {
  const areas = new Set(lesson.areas.map((area) => area.id));
  const own = new Map(mixes.changed.flatMap(({ from }) => (refused.has(from.id) ? [[from.id, from] as const] : [])));
  const places = ({ areaId, alsoAreaIds }: Mix): Pick<Mix, 'areaId' | 'alsoAreaIds'> => {
    const also = alsoAreaIds?.filter((id) => areas.has(id)) ?? [];
    return { ...(areaId && areas.has(areaId) ? { areaId } : {}), ...(also.length > 0 ? { alsoAreaIds: also } : {}) };
  };
  const placed = (mix: Mix, at: Mix): Mix => {
    const { areaId: _, alsoAreaIds: __, ...rest } = mix;
    return { ...rest, ...places(at) };
  };
  const kept = lesson.mixes
    .filter((mix) => !(refused.has(mix.id) && mixes.fresh.some((one) => one.id === mix.id)))
    .map((mix) => (own.has(mix.id) ? placed(own.get(mix.id) as Mix, mix) : mix));
  const stays = mixes.gone.filter((mix) => refused.has(mix.id)).map((mix) => placed(mix, mix));
  const next = [...kept, ...stays];
  const known = new Set(next.map((mix) => mix.id));
  const instead = new Map(
    lesson.mixes.flatMap((mix) => {
      const near = known.has(mix.id) ? null : nearest(mix, next);
      return near ? [[mix.id, near.id] as const] : [];
    }),
  );
  const mixIds = (ids: readonly string[]): string[] => [
    ...new Set(ids.map((id) => instead.get(id) ?? id).filter((id) => known.has(id))),
  ];

  const changed = new Map(steps.changed.flatMap(({ from }) => (refused.has(from.id) ? [[from.id, from] as const] : [])));
  const fresh = new Set(steps.fresh.flatMap((step) => (refused.has(step.id) ? [step.id] : [])));
  const marks = new Set(lesson.marks.map((mark) => mark.id));
  const passages = new Set(lesson.passages.map((passage) => passage.id));
  const standing = (step: Step, at: Pick<Step, 'passageId' | 'coatOf'>): Step => {
    const { passageId: _, coatOf: __, ...rest } = step;
    return {
      ...rest,
      areaIds: rest.areaIds.filter((id) => areas.has(id)),
      markIds: rest.markIds.filter((id) => marks.has(id)),
      ...(at.passageId !== undefined && passages.has(at.passageId) ? { passageId: at.passageId } : {}),
      ...(at.coatOf === undefined ? {} : { coatOf: at.coatOf }),
    };
  };
  const list = lesson.steps
    .filter((step) => !fresh.has(step.id))
    .map((step): Step => {
      const before = changed.get(step.id);
      return before ? { ...standing(before, step), stageId: step.stageId } : step;
    });
  for (const [i, step] of old.steps.entries())
    if (refused.has(step.id) && steps.gone.some((one) => one.id === step.id)) {
      const { passageId: _, coatOf: __, ...rest } = step;
      putBack(list, old, standing(rest, {}), i, lesson.stages[0]?.id);
    }
  const ids = new Set(list.map((step) => step.id));
  const done = list.map((step): Step => {
    const { coatOf, ...rest } = { ...step, mixIds: mixIds(step.mixIds) };
    return { ...rest, ...(coatOf !== undefined && ids.has(coatOf) ? { coatOf } : {}) };
  });
  const used = new Set(done.flatMap((step) => step.passageId ?? []));
  const { cutsBefore, ...planning } = lesson.planning;
  return {
    ...lesson,
    mixes: next,
    steps: done,
    passages: lesson.passages
      .filter((passage) => used.has(passage.id))
      .map((passage) => ({
        ...passage,
        places: passage.places.map((place) => ({ ...place, mixId: instead.get(place.mixId) ?? place.mixId })),
      })),
    leftOut: lesson.leftOut.map(({ step, afterId }) => ({
      step: { ...step, mixIds: mixIds(step.mixIds) },
      ...(afterId !== undefined && ids.has(afterId) ? { afterId } : {}),
    })),
    planning: { ...planning, ...(cutsBefore ? { cutsBefore: cutsBefore.filter((id) => ids.has(id)) } : {}) },
  };
}

function nearest(mix: Mix, among: readonly Mix[]): Mix | null {
  const off = (one: Mix) =>
    one.targetLab && mix.targetLab ? deltaE00(one.targetLab as Lab, mix.targetLab as Lab) : Number.POSITIVE_INFINITY;
  return [...among].sort((one, other) => off(one) - off(other))[0] ?? null;
}
