import type { Lesson, Mix, Tube } from '@viaticum/contract';
import { cssRgb, deltaE00, differenceInWords, type Rgb } from '../colour/index.js';
import { type MixedColour, type MixPart, mixColour, partsOf, recipeInWords } from '../mix/index.js';
import { pigmentOf } from '../pigment/index.js';
import {
  type Extent,
  outlineArea,
  overlapsOf,
  paintedExtents,
  paintedExtentsByPart,
  sharedBorders,
  type VisiblePart,
  visibleParts,
} from '../zone/index.js';
import { memo } from './memo.js';

/** A mix with everything computed about it; `colour` and `wet` are null while it has no recipe. */
export type MixLook = {
  mix: Mix;
  colour: MixedColour | null;
  wet: MixedColour | null;
  rgb: string;
  wetRgb: string;
  words: string;
  parts: { tubeId: string; name: string; rgb: string; weight: number }[];
  deltaE: number | null;
  off: string | null;
};

const unmixed = 'rgb(190 190 190)';

/** The customary short name of a tube: "ultramarine blue" → "ultramarine". */
export function shortTubeName(tube: Tube): string {
  return pigmentOf(tube.pigment)
    .name.replace(/ \(.*\)$/, '')
    .replace(/,.*$/, '')
    .replace(/^titanium white$/, 'white')
    .replace(/^ultramarine blue$/, 'ultramarine');
}

/** A tube's own colour straight from the tube, dry. */
export function tubeRgb(tube: Tube): Rgb {
  return mixColour([{ pigment: tube.pigment, parts: 1 }], { finish: tube.finish }).srgb;
}

/** A recipe of tubes as parts of pigments; null where it is empty. */
export function recipeParts(mix: Mix, tubes: readonly Tube[]): MixPart[] | null {
  const parts = mix.recipe.flatMap((part) => {
    const tube = tubes.find((candidate) => candidate.id === part.tubeId);
    return tube ? [{ pigment: tube.pigment, parts: part.parts }] : [];
  });
  return parts.length > 0 ? parts : null;
}

function lookOf(mix: Mix, tubes: readonly Tube[]): MixLook {
  const parts = recipeParts(mix, tubes);
  const finish = tubes[0]?.finish ?? 'satin';
  const colour = parts && mixColour(parts, { finish });
  const wet = parts && mixColour(parts, { state: 'wet' });
  const nameOf = (tubeId: string) => {
    const tube = tubes.find((candidate) => candidate.id === tubeId);
    return tube ? shortTubeName(tube) : 'a tube taken away';
  };
  return {
    mix,
    colour,
    wet,
    rgb: colour ? cssRgb(colour.srgb) : unmixed,
    wetRgb: wet ? cssRgb(wet.srgb) : unmixed,
    words: parts ? recipeInWords(mix.recipe, nameOf) : 'no recipe yet',
    parts: mix.recipe.flatMap((part) => {
      const tube = tubes.find((candidate) => candidate.id === part.tubeId);
      return tube
        ? [{ tubeId: tube.id, name: shortTubeName(tube), rgb: cssRgb(tubeRgb(tube)), weight: partsOf(part.parts) }]
        : [];
    }),
    deltaE: colour && mix.targetLab ? deltaE00(mix.targetLab, colour.lab) : null,
    off: colour && mix.targetLab ? differenceInWords(mix.targetLab, colour.lab) : null,
  };
}

const mixLooks = memo(
  (mixes: readonly Mix[], tubes: readonly Tube[]) => new Map(mixes.map((mix) => [mix.id, lookOf(mix, tubes)])),
  4,
);
const seenParts = memo((zones: Lesson['zones'], hidden: string, support: Lesson['support']) => {
  const gone = new Set(hidden.split(' '));
  const shown = zones.filter((zone) => !zone.elementId || !gone.has(zone.elementId));
  const parts = new Map(visibleParts(shown, support).map((part) => [part.id, part]));
  return zones.map((zone): VisiblePart => parts.get(zone.id) ?? { id: zone.id, outline: [], areaCm2: 0 });
}, 4);

/** The looks of all mixes of a lesson by id; worked out again only when mixes or tubes change. */
export const looksOf = (lesson: Lesson): Map<string, MixLook> => mixLooks(lesson.mixes, lesson.tubes);

/** What is seen of every zone of a lesson, with its area; a dropped thing shows nothing. Worked out again only when zones, things or the canvas change. */
export const visibleOf = (lesson: Lesson): VisiblePart[] => {
  const dropped = lesson.elements.filter((element) => element.fate === 'dropped').map((element) => element.id);
  return seenParts(lesson.zones, dropped.join(' '), lesson.support);
};

const shared = memo((parts: VisiblePart[]) => sharedBorders(parts), 4);

/** The number of the first step that paints a zone, by zone: the order of painting. Steps on the whole canvas do not count. */
const paintingRank = memo((steps: Lesson['steps']) => {
  const rank = new Map<string, number>();
  steps.forEach((step, i) => {
    if (step.kind === 'paint') for (const id of step.zoneIds) if (!rank.has(id)) rank.set(id, i);
  });
  return [...rank].map(([id, i]) => `${id}:${i}`).join(' ');
}, 4);
const rankOf = (ranks: string): ReadonlyMap<string, number> =>
  new Map(
    ranks.split(' ').flatMap((entry) => {
      const [id, at] = entry.split(':');
      return id && at ? [[id, Number(at)] as const] : [];
    }),
  );
const extents = memo(
  (parts: VisiblePart[], ranks: string, overlapMm: number) => paintedExtents(parts, rankOf(ranks), overlapMm, shared(parts)),
  4,
);

/** Works out areas, borders and extents of a lesson piece by piece, so that a page can answer in between; afterwards they are at hand. */
export function* workOutAreas(lesson: Lesson): Generator<void, void> {
  const parts = visibleOf(lesson);
  yield;
  shared(parts);
  yield* paintedExtentsByPart(parts, rankOf(paintingRank(lesson.steps)), lesson.overlapMm, shared(parts));
}

/** Whether two lessons have the same areas on the same canvas. */
export const sameAreas = (one: Lesson, other: Lesson): boolean =>
  one.zones === other.zones &&
  one.elements === other.elements &&
  one.overlapMm === other.overlapMm &&
  one.support === other.support;

/** What is painted for every zone, under and past its neighbours, by the order of painting. */
export const extentsOf = (lesson: Lesson): Extent[] => extents(visibleOf(lesson), paintingRank(lesson.steps), lesson.overlapMm);

const overlaps = memo(overlapsOf, 4);
/** Which painted zones lie on which, with the area in cm²: `get(a)?.get(b)`, both ways. */
export const overlapsBetween = (lesson: Lesson) => overlaps(extentsOf(lesson));

/** Less than this is a crumb at a corner, for which nobody waits. */
const LEAST_LAP_CM2 = 0.25;
const laps = memo((all: Extent[]) => {
  const out = new Map<string, Set<string>>(all.map((one) => [one.id, new Set()]));
  for (const one of all)
    for (const past of one.past) {
      if (outlineArea(past.outline) / 100 < LEAST_LAP_CM2) continue;
      out.get(one.id)?.add(past.id);
      out.get(past.id)?.add(one.id);
    }
  return out;
}, 4);

/**
 * The zones whose paint shows at an edge under or over a zone's own: where either runs past its edge into the other. What two
 * zones lay on each other within a third is covered by it later, and nobody waits for it.
 */
export const restsOn = (lesson: Lesson, zoneId: string): string[] => [...(laps(extentsOf(lesson)).get(zoneId) ?? [])];
