import { languageNow, say, sayBy } from '@viaticum/contract';
import { uncapital } from './letters.js';

/** A number with the form of its noun: "1 step", "3 steps". `many` where that is not the noun with an s. */
export const counted = (n: number, one: string, many = `${one}s`): string => sayBy(`{0} ${n === 1 ? one : many}`, n);

/** One thing, though it ends like several. */
const single = /\b(canvas|lens|gas|atlas|compass|news|chaos|cosmos|pampas|christmas)$/i;
const irregular = /\b(children|people|men|women|geese|mice|feet|teeth|leaves)$/i;

/**
 * Whether a name is that of several things: "terraces", "small balloons", "sky and sea", but not "grass", "iris" or "cactus". English rules
 * of thumb, no published source.
 */
export const isSeveral = (name: string): boolean => {
  // Of “light on the terraces” the light counts.
  const head = (name.split(/,? (?:on|in|of|at|under|over|into|with|from|to|behind|before|beside) /)[0] as string).trim();
  return / and /.test(name) || irregular.test(head) || (!single.test(head) && (/[^sui']s$/i.test(head) || /ies$/i.test(head)));
};

/** The form of a verb that goes with a name: "the sky takes", "the terraces take". */
export const verb = (name: string, one: string, many: string): string => (isSeveral(name) ? many : one);

/** A name in the midst of a sentence of a language whose articles nobody can know of a name: „Himmel“. */
const quoted = (name: string): string => (/^„.*“$/.test(name) ? name : `„${name}“`);

/** A name with its article: "the sky", but "the old mill" and "my hat" as they are; „Himmel“. */
export const the = (name: string): string =>
  languageNow() === 'de' ? quoted(name) : /^(the|a|an|my|our|your)\s/i.test(name) ? name : say`the ${name}`;

/** "the far hill" for "Far hill"; what belongs to somebody keeps its name. */
export const called = (name: string): string => {
  if (languageNow() === 'de') return quoted(name);
  if (/[’']s\s/.test(name)) return name;
  const isWord = name.length > 1 && name.charAt(1) === name.charAt(1).toLowerCase();
  return the(isWord ? uncapital(name) : name);
};
