import { describe, expect, it } from '@jest/globals';
import type { Lesson } from '@viaticum/contract';
import { carryOut, startHistory } from '../document/index.js';
import { smallLesson, testStep } from '../fixtures/index.js';
import { planLesson } from '../plan/index.js';
import { heldBy, waysOn } from './index.js';

const lesson: Lesson = {
  ...smallLesson([
    testStep('one', { mixIds: ['ricks'] }),
    testStep('two', { areaIds: ['b'], mixIds: ['dawn'], needs: 'auto', brushId: 'round-8' }),
    testStep('talk', { kind: 'practise', areaIds: [], mixIds: [], doMin: 5 }),
  ]),
  mixes: [
    { id: 'ricks', name: 'ricks', recipe: [], targetLab: [22, 4, 10] },
    { id: 'dawn', name: 'dawn', recipe: [], targetLab: [78, 14, 14] },
  ],
};
const drying: Lesson = { ...lesson, room: { ...lesson.room, seats: 2, dryers: { count: 2, watts: 1200 } } };

describe('ways past a wait', () => {
  it('name what holds the step, and each ends the lesson when it said', () => {
    const plan = planLesson(drying);
    expect(heldBy(plan, 'two')).toMatchObject([{ fromStepId: 'one', areaId: 'a', kind: 'edge' }]);
    expect(heldBy(plan, 'one')).toEqual([]);
    const ways = waysOn(drying, 'two', plan);
    expect(ways.map((way) => way.kind).sort()).toEqual(['dry', 'edge-last', 'gap', 'other-first', 'soften', 'waive']);
    expect(ways.at(-1)?.words).toBe('Paint on anyway');
    expect(ways.find((way) => way.kind === 'other-first')?.words).toBe('First “talk”');
    for (const way of ways) {
      const changed = carryOut(startHistory(drying), way.command, way.args as never).lesson;
      expect(planLesson(changed).plan.endMin).toBe(way.endMin);
      expect(way.endMin).toBeLessThan(plan.plan.endMin);
    }
  });
  it('no later coat is offered before the one that it lies on', () => {
    const [one, two] = lesson.steps as [Lesson['steps'][number], Lesson['steps'][number]];
    const over = testStep('over', { title: 'lights on the hill', areaIds: ['b'], mixIds: ['dawn'], needs: 'any', doMin: 6 });
    expect(waysOn({ ...lesson, steps: [one, two, over] }, 'two').map((way) => way.kind)).not.toContain('other-first');
  });
  it('no dryer is offered where there is none, and nothing where nobody waits', () => {
    expect(waysOn(lesson, 'two').map((way) => way.kind)).not.toContain('dry');
    expect(waysOn(lesson, 'one')).toEqual([]);
  });
  it('painting on, taken back, leaves the lesson as it was', () => {
    const way = waysOn(lesson, 'two').find((one) => one.kind === 'waive');
    const { lesson: waived } = carryOut(startHistory(lesson), 'waiveContact', way?.args as never);
    expect(waived.planning.waived).toEqual([{ fromStepId: 'one', toStepId: 'two', areaId: 'a' }]);
    expect(planLesson(waived).plan.waitMin).toBe(0);
    const back = carryOut(startHistory(waived), 'unwaiveContact', { contacts: [{ fromStepId: 'one', toStepId: 'two' }] }).lesson;
    expect(back).toEqual(lesson);
  });
});
