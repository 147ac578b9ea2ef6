import { worded } from '@viaticum/contract';
import { type ColourBook, findColours } from './colours.js';
import * as lexicon from './lexicon.js';
import type { Sentence } from './sentences.js';

/** A sentence with the words of the trade in it. */
export type Marked = Sentence & {
  acts: ReadonlySet<string>;
  tools: ReadonlySet<string>;
  colours: ReadonlySet<string | null>;
  places: ReadonlySet<string>;
  /** Its own words, cut to their stems. */
  bag: readonly string[];
  opensStrongly: boolean;
  opensWeakly: boolean;
  goesOn: boolean;
  closes: boolean;
  /** Talk beside the matter. */
  isAside: boolean;
  asksDrying: boolean;
  isDryNow: boolean;
  corrects: boolean;
  hasAmount: boolean;
};

export const commonWords = new Set(
  "a an the and or but of to in on at by for with from into over it it's its is are was were be been this that these those i i'm i've you we they he she me my your our their his her so just then now really very quite kind sort bit little some any all one two three four there here up down out off as if not don't do does did have has had will can could would should get got go goes going going gonna put take took make made making use using used same more most like what which who when where how right okay well let let's want need know thing things way because about again back next first last".split(
    ' ',
  ),
);
const stem = (w: string): string => w.replace(/(ing|ed|es|s)$/, '').slice(0, 7);
const singular = (w: string): string => w.replace(/s$/, '');
const knownPlaces = new Set(lexicon.places);

const matching = (table: Readonly<Record<string, RegExp>>, text: string): Set<string> =>
  new Set(Object.keys(table).filter((key) => (table[key] as RegExp).test(text)));

export function markSentences(sentences: readonly Sentence[], book: ColourBook): Marked[] {
  return sentences.map((one) => {
    const { low } = one;
    const all = low.split(' ');
    const own = all.filter((w) => w.length > 2 && !commonWords.has(w));
    const colours = new Set(findColours(all, book).map(({ id }) => id));
    const places = new Set(own.map(singular).filter((w) => knownPlaces.has(w) || knownPlaces.has(w.replace(/e$/, ''))));
    return {
      ...one,
      acts: matching(lexicon.acts, low),
      tools: matching(lexicon.tools, low),
      colours,
      places,
      bag: own.map(stem),
      opensStrongly: lexicon.openStrong.test(low),
      opensWeakly: lexicon.openWeak.test(low),
      goesOn: lexicon.goesOn.test(low),
      closes: lexicon.closing.test(low),
      isAside: lexicon.meta.test(low),
      asksDrying: lexicon.dryAsk.test(low) && !/\bdry brush|dry(est)? (flat|mop|filbert)|damp/.test(low),
      isDryNow: lexicon.dryNow.test(low),
      corrects: lexicon.corrects.test(low),
      hasAmount: /\b(parts?|equal|half|touch|speck|two of|one of|three of)\b/.test(low) && colours.size > 0,
    };
  });
}

/** How many words of the trade a sentence has. */
export const tradeOf = ({ acts, tools, colours }: Marked): number => acts.size + tools.size + colours.size;

type Sets = 'acts' | 'tools' | 'colours' | 'places';
const unionOf = (units: readonly Marked[], of: Sets): Set<string | null> => new Set(units.flatMap((one) => [...one[of]]));
const newIn = (here: ReadonlySet<string | null>, before: ReadonlySet<string | null>): number =>
  Math.min(2, [...here].filter((one) => !before.has(one)).length);

function likeness(a: readonly string[], b: readonly string[]): number {
  const counts = (list: readonly string[]) => {
    const map = new Map<string, number>();
    for (const w of list) map.set(w, (map.get(w) ?? 0) + 1);
    return map;
  };
  const [m, n] = [counts(a), counts(b)];
  const square = (map: ReadonlyMap<string, number>) => [...map.values()].reduce((sum, v) => sum + v * v, 0);
  const dot = [...m].reduce((sum, [w, v]) => sum + v * (n.get(w) ?? 0), 0);
  const size = Math.sqrt(square(m) * square(n));
  return size > 0 ? dot / size : 0;
}

/** The signs of a border, in the order of the model's weights, each with its name as it is shown. */
export const signNames = worded([
  '',
  'a silence',
  'one of its longest silences',
  'an opening word',
  'an opening word',
  'goes on',
  'the part before is closed',
  'drying asked for just before',
  'it is dry now',
  'a new tool',
  'a new colour',
  'mixing comes',
  'a new place',
  'another kind of work',
  'other words than before',
  'a correction',
  'talk beside the matter comes',
  'talk beside the matter ended',
  'the painting begins or ends here',
  'no words of the trade',
  'very short',
  'a heading',
  'another tool',
  'a recipe is spoken',
  'new words that come again',
  'a thing not named so far',
  'drying was spoken of',
] as const);

const yes = (is: boolean): number => (is ? 1 : 0);

/** The signs at the border before sentence `i`; `gaps` are all silences before sentences but the first. */
export function signsAt(all: readonly Marked[], i: number, gaps: readonly number[]): number[] {
  const before = all.slice(Math.max(0, i - 4), i);
  const long = all.slice(Math.max(0, i - 8), i);
  const after = all.slice(i, i + 4);
  const near = all.slice(i, i + 2);
  const here = all[i] as Marked;
  const last = all[i - 1] as Marked;
  const earlier = all[i - 2];
  const own = here.low.split(' ');
  const isTalk = (one: Marked) => one.isAside && tradeOf(one) === 0;
  const spokeRecipe = (one: Marked) => one.hasAmount && one.colours.size >= 2;
  const firstTool = near.flatMap((one) => [...one.tools])[0];
  const lastTools = all
    .slice(0, i)
    .reverse()
    .find((one) => one.tools.size > 0)?.tools;
  const saidBefore = new Set(all.slice(0, i).flatMap((one) => one.bag));
  const soon = new Set(all.slice(i + 1, i + 8).flatMap((one) => one.bag));
  const seenPlaces = unionOf(all.slice(0, i), 'places');
  const atEdge =
    (i < 4 && before.some((one) => one.isAside) && tradeOf(here) > 0) ||
    (all.length - i <= 3 && tradeOf(here) === 0 && (here.isAside || here.opensStrongly || here.closes));
  return [
    1,
    Math.min(3, Math.log1p(Math.max(0, here.gap))),
    gaps.filter((gap) => gap < here.gap).length / gaps.length,
    yes(here.opensStrongly),
    yes(here.opensWeakly && !here.opensStrongly),
    yes(here.goesOn),
    yes(last.closes),
    yes(last.asksDrying || Boolean(earlier?.asksDrying && !last.opensStrongly)),
    yes(here.isDryNow && !here.asksDrying),
    newIn(unionOf(near, 'tools'), unionOf(long, 'tools')),
    newIn(unionOf(near, 'colours'), unionOf(long, 'colours')),
    yes(
      near.some((one) => one.hasAmount || one.acts.has('mix')) &&
        !before.slice(-2).some((one) => one.hasAmount || one.acts.has('mix')),
    ),
    newIn(here.places, unionOf(long, 'places')),
    newIn(unionOf(near, 'acts'), unionOf(before, 'acts')),
    1 -
      likeness(
        before.flatMap((one) => one.bag),
        after.flatMap((one) => one.bag),
      ),
    yes(here.corrects),
    yes(isTalk(here)),
    yes(isTalk(last)),
    yes(atEdge),
    yes(near.every((one) => tradeOf(one) === 0)),
    yes(own.length <= 3),
    yes(own.length <= 3 && tradeOf(here) === 0 && /^(the )?\w+( \w+)?$/.test(here.low) && here.gap > 2),
    yes(Boolean(firstTool && lastTools && !lastTools.has(firstTool))),
    yes(near.some(spokeRecipe) && !spokeRecipe(last)),
    Math.min(3, new Set(here.bag.filter((w) => !saidBefore.has(w) && soon.has(w))).size),
    yes(
      own
        .slice(0, 9)
        .map(singular)
        .some((w) => knownPlaces.has(w) && !seenPlaces.has(w)),
    ),
    yes(!here.asksDrying && (last.asksDrying || Boolean(earlier?.asksDrying))),
  ];
}
