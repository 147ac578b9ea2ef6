import type { Lesson, Step } from '@viaticum/contract';
import { say, worded } from '@viaticum/contract';
import { NEW_MIX_MIN, paceOf } from '../step/index.js';
import { capital, listInWords } from '../units/index.js';

/** Work for a pause; the mixes that are mixed ahead in it, where it is that. */
export type Filler = { words: string; minutes: number; mixIds?: string[] };

const strokes: Partial<Record<NonNullable<Step['technique']>, string>> = worded({
  blend: 'the blend',
  'dry-brush': 'the dry brush',
  scumble: 'the scumble',
  spatter: 'the spatter',
  glaze: 'the glaze',
  impasto: 'the knife',
  wash: 'the wash',
});
const AHEAD = 4;
/** Mixes that are mixed, and fillers that were proposed, earlier in the class. */
export type Done = { mixed: Set<string>; words: Set<string> };

/**
 * Useful dry work for a pause of so many minutes before step `i`, each with its own length, as much as fits: mixes that the next
 * steps need and nobody has mixed (`done` learns of all), a template to trace, the next stroke on scrap, fresh water, the next
 * step explained, a look from a distance. What remains is bare time.
 */
export function fillersFor(lesson: Lesson, i: number, minutes: number, done: Done): { fillers: Filler[]; bareMin: number } {
  const fillers: Filler[] = [];
  let left = minutes;
  const { mixed, words: said } = done;
  // Practice and looking round are proposed once in a class; water is changed and steps are explained whenever it is time.
  const take = (words: string, length: number, mixIds?: string[]): boolean => {
    if (length > left + 1e-9) return false;
    said.add(words);
    fillers.push({ words, minutes: length, ...(mixIds ? { mixIds } : {}) });
    left -= length;
    return true;
  };
  const takeOnce = (words: string, length: number): boolean => !said.has(words) && take(words, length);
  const ahead = lesson.steps.slice(i, i + AHEAD);
  const mix = NEW_MIX_MIN * paceOf(lesson);
  const mixes = ahead
    .flatMap((step) => step.mixIds)
    .filter((id, at, all) => !mixed.has(id) && all.indexOf(id) === at)
    .slice(0, Math.min(3, Math.floor(left / mix + 1e-9)));
  const names = mixes.flatMap((id) => lesson.mixes.find((mix) => mix.id === id)?.name ?? []);
  if (names.length > 0 && take(say`premix ${listInWords(names)}`, names.length * mix, mixes))
    for (const id of mixes) mixed.add(id);
  if (ahead.some((step) => step.kind === 'transfer')) takeOnce(say('trace the template'), 4);
  const stroke = ahead.find((step) => step.technique && strokes[step.technique]);
  if (stroke?.technique) takeOnce(say`practise ${strokes[stroke.technique] as string} on scrap paper`, 3);
  take(say('change the water'), 1);
  if (ahead[0]) take(say('hear what comes next and why'), 2);
  takeOnce(say('stand back and look'), 2) || takeOnce(say('stand back and look'), 1);
  return { fillers, bareMin: Math.max(0, left) };
}

/** "Premix ridge blue, change the water, then stand back and look." */
export function fillersInWords(fillers: readonly Filler[]): string {
  if (fillers.length === 0) return say('Look with half-closed eyes.');
  const all = fillers.map((one) => one.words);
  const last = all.pop() as string;
  const text = all.length === 0 ? last : say`${all.join(', ')}, then ${last}`;
  return `${capital(text)}.`;
}
