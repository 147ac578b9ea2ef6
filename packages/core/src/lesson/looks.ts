import type { Amount, Lab, Lesson, Mix, Tube } from '@viaticum/contract';
import { coatTimes } from '../coat/index.js';
import { cssRgb, deltaE00, differenceInWords, type Rgb } from '../colour/index.js';
import {
  addingOrder,
  blend,
  type Covering,
  calibrateTube,
  covering,
  type Finish,
  glazeOver,
  type MixedColour,
  type MixPart,
  mixColour,
  partsOf,
  recipeInWords,
  type Spectra,
  type StockPaint,
} from '../mix/index.js';
import { pigmentOf } from '../pigment/index.js';
import { memo } from './memo.js';

/** A part of a mix with its name: a tube of the list or another heap. */
export type LookPart = {
  tubeId?: string;
  mixId?: string;
  name: string;
  rgb: string;
  weight: number;
  parts: Amount;
  paint: Spectra;
};
/** A mix with everything computed about it; `colour` and `wet` are null while it has no recipe. */
export type MixLook = {
  mix: Mix;
  colour: MixedColour | null;
  wet: MixedColour | null;
  rgb: string;
  wetRgb: string;
  words: string;
  /** In the order in which to put them together. */
  parts: LookPart[];
  /** Against the target, in the state (dry or wet) in which it is to be met. */
  deltaE: number | null;
  off: string | null;
};

const unmixed = 'rgb(190 190 190)';
/** Student grade holds about so much of the pigment of artist grade (from memory). */
const STUDENT_PIGMENT = 0.6;
const GESSO: Lab = [93.8, -0.4, 2.4];

/** Customary names where the table's would be short for two tubes alike. */
const SHORT: Record<string, string> = {
  PY3: 'lemon yellow',
  PG36: 'yellow-shade phthalo green',
  PBk7: 'carbon black',
};

/** The customary short name of a tube: "ultramarine blue" → "ultramarine". */
export function shortTubeName(tube: Tube): string {
  if (tube.own) return tube.own.name;
  const customary = SHORT[tube.pigment];
  if (customary) return customary;
  return pigmentOf(tube.pigment)
    .name.replace(/ \(.*\)$/, '')
    .replace(/,.*$/, '')
    .replace(/^titanium white$/, 'white')
    .replace(/^ultramarine blue$/, 'ultramarine');
}

/** The id of a tube of the table that a lesson does not have yet; the same for the same pigment. */
export const tableTubeId = (pigment: string): string => pigment.replace(/[^A-Za-z0-9]/g, '_');

const paints = new WeakMap<object, Spectra>();
/** What a tube absorbs and scatters: the table's pigment, weaker in student grade; one of one's own as its samples say. */
export function paintOf(tube: Tube): Spectra {
  const known = paints.get(tube);
  if (known) return known;
  const paint = tube.own ? calibrateTube(tube.own, { finish: tube.finish }) : graded(pigmentOf(tube.pigment), tube.grade);
  paints.set(tube, paint);
  return paint;
}

function graded(pigment: Spectra, grade: Tube['grade']): Spectra {
  if (grade === 'artist') return pigment;
  const weaker = (values: ArrayLike<number>) => Float64Array.from(values, (value) => value * STUDENT_PIGMENT);
  return { K: weaker(pigment.K), S: weaker(pigment.S) };
}

/** A tube's own colour straight from the tube, dry. */
export function tubeRgb(tube: Tube): Rgb {
  return mixColour([{ pigment: paintOf(tube), parts: 1 }], { finish: tube.finish }).srgb;
}

type Stock = { tubes: readonly Tube[]; mixes: readonly Mix[] };

/** The surface that all colours of a lesson are judged with: that of its first tube. */
export const finishOf = (tubes: readonly Tube[]): Finish => tubes[0]?.finish ?? 'satin';

/** A recipe as parts of paints, heaps within it mixed already; null where it is empty. A heap that would be part of itself is left out. */
export function recipeParts(mix: Mix, stock: Stock, within: readonly string[] = []): MixPart[] | null {
  const parts = lookParts(mix, stock, within);
  return parts.length > 0 ? parts.map((part) => ({ pigment: part.paint, parts: part.parts })) : null;
}

function lookParts(mix: Mix, stock: Stock, within: readonly string[] = []): LookPart[] {
  const finish = finishOf(stock.tubes);
  const inside = [...within, mix.id];
  const heaps = (mix.heaps ?? []).flatMap(({ mixId, parts }): LookPart[] => {
    const heap = stock.mixes.find((one) => one.id === mixId);
    const own = heap && !inside.includes(mixId) ? recipeParts(heap, stock, inside) : null;
    if (!heap || !own) return [];
    const rgb = cssRgb(mixColour(own, { finish }).srgb);
    return [{ mixId, name: heap.name, rgb, weight: partsOf(parts), parts, paint: blend(own) }];
  });
  const tubes = mix.recipe.flatMap(({ tubeId, parts }): LookPart[] => {
    const tube = stock.tubes.find((one) => one.id === tubeId);
    if (!tube) return [];
    return [
      { tubeId, name: shortTubeName(tube), rgb: cssRgb(tubeRgb(tube)), weight: partsOf(parts), parts, paint: paintOf(tube) },
    ];
  });
  return addingOrder([...heaps, ...tubes].map((part) => ({ ...part, pigment: part.paint }))).map(
    ({ pigment: _, ...part }) => part,
  );
}

function lookOf(mix: Mix, stock: Stock): MixLook {
  const parts = lookParts(mix, stock);
  const finish = finishOf(stock.tubes);
  const mixed = parts.map((part) => ({ pigment: part.paint, parts: part.parts }));
  const colour = parts.length > 0 ? mixColour(mixed, { finish }) : null;
  const wet = parts.length > 0 ? mixColour(mixed, { state: 'wet' }) : null;
  const seen = mix.targetState === 'wet' ? wet : colour;
  return {
    mix,
    colour,
    wet,
    rgb: colour ? cssRgb(colour.srgb) : unmixed,
    wetRgb: wet ? cssRgb(wet.srgb) : unmixed,
    words:
      parts.length > 0
        ? recipeInWords(
            parts.map((part, i) => ({ tubeId: String(i), parts: part.parts })),
            (i) => (parts[Number(i)] as LookPart).name,
          )
        : 'no recipe yet',
    parts,
    deltaE: seen && mix.targetLab ? deltaE00(mix.targetLab, seen.lab) : null,
    off: seen && mix.targetLab ? differenceInWords(mix.targetLab, seen.lab) : null,
  };
}

const mixLooks = memo(
  (mixes: readonly Mix[], tubes: readonly Tube[]) => new Map(mixes.map((mix) => [mix.id, lookOf(mix, { mixes, tubes })])),
  4,
);
/** The looks of all mixes of a lesson by id; worked out again only when mixes or tubes change. */
export const looksOf = (lesson: Lesson): Map<string, MixLook> => mixLooks(lesson.mixes, lesson.tubes);

const blacks = new Set(['PBk7', 'PBk9', 'PBk11']);
/** What recipes are sought among: the tubes, and the heaps let down beforehand. */
export function stockOf(lesson: Stock, without: readonly string[] = []): StockPaint[] {
  const tubes = lesson.tubes
    .filter((tube) => !without.includes(tube.id))
    .map(
      (tube): StockPaint => ({
        id: tube.id,
        ...pick(paintOf(tube)),
        pricePerMl: tube.priceMinor !== undefined && tube.sizeMl ? tube.priceMinor / tube.sizeMl : undefined,
        isBlack: blacks.has(tube.pigment),
      }),
    );
  const letDown = lesson.mixes.flatMap((mix): StockPaint[] => {
    const parts = mix.letDown && !mix.recipe.some((part) => without.includes(part.tubeId)) ? recipeParts(mix, lesson) : null;
    return parts ? [{ id: mix.id, ...blend(parts) }] : [];
  });
  return [...tubes, ...letDown];
}
const pick = ({ K, S }: Spectra): Spectra => ({ K, S });

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
  const { dryUm } = coatTimes({ technique, ...(water !== undefined && { waterShareOfMix: water }) }, lesson.room);
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
  const finish = finishOf(lesson.tubes);
  return {
    ...covering(parts, dryUm, ground, finish),
    dryUm,
    technique,
    ground,
    glaze: mix.mediumParts ? glazeOver(parts, ground, { medium: mix.mediumParts, dryUm, finish }) : null,
  };
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
    const parts = new Set(mix.heaps?.map((part) => part.mixId));
    open.push(...lesson.mixes.filter((one) => parts.has(one.id)));
  }
  return lesson.mixes.filter((mix) => within.has(mix.id));
}
