import { describe, expect, it } from '@jest/globals';
import { demoLesson, smallLesson, testStep } from '../fixtures/lessons.js';
import { planLesson } from '../plan/index.js';
import { aheadOf } from './index.js';

describe('canvases prepared ahead', () => {
  it('one for every longer pause of the demo lesson; with them the demonstration does not wait', () => {
    const lesson = demoLesson();
    const { plan } = planLesson(lesson);
    const { samples, savedMin, demonstrationMin } = aheadOf(lesson);
    const pauses = plan.items.filter((item) => item.kind === 'pause' && item.endMin - item.startMin >= 3);
    expect(samples).toHaveLength(pauses.length);
    expect(savedMin).toBeCloseTo(
      pauses.reduce((sum, item) => sum + item.endMin - item.startMin, 0),
      6,
    );
    expect(demonstrationMin).toBeCloseTo(plan.endMin - savedMin, 6);
    const at = (id: string) => lesson.steps.findIndex((step) => step.id === id);
    for (const sample of samples) expect(at(sample.afterStepId)).toBeLessThan(at(sample.beforeStepId));
  });

  it('a later stage is begun earlier, and one pair of hands can paint them all in time', () => {
    const lesson = demoLesson();
    const { samples } = aheadOf(lesson);
    const at = (id: string) => lesson.steps.findIndex((step) => step.id === id);
    for (let i = 1; i < samples.length; i++) {
      const [one, other] = [samples[i - 1], samples[i]];
      if (!one || !other) continue;
      expect(one.startBeforeMin).toBeGreaterThanOrEqual(other.startBeforeMin);
      expect(at(one.afterStepId)).toBeGreaterThan(at(other.afterStepId));
    }
    // The one begun first has room for the work on all of them.
    expect(samples[0]?.startBeforeMin).toBeGreaterThan(30);
  });

  it('a lesson without pauses needs none', () => {
    expect(aheadOf(smallLesson([testStep('one', { areaIds: ['a', 'b'] })])).samples).toEqual([]);
    expect(aheadOf(smallLesson([])).samples).toEqual([]);
  });
});
