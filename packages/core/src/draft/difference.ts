import type { Lesson, Step } from '@viaticum/contract';
import { inItsLanguage, otherWords, paintingWords, plainSay } from '../text/index.js';
import type { Draft, DraftedStep } from './shape.js';

const fields = [
  'title',
  'technique',
  'mixIds',
  'brushId',
  'needs',
  'medium',
  'coverShare',
  'partByPart',
  'say',
  'watch',
  'checkpoint',
  'finish',
] as const;
type Field = (typeof fields)[number];
/** One way in which a draft differs from a lesson's steps. */
export type DraftChange =
  | { kind: 'add'; step: Step; at: number; why: string[] }
  | { kind: 'remove'; step: Step }
  | { kind: 'change'; step: Step; to: Partial<Step>; fields: Field[]; why: string[] };

/**
 * How a draft differs from the steps that stand: steps of the same areas, kind and turn are matched. What the instructor wrote or
 * typed stays: words that are not those a draft would have given, titles likewise, and minutes are never changed.
 */
export function draftChanges(lesson: Lesson, draft: Draft): DraftChange[] {
  const keyOf = keys();
  const drafted = new Map(draft.steps.map((one) => [keyOf(one.step), one]));
  const oldKey = keys();
  const standing = new Map(lesson.steps.map((step) => [oldKey(step), step]));
  const changes: DraftChange[] = [];
  draft.steps.forEach((one, at) => {
    const key = [...drafted].find(([, other]) => other === one)?.[0] as string;
    const old = standing.get(key);
    if (!old) changes.push({ kind: 'add', step: one.step, at, why: one.why });
    else changes.push(...changed(lesson, old, one));
  });
  for (const [key, step] of standing) if (!drafted.has(key)) changes.push({ kind: 'remove', step });
  return changes;
}

/** What a step is about, and the how-manieth of its kind. */
export function keys(): (step: Step) => string {
  const turns = new Map<string, number>();
  return (step) => {
    const over = `${step.pass ? `/${step.pass}` : ''}${step.coatOf === undefined ? '' : '/again'}`;
    const about = `${step.kind}/${[...step.areaIds].sort().join('+')}${over}`;
    const turn = turns.get(about) ?? 0;
    turns.set(about, turn + 1);
    return `${about}/${turn}`;
  };
}

const wordFields = ['title', 'say', 'watch', 'checkpoint', 'finish'] as const satisfies readonly Field[];
/** Of a step's words those that no draft would have given: the instructor wrote them. */
export const ownWords = (lesson: Lesson, step: Step): (typeof wordFields)[number][] =>
  inItsLanguage(lesson, () => wordsOfOnesOwn(lesson, step));

function wordsOfOnesOwn(lesson: Lesson, step: Step): (typeof wordFields)[number][] {
  const given = step.kind === 'paint' || step.kind === 'prepare' ? paintingWords(lesson, step) : null;
  return wordFields.filter((field) => {
    const text = step[field];
    if (text === '') return false;
    if (given) return plainSay(text) !== plainSay(given[field]);
    return field === 'title' || !Object.values(otherWords).some((words) => words[field as 'say'] === text);
  });
}

function changed(lesson: Lesson, old: Step, { step, why }: DraftedStep): DraftChange[] {
  const own = ownWords(lesson, old);
  const isOwn = (field: Field): boolean => own.some((one) => one === field);
  const isSame = (field: Field) =>
    field === 'say' ? plainSay(old.say) === plainSay(step.say) : JSON.stringify(old[field]) === JSON.stringify(step[field]);
  const differing = fields.filter((field) => !isOwn(field) && !isSame(field));
  if (differing.length === 0) return [];
  const to = Object.fromEntries(differing.map((field) => [field, step[field]])) as Partial<Step>;
  return [{ kind: 'change', step: old, to, fields: differing, why }];
}
