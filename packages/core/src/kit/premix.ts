import type { Lesson, Mix, Premixing, Room } from '@viaticum/contract';
import { say } from '@viaticum/contract';
import { deltaE00 } from '@viaticum/kernels/colour';
import { mixColour } from '@viaticum/kernels/mixing';
import { looksOf } from '../derived/index.js';
import { heapKeepsMin, keepings } from '../heap/index.js';
import { type LookPart, recipeParts, sensitivity } from '../mix/index.js';
import { counted, syringeInWords, volumeInWords } from '../units/index.js';
import type { MixVolume } from './volumes.js';

/** Why a mix is better made once for all, and how much that weighs. */
export type PremixReason = { words: string; weight: 'must' | 'better' };
/** A part of a batch, ml, as it is measured; `name` of a tube, or of a mix within. */
export type BatchPart = { name: string; ml: number };
/** A mix made once for all. */
export type Batch = {
  ml: number;
  /** One painter's share, ml, and how many are filled: heads, teaching canvases, and one kept. */
  portionMl: number;
  /** The share of who paints the largest canvas, where they are of several sizes. */
  largestMl: number;
  portions: number;
  parts: BatchPart[];
  /** How far rounding moves its colour, ΔE00. */
  roundedBy: number;
  minutes: number;
  container: { kind: 'bag' | 'jar'; ml: number } | null;
};
export type Premix = {
  mix: Mix;
  reasons: PremixReason[];
  /** What the reasons say, and what is done: the instructor's word counts. */
  advised: 'must' | 'better' | 'no';
  isBatch: boolean;
  /** The smallest part of one painter's heap, ml. */
  leastPartMl: number;
  batch: Batch | null;
};

/** What the tip of a knife takes up, ml: less cannot be measured at a palette (judged). */
export const MEASURABLE_ML = 0.02;
const TOUCHY = 6;
const TOUCHY_AGAIN = 4;
const SMALL_ML = 2;
const LARGE_ML = 8;
/** What stays in a bag or jar, ml, and in the pot where a batch is mixed. */
const CONTAINER_ML = 0.4;
const POT_SHARE = 0.03;
/** Minutes to mix a batch: to begin with, for each ml, for each portion that is filled, swatched and labelled (judged). */
const MINUTES = { before: 3, perMl: 1 / 100, perPortion: 0.5 };
const FULLNESS = 1.2;

type Group = { heads: number; teaching: number };
type Own = { volume: MixVolume; teachingMl: number };

type Share = { name: string; share: number; paint: LookPart['paint'] };
/** The parts of a mix by volume, summing to 1; empty without a recipe. */
function sharesOf(lesson: Lesson, mix: Mix): Share[] {
  const parts = looksOf(lesson).get(mix.id)?.parts ?? [];
  const sum = parts.reduce((all, { weight }) => all + weight, 0);
  return parts.map(({ name, weight, paint }) => ({ name, share: weight / sum, paint }));
}

/** The least heap, ml, that can be mixed true at a palette: its smallest part is what a knife's tip takes. */
export function leastTrueMl(lesson: Lesson, mix: Mix): number {
  const shares = sharesOf(lesson, mix).map(({ share }) => share);
  return shares.length > 1 ? MEASURABLE_ML / Math.min(...shares) : 0;
}

function reasonsFor(
  lesson: Lesson,
  mix: Mix,
  { canvas, brush, kept, steps }: MixVolume,
): { list: PremixReason[]; leastMl: number } {
  const list: PremixReason[] = [];
  const shares = sharesOf(lesson, mix).map(({ share }) => share);
  const parts = recipeParts(mix, lesson);
  const leastMl = shares.length > 1 ? Math.min(...shares) * (canvas + brush + kept) : Number.POSITIVE_INFINITY;
  const touchy = parts && parts.length > 1 ? sensitivity(parts, { finish: lesson.finish }).deltaE : 0;
  const add = (weight: PremixReason['weight'], words: string) => list.push({ weight, words });
  if (steps.length > 1) {
    const isSure = canvas > SMALL_ML || touchy > TOUCHY_AGAIN;
    add(isSure ? 'must' : 'better', say`comes back in ${counted(steps.length, 'step')}, where a new heap would not match`);
  }
  if (leastMl < MEASURABLE_ML) {
    const little = leastMl < 0.001 ? say('less than 0.001 ml') : syringeInWords(Number(leastMl.toFixed(3)));
    const words = say`its smallest part is ${little} in one heap: nobody can measure that`;
    add(leastMl < MEASURABLE_ML / 2 ? 'must' : 'better', words);
  }
  if (
    steps.some(
      (step) => step.needs === 'wet' || step.needs === 'damp' || step.technique === 'blend' || step.passageId !== undefined,
    )
  )
    add('better', say('goes into wet paint: no time to mix then'));
  if (touchy > TOUCHY && canvas > SMALL_ML)
    add('better', say`touchy: its smallest part doubled moves it by ΔE ${Math.round(touchy)}`);
  if (canvas > LARGE_ML) add('better', say`much of it: ${volumeInWords(canvas)} on each canvas`);
  return { list, leastMl };
}

/** Measured to half a ml, or to a tenth of what is little; a syringe shows no less (common practice, no published source). */
const stepFor = (ml: number): number => (ml > 5 ? 0.5 : 0.1);
const LEAST_MEASURED_ML = 0.1;
const roundTo = (ml: number): number => {
  const step = stepFor(ml);
  return Math.round(Math.max(step, Math.round(ml / step) * step) * 10) / 10;
};
/** What is too little is let down first: so many parts of the largest part of the mix to one of it. */
const LET_DOWN = 15;
/** Rounding may not make a batch larger than by so much. */
const MOST_GROWN = 1.1;

/**
 * The parts of a batch as they are measured: of the amounts between what is needed and a tenth more the one whose rounded parts keep the
 * colour best. What is less than a syringe shows is let down with the mix's largest part.
 */
function measured(lesson: Lesson, mix: Mix, ml: number): { parts: BatchPart[]; roundedBy: number } {
  const shares = sharesOf(lesson, mix);
  const [largest] = [...shares].sort((one, other) => other.share - one.share);
  if (!largest) return { parts: [], roundedBy: 0 };
  const isLittle = ({ share }: Share) => share * ml < LEAST_MEASURED_ML && shares.length > 1;
  const little = shares.filter(isLittle);
  const letDown = little.reduce((sum, one) => sum + LET_DOWN * one.share, 0);
  const meant = shares.map((one) => {
    if (isLittle(one)) return { name: say`${one.name}, 1 to ${LET_DOWN} of ${largest.name}`, share: one.share * (1 + LET_DOWN) };
    return { name: one.name, share: one === largest ? Math.max(0, one.share - letDown) : one.share };
  });
  const { finish } = lesson;
  const lab = (mls: readonly number[]) =>
    mixColour(
      shares.map(({ paint }, i) => ({ pigment: paint, parts: mls[i] ?? 0 })),
      { finish },
    ).lab;
  const aim = lab(shares.map(({ share }) => share));
  let best: { parts: BatchPart[]; roundedBy: number } | null = null;
  for (let k = 0; k <= SCALES; k++) {
    const scaled = ml * (1 + ((MOST_GROWN - 1) * k) / SCALES);
    const parts = meant.map(({ name, share }) => ({ name, ml: share > 0 ? roundTo(share * scaled) : 0 }));
    // What really comes together, the parts that were let down taken apart again.
    const lent = parts.reduce(
      (sum, part, i) => (isLittle(shares[i] as Share) ? sum + (part.ml * LET_DOWN) / (1 + LET_DOWN) : sum),
      0,
    );
    const made = shares.map((one, i) => {
      const own = parts[i]?.ml ?? 0;
      return isLittle(one) ? own / (1 + LET_DOWN) : own + (one === largest ? lent : 0);
    });
    const roundedBy = shares.length > 1 ? deltaE00(aim, lab(made)) : 0;
    if (!best || roundedBy < best.roundedBy - BETTER) best = { parts: parts.filter((part) => part.ml > 0), roundedBy };
  }
  return best as NonNullable<typeof best>;
}
/** Amounts between what is needed and a tenth more are tried; a larger one must be nearer by so much, ΔE00. */
const SCALES = 10;
const BETTER = 0.1;

/** The smallest of some containers that holds a portion with room to close it; the largest where none does. */
function containerFor(portionMl: number, owned: readonly { kind: 'bag' | 'jar'; ml: number }[]): Batch['container'] {
  const sorted = [...owned].sort((one, other) => one.ml - other.ml);
  return sorted.find(({ ml }) => ml >= FULLNESS * portionMl) ?? sorted.at(-1) ?? null;
}

/**
 * Which mixes are made once for all, why, and how: amounts for the group, parts as they are measured, portions and what they are filled in.
 * The lesson's own word (`kit.premix`) counts; a school that mixes ahead, and children, have all of them so.
 */
export function premixes(
  lesson: Lesson,
  own: ReadonlyMap<string, Own>,
  { heads, teaching }: Group,
  containers: readonly { kind: 'bag' | 'jar'; ml: number }[],
): Premix[] {
  const said = new Map<string, Premixing>((lesson.kit?.premix ?? []).map(({ mixId, how }) => [mixId, how]));
  const isAll = lesson.school.mixing === 'all-premixed' || lesson.kit?.children === true;
  return lesson.mixes.flatMap((mix): Premix[] => {
    const found = own.get(mix.id);
    if (!found) return [];
    const { list, leastMl } = reasonsFor(lesson, mix, found.volume);
    if (isAll)
      list.unshift({
        weight: 'must',
        words: lesson.kit?.children ? say('the students are children') : say('this school mixes all ahead'),
      });
    const advised = list.some(({ weight }) => weight === 'must') ? 'must' : list.length > 0 ? 'better' : 'no';
    const isBatch = said.has(mix.id) ? said.get(mix.id) === 'batch' : advised === 'must';
    const portions = heads + teaching + 1;
    const ml = (heads * found.volume.portion + teaching * found.teachingMl + (heads + teaching) * CONTAINER_ML) * (1 + POT_SHARE);
    const batch = isBatch
      ? {
          ml,
          portionMl: found.volume.portion,
          largestMl: found.volume.largest,
          portions,
          ...measured(lesson, mix, ml),
          minutes: MINUTES.before + ml * MINUTES.perMl + portions * MINUTES.perPortion,
          container: containerFor(found.volume.largest, containers),
        }
      : null;
    return [{ mix, reasons: list, advised, isBatch, leastPartMl: leastMl, batch }];
  });
}

export const stores = ['plate', 'film', 'wet-palette', 'bag', 'jar'] as const;
export type Store = (typeof stores)[number];
/** A heap of this many ml stands 4 mm high; so storage is compared. */
const COMPARED_ML = 0.66;
const JAR_DAYS = 60;
const JAR_FULL = () => say('in a jar filled to two thirds or more');

/** How long a mix keeps in a store in some air, min, and where that is, in words. A jar's label rules; sixty days are judged. */
export function storageLife(store: Store, room: Room, ml = COMPARED_ML): { minutes: number; where: string } {
  if (store === 'jar') return { minutes: JAR_DAYS * 24 * 60, where: JAR_FULL() };
  return { minutes: heapKeepsMin(ml, store, room), where: keepings[store].where };
}
