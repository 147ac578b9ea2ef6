import { describe, expect, it } from '@jest/globals';
import { carryOut, startHistory } from '../document/index.js';
import { demoLesson, smallLesson, testStep } from '../fixtures/index.js';
import { formerWaits, planLesson } from './index.js';

describe('what lessons waited before only contacts did', () => {
  it('every coat on and beside was waited for: the demo lesson waited longer, and says for which steps', () => {
    const waits = formerWaits(demoLesson());
    expect(waits?.formerMin).toBeGreaterThan((waits?.nowMin as number) + 20);
    expect(waits?.nowMin).toBeCloseTo(planLesson(demoLesson()).plan.waitMin, 6);
    expect(waits?.steps.every((step) => Math.abs(step.formerMin - step.nowMin) >= 1)).toBe(true);
  });
  it('kept, the steps stand where they stood; nothing differs where nothing waits', () => {
    const lesson = {
      ...smallLesson([testStep('one', {}), testStep('two', { areaIds: ['b'], needs: 'auto' })]),
      formerWaits: true as const,
    };
    const [step] = formerWaits(lesson)?.steps ?? [];
    expect(step).toMatchObject({ stepId: 'two', nowMin: 0 });
    const keep = [{ stepId: 'two', startMin: step?.startMin as number }];
    const kept = carryOut(startHistory(lesson), 'meetWaits', { keep }).lesson;
    expect(kept.formerWaits).toBeUndefined();
    expect(planLesson(kept).solution.items[1]?.start).toBe(step?.startMin);
    expect(formerWaits(smallLesson([testStep('one', {}), testStep('two', { areaIds: ['b'] })]))).toBeNull();
  });
});
