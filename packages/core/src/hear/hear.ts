import { type CaptionFault, readCaptions, wordsOf } from '../captions/index.js';
import { type ColourBook, colourBook, type HeardShelf, type SaidAmount } from './colours.js';
import { hearModel } from './model.js';
import { nameOf } from './names.js';
import { type Border, bordersOf, segment, stepSizes } from './segment.js';
import { sentencesOf } from './sentences.js';
import { type Marked, markSentences, tradeOf } from './signs.js';
import { type Past, usesOf } from './uses.js';

/** What a narrated demonstration is heard with: the colours of the lesson, and the names of its areas. */
export type Hearing = HeardShelf & { areas?: readonly string[] };

/** A step of the draft; seconds of the film. `titles` are proposals, the likeliest first. */
export type HeardStep = {
  kind: 'talk' | 'draw' | 'transfer' | 'paint';
  titles: string[];
  act: string | null;
  thing: string | null;
  from: number;
  to: number;
  tools: string[];
  colours: string[];
  amounts: Record<string, SaidAmount>;
  dryAfter: boolean;
  watch: string[];
  corrections: string[];
  say: string;
  /** The border it begins with; the first has none. */
  border?: Border;
};

/** What was said, marked once; steps of any size are cut from it. */
export type Heard = {
  kind: 'vtt' | 'srt';
  faults: CaptionFault[];
  sentences: readonly Marked[];
  book: ColourBook;
  areas: readonly string[];
};

/** A file of captions read and marked with the words of the trade. Throws a sentence where it is too large to read. */
export function hear(source: string, { areas = [], ...shelf }: Hearing): Heard {
  const { cues, faults, kind } = readCaptions(source);
  const book = colourBook(shelf);
  return { kind, faults, sentences: markSentences(sentencesOf(wordsOf(cues)), book), book, areas };
}

/** Whether so few words of the trade are said that steps can be cut by pauses alone. */
export const isForeign = ({ sentences }: Heard): boolean =>
  sentences.length > 8 && sentences.filter((one) => tradeOf(one) > 0).length / sentences.length < 0.06;

/** Steps of about `size` seconds ({@link stepSizes}). */
export function stepsHeard(heard: Heard, size: number = stepSizes.usual): HeardStep[] {
  const borders = bordersOf(heard.sentences, size);
  return stepsCut(
    heard,
    borders.map(({ at }) => at),
  ).map((step, k) => {
    const border = borders[k - 1];
    return border ? { ...step, border } : step;
  });
}

/** Steps of the size that the narrations of the corpus had. */
export const stepsAsLearnt = (heard: Heard): HeardStep[] => stepsCut(heard, segment(heard.sentences, hearModel));

/** Steps that begin with these sentences, beside the first. */
export function stepsCut({ sentences, book, areas }: Heard, cuts: readonly number[]): HeardStep[] {
  if (sentences.length === 0) return [];
  let past: Past = { found: [] };
  const starts = [0, ...cuts];
  return starts.map((i, k) => {
    const own = sentences.slice(i, starts[k + 1] ?? sentences.length);
    const isEdge = k === 0 || k === starts.length - 1;
    const isTalk =
      own.every((one) => tradeOf(one) === 0) ||
      (isEdge && own.some((one) => one.isAside) && own.every((one) => one.tools.size === 0 && !one.hasAmount));
    const used = isTalk ? { uses: { tools: [], colours: [], amounts: {} }, past } : usesOf(own, book, past);
    past = used.past;
    const { act, thing, titles } = nameOf(own, { areas, colours: used.uses.colours });
    return {
      ...used.uses,
      kind: isTalk ? 'talk' : act === 'draw' || act === 'transfer' ? act : 'paint',
      titles: isTalk ? ['Talk'] : titles,
      act,
      thing,
      from: (own[0] as Marked).from,
      to: (own.at(-1) as Marked).to,
      dryAfter: own.slice(-3).some((one) => one.asksDrying),
      watch: textsWhere(own, ({ low }) => /\b(don'?t|do not|never|careful|not too|otherwise|mistake)\b/.test(low)),
      corrections: textsWhere(own, (one) => one.corrects),
      say: own.map(({ text }) => text).join(' '),
    };
  });
}

const textsWhere = (own: readonly Marked[], is: (one: Marked) => boolean): string[] => own.filter(is).map(({ text }) => text);
