import { alias, hues, negates, numbers, places, small } from './lexicon.js';

/** The colours that a narrator may name: tubes, and mixes with their recipes. */
export type HeardShelf = {
  tubes: readonly string[];
  mixes: readonly { name: string; recipe: readonly { tube: string; parts: number | string }[] }[];
  /** Tubes that are not on it, known by their full names alone. */
  others?: readonly string[];
};
/** Tubes by the names that narrators give them. */
export const commonTubes: readonly string[] = Object.keys(alias);

type Known = { id: string | null; kind: 'tube' | 'mix'; weight: number };
type Sounded = { id: string; kind: 'tube' | 'mix'; key: string; sound: string };
/** Names by which the colours of a shelf are called; `heard` keeps what was looked for. */
export type ColourBook = {
  names: ReadonlyMap<string, Known>;
  /** Tubes of a bare hue: "white", "the blue". */
  generic: ReadonlyMap<string, readonly string[]>;
  fuzzy: readonly Sounded[];
  mixes: HeardShelf['mixes'];
  heard: Map<string, Sounded | null>;
};
/** A colour named in a sentence: its place among the words and how many they are; without an id one of `options` is meant. */
export type FoundColour = {
  id: string | null;
  kind: 'tube' | 'mix';
  at: number;
  n: number;
  generic?: string;
  options?: readonly string[];
};
/** As it is said: so many parts, or less than one; `bit` leaves it open. */
export type SaidAmount = number | 'touch' | 'speck' | 'bit';

export const foldName = (name: string): string =>
  name
    .toLowerCase()
    .replace(/[^a-z ]/g, '')
    .replace(/\s+/g, ' ')
    .trim();

/** How a name sounds, roughly: for names that were misheard. */
const soundOf = (name: string): string =>
  foldName(name)
    .replace(/ /g, '')
    .replace(/ph/g, 'f')
    .replace(/th/g, 't')
    .replace(/ck|ch|c(?=[aouklrt])|q/g, 'k')
    .replace(/c/g, 's')
    .replace(/z/g, 's')
    .replace(/y/g, 'i')
    .replace(/(.)\1+/g, '$1')
    .replace(/(?!^)[aeiouhw]/g, '');

/** Letters put in, left out or changed between two words (Levenshtein); `most` + 1 where there are more. */
export function editDistance(a: string, b: string, most = 3): number {
  if (Math.abs(a.length - b.length) > most) return most + 1;
  let row = Array.from({ length: b.length + 1 }, (_, i) => i);
  for (let i = 1; i <= a.length; i++) {
    const next = [i];
    for (let j = 1; j <= b.length; j++) {
      const changed = (row[j - 1] as number) + (a[i - 1] === b[j - 1] ? 0 : 1);
      next[j] = Math.min((row[j] as number) + 1, (next[j - 1] as number) + 1, changed);
    }
    if (Math.min(...next) > most) return most + 1;
    row = next;
  }
  return row[b.length] as number;
}

export function colourBook({ tubes, mixes, others = [] }: HeardShelf): ColourBook {
  const names = new Map<string, Known>();
  const put = (name: string, id: string, kind: Known['kind'], weight: number) => {
    const key = foldName(name);
    if (!key) return;
    const old = names.get(key);
    if (!old) names.set(key, { id, kind, weight });
    // A name of two colours alike is the name of neither.
    else if (old.id !== id && weight >= old.weight)
      names.set(key, weight > old.weight ? { id, kind, weight } : { ...old, id: null });
  };
  for (const tube of tubes) {
    put(tube, tube, 'tube', 3);
    for (const also of alias[tube] ?? []) {
      const isShared = tubes.some((other) => other !== tube && (alias[other] ?? []).includes(also));
      if (also.includes(' ') || !isShared) put(also, tube, 'tube', 2);
    }
  }
  for (const { name } of mixes) put(name, name, 'mix', 3);
  const generic = new Map(
    Object.entries(hues).map(([hue, parts]) => [hue, tubes.filter((tube) => tube.split(/[ ,]/).some((w) => parts.includes(w)))]),
  );
  const fuzzy = [...names].flatMap(([name, { id, kind }]): Sounded[] => {
    const key = name.replace(/ /g, '');
    return id && key.length >= 7 ? [{ id, kind, key, sound: soundOf(name) }] : [];
  });
  for (const other of others) {
    const full = [other, ...(alias[other] ?? []).filter((also) => also.includes(' '))];
    for (const name of full) if (!names.has(foldName(name))) put(name, other, 'tube', 1);
  }
  return { names, generic, fuzzy, mixes, heard: new Map() };
}

const FOLLOWS = new Set(
  "and or with to in on at into for from over under one then so but it as the a i you we is goes again now thinned straight next like because really not is'nt first i'm right let just of too only mixed made look".split(
    ' ',
  ),
);

/** A near miss of a name: few letters off, or somewhat more where it sounds alike ("halo blue", "raw number"). */
function misheard(words: string, book: ColourBook): Sounded | null {
  const flat = words.replace(/ /g, '');
  const known = book.heard.get(flat);
  if (known !== undefined) return known;
  const sound = soundOf(words);
  let [found, least]: [Sounded | null, number] = [null, Number.POSITIVE_INFINITY];
  for (const one of book.fuzzy) {
    if (flat[0] !== one.key[0] || Math.abs(flat.length - one.key.length) > 3) continue;
    const d = editDistance(flat, one.key, 3);
    const isNear =
      d <= Math.max(1, Math.floor(one.key.length * 0.17)) || (d <= 3 && d / one.key.length <= 0.3 && sound === one.sound);
    if (isNear && d < least) [found, least] = [one, d];
  }
  book.heard.set(flat, found);
  return found;
}

type Hit = Omit<FoundColour, 'at'> & { isExact?: boolean };

function namedAt(tokens: readonly string[], i: number, book: ColourBook): Hit | null {
  for (let n = Math.min(3, tokens.length - i); n >= 1; n--) {
    const key = foldName(tokens.slice(i, i + n).join(' '));
    const exact = book.names.get(key);
    if (exact?.id) return { id: exact.id, kind: exact.kind, n, isExact: true };
    if (exact || key.length < 7) continue;
    const near = misheard(key, book);
    if (near) return { id: near.id, kind: near.kind, n };
  }
  return null;
}

/** A bare hue ("some blue"), where it is spoken of as paint. */
function hueAt(t: readonly string[], i: number, book: ColourBook): Hit | null {
  const hue = t[i] as string;
  const which = book.generic.get(hue);
  if (!which || which.length === 0) return null;
  const next = t[i + 1] ?? '';
  const before = t[i - 1] ?? '';
  const asAmount =
    i === 0 ||
    numbers[before] !== undefined ||
    /^(of|parts?|so|use|pure|some|more|little|the|that|this|plain|clean|stiff|fresh|extra|and|with|add|same)$/.test(before);
  const isUsed =
    (!next || /^(thinned|thin|inky|let)$/.test(next) || FOLLOWS.has(next) || numbers[next] !== undefined) &&
    !/^(is|are|it's|was|looks|turns?|be|gets?|one|that's|almost|basically)$/.test(before);
  return asAmount && isUsed
    ? { id: which.length === 1 ? (which[0] as string) : null, generic: hue, options: which, kind: 'tube', n: 1 }
    : null;
}

/** Whether a word that is a colour's name and an everyday word ("white", "orange") is spoken of as paint here. */
function isPaintWord(t: readonly string[], i: number): boolean {
  const next = t[i + 1] ?? '';
  const before = t[i - 1] ?? '';
  if (/^(chalk|pencil|paper|transfer|tape|board|canvas|one|ones|line|lines|cover|covers|never|always)$/.test(next)) return false;
  if (/^(is|are|it's|was|very|nearly|basically|almost|turns?|that's|the|one)$/.test(before) && next && !FOLLOWS.has(next))
    return false;
  if (
    next &&
    !FOLLOWS.has(next) &&
    !/^(parts?|thin|like|stirred|mop|rigger|filbert|dots|on|thinned|inside|really|went|laid)$/.test(next) &&
    numbers[next] === undefined &&
    !/^(of|with|and|clean|pure|plain)$/.test(before)
  )
    return false;
  return !(/^(is|are|it's|was|nearly|basically)$/.test(before) && !/^(thin|really)/.test(next));
}
const EVERYDAY = /^(white|orange|violet|black|magenta|cream|lemon)$/;

/** The colours named in a sentence (small words), but those that are not used: named after "not" or "never", or by mistake. */
export function findColours(words: readonly string[], book: ColourBook): FoundColour[] {
  const t = words.map((w) => w.replace(/[^a-z' ]/g, ''));
  const found: FoundColour[] = [];
  for (let i = 0; i < t.length; ) {
    let hit = namedAt(t, i, book);
    if (!hit) hit = hueAt(t, i, book);
    else if (hit.isExact && hit.n === 1 && EVERYDAY.test(t[i] as string) && !isPaintWord(t, i)) hit = null;
    if (hit) {
      const { isExact: _, ...rest } = hit;
      found.push({ ...rest, at: i });
      i += hit.n;
    } else i++;
  }
  return found.filter((one) => isUsed(one, t));
}

function isUsed({ at, generic }: FoundColour, t: readonly string[]): boolean {
  const back = t.slice(Math.max(0, at - 3), at);
  const k = back.findIndex((w) => negates.test(w));
  if (
    k >= 0 &&
    !back.slice(k + 1).some((w) => /^(and|but|just|only|too|so)$/.test(w)) &&
    !/^(don't|not)$/.test(back[k] as string)
  )
    return false;
  if (k >= 0 && back[k] === 'not' && back.length - k <= 2) return false;
  if (generic && /\b(careful|takes over|strong)\b/.test(t.join(' '))) return false;
  return !/\bby mistake\b|\bthe wrong\b/.test(t.slice(at, at + 8).join(' '));
}

const num = (w: string | undefined): number | undefined => (w === undefined ? undefined : numbers[w]);
const isHalf = (w: string | undefined): boolean => num(w) === 0.5;
const isSmall = (w: string): boolean => Boolean(small[w]);
const smallAmount = (w: string) => small[w] ?? null;
const isParts = (w: string | undefined): boolean => /^parts?$/.test(w ?? '');

/** The amounts said of the colours of one sentence: "two parts of a to one of b", "a touch of c", "a, two, b, one", "equal a and b". */
export function amountsOf(words: readonly string[], found: readonly FoundColour[]): Map<string, SaidAmount> {
  const t = words.map((w) => w.replace(/[^a-z']/g, ''));
  const usable = found.filter((one): one is FoundColour & { id: string } => one.id !== null);
  const out = new Map<string, SaidAmount>();
  const isAfter = numbersFollow(t, usable);
  for (const one of usable) {
    const amount = isAfter ? num(t[one.at + one.n]) : (amountBefore(t, one, usable) ?? amountAfter(t, one, usable));
    if (amount !== undefined) out.set(one.id, amount);
  }
  const text = t.join(' ');
  if (
    usable.length >= 2 &&
    /\b(equal|half and half|half of each|fifty fifty|same amount|one part each|half \w+( \w+)? half)\b/.test(text)
  )
    for (const { id } of usable.slice(0, 2)) if (!out.has(id) || text.includes('one part each')) out.set(id, 1);
  return out;
}

/** "White five parts, ultramarine one": the number comes after the name, all through the sentence. */
function numbersFollow(t: readonly string[], usable: readonly FoundColour[]): boolean {
  const [first] = usable;
  if (!first || usable.length < 2) return false;
  const end = first.at + first.n;
  if (num(t[end]) === undefined || isHalf(t[end])) return false;
  if (t.slice(0, first.at).some((w) => num(w) !== undefined || isSmall(w))) return false;
  return isParts(t[end + 1]) || usable.some((other) => other !== first && other.at - end <= 2);
}

function amountBefore(t: readonly string[], one: FoundColour, usable: readonly FoundColour[]): SaidAmount | undefined {
  const back = t.slice(Math.max(0, one.at - 5), one.at).reverse();
  for (const [k, w] of back.entries()) {
    if (usable.some((other) => other !== one && other.at + other.n > one.at - 1 - k && other.at < one.at - k)) return undefined;
    const next = back[k + 1];
    const little = smallAmount(w);
    if (little) return little === 'bit' && /^(tiny|tiniest|wee|teeny)$/.test(next ?? '') ? 'touch' : little;
    if (isParts(w)) {
      if (num(next) !== undefined) return num(next);
      if (/^(a|another)$/.test(next ?? '')) return 1;
    } else if (num(w) !== undefined && k <= 2) {
      const isAmount = !/^(number|size|of|no)$/.test(next ?? '') || num(next);
      return isAmount && !isHalf(w) ? num(w) : undefined;
    } else if (!/^(of|the|a|that|some|my|extra|about|only|just)$/.test(w)) return undefined;
  }
  return undefined;
}

function amountAfter(t: readonly string[], one: FoundColour, usable: readonly FoundColour[]): SaidAmount | undefined {
  const end = one.at + one.n;
  const [next, after] = [t[end], t[end + 1]];
  if (num(next) === undefined || isHalf(next) || !(after === undefined || isParts(after))) return undefined;
  const isAlone = usable.every((other) => !(other.at > one.at && other.at - end <= 2));
  return isParts(after) || isAlone ? num(next) : undefined;
}

/** One-word mixes that are also things: the places of the trade, and some more. */
export const isAlsoThing = (name: string): boolean =>
  !name.includes(' ') && (places.includes(name) || ['slate', 'straw', 'dusk', 'wicker', 'sunset'].includes(name));
