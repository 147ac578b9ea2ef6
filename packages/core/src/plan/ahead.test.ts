import { describe, expect, it } from '@jest/globals';
import { smallLesson, testStep } from '../fixtures/index.js';
import { betterOrder, lengthParts, planLesson } from './index.js';

/** A ground laid in class or at home, and a sky over it. */
const lesson = (ahead: boolean) =>
  smallLesson([
    testStep('ground', {
      kind: 'prepare',
      areaIds: [],
      wholeCanvas: true,
      technique: 'gesso',
      doMin: 10,
      ...(ahead ? { ahead: true } : {}),
    }),
    testStep('sky', { needs: 'touchDry', doMin: 12, showMin: 3 }),
    testStep('hill', { areaIds: ['b'], needs: 'auto', doMin: 8 }),
  ]);

describe('what is done before the class', () => {
  it('costs the class nothing and is dry when it begins', () => {
    const [here, home] = [planLesson(lesson(false)), planLesson(lesson(true))];
    expect(here.plan.waitMin).toBeGreaterThan(20);
    expect(home.plan.waitMin).toBe(0);
    expect(home.plan.items.map((item) => item.stepId)).toEqual(['sky', 'hill']);
    expect(home.plan.coats.find((coat) => coat.stepId === 'ground')?.laidToMin).toBeLessThan(-600);
    expect(home.minutes.get('ground')?.doMin).toBe(10);
  });
  it('the paint of the class lies on dry acrylic, not on bare gesso', () => {
    const bare = planLesson({ ...lesson(true), steps: lesson(true).steps.slice(1) });
    const open = (plan: typeof bare) => plan.coats.find((coat) => coat.stepId === 'sky')?.openMin as number;
    expect(open(planLesson(lesson(true)))).toBeGreaterThan(open(bare) * 1.2);
  });
  it('stays first in every order that is sought', () => {
    const work = betterOrder(lesson(true));
    let step = work.next();
    while (!step.done) step = work.next();
    expect(step.value.order[0]).toBe('ground');
    expect(step.value.order).toHaveLength(3);
  });
  it('the parts of a length add up to it', () => {
    const one = lesson(false);
    const planned = planLesson(one);
    const parts = lengthParts(one, planned);
    expect(Object.values(parts).reduce((sum, minutes) => sum + minutes, 0)).toBeCloseTo(planned.plan.endMin, 6);
    expect(parts.waiting).toBeCloseTo(planned.plan.waitMin, 6);
    expect(parts.showing).toBe(3);
  });
});
