import { type CaptionRules, captionRules } from './rules.js';
import type { TimedWord } from './words.js';

/** A caption with its line break, as it is said; `chars` without the break. Seconds. */
export type SaidCue = { text: string; from: number; to: number; chars: number };

const AFTER = new Set(
  "a an the my your our his her its their this that these those of to in on at by for from with into over under up and or but so as than very too quite just about no not one two three four five six seven eight nine ten i you we they he she it's i'm don't titanium burnt raw cadmium phthalo yellow ultramarine lemon cerulean prussian".split(
    ' ',
  ),
);
const BEFORE = new Set(
  'and but or so because which that when while until if then before after where with into from on in at under over'.split(' '),
);
const bare = (w: string): string => w.toLowerCase().replace(/[^a-z']/g, '');

/** What it costs to break between two words; none where a sentence ends. Names of tubes, mixes and tools are never torn, if it can be helped. */
function tear(a: string, b: string, names: ReadonlySet<string>): number {
  if (/[.!?]["'”]?$/.test(a)) return 0;
  if (/[;:]$/.test(a)) return 1;
  if (/,$/.test(a)) return 1.5;
  if (names.has(`${bare(a)} ${bare(b)}`)) return 14;
  if (AFTER.has(bare(a))) return 9;
  if (/^\d/.test(a) || /^(parts?|of)$/.test(bare(b))) return 8;
  return BEFORE.has(bare(b)) ? 2.5 : 5;
}

const pairsOf = (names: readonly string[]): Set<string> =>
  new Set(
    names.flatMap((name) => {
      const parts = name.toLowerCase().split(' ');
      return parts.slice(1).map((part, i) => `${bare(parts[i] as string)} ${bare(part)}`);
    }),
  );

/** Weights of the break of a caption; our judgement, tried on the narrations of the corpus. */
const cost = {
  perCue: 2.2,
  torn: 1.2,
  pauseEases: 3,
  shortUnder: 18,
  short: 0.18,
  brief: 1.5,
  longOver: 6,
  long: 3,
  inner: 6,
  stop: 1,
  atCut: 2,
};

/**
 * Words as captions of at most two lines: dynamic programming over where one ends, with the best break of its lines inside. `names` are not
 * torn; a break at a change of picture (`cuts`, seconds) is welcome. O(words × words of a caption).
 */
export function breakCues(
  words: readonly TimedWord[],
  {
    names = [],
    cuts = [],
    rules = captionRules,
  }: { names?: readonly string[]; cuts?: readonly number[]; rules?: CaptionRules } = {},
): SaidCue[] {
  const n = words.length;
  const pairs = pairsOf(names);
  const torn = words.map(({ w }, i) => (i + 1 < n ? tear(w, (words[i + 1] as TimedWord).w, pairs) : 0));
  const starts = [0];
  for (const { w } of words) starts.push((starts.at(-1) as number) + w.length + 1);
  const length = (i: number, j: number): number => (starts[j] as number) - (starts[i] as number) - 1;
  // What it costs that pauses and stops lie within a caption, summed from the first word on.
  const within = new Float64Array(n + 1);
  for (let k = 0; k + 1 < n; k++) {
    const [word, next] = [words[k] as TimedWord, words[k + 1] as TimedWord];
    const gap = next.from - word.to;
    const own = (gap > 0.7 ? cost.inner * Math.min(2, gap) : 0) + (/[.!?]$/.test(word.w) ? cost.stop : 0);
    within[k + 1] = (within[k] as number) + own;
  }
  const best = new Float64Array(n + 1).fill(Number.POSITIVE_INFINITY);
  const from = new Int32Array(n + 1);
  const line = new Int32Array(n + 1).fill(-1);
  best[0] = 0;
  for (let j = 1; j <= n; j++)
    for (let i = j - 1; i >= 0; i--) {
      if (length(i, j) > rules.lineChars * rules.lines && i < j - 1) break;
      const [split, inLines] = lineBreak(i, j);
      if (inLines === null) continue;
      const total = (best[i] as number) + inLines + costOf(i, j);
      if (total < (best[j] as number)) {
        best[j] = total;
        from[j] = i;
        line[j] = split;
      }
    }
  const out: SaidCue[] = [];
  const text = (a: number, b: number): string =>
    words
      .slice(a, b)
      .map(({ w }) => w)
      .join(' ');
  for (let j = n; j > 0; j = from[j] as number) {
    const i = from[j] as number;
    const at = line[j] as number;
    out.push({
      text: at > 0 ? `${text(i, at)}\n${text(at, j)}` : text(i, j),
      from: (words[i] as TimedWord).from,
      to: (words[j - 1] as TimedWord).to,
      chars: length(i, j),
    });
  }
  return out.reverse();

  /** Where the lines of a caption break best (−1: one line) and what that costs; null where it does not fit. */
  function lineBreak(i: number, j: number): [number, number | null] {
    if (length(i, j) <= rules.lineChars) return [-1, 0];
    let [split, least] = [-1, Number.POSITIVE_INFINITY];
    for (let k = i + 1; k < j; k++) {
      const [upper, lower] = [length(i, k), length(k, j)];
      if (upper > rules.lineChars || lower > rules.lineChars) continue;
      const own = 0.5 * (torn[k - 1] as number) + Math.abs(upper - lower) / 14 + (upper > lower ? 0.15 : 0);
      if (own < least) [split, least] = [k, own];
    }
    // A single word longer than a line stands as it is.
    if (split < 0) return j - i > 1 ? [-1, null] : [-1, 30];
    return [split, least];
  }

  function costOf(i: number, j: number): number {
    const first = words[i] as TimedWord;
    const last = words[j - 1] as TimedWord;
    const seconds = last.to - first.from;
    let sum = cost.perCue + (within[j - 1] as number) - (within[i] as number);
    const next = words[j];
    const pause = next ? next.from - last.to : 1;
    sum += Math.max(0, (torn[j - 1] as number) - (pause > 0.4 ? cost.pauseEases : 0)) * cost.torn;
    const chars = length(i, j);
    if (chars < cost.shortUnder) sum += (cost.shortUnder - chars) * cost.short;
    if (seconds < 1) sum += cost.brief * (1 - seconds);
    sum += Math.max(0, seconds - cost.longOver) * cost.long;
    if (next && cuts.some((cut) => cut > last.to - 0.3 && cut <= next.from + 0.3)) sum -= cost.atCut;
    return sum;
  }
}
