import {
  commandErrors,
  type Finish,
  type Keeping,
  type Lab,
  type Mix,
  type MixedPart,
  type RecipePart,
  type Tube,
} from '@viaticum/contract';
import { partsOf } from '@viaticum/kernels/mixing';
import { pigmentOf } from '@viaticum/kernels/pigment';
import { calibrateTube } from '../mix/index.js';
import { between, CommandError, type D, find, insert, move, named, setOrClear, take } from './command-tools.js';
import { heldBy, letGo } from './references.js';

/** Does something whose sentence of refusal is meant for the instructor. */
function orRefuse(work: () => void): void {
  try {
    work();
  } catch (error) {
    throw new CommandError(commandErrors.impossible((error as Error).message));
  }
}

function soundAmounts(parts: readonly { parts: RecipePart['parts'] }[]): void {
  for (const part of parts) {
    if (typeof part.parts === 'number' && !Number.isInteger(part.parts)) throw new CommandError(commandErrors.partsNotWhole);
    orRefuse(() => partsOf(part.parts));
  }
}

function soundRecipe(lesson: D, recipe: RecipePart[]): RecipePart[] {
  const seen = new Set<string>();
  for (const part of recipe) {
    find(lesson.tubes, part.tubeId, 'tube');
    if (seen.has(part.tubeId)) throw new CommandError(commandErrors.tubeTwiceInRecipe);
    seen.add(part.tubeId);
  }
  soundAmounts(recipe);
  return recipe;
}

function soundMixedFrom(lesson: D, id: string, mixedFrom: MixedPart[]): MixedPart[] {
  if (new Set(mixedFrom.map((part) => part.mixId)).size !== mixedFrom.length)
    throw new CommandError(commandErrors.mixTwiceInRecipe);
  const reaches = (from: string): boolean =>
    from === id || (lesson.mixes.find((mix) => mix.id === from)?.mixedFrom ?? []).some((part) => reaches(part.mixId));
  for (const { mixId } of mixedFrom) {
    if (mixId === id) throw new CommandError(commandErrors.mixOfItself);
    const part = find(lesson.mixes, mixId, 'mix');
    if (reaches(mixId)) throw new CommandError(commandErrors.mixInCircle(part.name));
  }
  soundAmounts(mixedFrom);
  return mixedFrom;
}

const soundMix = (lesson: D, mix: Mix): Mix => ({
  ...mix,
  name: named(mix.name, 'mix'),
  recipe: soundRecipe(lesson, mix.recipe),
  ...(mix.mixedFrom && { mixedFrom: soundMixedFrom(lesson, mix.id, mix.mixedFrom) }),
});

function soundTube(tube: Tube): void {
  orRefuse(() => {
    pigmentOf(tube.pigment);
    if (tube.own) calibrateTube(tube.own);
  });
  if (tube.own) named(tube.own.name, 'tube');
  if (tube.sizeMl !== undefined) between(tube.sizeMl, 1, 5000, commandErrors.tubeSizeOutOfRange);
  if (tube.priceMinor !== undefined) between(tube.priceMinor, 0, 10_000_000, commandErrors.priceOutOfRange);
}

function cutMix(lesson: D, id: string): Mix {
  const builtOn = heldBy(lesson, 'mixes', id);
  if (builtOn !== null) throw new CommandError(commandErrors.mixIsBuiltOn(builtOn));
  return take(lesson.mixes, id, 'mix');
}

/** Gives mixes recipes of tubes alone. */
function mixAgain(lesson: D, recipes: readonly { id: string; recipe: RecipePart[] }[]): void {
  for (const { id, recipe } of recipes) {
    const mix = find(lesson.mixes, id, 'mix');
    mix.recipe = soundRecipe(lesson, recipe);
    delete mix.mixedFrom;
  }
}

type TubeChange = Partial<Omit<Tube, 'id' | 'pigment'>>;
export type ClearableTubeField = 'sizeMl' | 'priceMinor' | 'palette' | 'owned' | 'students';

/** Changes of tubes, mixes and their recipes. */
export const paintCommands = {
  addTube: (lesson: D, { tube }: { tube: Tube }) => {
    soundTube(tube);
    insert(lesson.tubes, tube, 'tube');
  },
  setTube: (lesson: D, { id, tube, clear }: { id: string; tube: TubeChange; clear?: ClearableTubeField[] }) => {
    const found = find(lesson.tubes, id, 'tube');
    soundTube({ ...found, ...tube } as Tube);
    Object.assign(found, tube);
    for (const field of clear ?? []) delete found[field];
  },
  removeTube: (lesson: D, { id }: { id: string }) => {
    take(lesson.tubes, id, 'tube');
    letGo(lesson, 'tubes', id);
  },
  /** Changes the palette: other tubes, and the recipes that go with them. */
  takePalette: (lesson: D, { tubes, recipes }: { tubes: Tube[]; recipes: { id: string; recipe: RecipePart[] }[] }) => {
    tubes.forEach(soundTube);
    const known = new Set(tubes.map((tube) => tube.id));
    const gone = lesson.tubes.filter((tube) => !known.has(tube.id));
    lesson.tubes = tubes;
    mixAgain(lesson, recipes);
    for (const { id } of gone) letGo(lesson, 'tubes', id);
  },
  /** The surface of the lesson's paint. */
  setFinish: (lesson: D, { finish }: { finish: Finish }) => {
    lesson.finish = finish;
  },
  /** What heaps of paint lie on through a class. */
  setKeeping: (lesson: D, { kept }: { kept: Keeping }) => {
    lesson.heapsOn = kept;
  },
  /** What an earlier table of pigments changed has been seen; some mixes are mixed again. */
  meetPaint: (lesson: D, { recipes }: { recipes: { id: string; recipe: RecipePart[] }[] }) => {
    mixAgain(lesson, recipes);
    delete lesson.formerPaint;
  },
  addMix: (lesson: D, { mix, at }: { mix: Mix; at?: number }) => insert(lesson.mixes, soundMix(lesson, mix), 'mix', at),
  /** Adds a family of mixes, each of which may be mixed from those before it. */
  addMixes: (lesson: D, { mixes, at }: { mixes: Mix[]; at?: number }) => {
    mixes.forEach((mix, i) => {
      insert(lesson.mixes, soundMix(lesson, mix), 'mix', at === undefined ? undefined : at + i);
    });
  },
  renameMix: (lesson: D, { id, name }: { id: string; name: string }) => {
    find(lesson.mixes, id, 'mix').name = named(name, 'mix');
  },
  setRecipe: (lesson: D, { id, recipe, mixedFrom }: { id: string; recipe: RecipePart[]; mixedFrom?: MixedPart[] }) => {
    const mix = find(lesson.mixes, id, 'mix');
    mix.recipe = soundRecipe(lesson, recipe);
    if (mixedFrom) setOrClear(mix, 'mixedFrom', mixedFrom.length > 0 ? soundMixedFrom(lesson, id, mixedFrom) : null);
  },
  setMixTarget: (
    lesson: D,
    { id, lab, state, areaId }: { id: string; lab: Lab | null; state?: 'dry' | 'wet'; areaId?: string | null },
  ) => {
    const mix = find(lesson.mixes, id, 'mix');
    setOrClear(mix, 'targetLab', lab);
    if (state) setOrClear(mix, 'targetState', state === 'wet' ? 'wet' : null);
    if (areaId) find(lesson.areas, areaId, 'area');
    if (areaId !== undefined || lab === null) setOrClear(mix, 'areaId', areaId ?? null);
  },
  setThinning: (
    lesson: D,
    { id, waterShareOfMix, mediumParts }: { id: string; waterShareOfMix?: number | null; mediumParts?: number | null },
  ) => {
    const mix = find(lesson.mixes, id, 'mix');
    if (typeof waterShareOfMix === 'number') between(waterShareOfMix, 0, 0.95, commandErrors.waterOutOfRange);
    if (typeof mediumParts === 'number') between(mediumParts, 0, 100, commandErrors.mediumOutOfRange);
    if (waterShareOfMix !== undefined) setOrClear(mix, 'waterShareOfMix', waterShareOfMix);
    if (mediumParts !== undefined) setOrClear(mix, 'mediumParts', mediumParts);
  },
  setLetDown: (lesson: D, { id, letDown }: { id: string; letDown: boolean }) =>
    setOrClear(find(lesson.mixes, id, 'mix'), 'letDown', letDown ? true : null),
  moveMix: (lesson: D, { id, to }: { id: string; to: number }) => move(lesson.mixes, id, to, 'mix'),
  removeMix: (lesson: D, { id }: { id: string }) => {
    cutMix(lesson, id);
    letGo(lesson, 'mixes', id);
  },
  /** Makes two mixes one: what used the second uses the first. */
  joinMixes: (lesson: D, { keep, drop }: { keep: string; drop: string }) => {
    if (keep === drop) throw new CommandError(commandErrors.sameMix);
    const kept = find(lesson.mixes, keep, 'mix');
    const others = lesson.mixes.filter((mix) => mix.id !== drop && mix.mixedFrom?.some((part) => part.mixId === drop));
    if (others.includes(kept) || others.some((mix) => mix.mixedFrom?.some((part) => part.mixId === keep)))
      throw new CommandError(commandErrors.mixesBuiltOnEachOther);
    take(lesson.mixes, drop, 'mix');
    letGo(lesson, 'mixes', drop, [keep]);
  },
};
