import { spokenSeconds } from '../captions/index.js';
import { type HearModel, hearModel } from './model.js';
import { type Marked, signNames, signsAt } from './signs.js';

/** The words a minute by which a step's size is reckoned beside its seconds. */
const USUAL_WPM = 140;
const MOST_SENTENCES = 120;
/** Steps of a film are rarely shorter than this. */
const SHORT_S = 8;

/** How large the steps of a film may be wished for, in seconds. */
export const stepSizes = { least: 25, most: 240, usual: 70 };

/** A border before a sentence: how sure it is (0 to 1), and the signs that speak for it, strongest first. */
export type Border = { at: number; sure: number; signs: string[] };

type Scored = {
  /** For the border before each sentence. */
  scores: Float64Array;
  signs: number[][];
  sizeOf: (i: number, j: number) => number;
  /** The size looked for. */
  own: number;
};

/**
 * The scores of all borders. A step's size is the geometric mean of its seconds and of the seconds that its words take at a usual rate: a
 * speed-up presses the one, not the other. A film without the usual openers has weak signs throughout: all its scores are moved so that they
 * tell of as many steps as its length does.
 */
function scored(all: readonly Marked[], { weights, size }: HearModel): Scored {
  const n = all.length;
  const gaps = all.slice(1).map(({ gap }) => gap);
  const signs = all.map((_, i) => (i > 0 ? signsAt(all, i, gaps) : []));
  const scores = Float64Array.from(signs, (own) => own.reduce((sum, v, k) => sum + v * (weights[k] as number), 0));
  const said = [0];
  for (const { words } of all) said.push((said.at(-1) as number) + words.length);
  const sizeOf = (i: number, j: number) => {
    const seconds = (j < n ? (all[j] as Marked).from : (all[n - 1] as Marked).to) - (all[i] as Marked).from;
    return Math.sqrt(Math.max(1, seconds) * Math.max(1, spokenSeconds((said[j] as number) - (said[i] as number), USUAL_WPM)));
  };
  const steps = sizeOf(0, n) / size;
  const told = (moved: number) => scores.reduce((sum, s, i) => sum + (i > 0 ? 1 / (1 + Math.exp(-(s + moved))) : 0), 1);
  let [low, high] = [-4, 6];
  for (let round = 0; round < 30; round++) {
    const mid = (low + high) / 2;
    if (told(mid) < steps) low = mid;
    else high = mid;
  }
  for (let i = 1; i < n; i++) scores[i] = (scores[i] as number) + low;
  return { scores, signs, sizeOf, own: size };
}

/** What a step of a size costs: sizes are log-normal. What is said at the end (good-bye) may be short. */
function lengthCost({ sizeOf, own }: Scored, n: number, { spread, lengthWeight }: HearModel): (i: number, j: number) => number {
  return (i, j) => {
    const size = sizeOf(i, j);
    if (j === n && i > 0 && size < own) return lengthWeight * 0.3;
    const z = Math.log(Math.max(1, size) / own) / spread;
    return lengthWeight * (0.5 * z * z + (size < SHORT_S ? 3 : 0));
  };
}

/** The sentences that begin a step, by dynamic programming over all ways to cut: the least sum of border costs, scores and sizes. */
export function segment(all: readonly Marked[], model: HearModel = hearModel): number[] {
  const n = all.length;
  if (n === 0) return [];
  const known = scored(all, model);
  const cost = lengthCost(known, n, model);
  const best = new Float64Array(n + 1).fill(Number.POSITIVE_INFINITY);
  const from = new Int32Array(n + 1);
  best[0] = 0;
  for (let j = 1; j <= n; j++)
    for (let i = j - 1; i >= 0 && j - i <= MOST_SENTENCES; i--) {
      const total = (best[i] as number) + (i > 0 ? model.borderCost - (known.scores[i] as number) : 0) + cost(i, j);
      if (total < (best[j] as number)) {
        best[j] = total;
        from[j] = i;
      }
    }
  const cuts: number[] = [];
  for (let j = n; j > 0; j = from[j] as number) if ((from[j] as number) > 0) cuts.push(from[j] as number);
  return cuts.reverse();
}

/**
 * Borders for steps of about `size` seconds. Those of larger steps are always among those of smaller ones, so that "fewer – more steps" only
 * opens and closes: the best cut at the learnt size is thinned, the least sure border between small neighbours first, or the surest ones of
 * a finer cut are put in.
 */
export function bordersOf(all: readonly Marked[], size: number, model: HearModel = hearModel): Border[] {
  if (all.length === 0) return [];
  const known = scored(all, model);
  const sure = marginals(all, model, known);
  const best = segment(all, model);
  const wanted = Math.max(1, Math.round(known.sizeOf(0, all.length) / size)) - 1;
  const kept =
    size >= model.size
      ? thinned(best, sure, known, wanted)
      : withFiner(best, segment(all, { ...model, size: stepSizes.least }), sure, wanted);
  return kept.map((at) => {
    const own = (known.signs[at] as number[]).map((v, k) => ({
      words: signNames[k] as string,
      by: v * (model.weights[k] as number),
    }));
    const strong = own.filter(({ by, words }) => by > 0.4 && words).sort((a, b) => b.by - a.by);
    return { at, sure: sure[at] as number, signs: [...new Set(strong.map(({ words }) => words))].slice(0, 3) };
  });
}

/** Borders taken away one by one until `wanted` remain. */
function thinned(cuts: readonly number[], sure: Float64Array, { sizeOf, scores }: Scored, wanted: number): number[] {
  let kept = [...cuts];
  while (kept.length > wanted) {
    const edges = [0, ...kept, scores.length];
    const weight = (k: number) =>
      (sure[edges[k] as number] as number) + SIZE_COUNTS * Math.log(sizeOf(edges[k - 1] as number, edges[k + 1] as number));
    let least = 1;
    for (let k = 2; k <= kept.length; k++) if (weight(k) < weight(least)) least = k;
    kept = kept.filter((_, k) => k !== least - 1);
  }
  return kept;
}
/** How far small neighbours count against a sure border; our judgement. */
const SIZE_COUNTS = 0.35;

function withFiner(best: readonly number[], finer: readonly number[], sure: Float64Array, wanted: number): number[] {
  const more = finer.filter((at) => !best.includes(at)).sort((a, b) => (sure[b] as number) - (sure[a] as number) || a - b);
  return [...best, ...more.slice(0, Math.max(0, wanted - best.length))].sort((a, b) => a - b);
}

/** How sure each border is: its share in all ways to cut, weighed by their cost (forward–backward sums). */
function marginals(all: readonly Marked[], model: HearModel, known: Scored): Float64Array {
  const n = all.length;
  const cost = lengthCost(known, n, model);
  const gain = (i: number) => (i > 0 ? (known.scores[i] as number) - model.borderCost : 0);
  const add = (a: number, b: number): number => {
    const high = Math.max(a, b);
    return high === Number.NEGATIVE_INFINITY ? high : high + Math.log1p(Math.exp(Math.min(a, b) - high));
  };
  const forth = new Float64Array(n + 1).fill(Number.NEGATIVE_INFINITY);
  const back = new Float64Array(n + 1).fill(Number.NEGATIVE_INFINITY);
  forth[0] = 0;
  back[n] = 0;
  for (let j = 1; j <= n; j++)
    for (let i = Math.max(0, j - MOST_SENTENCES); i < j; i++)
      forth[j] = add(forth[j] as number, (forth[i] as number) + gain(i) - cost(i, j));
  for (let i = n - 1; i >= 0; i--)
    for (let j = i + 1; j <= Math.min(n, i + MOST_SENTENCES); j++)
      back[i] = add(back[i] as number, (back[j] as number) + gain(i) - cost(i, j));
  const whole = forth[n] as number;
  return Float64Array.from({ length: n }, (_, i) =>
    i > 0 ? Math.exp(Math.min(0, (forth[i] as number) + (back[i] as number) - whole)) : 1,
  );
}
