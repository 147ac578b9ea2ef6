import { type Language, type Lesson, languageOf, type Step, speaking, translated } from '@viaticum/contract';
import { paintingWords, plainSay, type StepWords } from './step-words.js';

/** Words that go into a lesson are said in its own language, whoever asks for them. */
export const inItsLanguage = <T>(lesson: Pick<Lesson, 'language'>, work: () => T): T =>
  speaking(languageOf(lesson.language), work);

/** The ends of sentences, with the blank that follows. */
const ENDS = /(?<=[.?!]) /;
/** A text made of known sentences in another language, the longest first; undefined where one of them is somebody's own. */
function knownText(text: string, from: Language, to: Language): string | undefined {
  const pieces = text.split(ENDS);
  const said: string[] = [];
  for (let at = 0; at < pieces.length; ) {
    let end = pieces.length;
    let next: string | undefined;
    for (; end > at && next === undefined; end -= 1) next = translated(pieces.slice(at, end).join(' '), from, to);
    if (next === undefined) return undefined;
    said.push(next);
    at = end + 1;
  }
  return said.join(' ');
}

const fields = ['title', 'say', 'watch', 'checkpoint', 'finish'] as const;

/**
 * A lesson with its drafted words in another language. What the instructor wrote themselves stays as it is: names, and every text of a step
 * that is not what a draft says there.
 */
export function reworded(lesson: Lesson, language: Language): Lesson {
  const from = languageOf(lesson.language);
  if (from === language) return lesson;
  const wordsOf = (step: Step, tongue: Language): Partial<StepWords> =>
    step.kind === 'paint' || step.kind === 'prepare' ? speaking(tongue, () => paintingWords(lesson, step)) : {};
  const steps = lesson.steps.map((step) => {
    const [before, after] = [wordsOf(step, from), wordsOf(step, language)];
    const changed = fields.flatMap((field): [string, string][] => {
      const text = step[field];
      if (text === '') return [];
      const drafted = before[field];
      if (drafted !== undefined && plainSay(text) === plainSay(drafted))
        return [[field, text.replace(plainSay(text), plainSay(after[field] ?? ''))]];
      const known = knownText(text, from, language);
      return known === undefined ? [] : [[field, known.slice(0, field === 'title' ? 120 : undefined)]];
    });
    return { ...step, ...Object.fromEntries(changed) };
  });
  const stages = lesson.stages.map((stage) => ({ ...stage, name: translated(stage.name, from, language) ?? stage.name }));
  return { ...lesson, language, steps, stages };
}
