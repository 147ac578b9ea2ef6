import { readCaptions, wordsOf } from '../captions/index.js';
import type { readNarrations, Truth } from '../fixtures/narrations.js';
import { colourBook, type HearModel, hearModel, segment } from './index.js';
import { type Sentence, sentencesOf } from './sentences.js';
import { type Marked, markSentences, signsAt } from './signs.js';

/** What was found, said and real: for the F1 of borders and of names. */
export type Score = { hit: number; said: number; real: number };
export const noScore: Score = { hit: 0, said: 0, real: 0 };
export const addScores = (a: Score, b: Score): Score => ({ hit: a.hit + b.hit, said: a.said + b.said, real: a.real + b.real });
export const f1 = ({ hit, said, real }: Score): number => (said + real > 0 ? (2 * hit) / (said + real) : 1);
export const scoreSets = (real: readonly string[], said: readonly string[]): Score => ({
  hit: said.filter((one) => real.includes(one)).length,
  said: said.length,
  real: real.length,
});
/** Where the steps of a truth begin, but for the first. */
export const trueBorders = (truth: Truth): number[] => truth.steps.slice(1).map(({ from }) => from);
/** Pairs within so many seconds, each used once, the nearest first. */
export function scoreBorders(real: readonly number[], said: readonly number[], within = 8): Score {
  const pairs = real
    .flatMap((r, i) => said.map((s, j) => ({ i, j, apart: Math.abs(r - s) })))
    .filter(({ apart }) => apart <= within)
    .sort((a, b) => a.apart - b.apart);
  const [left, right] = [new Set<number>(), new Set<number>()];
  for (const { i, j } of pairs)
    if (!left.has(i) && !right.has(j)) {
      left.add(i);
      right.add(j);
    }
  return { hit: left.size, said: said.length, real: real.length };
}

/** Narrations in four guises, so that no one habit of speech is leant on: as they are, without openers, with short pauses, both. */
export type Guise = { bare: boolean; brisk: boolean };
const guises: readonly Guise[] = [
  { bare: false, brisk: false },
  { bare: true, brisk: false },
  { bare: false, brisk: true },
  { bare: true, brisk: true },
];
const OPENERS = /^((and|so|okay|ok|alright|right|well|good|now|then|next|last of all|first of all|finally|lovely)[,.]? )+/i;
const LOW_OPENERS =
  /^((and|so|okay|ok|alright|right|well|good|now|then|next|last of all|first of all|finally|lovely|step \w+|the last thing|last step|moving on) )+/;

function markedIn(source: string, truth: Truth, { bare, brisk }: Guise): Marked[] {
  let units: Sentence[] = sentencesOf(wordsOf(readCaptions(source).cues));
  if (bare)
    units = units.map((one) => {
      const text = one.text.replace(OPENERS, '');
      return text.length > 8 ? { ...one, text, low: one.low.replace(LOW_OPENERS, '') } : one;
    });
  if (brisk) units = units.map((one) => ({ ...one, gap: Math.min(one.gap, 0.4 + 0.08 * one.gap) }));
  const marked = markSentences(units, colourBook(truth.shelf));
  return bare ? marked.map((one) => ({ ...one, opensStrongly: false })) : marked;
}

export type Film = { name: string; guise: Guise; marked: Marked[]; real: number[]; signs: number[][]; isBorder: boolean[] };

/** All narrations in all guises, with which sentences truly begin a step. */
export function filmsOf({ names, source, truths }: ReturnType<typeof readNarrations>): Film[] {
  return names.flatMap((name) =>
    guises.map((guise) => {
      const truth = truths[name] as Truth;
      const marked = markedIn(source(name), truth, guise);
      const gaps = marked.slice(1).map(({ gap }) => gap);
      const real = trueBorders(truth);
      const isBorder = marked.map(() => false);
      for (const border of real) {
        let nearest = 1;
        marked.forEach(({ from }, i) => {
          if (i > 0 && Math.abs(from - border) < Math.abs((marked[nearest] as Marked).from - border)) nearest = i;
        });
        isBorder[nearest] = true;
      }
      return { name, guise, marked, real, signs: marked.map((_, i) => (i > 0 ? signsAt(marked, i, gaps) : [])), isBorder };
    }),
  );
}

/** Where the weights begin, and what they are drawn to; set by hand. */
const HAND = [
  -3, 0.9, 1.2, 2.2, 0.8, -1, 0.6, 1.2, 1, 0.6, 0.4, 0.6, 0.4, 0.2, 0.5, -1, 0.2, 0.3, 1, -0.4, 0, 0.8, 0.6, 0.7, 0.4, 0.4, 0.6,
];
const RIDGE = 8;
const ROUNDS = 600;
const RATE = 0.004;

/** Weights of the signs by logistic regression with a ridge towards {@link HAND}. */
export function fitHearing(films: readonly Film[]): HearModel {
  const weights = [...HAND];
  const rows = films.flatMap(({ signs, isBorder }) => signs.flatMap((x, i) => (i > 0 ? [{ x, y: isBorder[i] ? 1 : 0 }] : [])));
  for (let round = 0; round < ROUNDS; round++) {
    const slope = weights.map((w, k) => (k > 0 ? RIDGE * (w - (HAND[k] as number)) : 0));
    for (const { x, y } of rows) {
      let sum = 0;
      for (let k = 0; k < x.length; k++) sum += (x[k] as number) * (weights[k] as number);
      const off = 1 / (1 + Math.exp(-sum)) - y;
      for (let k = 0; k < x.length; k++) slope[k] = (slope[k] as number) + off * (x[k] as number);
    }
    for (let k = 0; k < weights.length; k++) weights[k] = (weights[k] as number) - RATE * (slope[k] as number);
  }
  return { ...hearModel, weights };
}

/** F1 of borders of each guise, every narration cut by a model that was fitted without it. */
export function leftOneOut(films: readonly Film[]): { guise: Guise; score: Score }[] {
  const names = [...new Set(films.map(({ name }) => name))];
  const models = new Map(names.map((name) => [name, fitHearing(films.filter((one) => one.name !== name))]));
  return guises.map((guise) => ({
    guise,
    score: films
      .filter((one) => one.guise === guise)
      .map((one) => scoreOf(one, models.get(one.name)))
      .reduce(addScores, noScore),
  }));
}
const scoreOf = ({ marked, real }: Film, model: HearModel = hearModel): Score =>
  scoreBorders(
    real,
    segment(marked, model).map((i) => (marked[i] as Marked).from),
  );
