import {
  type Area,
  commandErrors,
  type Lesson,
  type Mark,
  type Method,
  type Mix,
  type Passage,
  type School,
  type Stage,
  type Step,
  type Support,
  say,
  type Tube,
  worded,
} from '@viaticum/contract';
import equal from 'fast-deep-equal';
import { current } from 'immer';
import { between, CommandError, type D, find, insert, move, named, setOrClear, take } from './command-tools.js';
import { drawCommands } from './draw-commands.js';
import { filmCommands } from './film-commands.js';
import { pinsAmong } from './kept.js';
import { kitCommands } from './kit-commands.js';
import { logCommands } from './log-commands.js';
import { paintCommands } from './paint-commands.js';
import { pictureCommands } from './picture-commands.js';
import { planCommands } from './plan-commands.js';
import { heldBy, letGo, letGoOfMissing } from './references.js';
import { teachCommands } from './teach-commands.js';

export { CommandError };

function soundSize(widthMm: number, heightMm: number): void {
  for (const mm of [widthMm, heightMm]) between(mm, 10, 5000, commandErrors.canvasOutOfRange);
}

function soundStep(lesson: D, step: Partial<Step>): void {
  for (const minutes of [step.showMin, step.doMin]) {
    if (minutes !== undefined) between(minutes, 0, 600, commandErrors.minutesOutOfRange);
  }
  if (step.mistEveryMin !== undefined) between(step.mistEveryMin, 0.5, 120, commandErrors.mistOutOfRange);
  if (step.waterShareOfMix !== undefined) between(step.waterShareOfMix, 0, 0.95, commandErrors.waterOutOfRange);
  if (step.coverShare !== undefined && !(step.coverShare > 0 && step.coverShare <= 1)) {
    throw new CommandError(commandErrors.coverOutOfRange);
  }
  for (const id of step.areaIds ?? []) find(lesson.areas, id, 'area');
  for (const id of step.mixIds ?? []) find(lesson.mixes, id, 'mix');
  for (const id of step.markIds ?? []) find(lesson.marks, id, 'mark');
  if (step.stageId !== undefined) find(lesson.stages, step.stageId, 'stage');
}

/** A draft as it takes the place of stages and steps. */
type TakenDraft = {
  stages: Stage[];
  steps: Step[];
  passages?: Passage[];
  leftOut?: Lesson['leftOut'];
  cutsBefore?: string[];
};

/** A step is done on areas, or on the whole canvas: where both are said, the areas count. */
function atOnePlace(step: Step): Step {
  const { wholeCanvas, ...rest } = step;
  return wholeCanvas && step.areaIds.length === 0 ? { ...rest, wholeCanvas } : rest;
}

/** Puts the steps of one stage together, in the order of the stages. */
function groupByStage(lesson: D): void {
  const rank = new Map(lesson.stages.map((stage, i) => [stage.id, i]));
  lesson.steps = lesson.steps
    .map((step, i) => ({ step, i, rank: rank.get(step.stageId) ?? 0 }))
    .sort((a, b) => a.rank - b.rank || a.i - b.i)
    .map(({ step }) => step);
}

/**
 * Every way in which a person may change a lesson. Each works on an immer draft and throws a {@link CommandError} with a
 * sentence where it cannot be done; then nothing has changed.
 */
export const commands = {
  setTitle: (lesson: D, { title }: { title: string }) => {
    lesson.title = named(title, 'lesson');
  },
  /** Another version of this very lesson in place of this one; what is the same in both is left as it is. */
  takeVersion: (lesson: D, { version }: { version: Lesson }) => {
    const [fields, next] = [lesson as unknown as Record<string, unknown>, version as unknown as Record<string, unknown>];
    for (const key of new Set([...Object.keys(fields), ...Object.keys(next)])) {
      if (!(key in next)) delete fields[key];
      else if (!equal(fields[key], next[key])) fields[key] = next[key];
    }
  },
  setLevel: (lesson: D, { level }: { level: Lesson['level'] }) => {
    lesson.level = level;
  },
  setUnits: (lesson: D, { units }: { units: Lesson['units'] }) => {
    lesson.units = units;
  },
  setSchool: (lesson: D, { school }: { school: Partial<School> }) => {
    Object.assign(lesson.school, school);
  },
  /** The instructor's own way of drafting; null: as the school has it. */
  setMethod: (lesson: D, { method }: { method: Method | null }) => {
    if (method) named(method.name, 'method');
    setOrClear<Lesson, 'method'>(lesson as Lesson, 'method', method);
  },
  setSupport: (lesson: D, { support }: { support: Partial<Support> }) => {
    const next = { ...lesson.support, ...support } as Support;
    soundSize(next.widthMm, next.heightMm);
    lesson.support = next;
  },
  ...pictureCommands,
  ...paintCommands,
  ...planCommands,
  ...teachCommands,
  ...drawCommands,
  ...kitCommands,
  ...logCommands,
  ...filmCommands,
  addStage: (lesson: D, { stage, at }: { stage: Stage; at?: number }) => {
    insert(lesson.stages, { ...stage, name: named(stage.name, 'stage') }, 'stage', at);
  },
  renameStage: (lesson: D, { id, name }: { id: string; name: string }) => {
    find(lesson.stages, id, 'stage').name = named(name, 'stage');
  },
  moveStage: (lesson: D, { id, to }: { id: string; to: number }) => {
    move(lesson.stages, id, to, 'stage');
    groupByStage(lesson);
  },
  removeStage: (lesson: D, { id }: { id: string }) => {
    if (heldBy(lesson, 'stages', id) !== null) {
      throw new CommandError(commandErrors.stageHasSteps);
    }
    if (lesson.stages.length === 1) throw new CommandError(commandErrors.onlyStage);
    take(lesson.stages, id, 'stage');
    letGo(lesson, 'stages', id);
  },
  addStep: (lesson: D, { step, at }: { step: Step; at?: number }) => {
    soundStep(lesson, step);
    insert(lesson.steps, { ...atOnePlace(step), title: named(step.title, 'step') }, 'step', beforeLastLook(lesson, step, at));
    groupByStage(lesson);
  },
  editStep: (lesson: D, { id, step, clear }: { id: string; step: Partial<Omit<Step, 'id'>>; clear?: ClearableStepField[] }) => {
    const found = find(lesson.steps, id, 'step');
    soundStep(lesson, step);
    Object.assign(found, step, step.title === undefined ? {} : { title: named(step.title, 'step') });
    for (const field of clear ?? []) delete found[field];
    if (step.areaIds?.length) delete found.wholeCanvas;
    else if (step.wholeCanvas) found.areaIds = [];
    if (step.stageId !== undefined) groupByStage(lesson);
  },
  moveStep: (lesson: D, { id, to }: { id: string; to: number }) => {
    const goal = lesson.steps[Math.max(0, Math.min(lesson.steps.length - 1, to))];
    move(lesson.steps, id, to, 'step');
    if (goal) find(lesson.steps, id, 'step').stageId = goal.stageId;
    groupByStage(lesson);
  },
  /** Puts all steps into another order; each place keeps the stage that it had. */
  orderSteps: (lesson: D, { ids }: { ids: string[] }) => {
    const places = lesson.steps.map((step) => step.stageId);
    if (ids.length !== lesson.steps.length || new Set(ids).size !== ids.length)
      throw new CommandError(commandErrors.orderOutdated);
    lesson.steps = ids.map((id, place) => Object.assign(find(lesson.steps, id, 'step'), { stageId: places[place] as string }));
  },
  /** Puts a draft in place of all stages and steps; what was pinned goes with them, and what had been left out before. */
  takeDraft: (lesson: D, { stages, steps, passages = [], leftOut = [], cutsBefore = [] }: TakenDraft) => {
    if (stages.length === 0) throw new CommandError(commandErrors.draftWithoutStage);
    const wet = new Set(passages.map((one) => one.id));
    const known = new Set(stages.map((stage) => stage.id));
    for (const step of steps) {
      if (!known.has(step.stageId)) throw new CommandError(commandErrors.draftStepWithoutStage);
      const { stageId: _, ...rest } = step;
      soundStep(lesson, rest);
    }
    const stays = new Set([...steps, ...stages].map((one) => one.id));
    const gone = lesson.steps.filter((step) => !stays.has(step.id));
    const goneStages = lesson.stages.filter((stage) => !stays.has(stage.id));
    lesson.stages = stages.map((stage) => ({ ...stage }));
    lesson.passages = passages.map((one) => structuredClone(one)) as D['passages'];
    lesson.steps = steps
      .map(atOnePlace)
      .map(({ passageId, ...step }) =>
        passageId !== undefined && wet.has(passageId) ? { ...step, passageId } : step,
      ) as D['steps'];
    lesson.planning.pins = [];
    delete lesson.planning.cutsBefore;
    if (cutsBefore.length > 0) lesson.planning.cutsBefore = cutsBefore.filter((id) => steps.some((step) => step.id === id));
    lesson.leftOut = structuredClone(leftOut) as D['leftOut'];
    for (const { id } of gone) letGo(lesson, 'steps', id);
    for (const { id } of goneStages) letGo(lesson, 'stages', id);
    letGoOfMissing(lesson, 'leftOut.');
  },
  /** Other areas, and the mixes and steps that follow from them, in one act; pins of steps that stay stay too. */
  takeRedone: (
    lesson: D,
    {
      areas,
      heirs,
      lines,
      subjectAreaId,
      tubes,
      mixes,
      draft,
    }: {
      areas: Area[];
      heirs: Record<string, string[]>;
      lines?: Mark[];
      subjectAreaId: string | null;
      tubes: Tube[];
      mixes: Mix[];
      draft: TakenDraft;
    },
  ) => {
    commands.replaceAreas(lesson, { areas, heirs, ...(lines ? { lines } : {}) });
    setOrClear(lesson, 'subjectAreaId', subjectAreaId);
    const stays = new Set(mixes.map((mix) => mix.id));
    const gone = lesson.mixes.filter((mix) => !stays.has(mix.id));
    lesson.tubes = structuredClone(tubes) as D['tubes'];
    lesson.mixes = structuredClone(mixes) as D['mixes'];
    const pins = structuredClone(current(lesson.planning.pins));
    commands.takeDraft(lesson, draft);
    for (const { id } of gone) letGo(lesson, 'mixes', id);
    const known = new Set(lesson.steps.map((step) => step.id));
    lesson.planning.pins = pinsAmong(pins, (id) => known.has(id)) as D['planning']['pins'];
    letGoOfMissing(lesson);
  },
  /** Takes several steps out of the lesson at once; they are kept, each with the place it had. */
  leaveOut: (lesson: D, { ids }: { ids: string[] }) => {
    const steps = ids.map((id) => find(lesson.steps, id, 'step'));
    const kept = lesson.steps.filter((step) => steps.includes(step)).map((step) => copied(step as Step));
    const afters = new Map(kept.map((step) => [step.id, stepBefore(lesson, step.id, ids)]));
    for (const id of ids) commands.removeStep(lesson, { id });
    lesson.leftOut = lesson.leftOut.filter(({ step }) => !ids.includes(step.id));
    for (const step of kept) {
      const afterId = afters.get(step.id);
      lesson.leftOut.push({ step: step as D['steps'][number], ...(afterId ? { afterId } : {}) });
    }
    letGoOfMissing(lesson, 'leftOut.');
  },
  /** Puts what was left out back where it stood. */
  bringBack: (lesson: D, { ids }: { ids: readonly string[] }) => {
    // Neighbours that were left out together come back in their order.
    const chosen = lesson.leftOut.filter(({ step }) => ids.includes(step.id));
    if (chosen.length === 0) throw new CommandError(commandErrors.notLeftOut);
    lesson.leftOut = lesson.leftOut.filter((one) => !chosen.includes(one));
    for (const { step, afterId } of [...chosen].reverse()) {
      const after = lesson.steps.findIndex((one) => one.id === afterId);
      const ends = lesson.steps.map((one) => one.stageId).lastIndexOf(step.stageId);
      const at = (after >= 0 ? after : ends) + 1;
      insert(lesson.steps, step, 'step', beforeLastLook(lesson, step as Step, at));
    }
    groupByStage(lesson);
  },
  /** Makes a lesson as long as it is wanted: what comes back, other fields and another order of its steps, what is painted as one, and what goes. */
  fitToLength: (
    lesson: D,
    {
      minutes,
      leaveOut,
      bringBack,
      edits = [],
      order = null,
      passages = [],
    }: {
      minutes: number;
      leaveOut: readonly string[];
      bringBack: readonly string[];
      edits?: readonly { id: string; step: Partial<Omit<Step, 'id'>> }[];
      order?: string[] | null;
      passages?: readonly { passage: Passage; step: Step; instead: readonly string[] }[];
    },
  ) => {
    commands.setWanted(lesson, { minutes });
    if (bringBack.length > 0) commands.bringBack(lesson, { ids: bringBack });
    for (const edit of edits) commands.editStep(lesson, edit);
    if (order) commands.orderSteps(lesson, { ids: order });
    for (const passage of passages) commands.makePassage(lesson, passage);
    commands.leaveOut(lesson, { ids: [...leaveOut] });
  },
  /** Takes several steps away for good. */
  removeSteps: (lesson: D, { ids }: { ids: readonly string[] }) => {
    for (const id of ids) commands.removeStep(lesson, { id });
  },
  /** Lets go for good of what was left out. */
  forgetLeftOut: (lesson: D, { ids }: { ids: readonly string[] }) => {
    lesson.leftOut = lesson.leftOut.filter(({ step }) => !ids.includes(step.id));
  },
  /** How long the lesson is wanted; null: as long as is usual for its students. */
  setWanted: (lesson: D, { minutes }: { minutes: number | null }) => {
    if (minutes !== null) between(minutes, 10, 10_000, commandErrors.wantedOutOfRange);
    setOrClear<Lesson, 'wantedMin'>(lesson as Lesson, 'wantedMin', minutes);
  },
  /** What is asked before anything more is painted; none: what follows from the picture. */
  setStopTest: (lesson: D, { questions }: { questions: readonly string[] }) => {
    const asked = questions.map((one) => one.trim()).filter((one) => one !== '');
    setOrClear<Lesson, 'stopTest'>(lesson as Lesson, 'stopTest', asked.length > 0 ? asked : null);
  },
  /**
   * Lays what a step lays so often, each coat a step of its own after it; `ids` name those that are new. Other steps may stand between
   * them.
   */
  setCoats: (lesson: D, { id, coats, ids }: { id: string; coats: number; ids: readonly string[] }) => {
    const step = find(lesson.steps, id, 'step');
    between(coats, 1, 8, commandErrors.coatsOutOfRange);
    if (step.coatOf !== undefined || step.passageId !== undefined) throw new CommandError(commandErrors.coatsOfCoat);
    const further = lesson.steps.filter((one) => one.coatOf === id);
    for (const gone of further.slice(coats - 1)) commands.removeStep(lesson, { id: gone.id });
    const kept = further.slice(0, coats - 1);
    const { doMin: _, showMin: __, role: ___, ...rest } = copied(step as Step);
    for (const own of ids.slice(0, Math.max(0, coats - 1 - kept.length))) {
      const after = kept.at(-1) ?? step;
      const k = kept.length;
      const made: Step = { ...rest, id: own, title: coatTitle(step.title, k + 2), coatOf: id, markIds: [...step.markIds] };
      insert(lesson.steps, made, 'step', lesson.steps.findIndex((one) => one.id === after.id) + 1);
      kept.push(find(lesson.steps, own, 'step'));
    }
  },
  removeStep: (lesson: D, { id }: { id: string }) => {
    const { passageId } = take(lesson.steps, id, 'step');
    letGo(lesson, 'steps', id);
    const isLeft = lesson.steps.some((step) => step.passageId === passageId);
    if (passageId !== undefined && !isLeft) lesson.passages = lesson.passages.filter((one) => one.id !== passageId);
  },
  /** Paints several areas as one wet coat: one step in place of those that paint them now. */
  makePassage: (lesson: D, { passage, step, instead }: { passage: Passage; step: Step; instead: readonly string[] }) => {
    for (const id of passage.areaIds) find(lesson.areas, id, 'area');
    for (const { mixId, areaId } of passage.places) {
      find(lesson.mixes, mixId, 'mix');
      find(lesson.areas, areaId, 'area');
    }
    const { stageId, ...rest } = step;
    find(lesson.stages, stageId, 'stage');
    soundStep(lesson, rest);
    const at = Math.min(...instead.map((id) => lesson.steps.indexOf(find(lesson.steps, id, 'step'))), lesson.steps.length);
    insert(lesson.passages, { ...structuredClone(passage), name: named(passage.name, 'passage') }, 'passage');
    insert(lesson.steps, { ...atOnePlace(step), passageId: passage.id }, 'step', at);
    for (const id of instead) commands.removeStep(lesson, { id });
  },
  /** Where the colours of a passage lie, in which order they are laid, and how far they are softened. */
  setPassage: (
    lesson: D,
    { id, places, order, soften }: { id: string } & Partial<Pick<Passage, 'places' | 'order' | 'soften'>>,
  ) => {
    const passage = find(lesson.passages, id, 'passage');
    for (const { mixId, areaId } of places ?? []) {
      find(lesson.mixes, mixId, 'mix');
      if (!passage.areaIds.includes(areaId)) throw new CommandError(commandErrors.gone('area'));
    }
    if (order) passage.order = order;
    if (soften) passage.soften = soften;
    if (!places) return;
    passage.places = structuredClone(places) as D['passages'][number]['places'];
    const mixIds = [...new Set(places.map((place) => place.mixId))];
    for (const step of lesson.steps) if (step.passageId === id) step.mixIds = mixIds;
  },
  /** Paints the areas of a passage one by one again, each with its own mixes; `ids` name the steps after the first. */
  partPassage: (lesson: D, { id, ids }: { id: string; ids: readonly string[] }) => {
    const { areaIds, places } = find(lesson.passages, id, 'passage');
    const at = lesson.steps.findIndex((step) => step.passageId === id);
    const step = lesson.steps[at];
    lesson.passages = lesson.passages.filter((one) => one.id !== id);
    if (!step) return;
    const { passageId: _, doMin: __, ...whole } = step;
    const parts = areaIds.map((areaId, k): Step => {
      const own = places.filter((place) => place.areaId === areaId).map((place) => place.mixId);
      const name = find(lesson.areas, areaId, 'area').name;
      const title = named(`${name.charAt(0).toUpperCase()}${name.slice(1)}`, 'step');
      return {
        ...(JSON.parse(JSON.stringify(whole)) as Step),
        id: k === 0 ? step.id : (ids[k - 1] ?? `${step.id}${k}`),
        title,
        areaIds: [areaId],
        mixIds: own.length > 0 ? own : [...step.mixIds],
        markIds: k === 0 ? [...step.markIds] : [],
        technique: own.length > 1 ? 'blend' : 'block-in',
      };
    });
    lesson.steps.splice(at, 1);
    for (const [k, part] of parts.entries()) insert(lesson.steps, part, 'step', at + k);
    // A step that painted the passage once more paints its areas as any other does.
    for (const other of lesson.steps) if (other.passageId === id) delete other.passageId;
  },
  setAside: (lesson: D, { finding, why }: { finding: string; why: string | null }) => {
    lesson.setAside = lesson.setAside.filter((entry) => entry.finding !== finding);
    if (why !== null) lesson.setAside.push({ finding, why });
  },
};

const nth = worded([
  '',
  'first',
  'coat|second',
  'coat|third',
  'coat|fourth',
  'coat|fifth',
  'coat|sixth',
  'coat|seventh',
  'coat|eighth',
]);
/** "Tower, second coat". */
export const coatTitle = (title: string, k: number): string => say`${title.slice(0, 100)}, ${nth[k] ?? `${k}th`} coat`;

const copied = (step: Step): Step => JSON.parse(JSON.stringify(step)) as Step;

/** The step before one, of those that stay. */
function stepBefore(lesson: D, id: string, without: readonly string[]): string | undefined {
  const at = lesson.steps.findIndex((step) => step.id === id);
  return lesson.steps
    .slice(0, at)
    .filter((step) => !without.includes(step.id))
    .at(-1)?.id;
}

/** Where a step is put: paint goes before the last look and the signature, unless it is a correction after it. */
function beforeLastLook(lesson: D, step: Step, at = lesson.steps.length): number {
  const last = lesson.steps.findIndex((one) => one.role === 'last');
  return last >= 0 && step.kind === 'paint' && step.role !== 'after-sign' ? Math.min(at, last) : at;
}

export type ClearableStepField =
  | 'brushId'
  | 'technique'
  | 'medium'
  | 'waterShareOfMix'
  | 'coverShare'
  | 'side'
  | 'showMin'
  | 'doMin'
  | 'partByPart'
  | 'laying'
  | 'load'
  | 'loading'
  | 'ahead'
  | 'paint'
  | 'mistEveryMin'
  | 'underFilm'
  | 'dryer'
  | 'stroke'
  | 'repeat'
  | 'photoSha256'
  | 'mayBeLeftOut'
  | 'wholeCanvas';
export type CommandName = keyof typeof commands;
export type CommandArgs<N extends CommandName> = Parameters<(typeof commands)[N]>[1];
