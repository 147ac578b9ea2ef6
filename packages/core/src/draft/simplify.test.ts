import { describe, expect, it } from '@jest/globals';
import { brushOf } from '../brush/index.js';
import { carryOut, lessonFaults, startHistory, undo } from '../document/index.js';
import { demoLesson, smallLesson } from '../fixtures/lessons.js';
import { asDrafted, draftLesson, simplify } from './index.js';

let n = 0;
const demo = demoLesson();
const drafted = asDrafted(
  demo,
  draftLesson(demo, () => `d${n++}`),
);

describe('simpler for beginners', () => {
  it.each([1, 2, 3] as const)('by %d: fewer of everything than before, sound, and one command that is undone', (amount) => {
    const { lesson, args, fewer } = simplify(drafted, amount);
    expect(lessonFaults(lesson)).toEqual([]);
    expect(fewer.areas).toBeGreaterThanOrEqual(0);
    expect(fewer.minutes).toBeGreaterThan(0);
    const history = carryOut(startHistory(drafted), 'simplify', args);
    expect(history.lesson).toEqual(lesson);
    expect(undo(history).lesson).toEqual(drafted);
  });

  it('more amount, fewer areas and mixes; every area that is left is still painted', () => {
    const [one, two, three] = ([1, 2, 3] as const).map((amount) => simplify(drafted, amount));
    expect(one?.fewer.areas).toBe(0);
    expect(two?.fewer.areas).toBeGreaterThan(0);
    expect(three?.fewer.areas).toBeGreaterThan(two?.fewer.areas ?? 99);
    expect(three?.fewer.mixes).toBeGreaterThanOrEqual(two?.fewer.mixes ?? 99);
    for (const simpler of [one, two, three]) {
      const painted = new Set(simpler?.lesson.steps.flatMap((step) => step.areaIds));
      for (const area of simpler?.lesson.areas ?? []) expect(painted).toContain(area.id);
    }
  });

  it('brushes are never finer, and keep their kind', () => {
    const { lesson } = simplify(drafted, 1);
    for (const step of drafted.steps) {
      const [before, after] = [brushOf(step.brushId), brushOf(lesson.steps.find((one) => one.id === step.id)?.brushId)];
      if (!before || !after) continue;
      expect(after.type).toBe(before.type);
      expect(after.widthMm).toBeGreaterThanOrEqual(before.widthMm);
    }
  });

  it('the subject stays, and a lesson with nothing to join stays as it is', () => {
    const subject = { ...drafted, subjectAreaId: 'basket' };
    const has = subject.areas.some((area) => area.id === 'basket');
    expect(simplify(subject, 3).lesson.areas.some((area) => area.id === 'basket')).toBe(has);
    const small = simplify(smallLesson([]), 3);
    expect(small.fewer).toEqual({ areas: 0, mixes: 0, steps: 0, minutes: 0 });
  });
});
