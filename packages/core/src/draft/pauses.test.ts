import { describe, expect, it } from '@jest/globals';
import { smallLesson, testStep } from '../fixtures/index.js';
import { planLesson } from '../plan/index.js';
import { withBreakInPause, withBreaks } from './fixing.js';
import { withLongerLooks } from './pauses.js';

const ids = () => 'new';
/** Paint, a wait for it, and a few minutes and as much again after it. */
const waiting = (doMin: number) =>
  smallLesson([
    testStep('one', { areaIds: ['a', 'b'], doMin }),
    testStep('two', { areaIds: ['a', 'b'], doMin: 3, needs: 'touchDry' }),
    testStep('three', { areaIds: ['a'], doMin, needs: 'any' }),
  ]);

describe('a class rests where it waits for paint anyway', () => {
  it('has its break in the pause, and ends no later for it', () => {
    const lesson = waiting(36);
    const rested = withBreakInPause(lesson, ids);
    expect(rested.steps.map((step) => step.kind)).toEqual(['paint', 'break', 'paint', 'paint']);
    expect(planLesson(rested).plan.endMin).toBeCloseTo(planLesson(lesson).plan.endMin, 6);
    expect(planLesson(rested).plan.waitMin).toBeCloseTo(planLesson(lesson).plan.waitMin - 10, 6);
  });
  it('a short lesson needs none, nor does anybody rest soon after the beginning', () => {
    expect(withBreakInPause(waiting(6), ids).steps).toHaveLength(3);
    const early = smallLesson([
      testStep('one', { areaIds: ['a', 'b'], doMin: 6 }),
      testStep('two', { areaIds: ['a', 'b'], doMin: 70, needs: 'touchDry' }),
    ]);
    expect(withBreakInPause(early, ids)).toBe(early);
  });
  it('not so late that another was needed before: two breaks within the hour are none', () => {
    let n = 0;
    const fresh = () => `b${++n}`;
    const late = smallLesson([
      testStep('zero', { areaIds: ['a'], doMin: 40, needs: 'any' }),
      testStep('half', { areaIds: ['a'], doMin: 30, needs: 'any' }),
      testStep('one', { areaIds: ['a', 'b'], doMin: 20, needs: 'any' }),
      testStep('two', { areaIds: ['a', 'b'], doMin: 30, needs: 'touchDry' }),
      testStep('three', { areaIds: ['a'], doMin: 30, needs: 'any' }),
    ]);
    const rested = withBreaks(withBreakInPause(late, fresh), fresh);
    const { items } = planLesson(rested).plan;
    const breaks = items.filter((item) => item.kind === 'break');
    expect(breaks.length).toBeGreaterThan(0);
    for (const [i, one] of breaks.entries())
      if (i > 0) expect(one.startMin - (breaks[i - 1] as (typeof breaks)[0]).endMin).toBeGreaterThan(30);
  });
});

describe('what is looked at before a moment of waiting', () => {
  const looking = (doMin: number) =>
    smallLesson([
      testStep('one', { areaIds: ['a', 'b'], doMin: 2 }),
      testStep('look', { kind: 'look', areaIds: [], mixIds: [], needs: 'any', doMin }),
      testStep('two', { areaIds: ['a', 'b'], doMin: 2, needs: 'touchDry' }),
    ]);
  const { waitMin } = planLesson(looking(1)).plan;
  it('is looked at a little longer', () => {
    const lesson = looking(Math.floor(1 + waitMin - 0.4));
    expect(planLesson(lesson).plan.waitMin).toBeGreaterThan(0);
    const longer = withLongerLooks(lesson);
    expect(planLesson(longer).plan.waitMin).toBe(0);
    expect(planLesson(longer).plan.endMin).toBeLessThanOrEqual(planLesson(lesson).plan.endMin + 0.5);
  });
  it('but not through a whole pause', () => {
    expect(withLongerLooks(looking(1)).steps).toEqual(looking(1).steps);
  });
});
