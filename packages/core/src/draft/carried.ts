import type { Lesson, Step } from '@viaticum/contract';
import { keys, ownWords } from './difference.js';

/** Steps of a new draft beside those that stand: which stay as they are, which change, which are new, and which go. */
export type CarriedSteps = { kept: Step[]; changed: { from: Step; to: Step }[]; fresh: Step[]; gone: Step[] };

/**
 * A new draft in which the steps that stood before live on: matched by what they are about, they keep their id, the words that the instructor
 * wrote, the minutes that were typed and their photographs; steps that were made by hand stay after the one that they stood after.
 */
export function carried(old: Lesson, drafted: Lesson): { lesson: Lesson; steps: CarriedSteps } {
  const oldKey = keys();
  const standing = new Map(old.steps.map((step) => [oldKey(step), step]));
  const keyOf = keys();
  const found = new Map(drafted.steps.map((step) => [step.id, standing.get(keyOf(step))]));
  const heir = new Map([...found].flatMap(([id, own]) => (own ? [[id, own.id] as const] : [])));
  const named = (id: string) => heir.get(id) ?? id;
  const steps: CarriedSteps = { kept: [], changed: [], fresh: [], gone: [] };
  const next = drafted.steps.map((step): Step => {
    const own = found.get(step.id);
    const to: Step = {
      ...step,
      ...(own ? livesOn(old, own, step) : {}),
      id: named(step.id),
      ...(step.coatOf === undefined ? {} : { coatOf: named(step.coatOf) }),
    };
    if (!own) steps.fresh.push(to);
    else if (isSame(own, to)) steps.kept.push(own);
    else steps.changed.push({ from: own, to });
    return to;
  });
  const taken = new Set(next.map((step) => step.id));
  const areas = new Set(drafted.areas.map((area) => area.id));
  const mixes = new Set(drafted.mixes.map((mix) => mix.id));
  const stages = drafted.stages.map((stage) => stage.id);
  for (const [i, step] of old.steps.entries()) {
    if (taken.has(step.id)) continue;
    const isByHand = isOwnWork(old, step) && step.areaIds.every((id) => areas.has(id));
    if (!isByHand) {
      steps.gone.push(step);
      continue;
    }
    const { passageId: _, coatOf: __, ...rest } = step;
    putBack(next, old, { ...rest, mixIds: rest.mixIds.filter((id) => mixes.has(id)) }, i, stages[0]);
    taken.add(step.id);
    steps.kept.push(step);
  }
  const { planning } = drafted;
  return {
    steps,
    lesson: {
      ...drafted,
      steps: next,
      leftOut: drafted.leftOut.map(({ step, afterId }) => ({ step, ...(afterId ? { afterId: named(afterId) } : {}) })),
      planning: { ...planning, ...(planning.cutsBefore ? { cutsBefore: planning.cutsBefore.map(named) } : {}) },
    },
  };
}

/** Puts a step that stood at `at` of a lesson among others, after the nearest one before it that is still there. */
export function putBack(steps: Step[], old: Lesson, step: Step, at: number, firstStage: string | undefined): void {
  const before = old.steps
    .slice(0, at)
    .filter((one) => steps.some((other) => other.id === one.id))
    .at(-1);
  const place = before ? steps.findIndex((one) => one.id === before.id) + 1 : 0;
  const stageId = steps[Math.max(0, place - 1)]?.stageId ?? firstStage ?? step.stageId;
  steps.splice(place, 0, { ...step, stageId });
}

/** Whether a step of paint is one that no draft would have made: the instructor called it by a name of its own. */
const isOwnWork = (lesson: Lesson, step: Step): boolean =>
  (step.kind === 'paint' || step.kind === 'prepare') &&
  step.passageId === undefined &&
  step.coatOf === undefined &&
  step.markIds.length === 0 &&
  ownWords(lesson, step).includes('title');

/** What of a step outlives a new draft of it. */
function livesOn(lesson: Lesson, own: Step, drafted: Step): Partial<Step> {
  const words = Object.fromEntries(ownWords(lesson, own).map((field) => [field, own[field]]));
  return {
    ...words,
    ...(own.showMin === undefined ? {} : { showMin: own.showMin }),
    ...(own.doMin === undefined || drafted.doMin !== undefined ? {} : { doMin: own.doMin }),
    ...(own.photoSha256 === undefined ? {} : { photoSha256: own.photoSha256 }),
  };
}

const PLACE: ReadonlySet<string> = new Set(['id', 'stageId', 'coatOf', 'passageId']);
/** Whether two steps are the same, wherever they stand. */
const isSame = (one: Step, other: Step): boolean => {
  const plain = (step: Step) =>
    JSON.stringify(
      Object.entries(step)
        .filter(([key, value]) => !PLACE.has(key) && value !== undefined)
        .sort(([a], [b]) => a.localeCompare(b)),
    );
  return plain(one) === plain(other);
};
