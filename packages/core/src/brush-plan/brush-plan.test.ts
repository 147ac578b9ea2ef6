import { describe, expect, it } from '@jest/globals';
import type { Lesson } from '@viaticum/contract';
import { brushes } from '../brush/index.js';
import { demoLesson, smallLesson, testStep } from '../fixtures/lessons.js';
import { planLesson } from '../plan/index.js';
import { substitutesFor } from './brush-plan.js';
import { brushPlan, cheapestAssignment } from './index.js';

const random = (seed: number) => () => {
  seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
  return seed / 2 ** 32;
};
const permutations = (n: number): number[][] =>
  n === 0
    ? [[]]
    : permutations(n - 1).flatMap((rest) => Array.from({ length: n }, (_, i) => [...rest.slice(0, i), n - 1, ...rest.slice(i)]));

describe('the cheapest assignment', () => {
  it('equals the best of all permutations, 200 times', () => {
    const next = random(5);
    const all = permutations(5);
    for (let round = 0; round < 200; round++) {
      const cost = Array.from({ length: 5 }, () =>
        Array.from({ length: 5 }, () => (next() < 0.15 ? 1e9 : Math.floor(next() * 20))),
      );
      const sum = (columns: number[]) => columns.reduce((total, column, row) => total + (cost[row]?.[column] as number), 0);
      const found = cheapestAssignment(cost);
      expect(new Set(found).size).toBe(5);
      expect(sum(found)).toBe(Math.min(...all.map(sum)));
    }
  });
  it('more columns than rows are welcome, fewer are refused', () => {
    expect(cheapestAssignment([[5, 1, 9]])).toEqual([1]);
    expect(() => cheapestAssignment([[1], [2]])).toThrow(/column of its own/);
  });
});

/** Steps in one brush: dark, light, dark, light. */
const alternating = (care: Lesson['school']['brushCare']): Lesson => {
  const base = smallLesson(
    ['d1', 'l1', 'd2', 'l2'].map((id) =>
      testStep(id, {
        areaIds: [id.startsWith('d') ? 'a' : 'b'],
        mixIds: [id.startsWith('d') ? 'dark' : 'm'],
        brushId: 'flat-1-in',
        doMin: 3,
        needs: id.endsWith('2') ? 'paintOver' : 'any',
      }),
    ),
  );
  return {
    ...base,
    school: { ...base.school, brushCare: care },
    tubes: [...base.tubes, { id: 'k', pigment: 'PBk9', grade: 'artist' }],
    mixes: [...base.mixes, { id: 'dark', name: 'dark', recipe: [{ tubeId: 'k', parts: 1 }] }],
  };
};

describe('the brush plan', () => {
  const planned = (lesson: Lesson) => brushPlan(lesson, planLesson(lesson));

  it('two brushes of a kind, one for each colour, save all washing where that is worth a brush', () => {
    const { brushes: held, washes, washesAsWritten } = planned(alternating('wash'));
    expect(washesAsWritten).toBe(3);
    expect(washes).toBe(0);
    expect(held.map((one) => one.uses.map((use) => use.stepId))).toEqual([
      ['d1', 'd2'],
      ['l1', 'l2'],
    ]);
    expect(held.every((one) => one.uses[1]?.before === 'wipe')).toBe(true);
  });

  it('a school with several brushes never puts a light where a dark was', () => {
    const { brushes: held } = planned(alternating('several-brushes'));
    expect(held.map((one) => one.kept).sort()).toEqual(['darks', 'lights']);
  });

  it('every step with a brush and a mix has exactly one; a brush is used once at a time and in order', () => {
    const lesson = demoLesson();
    const plan = planLesson(lesson);
    const { brushes: held, washes, washesAsWritten } = brushPlan(lesson, plan);
    const all = held.flatMap((one) => one.uses.map((use) => use.stepId));
    const wanted = lesson.steps.filter((step) => step.brushId && step.mixIds.length > 0).map((step) => step.id);
    expect([...all].sort()).toEqual([...wanted].sort());
    const start = (id: string) => plan.plan.items.find((item) => item.stepId === id)?.startMin ?? 0;
    for (const { uses, brush } of held) {
      expect(uses.map((use) => start(use.stepId))).toEqual(uses.map((use) => start(use.stepId)).sort((a, b) => a - b));
      for (const use of uses) expect(lesson.steps.find((step) => step.id === use.stepId)?.brushId).toBe(brush.id);
    }
    expect(washes).toBeLessThanOrEqual(washesAsWritten);
  });

  it('says which brush must not be left to harden, and when the water is dull', () => {
    const base = alternating('wash');
    const [first, ...rest] = base.steps as [Lesson['steps'][number], ...Lesson['steps']];
    const waits: Lesson = { ...base, steps: [first, testStep('look', { kind: 'look', mixIds: [], doMin: 40 }), ...rest] };
    const { hardens } = planned(waits).brushes[0] as ReturnType<typeof planned>['brushes'][number];
    expect(hardens).toMatchObject([{ afterStepId: 'd1' }]);
    expect(hardens[0]?.waitMin).toBeGreaterThan(40);
    const mixes = Array.from({ length: 9 }, (_, i) => ({
      id: `h${i}`,
      name: `mix ${i}`,
      recipe: [{ tubeId: 'w', parts: 1 + i }],
    }));
    const many: Lesson = {
      ...base,
      mixes: mixes,
      steps: [
        testStep('one', { areaIds: ['a'], mixIds: mixes.slice(0, 5).map((mix) => mix.id) }),
        testStep('two', { areaIds: ['b'], mixIds: mixes.slice(5).map((mix) => mix.id) }),
      ],
    };
    expect(planned(many).freshWater).toEqual([{ stepId: 'two', mixes: 5 }]);
  });

  it('nothing to paint needs no brush', () => {
    expect(planned(smallLesson([]))).toEqual({ brushes: [], washes: 0, washesAsWritten: 0, freshWater: [] });
  });

  it('substitutes are of another kind and near in width', () => {
    for (const brush of brushes)
      for (const other of substitutesFor(brush)) {
        expect(other.type).not.toBe(brush.type);
        expect(Math.abs(other.widthMm - brush.widthMm)).toBeLessThanOrEqual(0.3 * brush.widthMm);
      }
  });
});
