import type { TimedWord } from '../captions/index.js';
import { openStrong } from './lexicon.js';

/** A sentence as it was said; `low` its words in small letters without marks, `gap` the silence before it (s). */
export type Sentence = { from: number; to: number; gap: number; words: readonly TimedWord[]; text: string; low: string };

const bareWord = (w: string): string =>
  w
    .toLowerCase()
    .replace(/[‘’]/g, "'")
    .replace(/^[^\w#]+|[^\w%]+$/g, '');

const STOP = /[.!?]["'”]?$/;
const OPENS = /^(now|so|okay|ok|alright|next|then|let's|moving|last|finally|first|once|and)$/;
/** A share of words that end a sentence above which the captions are taken to be punctuated. */
const PUNCTUATED = 0.025;

/** Sentences of what is said; where nothing is punctuated, what is said between breaths and openers, forty words at most. */
export function sentencesOf(words: readonly TimedWord[]): Sentence[] {
  const isPunctuated = words.filter(({ w }) => STOP.test(w)).length / words.length > PUNCTUATED;
  const units: TimedWord[][] = [];
  let unit: TimedWord[] = [];
  words.forEach((word, i) => {
    const last = unit.at(-1);
    if (last && (isPunctuated ? endsHere(unit, last, word) : breaksHere(unit, last, words, i))) {
      units.push(unit);
      unit = [];
    }
    unit.push(word);
  });
  if (unit.length > 0) units.push(unit);
  return units.map((own, k) => {
    const first = own[0] as TimedWord;
    const before = units[k - 1]?.at(-1);
    return {
      from: first.from,
      to: (own.at(-1) as TimedWord).to,
      gap: before ? first.from - before.to : 0,
      words: own,
      text: own.map(({ w }) => w).join(' '),
      low: own
        .map(({ w }) => bareWord(w))
        .filter(Boolean)
        .join(' '),
    };
  });
}

const endsHere = (unit: readonly TimedWord[], last: TimedWord, word: TimedWord): boolean =>
  STOP.test(last.w) || word.from - last.to > 2.5 || unit.length > 60;

function breaksHere(unit: readonly TimedWord[], last: TimedWord, words: readonly TimedWord[], i: number): boolean {
  const gap = (words[i] as TimedWord).from - last.to;
  if (gap > 0.9 || (unit.length >= 24 && gap > 0.2) || unit.length >= 40) return true;
  if (unit.length < 5) return false;
  const ahead = words.slice(i, i + 8).map(({ w }) => bareWord(w));
  return (
    OPENS.test(ahead[0] ?? '') &&
    openStrong.test(ahead.join(' ')) &&
    !/^(and|so|then) (i|you|it|they|we)\b/.test(ahead.slice(0, 2).join(' '))
  );
}
