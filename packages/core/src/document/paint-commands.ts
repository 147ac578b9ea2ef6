import type { MixedPart, Lab, Mix, RecipePart, Tube } from '@viaticum/contract';
import { calibrateTube, partsOf } from '../mix/index.js';
import { pigmentOf } from '../pigment/index.js';
import { between, CommandError, type D, find, insert, move, named, setOrClear, take } from './command-tools.js';

/** Does something whose sentence of refusal is meant for the instructor. */
function orRefuse(work: () => void): void {
  try {
    work();
  } catch (error) {
    throw new CommandError((error as Error).message);
  }
}

function soundAmounts(parts: readonly { parts: RecipePart['parts'] }[]): void {
  for (const part of parts) {
    if (typeof part.parts === 'number' && !Number.isInteger(part.parts))
      throw new CommandError('Give whole parts, “a touch” or “a speck”.');
    orRefuse(() => partsOf(part.parts));
  }
}

function soundRecipe(lesson: D, recipe: RecipePart[]): RecipePart[] {
  const seen = new Set<string>();
  for (const part of recipe) {
    find(lesson.tubes, part.tubeId, 'tube');
    if (seen.has(part.tubeId)) throw new CommandError('A recipe names each tube once. Join the two amounts.');
    seen.add(part.tubeId);
  }
  soundAmounts(recipe);
  return recipe;
}

function soundMixedFrom(lesson: D, id: string, mixedFrom: MixedPart[]): MixedPart[] {
  if (new Set(mixedFrom.map((part) => part.mixId)).size !== mixedFrom.length)
    throw new CommandError('A recipe names each mix once. Join the two amounts.');
  const reaches = (from: string): boolean =>
    from === id || (lesson.mixes.find((mix) => mix.id === from)?.mixedFrom ?? []).some((part) => reaches(part.mixId));
  for (const { mixId } of mixedFrom) {
    if (mixId === id) throw new CommandError('A mix cannot be a part of itself. Choose another.');
    const part = find(lesson.mixes, mixId, 'mix');
    if (reaches(mixId)) throw new CommandError(`“${part.name}” is itself mixed from this one. Choose another.`);
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
    if (tube.own) calibrateTube(tube.own, { finish: tube.finish });
  });
  if (tube.own) named(tube.own.name, 'tube');
  if (tube.sizeMl !== undefined)
    between(tube.sizeMl, 1, 5000, 'A tube holds between 1 ml and 5 litres. Enter what is printed on it.');
  if (tube.priceMinor !== undefined)
    between(tube.priceMinor, 0, 10_000_000, 'A price cannot be negative. Enter what a tube costs.');
}

function cutMix(lesson: D, id: string): Mix {
  const builtOn = lesson.mixes.find((mix) => mix.mixedFrom?.some((part) => part.mixId === id));
  if (builtOn) throw new CommandError(`“${builtOn.name}” is mixed from this one. Give it another recipe first.`);
  return take(lesson.mixes, id, 'mix');
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
    for (const mix of lesson.mixes) mix.recipe = mix.recipe.filter((part) => part.tubeId !== id);
    for (const variant of lesson.variants)
      if (variant.withoutTubeIds) variant.withoutTubeIds = variant.withoutTubeIds.filter((one) => one !== id);
  },
  /** Changes the palette: other tubes, and the recipes that go with them. */
  takePalette: (lesson: D, { tubes, recipes }: { tubes: Tube[]; recipes: { id: string; recipe: RecipePart[] }[] }) => {
    tubes.forEach(soundTube);
    lesson.tubes = tubes;
    for (const { id, recipe } of recipes) {
      const mix = find(lesson.mixes, id, 'mix');
      mix.recipe = soundRecipe(lesson, recipe);
      delete mix.mixedFrom;
    }
    const known = new Set(tubes.map((tube) => tube.id));
    for (const variant of lesson.variants)
      if (variant.withoutTubeIds) variant.withoutTubeIds = variant.withoutTubeIds.filter((one) => known.has(one));
    for (const mix of lesson.mixes) mix.recipe = mix.recipe.filter((part) => known.has(part.tubeId));
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
    { id, lab, state, zoneId }: { id: string; lab: Lab | null; state?: 'dry' | 'wet'; zoneId?: string | null },
  ) => {
    const mix = find(lesson.mixes, id, 'mix');
    setOrClear(mix, 'targetLab', lab);
    if (state) setOrClear(mix, 'targetState', state === 'wet' ? 'wet' : null);
    if (zoneId) find(lesson.zones, zoneId, 'area');
    if (zoneId !== undefined || lab === null) setOrClear(mix, 'zoneId', zoneId ?? null);
  },
  setThinning: (
    lesson: D,
    { id, waterShareOfMix, mediumParts }: { id: string; waterShareOfMix?: number | null; mediumParts?: number | null },
  ) => {
    const mix = find(lesson.mixes, id, 'mix');
    if (typeof waterShareOfMix === 'number') between(waterShareOfMix, 0, 0.95, 'Water must be between 0 and 95 % of the mix.');
    if (typeof mediumParts === 'number') between(mediumParts, 0, 100, 'Medium must be between 0 and 100 parts to one of paint.');
    if (waterShareOfMix !== undefined) setOrClear(mix, 'waterShareOfMix', waterShareOfMix);
    if (mediumParts !== undefined) setOrClear(mix, 'mediumParts', mediumParts);
  },
  setLetDown: (lesson: D, { id, letDown }: { id: string; letDown: boolean }) =>
    setOrClear(find(lesson.mixes, id, 'mix'), 'letDown', letDown ? true : null),
  moveMix: (lesson: D, { id, to }: { id: string; to: number }) => move(lesson.mixes, id, to, 'mix'),
  removeMix: (lesson: D, { id }: { id: string }) => {
    cutMix(lesson, id);
    for (const step of lesson.steps) step.mixIds = step.mixIds.filter((mixId) => mixId !== id);
    for (const { changes } of lesson.variants)
      for (const { step } of changes) if (step.mixIds) step.mixIds = step.mixIds.filter((mixId) => mixId !== id);
    lesson.support.groundCoats = lesson.support.groundCoats.filter((coat) => coat.mixId !== id);
  },
  /** Makes two mixes one: what used the second uses the first. */
  joinMixes: (lesson: D, { keep, drop }: { keep: string; drop: string }) => {
    if (keep === drop) throw new CommandError('These are the same mix already.');
    const kept = find(lesson.mixes, keep, 'mix');
    const swap = (id: string) => (id === drop ? keep : id);
    const others = lesson.mixes.filter((mix) => mix.id !== drop && mix.mixedFrom?.some((part) => part.mixId === drop));
    if (others.includes(kept) || others.some((mix) => mix.mixedFrom?.some((part) => part.mixId === keep)))
      throw new CommandError('One of these mixes is mixed from the other. Give it another recipe first.');
    for (const mix of others) for (const part of mix.mixedFrom ?? []) part.mixId = swap(part.mixId);
    take(lesson.mixes, drop, 'mix');
    for (const step of lesson.steps) step.mixIds = [...new Set(step.mixIds.map(swap))];
    for (const { changes } of lesson.variants)
      for (const { step } of changes) if (step.mixIds) step.mixIds = [...new Set(step.mixIds.map(swap))];
    for (const coat of lesson.support.groundCoats) coat.mixId = swap(coat.mixId);
  },
};
