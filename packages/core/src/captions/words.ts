import { type Cue, INNER_TIME, secondsOf } from './read.js';

/** A word and when it is said, in seconds. */
export type TimedWord = { w: string; from: number; to: number };

const ENTITY: Readonly<Record<string, string>> = {
  '&amp;': '&',
  '&lt;': '<',
  '&gt;': '>',
  '&nbsp;': ' ',
  '&lrm;': '',
  '&rlm;': '',
};
/** A caption's words without tags, entities and needless spaces. */
export const plainCaption = (text: string): string =>
  text
    .replace(/<[^>]*>/g, '')
    .replace(/\{\\[^}]*\}/g, '')
    .replace(/&\w+;/g, (entity) => ENTITY[entity] ?? entity)
    .replace(/\s+/g, ' ')
    .trim();

/** Nobody says a word in less, and of a word's letters each takes so long at most (common practice, no published source). */
const SLOWEST_S = 0.35;
const LETTER_S = 0.11;
const STOP_LETTERS = 1.5;
const WORD_LETTERS = 2;
/** A caption as short as this shows nothing new: automatic captions put it in to hold their lines. */
const HELD_S = 0.05;

/**
 * All words of some captions with their times. Lines that automatic captions say again are taken once; time marks within a caption are used;
 * otherwise its words share it by their length, and what remains after them is silence.
 */
export function wordsOf(cues: readonly Cue[]): TimedWord[] {
  const words: TimedWord[] = [];
  let before: string[] = [];
  for (const cue of cues) {
    const lines = cue.text.split('\n').filter((line) => plainCaption(line));
    const isRepeated = (line: string) =>
      before.includes(plainCaption(line)) &&
      (lines.length > 1 || cue.to - cue.from < HELD_S || before.at(-1) === plainCaption(line)) &&
      line.search(INNER_TIME) < 0;
    const fresh = lines.filter((line) => !isRepeated(line)).join(' ');
    before = lines.map(plainCaption);
    if (plainCaption(fresh)) words.push(...sharedOut(cue, fresh));
  }
  return words;
}

function sharedOut(cue: Cue, text: string): TimedWord[] {
  const marks: { from: number; tokens: string[] }[] = [];
  let [from, rest] = [cue.from, 0];
  const cut = (end: number) => marks.push({ from, tokens: plainCaption(text.slice(rest, end)).split(' ').filter(Boolean) });
  for (const inner of text.matchAll(INNER_TIME)) {
    cut(inner.index);
    rest = inner.index + inner[0].length;
    from = secondsOf(inner[1], inner[2] ?? '', inner[3] ?? '', inner[4] ?? '');
  }
  cut(text.length);
  return marks.flatMap((mark, i) => {
    const end = marks[i + 1]?.from ?? cue.to;
    const weights = mark.tokens.map((w) => WORD_LETTERS + w.length + (/[.!?,;:]$/.test(w) ? STOP_LETTERS : 0));
    const sum = weights.reduce((a, b) => a + b, 0);
    const span = Math.min(end - mark.from, Math.max(SLOWEST_S * mark.tokens.length, sum * LETTER_S));
    let t = mark.from;
    return mark.tokens.map((w, j) => {
      const begin = t;
      t += (span * (weights[j] as number)) / sum;
      return { w, from: begin, to: t };
    });
  });
}

/**
 * Words of a text as they will be said from `from` (seconds) on: by their syllables (groups of vowels), with a breath at commas and stops.
 * Words a minute include the breaths.
 */
export function spoken(text: string, from: number, wordsPerMinute: number): TimedWord[] {
  const tokens = text.split(/\s+/).filter(Boolean);
  const weight = (w: string) => Math.max(1, (w.toLowerCase().match(/[aeiouyäöü]+/g) ?? []).length) + 0.6;
  const rest = (w: string) => (/[.!?]["'”]?$/.test(w) ? 1.6 : /[,;:]$/.test(w) ? 0.7 : 0);
  const sum = tokens.reduce((total, w) => total + weight(w) + rest(w), 0);
  const unit = spokenSeconds(tokens.length, wordsPerMinute) / Math.max(1, sum);
  let t = from;
  return tokens.map((w) => {
    const begin = t;
    t += weight(w) * unit;
    const word = { w, from: begin, to: t };
    t += rest(w) * unit;
    return word;
  });
}

/** How long so many words take, in seconds. */
export const spokenSeconds = (words: number, wordsPerMinute: number): number => (words / wordsPerMinute) * 60;
export const countWords = (text: string): number => text.split(/\s+/).filter(Boolean).length;
