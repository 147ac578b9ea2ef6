import type { Amount, Lesson, Mix, Stage, Step, Technique, Tube } from '@viaticum/contract';
import { noWords } from '@viaticum/contract';
import { pigmentOf, pigmentTable } from '@viaticum/kernels/pigment';
import { commonTubes, type HeardStep, type Hearing, type SaidAmount } from '../hear/index.js';
import { shortTubeName } from '../mix/index.js';
import { minutesOf } from '../plan/index.js';
import { capital, listInWords } from '../units/index.js';

/** Tubes that narrators call by another name than the table does (common practice, no published source). */
const spoken: Readonly<Record<string, string>> = {
  PBk9: 'ivory black',
  PBk7: 'carbon black',
  PBk11: 'carbon black',
  PY3: 'lemon yellow',
  PB36: 'cerulean blue',
  PR122: 'magenta',
  PR177: 'crimson',
};
const spokenPigment = (pigment: string): string =>
  spoken[pigment] ??
  pigmentOf(pigment)
    .name.replace(/ \(.*\)$/, '')
    .replace(/,.*$/, '')
    .toLowerCase();
/** The customary full name of a tube, by which narrators and captions know it: "ultramarine blue". */
const spokenName = (tube: Lesson['tubes'][number]): string =>
  tube.own ? tube.own.name.toLowerCase() : spokenPigment(tube.pigment);
/** The pigment of a tube by its spoken name; null where the table has none. */
const pigmentCalled = (name: string): string | null =>
  [...pigmentTable.keys()].find((pigment) => spokenPigment(pigment) === name) ?? null;

/** What a narration is heard with in a lesson: its tubes, its mixes and the names of its areas. */
export function hearingOf(lesson: Lesson): Hearing {
  const names = new Map(lesson.tubes.map((tube) => [tube.id, spokenName(tube)]));
  const own = [...new Set(names.values())];
  // An empty shelf knows all tubes by their usual names; a full one those that are not on it by their full names.
  const tubes = own.length > 0 ? own : commonTubes;
  return {
    tubes,
    others: commonTubes.filter((name) => !tubes.includes(name)),
    mixes: lesson.mixes.map(({ name, recipe }) => ({
      name: name.toLowerCase(),
      recipe: recipe.map(({ tubeId, parts }) => ({ tube: names.get(tubeId) ?? '', parts })),
    })),
    areas: lesson.areas.map(({ name }) => name),
  };
}

const brushOfTool: Readonly<Record<string, string>> = {
  flat: 'flat-1-in',
  filbert: 'filbert-8',
  round: 'round-8',
  fan: 'fan-6',
  rigger: 'rigger-2',
  angled: 'angled-1-2-in',
  rake: 'rake-1-2-in',
  mop: 'mop-3-4-in',
  hake: 'hake-3-in',
  knife: 'knife-small',
};
const techniqueOfAct: Readonly<Record<string, Technique>> = {
  tone: 'wash',
  glaze: 'glaze',
  blend: 'blend',
  stipple: 'loaded',
  spatter: 'spatter',
  dry_brush: 'dry-brush',
  shadow: 'loaded',
  highlight: 'loaded',
  detail: 'loaded',
};
const MOST_WORDS = 4000;

/** How "a bit" is read, where it was said: as a touch, or as one part to eight. */
export type BitAs = 'touch' | 'part';
export type HeardChoices = { titles: readonly string[]; bitAs: BitAs; speed: number; stageName: string };
export type TakenHeard = { stage: Stage; steps: Step[]; mixes: Mix[]; tubes: Tube[] };

/**
 * Steps as they were heard, as steps of a lesson: areas, mixes and tubes found by name; tubes named with amounts become a mix of their own,
 * without any their proportions stay open. Talk becomes no step. Minutes are those of the film times its speed.
 */
export function stepsOfHeard(
  lesson: Lesson,
  heard: readonly HeardStep[],
  { titles, bitAs, speed, stageName }: HeardChoices,
  newId: () => string,
): TakenHeard {
  const stage: Stage = { id: newId(), name: stageName };
  const mixes: Mix[] = [];
  const tubeIds = new Map(lesson.tubes.map((tube) => [spokenName(tube), tube.id]));
  // What is used and is not on the shelf is put there, where the table of pigments has it.
  const tubes: Tube[] = [];
  for (const name of unknownColours(lesson, heard)) {
    const pigment = pigmentCalled(name);
    if (pigment === null) continue;
    const tube: Tube = { id: newId(), pigment, grade: 'artist' };
    tubes.push(tube);
    tubeIds.set(name, tube.id);
  }
  const mixIds = new Map(lesson.mixes.map((mix) => [mix.name.toLowerCase(), mix.id]));
  let isDryNext = false;
  const steps = heard.flatMap((one, i): Step[] => {
    if (one.kind === 'talk') return [];
    const known = one.colours.flatMap((name) => mixIds.get(name) ?? []);
    const named = one.colours.filter((name) => !mixIds.has(name) && tubeIds.has(name));
    const own = named.length > 0 ? mixOf(named, one.amounts, bitAs) : null;
    if (own) {
      const same = [...lesson.mixes, ...mixes].find((mix) => sameRecipe(mix, own.recipe));
      if (same) known.push(same.id);
      else {
        const mix: Mix = { id: newId(), name: nameFor(own.names, [...lesson.mixes, ...mixes]), recipe: own.recipe };
        mixes.push(mix);
        known.push(mix.id);
      }
    }
    const isPaint = one.kind === 'paint';
    const brushId = one.tools.map((tool) => brushOfTool[tool]).find(Boolean);
    const step: Step = {
      id: newId(),
      stageId: stage.id,
      kind: one.kind,
      title: (titles[i] ?? one.titles[0] ?? stageName).slice(0, 120),
      areaIds: areasIn(lesson, one),
      markIds: [],
      mixIds: isPaint ? [...new Set(known)] : [],
      needs: isDryNext ? 'touchDry' : 'auto',
      ...(isPaint && { technique: techniqueOfAct[one.act ?? ''] ?? 'block-in' }),
      ...(brushId && isPaint && { brushId }),
      doMin: Math.max(0.5, Math.round(((one.to - one.from) * speed) / 30) / 2),
      ...noWords,
      say: one.say.slice(0, MOST_WORDS),
      watch: one.watch.join(' ').slice(0, MOST_WORDS),
    };
    isDryNext = one.dryAfter;
    return [step];
  });
  return { stage, steps, mixes, tubes };

  function mixOf(names: readonly string[], amounts: Readonly<Record<string, SaidAmount>>, as: BitAs) {
    const said = names.flatMap((name) => (amounts[name] === undefined ? [] : [amounts[name]]));
    const isOpen = names.length > 1 && said.length === 0;
    // One part to eight: what is said as a bit is one, and all else in eighths of itself.
    const isEighths = as === 'part' && said.includes('bit');
    const parts = (name: string): Amount => {
      const amount = amounts[name] ?? 1;
      if (amount === 'bit') return isEighths ? 1 : 'touch';
      return typeof amount === 'number' ? Math.max(1, Math.min(99, Math.round(amount * (isEighths ? 8 : 1)))) : amount;
    };
    const recipe = isOpen ? [] : names.map((name) => ({ tubeId: tubeIds.get(name) as string, parts: parts(name) }));
    return { names, recipe };
  }
  function nameFor(names: readonly string[], taken: readonly Mix[]): string {
    const short = names.map((name) => {
      const tube = [...lesson.tubes, ...tubes].find((one) => spokenName(one) === name);
      return tube ? shortTubeName(tube) : name;
    });
    const base = capital(listInWords(short)).slice(0, 100);
    let name = base;
    for (let k = 2; taken.some((mix) => mix.name.toLowerCase() === name.toLowerCase()); k++) name = `${base} ${k}`;
    return name;
  }
}

const sameRecipe = (mix: Mix, recipe: Mix['recipe']): boolean =>
  recipe.length > 0 &&
  mix.recipe.length === recipe.length &&
  (mix.mixedFrom?.length ?? 0) === 0 &&
  recipe.every(({ tubeId, parts }) => mix.recipe.some((one) => one.tubeId === tubeId && one.parts === parts));

/** Areas whose name is said in a step. */
const areasIn = ({ areas }: Lesson, { say, thing }: HeardStep): string[] => {
  const low = say.toLowerCase();
  const named = areas.filter(({ name }) => new RegExp(`\\b${name.toLowerCase().replace(/[^a-z0-9 ]/g, '.')}`).test(low));
  const main = areas.filter(({ name }) => name.toLowerCase() === thing);
  return (main.length > 0 ? main : named).map(({ id }) => id).slice(0, 6);
};

/** Colours that were named and are not in the lesson, whether its table of pigments has them or not. */
export function unknownColours(lesson: Lesson, heard: readonly HeardStep[]): string[] {
  const known = new Set([...lesson.tubes.map(spokenName), ...lesson.mixes.map(({ name }) => name.toLowerCase())]);
  return [...new Set(heard.flatMap(({ colours }) => colours))].filter((name) => !known.has(name));
}

/** Whether the table of pigments has a tube of that spoken name, so that it can be put on the shelf. */
export const isInTable = (name: string): boolean => pigmentCalled(name) !== null;

/** A step of the lesson that a heard step is about, with its planned minutes. */
export type Beside = { stepId: string; title: string; minutes: number };
/**
 * For each heard step the step of the lesson that is most like it (areas, mixes, brush), each taken once, in the lesson's order; null where
 * none is. So the times of a film and of the plan stand side by side.
 */
export function plannedBeside(lesson: Lesson, heard: readonly HeardStep[]): (Beside | null)[] {
  const minutes = minutesOf(lesson);
  const mixNames = new Map(lesson.mixes.map(({ id, name }) => [id, name.toLowerCase()]));
  let from = 0;
  return heard.map((one) => {
    if (one.kind === 'talk') return null;
    const areas = new Set(areasIn(lesson, one));
    const likeness = (step: Step): number => {
      const shared = step.areaIds.filter((id) => areas.has(id)).length;
      const mixes = step.mixIds.filter((id) => one.colours.includes(mixNames.get(id) ?? '')).length;
      const brush = one.tools.some((tool) => step.brushId?.startsWith(tool)) ? 0.5 : 0;
      return shared > 0 || mixes > 0 ? 2 * Math.min(1, shared) + Math.min(2, mixes) + brush : 0;
    };
    let [best, most] = [-1, 0];
    for (let i = from; i < lesson.steps.length; i++) {
      const own = likeness(lesson.steps[i] as Step);
      if (own > most) [best, most] = [i, own];
    }
    if (best < 0) return null;
    from = best + 1;
    const step = lesson.steps[best] as Step;
    return { stepId: step.id, title: step.title, minutes: minutes.get(step.id)?.doMin ?? 0 };
  });
}
