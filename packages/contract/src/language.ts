/**
 * What is said, in the language of whoever reads it. English stands where it is said; other languages are catalogues of sentences keyed by
 * their English, with {0}, {1}, … where something is filled in. A sentence that a catalogue lacks stays English. Where one English word has
 * two meanings, a word before a bar parts them: "brush|round".
 */
export const languages = ['en', 'de'] as const;
export type Language = (typeof languages)[number];
export type Catalogue = Readonly<Record<string, string>>;

export const isLanguage = (text: unknown): text is Language => languages.includes(text as Language);
/** The first of tags such as "de-AT" whose language is spoken here; English where none is. */
export const firstSpoken = (tags: readonly string[]): Language =>
  tags.map((tag) => tag.trim().slice(0, 2).toLowerCase()).find(isLanguage) ?? 'en';

const catalogues = new Map<Language, Catalogue>();
/** English by what a language says for it. */
const turned = new Map<Language, Map<string, string>>();
let spoken: Language = 'en';
/** Who says it where one thread serves readers of several languages. */
let source: (() => Language | undefined) | null = null;

/** Sentences of a language, from here on. */
export function learn(language: Language, catalogue: Catalogue): void {
  catalogues.set(language, { ...catalogues.get(language), ...catalogue });
  turned.delete(language);
}
/** From here on everything in this thread is said in this language. */
export function speak(language: Language): void {
  spoken = language;
}
/** Where a thread serves several readers: asked anew for every sentence, before what `speak` set. */
export function speakBy(next: typeof source): void {
  source = next;
}
export const languageNow = (): Language => source?.() ?? spoken;
/** How days and hours are written, as `Intl` names it. */
export const localeNow = (): string => ({ en: 'en-GB', de: 'de-DE' })[languageNow()];
/** Something said in a language, in the midst of another. It must not wait for anything. */
export function speaking<T>(language: Language, work: () => T): T {
  const [before, by] = [spoken, source];
  spoken = language;
  source = null;
  try {
    return work();
  } finally {
    spoken = before;
    source = by;
  }
}

/** The key of a sentence: its English, with {0}, {1}, … for what is filled in. */
export const keyOf = (parts: readonly string[]): string =>
  parts.reduce((text, part, k) => (k === 0 ? part : `${text}{${k - 1}}${part}`), '');

const found = (key: string): string | undefined => {
  const language = languageNow();
  return language === 'en' ? undefined : catalogues.get(language)?.[key];
};
type Value = string | number | undefined;
const NUMBER = /^[−-]?\d+\.\d+$/;
/** A number, also one that was rounded to a text already, with the sign before its decimals that the reader's language has. */
export const numberSaid = (value: number | string): string =>
  languageNow() === 'de' && NUMBER.test(String(value)) ? String(value).replace('.', ',') : String(value);

/** The English of a key without what tells it from another that reads the same: "brush|round" is "round". */
const plain = (key: string): string => key.replace(/^[a-z]+\|/, '');

/** A sentence by its key: "Add {0}". */
export const sayBy = (key: string, ...values: Value[]): string =>
  (found(key) ?? plain(key)).replace(/\{(\d+)\}/g, (_, k: string) => numberSaid(values[Number(k)] ?? ''));

/** A sentence in the reader's language: say`Add ${mix}`, say('Add a mix'). */
export function say(text: string): string;
export function say(parts: TemplateStringsArray, ...values: Value[]): string;
export function say(text: string | TemplateStringsArray, ...values: Value[]): string {
  return typeof text === 'string' ? (found(text) ?? plain(text)) : sayBy(keyOf(text), ...values);
}

/**
 * A list of words that are looked up whenever they are read, not when they are written: its strings, also those further in; with `only`, just
 * those of these names.
 */
export function worded<T extends object>(words: T, only?: readonly string[]): T {
  for (const [name, { value, get }] of Object.entries(Object.getOwnPropertyDescriptors(words))) {
    if (get || (Array.isArray(words) && name === 'length')) continue;
    if (typeof value === 'object' && value !== null) worded(value, only);
    else if (typeof value === 'string' && (!only || only.includes(name)))
      Object.defineProperty(words, name, { get: () => say(value), enumerable: true, configurable: true });
  }
  return words;
}

/** A language that is known of a text that should name one; English where it does not. */
export const languageOf = (text: string | null | undefined): Language => (isLanguage(text) ? text : 'en');

/** The English of a whole sentence of a language, where it has nothing filled in. */
function englishOf(language: Language, text: string): string | undefined {
  if (language === 'en') return text;
  let back = turned.get(language);
  if (!back) {
    back = new Map(Object.entries(catalogues.get(language) ?? {}).map(([key, said]) => [said, key]));
    turned.set(language, back);
  }
  return back.get(text);
}
/** A whole sentence of one language in another; undefined where it is in no catalogue, as what somebody wrote themselves. */
export function translated(text: string, from: Language, to: Language): string | undefined {
  const english = englishOf(from, text);
  if (english === undefined) return undefined;
  return to === 'en' ? (from === 'en' ? undefined : english) : catalogues.get(to)?.[english];
}

const escaped = (text: string): string => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
/** Letters that a sentence must have of its own to be known again with anything filled in. */
const OWN_LETTERS = 12;

/** A sentence that was said in English elsewhere, in the reader's language: as it is where no catalogue knows it, also with what is filled in. */
export function sayAgain(text: string): string {
  const language = languageNow();
  if (language === 'en') return text;
  const whole = found(text);
  if (whole !== undefined) return whole;
  for (const key of Object.keys(catalogues.get(language) ?? {})) {
    const parts = key.split(/\{\d+\}/);
    if (parts.length < 2 || parts.join('').length < OWN_LETTERS) continue;
    const match = new RegExp(`^${parts.map(escaped).join('(.+?)')}$`).exec(text);
    if (!match) continue;
    const values: string[] = [];
    [...key.matchAll(/\{(\d+)\}/g)].forEach(([, at], k) => {
      values[Number(at)] = match[k + 1] ?? '';
    });
    return sayBy(key, ...values);
  }
  return text;
}
