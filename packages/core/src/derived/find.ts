import type { Lesson } from '@viaticum/contract';
import { shortTubeName } from '../mix/index.js';
import { plainWords } from '../text/index.js';

export type FoundKind = 'stage' | 'step' | 'area' | 'thing' | 'mix' | 'tube' | 'mark' | 'sample';
/** Something in a lesson whose words hold what was sought, with the words around it. */
export type FoundThing = { kind: FoundKind; id: string; name: string; excerpt: string };

const AROUND = 34;
const MOST = 60;
/** Case and accents make no difference. */
const folded = (text: string): string => text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase();

/** The words that are sought. */
const wordsOf = (sought: string): string[] => folded(sought).split(/\s+/).filter(Boolean);

/** What can be found in a lesson: a name, and what is said there. */
export type Findable = { kind: FoundKind; id: string; name: string; text: string };

/** Everything of a lesson that has words. */
export function findableIn(lesson: Lesson): Findable[] {
  return [
    ...lesson.steps.map((step) => ({
      kind: 'step' as const,
      id: step.id,
      name: step.title,
      text: plainWords([step.say, step.watch, step.checkpoint, step.finish].filter(Boolean).join(' ')),
    })),
    ...lesson.stages.map(({ id, name }) => ({ kind: 'stage' as const, id, name, text: '' })),
    ...lesson.areas.map(({ id, name }) => ({ kind: 'area' as const, id, name, text: '' })),
    ...lesson.things.map(({ id, name }) => ({ kind: 'thing' as const, id, name, text: '' })),
    ...lesson.mixes.map(({ id, name, recipe }) => ({
      kind: 'mix' as const,
      id,
      name,
      text: recipe
        .flatMap((part) => lesson.tubes.find((tube) => tube.id === part.tubeId) ?? [])
        .map(shortTubeName)
        .join(', '),
    })),
    ...lesson.tubes.map((tube) => ({ kind: 'tube' as const, id: tube.id, name: shortTubeName(tube), text: tube.pigment })),
    ...lesson.marks.map(({ id, name }) => ({ kind: 'mark' as const, id, name, text: '' })),
    ...lesson.samples.map(({ id, name }) => ({ kind: 'sample' as const, id, name, text: '' })),
  ];
}

/** Everything in a lesson that holds all the words sought, names before what is said; at most sixty. Empty for nothing sought. */
export const findInLesson = (lesson: Lesson, sought: string): FoundThing[] => findAmong(findableIn(lesson), sought);

/** {@link findInLesson}, where what can be found is at hand already. */
function findAmong(places: readonly Findable[], sought: string): FoundThing[] {
  const words = wordsOf(sought);
  if (words.length === 0) return [];
  const found = places.flatMap((place) => {
    const whole = folded(`${place.name} ${place.text}`);
    if (!words.every((word) => whole.includes(word))) return [];
    const inName = words.every((word) => folded(place.name).includes(word));
    return [{ ...place, inName, excerpt: inName ? '' : excerptOf(place.text, words) }];
  });
  return found
    .sort((one, other) => Number(other.inName) - Number(one.inName))
    .slice(0, MOST)
    .map(({ kind, id, name, excerpt }) => ({ kind, id, name, excerpt }));
}

/**
 * Where a lesson of a shelf holds what was sought: null where some of the words stand neither in its title nor anywhere in it. Places that
 * hold all the words, else those of each word; empty where the title has them.
 */
export function findOnShelf(title: string, places: readonly Findable[], sought: string): FoundThing[] | null {
  const words = wordsOf(sought);
  const inTitle = folded(title);
  const left = words.filter((word) => !inTitle.includes(word));
  const together = left.length > 0 ? findAmong(places, left.join(' ')) : [];
  if (left.length === 0 || together.length > 0) return together;
  const each = left.map((word) => findAmong(places, word));
  if (each.some((found) => found.length === 0)) return null;
  const firsts = each.map((found) => found[0] as FoundThing);
  return firsts.filter((one, at) => firsts.findIndex((other) => other.kind === one.kind && other.id === one.id) === at);
}

/** The words around the first that was sought. */
function excerptOf(text: string, words: readonly string[]): string {
  const plain = folded(text);
  const at = words.map((word) => plain.indexOf(word)).find((place) => place >= 0) ?? 0;
  const [from, to] = [Math.max(0, at - AROUND), Math.min(text.length, at + AROUND)];
  return `${from > 0 ? '…' : ''}${text.slice(from, to).trim()}${to < text.length ? '…' : ''}`;
}
