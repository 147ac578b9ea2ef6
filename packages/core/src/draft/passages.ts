import type { Lesson, Passage, Step } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { brushOf } from '../brush/index.js';
import { bordersBetween, edgeBetween } from '../derived/index.js';
import type { CommandArgs } from '../document/index.js';
import { capital, listInWords } from '../units/index.js';
import type { AreaFacts } from './facts.js';

const GRADED_MM = 4;
/** Colours farther apart (ΔE00) do not pass into each other without a third between them: they meet softly, each as its own coat. */
const MOST_CONTRAST = 25;
const MOST_RANKS = 2;
const MOST_PLACES = 5;
/** A border counts where it is at least so long. */
const LEAST_MM = 12;

/** Whether two areas pass into each other over some width, by what was measured; where only its kind is known, by that it is lost. */
function isGraded(lesson: Lesson, one: string, other: string): boolean {
  const edge = edgeBetween(lesson, one, other);
  if (!edge || edge.kind === 'hard') return false;
  if (edge.contrast !== undefined && edge.contrast > MOST_CONTRAST) return false;
  return edge.widthMm === undefined ? edge.kind === 'lost' : edge.widthMm >= GRADED_MM;
}

/**
 * The wet passages of a picture: areas joined by borders that pass over some width, painted as one coat. Never across subject and
 * background or two things, nor between areas that lie far apart in depth, nor of more than five colours; the weakest borders part
 * first. Back to front.
 */
export function passagesOf(lesson: Lesson, areas: readonly AreaFacts[]): AreaFacts[][] {
  const borders = bordersBetween(lesson);
  const weight = (one: AreaFacts, other: AreaFacts): number => {
    const mm = borders.get(one.area.id)?.get(other.area.id) ?? 0;
    if (mm < LEAST_MM || !isGraded(lesson, one.area.id, other.area.id)) return 0;
    if (one.isSubject !== other.isSubject || one.area.feature || other.area.feature) return 0;
    if (one.area.thingId !== other.area.thingId || one.area.twinOfId || other.area.twinOfId) return 0;
    return Math.abs(one.depth - other.depth) > MOST_RANKS ? 0 : mm;
  };
  const joins = areas
    .flatMap((one, i) => areas.slice(i + 1).map((other) => ({ one, other, mm: weight(one, other) })))
    .filter((join) => join.mm > 0)
    .sort((a, b) => b.mm - a.mm);
  const groupOf = new Map(areas.map((area) => [area, [area]]));
  for (const { one, other } of joins) {
    const [a, b] = [groupOf.get(one), groupOf.get(other)];
    if (!a || !b || a === b || a.length + b.length > MOST_PLACES) continue;
    const both = [...a, ...b];
    for (const area of both) groupOf.set(area, both);
  }
  return [...new Set(groupOf.values())]
    .filter((group) => group.length > 1)
    .map((group) => [...group].sort((a, b) => a.depth - b.depth));
}

/** A passage over some areas, each with the mixes that it gets in it; its places in the order of laying. */
export function passageOver(
  lesson: Lesson,
  areas: readonly AreaFacts[],
  mixesOf: (area: AreaFacts) => readonly string[],
  id: string,
): Passage {
  const isUpright = lesson.school.values !== 'white-first';
  const light = (area: AreaFacts) => area.area.targetLab?.[0] ?? area.mixes.at(-1)?.lightness ?? 50;
  const sorted = isUpright ? areas : [...areas].sort((a, b) => light(b) - light(a));
  return {
    id,
    name: nameOf(areas),
    areaIds: areas.map(({ area }) => area.id),
    places: sorted.flatMap((area) => mixesOf(area).map((mixId) => ({ mixId, areaId: area.area.id }))).slice(0, 8),
    order: isUpright ? 'top-down' : 'light-out',
    soften: 'whole',
  };
}

/** "Sky" where all of its areas are called so; otherwise their names. */
function nameOf(areas: readonly AreaFacts[]): string {
  const names = areas.map(({ area }) => area.name);
  return capital(sharedWords(names) || listInWords(names)).slice(0, 120);
}

/** The words that all of some names have, in their order. */
function sharedWords(names: readonly string[]): string {
  const words = names.map((name) => name.toLowerCase().split(/\s+/));
  return (words[0]?.filter((word) => words.every((own) => own.includes(word))) ?? []).join(' ');
}

/**
 * Several painting steps made into one wet passage over their areas, as the arguments of the command; null where they are not two or more
 * steps that each paint areas of their own. `ids` gives two new ids.
 */
export function passageOfSteps(lesson: Lesson, stepIds: readonly string[], ids: () => string): CommandArgs<'makePassage'> | null {
  const steps = lesson.steps.filter((step) => stepIds.includes(step.id));
  const [first] = steps;
  const areaIds = steps.flatMap((step) => step.areaIds);
  const isSound =
    steps.length > 1 &&
    new Set(areaIds).size === areaIds.length &&
    steps.every((step) => step.kind === 'paint' && step.areaIds.length > 0 && step.passageId === undefined);
  if (!first || !isSound) return null;
  const places = steps.flatMap((step) => step.areaIds.flatMap((areaId) => step.mixIds.map((mixId) => ({ mixId, areaId }))));
  const names = areaIds.map((id) => lesson.areas.find((area) => area.id === id)?.name ?? '');
  const name = capital(sharedWords(names) || listInWords(names)).slice(0, 120);
  const widest = steps.reduce((most, step) => (widthOf(step) > widthOf(most) ? step : most));
  const { doMin: _, showMin: __, coverShare: ___, ...rest } = first;
  return {
    passage: { id: ids(), name, areaIds, places: places.slice(0, 8), order: 'top-down', soften: 'whole' },
    step: {
      ...rest,
      id: ids(),
      title: say`${name}: one wet passage`.slice(0, 120),
      areaIds,
      mixIds: [...new Set(steps.flatMap((step) => step.mixIds))],
      markIds: [...new Set(steps.flatMap((step) => step.markIds))],
      technique: 'blend',
      load: 'generous',
      laying: 'top-down',
      needs: 'auto',
      ...(widest.brushId ? { brushId: widest.brushId } : {}),
    },
    instead: steps.map((step) => step.id),
  };
}

const widthOf = (step: Step): number => brushOf(step.brushId)?.widthMm ?? 0;
