import {
  commandErrors,
  type Lesson,
  letters,
  type Mark,
  type Sample,
  type Stage,
  type Step,
  type Variant,
} from '@viaticum/contract';
import { between, CommandError, type D, find, insert, named, take } from './command-tools.js';
import { soundMark } from './marks.js';
import { paintCommands } from './paint-commands.js';
import { pictureCommands } from './picture-commands.js';
import { fittingStep, letGo } from './references.js';

/** Keeps the steps of a stage together after one was put elsewhere. */
const at = (lesson: D, id: string): number => {
  find(lesson.steps, id, 'step');
  return lesson.steps.findIndex((step) => step.id === id);
};

const sentences = (text: string): string[] => text.match(/[^.!?\n]+[.!?]*\s*|\n+/g) ?? [];
/** A text parted after the sentence in its middle; the first part keeps the blank that parts them, so that {@link joined} makes it whole again. */
function inTwo(text: string): [string, string] {
  const parts = sentences(text);
  const half = Math.ceil(parts.length / 2);
  return [parts.slice(0, half).join(''), parts.slice(half).join('')];
}
const joined = (one: string, other: string): string =>
  /\s$/.test(one) ? `${one}${other}` : [one, other].filter(Boolean).join('\n');
const both = <T>(one: readonly T[], other: readonly T[]): T[] => [...new Set([...one, ...other])];
const sum = (one: number | undefined, other: number | undefined): number | undefined =>
  one === undefined && other === undefined ? undefined : (one ?? 0) + (other ?? 0);

/** Marks, samples, variants, and the ways in which whole steps are cut, joined and copied. */
export const teachCommands = {
  addMark: (lesson: D, { mark, stepId }: { mark: Mark; stepId?: string }) => {
    insert(lesson.marks, soundMark(lesson, mark), 'mark');
    if (stepId) find(lesson.steps, stepId, 'step').markIds.push(mark.id);
  },
  editMark: (
    lesson: D,
    { id, mark, clear }: { id: string; mark: Partial<Mark>; clear?: ('directionDeg' | 'round' | 'tool' | 'along')[] },
  ) => {
    const found = find(lesson.marks, id, 'mark');
    const next = soundMark(lesson, { ...found, ...mark, id } as Mark);
    Object.assign(found, next);
    for (const field of clear ?? []) delete found[field];
  },
  removeMark: (lesson: D, { id }: { id: string }) => {
    take(lesson.marks, id, 'mark');
    letGo(lesson, 'marks', id);
  },
  /**
   * One step becomes two: the words are parted after a sentence, areas where there are several, minutes by half. The second half of a
   * blend goes on into the wet paint of the first.
   */
  splitStep: (lesson: D, { id, newId }: { id: string; newId: string }) => {
    const step = find(lesson.steps, id, 'step');
    const second: Step = JSON.parse(JSON.stringify({ ...step, id: newId, title: `${step.title.slice(0, 110)}, 2` }));
    [step.say, second.say] = inTwo(step.say);
    if (step.areaIds.length > 1) {
      const half = Math.ceil(step.areaIds.length / 2);
      second.areaIds = step.areaIds.slice(half);
      step.areaIds = step.areaIds.slice(0, half);
    } else if (step.technique === 'blend') {
      second.needs = 'wet';
      second.partByPart = true;
    }
    for (const field of ['showMin', 'doMin'] as const) {
      const minutes = step[field];
      if (minutes === undefined) continue;
      step[field] = Math.ceil(minutes) / 2;
      second[field] = minutes - Math.ceil(minutes) / 2;
    }
    // What is counted is counted once: with the first; a photograph shows the end, which is the second's.
    second.markIds = [];
    delete step.photoSha256;
    insert(lesson.steps, second, 'step', at(lesson, id) + 1);
  },
  /** Joins steps into the first of them: areas, mixes, marks and words together, minutes added. */
  joinSteps: (lesson: D, { ids }: { ids: string[] }) => {
    const chosen = lesson.steps.filter((step) => ids.includes(step.id));
    const [first, ...rest] = chosen;
    if (!first || rest.length === 0) throw new CommandError(commandErrors.oneStepToJoin);
    if (rest.some((step) => step.kind !== first.kind)) throw new CommandError(commandErrors.kindsToJoin);
    for (const step of rest) {
      first.areaIds = both(first.areaIds, step.areaIds);
      if (step.wholeCanvas) first.wholeCanvas = true;
      if (first.wholeCanvas) first.areaIds = [];
      first.mixIds = both(first.mixIds, step.mixIds);
      first.markIds = both(first.markIds, step.markIds);
      for (const field of ['say', 'watch', 'checkpoint', 'finish'] as const)
        if (!first[field].includes(step[field])) first[field] = joined(first[field], step[field]).slice(0, letters.words);
      for (const field of ['showMin', 'doMin'] as const) {
        const minutes = sum(first[field], step[field]);
        if (minutes !== undefined) first[field] = Math.min(600, minutes);
      }
      if (step.photoSha256) first.photoSha256 = step.photoSha256;
      take(lesson.steps, step.id, 'step');
      letGo(lesson, 'steps', step.id, [first.id]);
    }
  },
  /** Copies steps; the copies stand together after the last of them. */
  copySteps: (lesson: D, { ids, newIds }: { ids: string[]; newIds: string[] }) => {
    const chosen = lesson.steps.filter((step) => ids.includes(step.id));
    const last = chosen.at(-1);
    if (!last || newIds.length < chosen.length) throw new CommandError(commandErrors.noStepToCopy);
    const copies = chosen.map(
      (step, i): Step => ({
        ...(JSON.parse(JSON.stringify(step)) as Step),
        id: newIds[i] as string,
        stageId: last.stageId,
      }),
    );
    const to = at(lesson, last.id) + 1;
    for (const [i, copy] of copies.entries()) insert(lesson.steps, copy, 'step', to + i);
  },
  /** Moves steps together by so many places, over the borders of stages; where one would fall off, none moves. */
  moveSteps: (lesson: D, { ids, by }: { ids: string[]; by: 1 | -1 }) => {
    const chosen = new Set(ids);
    const places = lesson.steps.flatMap((step, i) => (chosen.has(step.id) ? [i] : []));
    const [first, last] = [places[0], places.at(-1)];
    if (first === undefined || last === undefined) throw new CommandError(commandErrors.noStepToMove);
    const over = by < 0 ? first - 1 : last + 1;
    const moving = lesson.steps.filter((step) => chosen.has(step.id));
    const edge = by < 0 ? lesson.steps[first] : lesson.steps[last];
    const beyond = lesson.steps[over];
    const stages = lesson.stages.map((stage) => stage.id);
    const stageId = edge?.stageId ?? '';
    if (!beyond || beyond.stageId !== stageId) {
      // At the rim of a stage the steps change into the next one before they change places.
      const next = stages[stages.indexOf(stageId) + by];
      if (next === undefined) return;
      for (const step of moving) step.stageId = next;
    } else for (const step of moving) step.stageId = beyond.stageId;
    const crossed = beyond && beyond.stageId === stageId ? beyond.id : null;
    const rest = lesson.steps.filter((step) => !chosen.has(step.id));
    let to = rest.filter((step) => lesson.steps.indexOf(step) < first).length;
    if (crossed) to += by;
    rest.splice(Math.max(0, to), 0, ...moving);
    const rank = new Map(stages.map((id, i) => [id, i]));
    lesson.steps = rest
      .map((step, i) => ({ step, i }))
      .sort((a, b) => (rank.get(a.step.stageId) ?? 0) - (rank.get(b.step.stageId) ?? 0) || a.i - b.i)
      .map(({ step }) => step);
  },
  /** Steps that were kept, or come from another lesson, put in after a step; with stage names they bring their stages. */
  insertSteps: (lesson: D, { steps, afterId, stage }: { steps: Step[]; afterId: string | null; stage?: Stage }) => {
    if (steps.length === 0) throw new CommandError(commandErrors.noStepToPutIn);
    if (stage) insert(lesson.stages, { ...stage, name: named(stage.name, 'stage') }, 'stage');
    const after = afterId === null ? undefined : find(lesson.steps, afterId, 'step');
    const stageId = stage?.id ?? after?.stageId ?? lesson.stages.at(-1)?.id;
    if (!stageId) throw new CommandError(commandErrors.noStage);
    let to = after && !stage ? at(lesson, after.id) + 1 : lesson.steps.length;
    for (const step of steps) {
      const fitting = fittingStep(lesson as Lesson, step);
      insert(lesson.steps, { ...fitting, stageId, title: named(step.title, 'step') }, 'step', to++);
    }
  },
  /** Makes a lesson simpler in one go: steps left out, areas and mixes joined, other brushes. */
  simplify: (
    lesson: D,
    {
      merge,
      join,
      remove,
      brushes,
    }: {
      merge: { id: string; into: string }[];
      join: { keep: string; drop: string }[];
      remove: string[];
      brushes: { id: string; brushId: string }[];
    },
  ) => {
    for (const id of remove) {
      take(lesson.steps, id, 'step');
      letGo(lesson, 'steps', id);
    }
    for (const pair of merge) pictureCommands.mergeAreas(lesson, pair);
    for (const pair of join) paintCommands.joinMixes(lesson, pair);
    for (const { id, brushId } of brushes) find(lesson.steps, id, 'step').brushId = brushId;
  },
  setHanded: (lesson: D, { handed }: { handed: 'right' | 'left' }) => {
    lesson.handed = handed;
  },
  addSample: (lesson: D, { sample }: { sample: Sample }) => {
    find(lesson.steps, sample.afterStepId, 'step');
    insert(lesson.samples, { ...sample, name: named(sample.name, 'sample') }, 'sample');
  },
  removeSample: (lesson: D, { id }: { id: string }) => {
    take(lesson.samples, id, 'sample');
  },
  setVariant: (lesson: D, { variant }: { variant: Variant }) => {
    const sound = { ...variant, name: named(variant.name, 'variant') };
    if (sound.support) {
      const { widthMm, heightMm } = sound.support;
      for (const mm of [widthMm, heightMm]) between(mm, 10, 5000, commandErrors.canvasOutOfRange);
    }
    const place = lesson.variants.findIndex((one) => one.id === variant.id);
    if (place < 0) insert(lesson.variants, sound, 'variant');
    else lesson.variants[place] = sound;
  },
  removeVariant: (lesson: D, { id }: { id: string }) => {
    take(lesson.variants, id, 'variant');
    letGo(lesson, 'variants', id);
  },
};
