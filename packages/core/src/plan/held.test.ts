import { describe, expect, it } from '@jest/globals';
import { findings } from '../check/index.js';
import { smallLesson, testStep } from '../fixtures/index.js';
import { heldMin, planLesson } from './index.js';

const practise = (mixIds: string[] = []) =>
  testStep('scrap', { kind: 'practise', areaIds: [], mixIds, needs: 'any', doMin: 12, title: 'Practise on scrap' });
const lesson = (...between: ReturnType<typeof practise>[]) =>
  smallLesson([
    testStep('one', { areaIds: ['a', 'b'], doMin: 2 }),
    ...between,
    testStep('two', { areaIds: ['a', 'b'], doMin: 2, needs: 'touchDry' }),
  ]);

const held = (one: ReturnType<typeof lesson>, atLeast?: number) => heldMin(one, planLesson(one), atLeast);

describe('minutes for which paint keeps a class from going on', () => {
  it('are the pauses, where nothing fills them', () => {
    expect(held(lesson())).toBeCloseTo(planLesson(lesson()).plan.waitMin, 9);
  });
  it('stay the same where practice on scrap fills them, and the check says so', () => {
    const filled = lesson(practise());
    expect(planLesson(filled).plan.waitMin).toBeLessThan(planLesson(lesson()).plan.waitMin - 10);
    expect(held(filled)).toBeCloseTo(held(lesson()), 6);
    expect(findings(filled, planLesson(filled)).find((one) => one.rule === 'waiting-share')?.words).toMatch(
      /some of it filled with practice/,
    );
  });
  it('are not worked out where all practice together is too little to matter', () => {
    expect(held(lesson(practise()), 1000)).toBe(planLesson(lesson(practise())).plan.waitMin);
  });
  it('mixing meanwhile is work of its own', () => {
    expect(held(lesson(practise(['m'])))).toBeLessThan(held(lesson()) - 10);
  });
});
