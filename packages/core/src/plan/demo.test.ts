import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { Lesson } from '@viaticum/contract';
import { toEnd } from '@viaticum/kernels/cooperative';
import { Ajv } from 'ajv';
import { betterOrder } from '../advice/index.js';
import { findings } from '../check/index.js';
import { looksOf } from '../derived/index.js';
import { lessonFaults } from '../document/index.js';
import { planLesson } from './index.js';

const read = (name: string) =>
  JSON.parse(readFileSync(new URL(`../../../server/assets/demo/${name}.json`, import.meta.url), 'utf8')) as Lesson;
const demos = ['balloons', 'kettle', 'star'].map((name) => [name, read(name)] as const);
const isLesson = new Ajv({ strict: false }).compile(JSON.parse(JSON.stringify(Lesson)));

describe.each(demos)('the demo lesson %s', (_, lesson) => {
  it('fits the schema and is sound', () => {
    expect(isLesson(lesson)).toBe(true);
    expect(lessonFaults(lesson)).toEqual([]);
  });
  it('every mix has a recipe that comes near its target, and every step that paints says what, how and what to look at', () => {
    for (const look of looksOf(lesson).values()) expect(look.deltaE ?? 99).toBeLessThan(6);
    for (const step of lesson.steps.filter((one) => one.kind === 'paint'))
      expect([step.title, step.mixIds.length > 0, step.say !== '', step.watch !== '', step.checkpoint !== '']).toEqual([
        step.title,
        true,
        true,
        true,
        true,
      ]);
  });
  it('can be taught in half a day; the checks find nothing serious', () => {
    const plan = planLesson(lesson);
    expect(plan.plan.endMin).toBeLessThan(4 * 60);
    const serious = findings(lesson, plan).filter((one) => one.serious && one.setAside === undefined);
    expect(serious).toEqual([]);
  });
  it('another order never makes it longer', () => {
    const { own, best } = toEnd(betterOrder(lesson, { maxNodes: 400 }));
    expect(best.endMin).toBeLessThanOrEqual(own.endMin);
  });
});

it('the three are of different schools and have marks, samples of variants and voices of their own', () => {
  expect(new Set(demos.map(([, lesson]) => lesson.school.order)).size).toBe(3);
  const longest = (lesson: Lesson) => {
    const lengths = lesson.steps.filter((step) => step.kind === 'paint').map((step) => step.say.split(/\s+/).length);
    return lengths.reduce((sum, one) => sum + one, 0) / lengths.length;
  };
  const [balloons, kettle] = demos.map(([, lesson]) => longest(lesson));
  // One talks a beginner through, the other keeps to few words.
  expect(kettle).toBeLessThan((balloons as number) * 0.85);
});
