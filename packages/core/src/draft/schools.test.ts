import { describe, expect, it } from '@jest/globals';
import { type Lesson, type School, type Step, schoolChoices } from '@viaticum/contract';
import { findings } from '../check/index.js';
import { schoolLesson } from '../fixtures/index.js';
import { planLesson } from '../plan/index.js';
import { asDrafted, draftLesson } from './index.js';

type Outcome = { paint: string[]; others: string[]; words: string[]; minutes: string; findings: string };
/** What a choice can change: which paint is laid how, other steps, words, minutes, findings. */
type Part = keyof Outcome;

const TOLD = [
  'kind',
  'areaIds',
  'mixIds',
  'technique',
  'medium',
  'coverShare',
  'side',
  'load',
  'loading',
  'underFilm',
  'dryer',
  'waterShareOfMix',
  'ahead',
] as const satisfies readonly (keyof Step)[];
const about = (step: Step) => JSON.stringify(TOLD.map((field) => step[field]));

function outcome(lesson: Lesson): Outcome {
  let count = 0;
  const drafted = asDrafted(
    lesson,
    draftLesson(lesson, () => `d${count++}`),
  );
  const plan = planLesson(drafted);
  const isPaint = (step: Step) => step.kind === 'paint' || step.kind === 'prepare';
  return {
    paint: drafted.steps.filter(isPaint).map(about),
    others: drafted.steps.filter((step) => !isPaint(step)).map((step) => `${step.kind} ${step.title}`),
    words: drafted.steps.map((step) => `${step.say}|${step.watch}|${step.checkpoint}|${step.finish}`),
    minutes: `${plan.plan.endMin}/${plan.plan.waitMin}`,
    findings: findings(drafted, plan)
      .map((one) => one.rule)
      .sort()
      .join(),
  };
}

/** Choices that need another one to have something to do. */
const beside: Partial<Record<keyof School, Partial<School>>> = {
  sweep: { order: 'whole-together' },
  drying: { drawing: 'direct', drawWhen: 'after-background' },
  transferMedium: { drawing: 'tracing' },
};
/** What a choice must leave as it is (the design's table: "and nothing else"). */
const leaves: Partial<Record<keyof School, Part[]>> = {
  transferMedium: ['paint'],
  varnish: ['paint', 'others', 'minutes'],
  brushCare: ['paint', 'others'],
  reference: ['paint'],
  teaching: ['paint'],
  black: ['paint', 'others', 'words'],
  palette: ['paint', 'others'],
};
const changedParts = (one: Outcome, other: Outcome): Part[] =>
  (Object.keys(one) as Part[]).filter((part) => JSON.stringify(one[part]) !== JSON.stringify(other[part]));

const rows = (Object.keys(schoolChoices) as (keyof School)[]).flatMap((choice) =>
  schoolChoices[choice].slice(1).map((option) => [choice, option] as const),
);

describe('every option of a school changes what it says', () => {
  const first = new Map<keyof School, Outcome>();
  it.each(rows)('%s: %s', (choice, option) => {
    const usual = first.get(choice) ?? outcome(schoolLesson({ ...beside[choice], [choice]: schoolChoices[choice][0] }));
    first.set(choice, usual);
    const changed = changedParts(usual, outcome(schoolLesson({ ...beside[choice], [choice]: option })));
    expect(changed.length).toBeGreaterThan(0);
    for (const part of leaves[choice] ?? []) expect(changed).not.toContain(part);
  });
});
