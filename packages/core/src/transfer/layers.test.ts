import { describe, expect, it } from '@jest/globals';
import type { Lesson, Step } from '@viaticum/contract';
import { demoLesson, smallLesson, testStep } from '../fixtures/lessons.js';
import { contrastOn, groundsAt, momentsOf, neededAt, placedLines, secondTransfers, waysOnto } from './index.js';

const trace = (id: string): Step =>
  testStep(id, { kind: 'transfer', wholeCanvas: true, areaIds: [], mixIds: [], technique: undefined });
const border = { kind: 'border' as const, areaIds: ['b', 'a'] };
const inner = { kind: 'inner' as const, areaIds: ['b'] };
const sky = testStep('sky', { areaIds: ['a'] });
const hill = testStep('hill', { areaIds: ['b'] });

describe('when a line is needed', () => {
  it('a border by whichever area is painted later, a line within an area by its second coat', () => {
    const lesson = smallLesson([trace('t'), sky, hill, testStep('more', { areaIds: ['b'], technique: 'dry-brush' })]);
    expect(neededAt(lesson, border)).toBe(2);
    expect(neededAt(lesson, inner)).toBe(3);
    expect(neededAt(smallLesson([trace('t'), hill, sky]), border)).toBe(2);
    expect(neededAt(lesson, { ...border, stepId: 'more' })).toBe(3);
    // A step that is gone, and areas that no step paints.
    expect(neededAt(lesson, { ...border, stepId: 'gone' })).toBe(2);
    expect(neededAt(smallLesson([trace('t')]), border)).toBe(1);
  });
  it('it comes at the last drawing before that; without one, before everything', () => {
    const lesson = smallLesson([trace('first'), sky, trace('second'), hill]);
    expect(placedLines(lesson, [border])[0]?.moment.stepId).toBe('second');
    expect(momentsOf(smallLesson([sky, hill]))).toEqual([{ stepId: null, title: 'Before the first step', at: -1 }]);
  });
});

describe('lines that paint buries', () => {
  it('the border of what is painted over past its edge is buried, and wants a second transfer before its step', () => {
    const lesson = smallLesson([trace('t'), sky, hill]);
    expect(placedLines(lesson, [border])[0]?.buriedAt).toBe(1);
    expect(secondTransfers(lesson)).toEqual([{ beforeAt: 2, beforeId: 'hill', pairs: [['b', 'a']] }]);
  });
  it('one further transfer serves all lines that are lost before it and needed after it; with it, none is lost', () => {
    const demo = demoLesson();
    const again = secondTransfers(demo);
    expect(again.length).toBeGreaterThan(0);
    let lesson = demo;
    for (const [i, one] of again.entries()) {
      const at = lesson.steps.findIndex((step) => step.id === one.beforeId);
      const step = { ...trace(`again${i}`), stageId: (lesson.steps[at] as Step).stageId };
      lesson = { ...lesson, steps: [...lesson.steps.slice(0, at), step, ...lesson.steps.slice(at)] };
    }
    expect(secondTransfers(lesson)).toEqual([]);
    // Fewest: leaving any of them out loses lines again.
    for (const one of again) {
      const without = { ...lesson, steps: lesson.steps.filter((step) => step.id !== `again${again.indexOf(one)}`) };
      expect(secondTransfers(without)).not.toEqual([]);
    }
  });
  it('a wash, a broken coat, a transfer in between, or no paint before it, bury nothing', () => {
    for (const steps of [
      [trace('t'), { ...sky, technique: 'wash' as const }, hill],
      [trace('t'), { ...sky, coverShare: 0.4 }, hill],
      [trace('t'), sky, trace('u'), hill],
      [sky, trace('t'), hill],
    ])
      expect(secondTransfers(smallLesson(steps))).toEqual([]);
  });
  it('a ground over the whole canvas buries what was drawn before it', () => {
    const ground = testStep('ground', { kind: 'prepare', wholeCanvas: true, areaIds: [] });
    const lesson = smallLesson([trace('t'), ground, { ...sky, technique: 'wash' }, { ...hill, technique: 'wash' }]);
    expect(placedLines(lesson, [border])[0]?.buriedAt).toBe(1);
  });
});

describe('ways onto the canvas', () => {
  const dark: Lesson = { ...smallLesson([]), mixes: [{ id: 'night', name: 'night', recipe: [], targetLab: [20, 0, 0] }] };
  it('contrast is the difference in lightness with what lies there: chalk on a dark ground, graphite on gesso', () => {
    expect(groundsAt(dark, 0, [])).toEqual([{ areaId: null, l: 94 }]);
    expect(contrastOn('graphite', [{ l: 94 }])).toEqual({ least: 49, isHard: false });
    expect(contrastOn('chalk', [{ l: 94 }]).isHard).toBe(true);
    expect(contrastOn('graphite', [{ l: 94 }, { l: 50 }])).toEqual({ least: 5, isHard: true });
    const ways = waysOnto([{ l: 25 }], 2000);
    expect(ways[0]?.contrast.isHard).toBe(false);
    expect(ways.find((way) => way.id === 'charcoal')?.contrast.isHard).toBe(true);
    expect(ways.find((way) => way.id === 'grid')?.medium).toBe('chalk');
  });
  it('more line takes longer, and every way has its minutes', () => {
    const [few, many] = [waysOnto([{ l: 90 }], 1000), waysOnto([{ l: 90 }], 6000)];
    for (const way of few) expect(many.find((one) => one.id === way.id)?.minutes).toBeGreaterThan(way.minutes);
  });
  it('the ground under an area is what was painted there last', () => {
    const demo = demoLesson();
    const at = demo.steps.findIndex((step) => step.id === 's7');
    const [fields, bare] = groundsAt(demo, at, ['sky', 'great']);
    expect(Math.abs((fields?.l ?? 0) - (bare?.l ?? 0))).toBeGreaterThan(3);
  });
});
