import type { Finish, Lab, Lesson, Mix, Tube } from '@viaticum/contract';
import { deltaE00, labToSrgb, srgbToLinear } from '@viaticum/kernels/colour';
import type { MixedColour, MixPart } from '@viaticum/kernels/mixing';
import type { Glaze } from '@viaticum/kernels/painting';
import { dryFilmUm } from '../coat/index.js';
import {
  type Covering,
  covering,
  glazeMedium,
  glazeOver,
  type MixLook,
  mixLook,
  recipeParts,
  type StockPaint,
  stockOf,
} from '../mix/index.js';
import { memo } from './memo.js';

/** Bare primed canvas. */
export const GESSO: Lab = [93.8, -0.4, 2.4];

const mixLooks = memo(
  (mixes: readonly Mix[], tubes: readonly Tube[], finish: Finish) =>
    new Map(mixes.map((mix) => [mix.id, mixLook(mix, { mixes, tubes, finish })])),
  4,
);
/** The looks of all mixes of a lesson by id; worked out again only when mixes or tubes change. */
export const looksOf = (lesson: Lesson): Map<string, MixLook> => mixLooks(lesson.mixes, lesson.tubes, lesson.finish);

const lessonPaints = memo((tubes: Lesson['tubes'], mixes: Lesson['mixes']) => stockOf({ tubes, mixes }), 2);
/** {@link stockOf} all tubes; the same objects while tubes and mixes stay, so that a table of recipes is kept. */
export const paintsOf = (lesson: Lesson): StockPaint[] => lessonPaints(lesson.tubes, lesson.mixes);

/** What lies under a mix where it is first used: the toned ground, bare gesso under the ground itself. */
export function groundUnder(lesson: Lesson, mixId: string): Lab {
  const grounds = [
    ...lesson.support.groundCoats.map((coat) => coat.mixId),
    ...lesson.steps.filter((step) => step.kind === 'prepare').flatMap((step) => step.mixIds),
  ];
  const [ground] = grounds;
  if (!ground || ground === mixId) return GESSO;
  return looksOf(lesson).get(ground)?.colour?.lab ?? GESSO;
}

/** The dry film in which a mix is first laid (µm), by the step that uses it; a block-in where none does yet. */
export function filmOf(
  lesson: Lesson,
  mixId: string,
): { dryUm: number; technique: NonNullable<Lesson['steps'][number]['technique']> } {
  const step = lesson.steps.find((one) => one.technique && one.mixIds.includes(mixId));
  const technique = step?.technique ?? 'block-in';
  const water = step?.waterShareOfMix ?? lesson.mixes.find((mix) => mix.id === mixId)?.waterShareOfMix;
  const dryUm = dryFilmUm({ technique, ...(water !== undefined && { waterShareOfMix: water }) });
  return { dryUm, technique };
}

export type MixCovering = Covering & {
  dryUm: number;
  technique: string;
  ground: Lab;
  glaze: { lab: Lab; deltaE: number } | null;
};
/** How a mix covers what lies under it, in the film that its step lays; null without a recipe. */
export function coveringOf(lesson: Lesson, mix: Mix): MixCovering | null {
  const parts = recipeParts(mix, lesson);
  if (!parts) return null;
  const { dryUm, technique } = filmOf(lesson, mix.id);
  const ground = groundUnder(lesson, mix.id);
  const { finish } = lesson;
  return {
    ...covering(parts, dryUm, ground, finish),
    dryUm,
    technique,
    ground,
    glaze: isGlazed(lesson, mix)
      ? glazeOver(parts, ground, { medium: mediumOf(mix, parts, finish), dryUm: GLAZE_UM, finish })
      : null,
  };
}

/** The dry film of one pass of a glaze, µm. */
const GLAZE_UM = dryFilmUm({ technique: 'glaze' });
const isGlazed = (lesson: Lesson, mix: Mix): boolean =>
  mix.mediumParts !== undefined || lesson.steps.some((step) => step.technique === 'glaze' && step.mixIds.includes(mix.id));
/** Parts of clear medium to one of a mix in a glaze: what was said of the mix, or what is usual for its paints. */
export const mediumOf = (mix: Mix, parts: readonly MixPart[], finish: Finish): number =>
  mix.mediumParts ?? glazeMedium(parts, finish);

/**
 * A mix as a glaze is seen through: what the film sends back, and what it lets through of the light from below (linear red,
 * green, blue), from how it looks over a dark and over a light grey. Null without a recipe.
 */
export function glazeFilm(lesson: Lesson, mix: Mix): Glaze | null {
  const parts = recipeParts(mix, lesson);
  if (!parts) return null;
  const { finish } = lesson;
  const medium = mediumOf(mix, parts, finish);
  const linear = (lab: Lab) => labToSrgb(lab).map(srgbToLinear) as [number, number, number];
  const onGrey = (l: number) => {
    const below: Lab = [l, 0, 0];
    return { below: linear(below), seen: linear(glazeOver(parts, below, { medium, dryUm: GLAZE_UM, finish }).lab) };
  };
  const [dark, light] = [onGrey(25), onGrey(90)];
  const each = (of: (c: 0 | 1 | 2) => number) => [of(0), of(1), of(2)] as const;
  const through = each((c) => (light.seen[c] - dark.seen[c]) / (light.below[c] - dark.below[c]));
  return { through, over: each((c) => dark.seen[c] - through[c] * dark.below[c]) };
}

/** Share of water beyond which the binder is spread too far, by the school's choice of thinning (makers' guidance, from memory). */
export const waterLimit: Record<Lesson['school']['thinning'], number> = {
  medium: 0.3,
  water: 0.45,
  hardly: 0.1,
  'film-or-mist': 0.3,
};

/** Pairs of mixes that could be one: both used or usable, less than so far apart. */
export function nearTwins(lesson: Lesson, limit = 2): { one: Mix; other: Mix; deltaE: number }[] {
  const looks = [...looksOf(lesson).values()].filter((look) => look.colour && !look.mix.letDown);
  return looks.flatMap((one, i) =>
    looks.slice(i + 1).flatMap((other) => {
      const deltaE = deltaE00((one.colour as MixedColour).lab, (other.colour as MixedColour).lab);
      return deltaE < limit ? [{ one: one.mix, other: other.mix, deltaE }] : [];
    }),
  );
}

/** The mixes that are chosen, and all that those are mixed from, however deep; in the order of the lesson. */
export function mixesWithin(lesson: Lesson, chosen: (mix: Mix) => boolean): Mix[] {
  const within = new Set<string>();
  const open = lesson.mixes.filter(chosen);
  for (let mix = open.pop(); mix; mix = open.pop()) {
    if (within.has(mix.id)) continue;
    within.add(mix.id);
    const parts = new Set(mix.mixedFrom?.map((part) => part.mixId));
    open.push(...lesson.mixes.filter((one) => parts.has(one.id)));
  }
  return lesson.mixes.filter((mix) => within.has(mix.id));
}
