import { describe, expect, it } from '@jest/globals';
import type { Lesson } from '@viaticum/contract';
import { toEnd } from '@viaticum/kernels/cooperative';
import { betterOrder, inOrderOf, orderProblem } from '../advice/index.js';
import { carryOut, startHistory } from '../document/index.js';
import { demoLesson, smallLesson, testStep } from '../fixtures/lessons.js';
import { planLesson } from './index.js';

const demo = demoLesson();
const answer = toEnd(betterOrder(demo));
const placeOf = (order: readonly string[]) => new Map(order.map((id, place) => [id, place]));

describe('a better order for a lesson', () => {
  it('the demo lesson has one that waits less than its author’s', () => {
    expect(answer.best.endMin).toBeLessThan(answer.own.endMin - 5);
    expect(answer.best.waitMin).toBeLessThan(answer.own.waitMin);
    expect(answer.own.endMin).toBe(planLesson(demo).plan.endMin);
    expect(answer.best.endMin).toBe(planLesson(inOrderOf(demo, answer.order)).plan.endMin);
    expect(answer.lowerBoundMin).toBeLessThanOrEqual(answer.best.endMin + 1e-9);
    expect(answer.changes).toBeGreaterThan(0);
  });

  it('keeps everything that must come first, and every step', () => {
    const place = placeOf(answer.order);
    expect([...answer.order].sort()).toEqual(demo.steps.map((step) => step.id).sort());
    for (const { from, to, type } of orderProblem(demo).constraints)
      if (type !== 'wet' && type !== 'either') expect(place.get(from) as number).toBeLessThan(place.get(to) as number);
  });

  it('coats of one area stay one on the other, lines come before what they are for, a look keeps its place', () => {
    const lesson = smallLesson([
      testStep('ground', { kind: 'prepare', wholeCanvas: true, areaIds: [] }),
      testStep('lines', { kind: 'transfer', technique: undefined as never, areaIds: ['a'], needs: 'any' }),
      testStep('first', { areaIds: ['a'] }),
      testStep('look', { kind: 'look', technique: undefined as never, areaIds: [], mixIds: [] }),
      testStep('second', { areaIds: ['a'] }),
      testStep('other', { areaIds: ['b'] }),
    ]);
    const said = orderProblem(lesson).constraints.flatMap((one) => (one.type === 'before' ? [`${one.from} ${one.to}`] : []));
    expect(said).toEqual(
      expect.arrayContaining(['ground lines', 'lines first', 'first second', 'first look', 'look second', 'ground other']),
    );
    // The hill lies before the sky: it is painted after it.
    expect(said).toContain('first other');
    expect(said).not.toContain('lines other');
  });

  it('another room, another order or at least another end: damp air makes more waiting to be saved', () => {
    const damp: Lesson = { ...demo, room: { ...demo.room, airC: 17, humidity: 0.75 } };
    const there = toEnd(betterOrder(damp));
    expect(there.own.endMin).toBeGreaterThan(answer.own.endMin);
    expect(there.own.endMin - there.best.endMin).toBeGreaterThan(answer.own.endMin - answer.best.endMin);
  });

  it('an order without a better one is left as it is', () => {
    const lesson = smallLesson([testStep('one', { areaIds: ['a'] }), testStep('two', { areaIds: ['b'] })]);
    expect(toEnd(betterOrder(lesson))).toMatchObject({ changes: 0, proven: true, order: ['one', 'two'] });
    expect(toEnd(betterOrder({ ...lesson, steps: [] }))).toMatchObject({ changes: 0, order: [], proven: true });
  });

  it('with a few nodes it is not proven, and says what cannot be beaten', () => {
    const short = toEnd(betterOrder(demo, { maxNodes: 3 }));
    expect(short.best.endMin).toBeLessThanOrEqual(short.own.endMin);
    expect(short.lowerBoundMin).toBeLessThanOrEqual(short.best.endMin);
  });

  it('is taken as one change, place by place in its stages, and undone as one', () => {
    const history = startHistory(demo);
    const taken = carryOut(history, 'orderSteps', { ids: answer.order });
    expect(taken.lesson.steps.map((step) => step.id)).toEqual(answer.order);
    expect(taken.lesson.steps.map((step) => step.stageId)).toEqual(demo.steps.map((step) => step.stageId));
    expect(planLesson(taken.lesson).plan.endMin).toBe(answer.best.endMin);
    expect(() => carryOut(history, 'orderSteps', { ids: answer.order.slice(1) })).toThrow(/Ask for the order again/);
  });
});
