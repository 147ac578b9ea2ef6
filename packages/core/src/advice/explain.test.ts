import { describe, expect, it } from '@jest/globals';
import type { Lesson, Planning } from '@viaticum/contract';
import { carryOut, startHistory } from '../document/index.js';
import { demoLesson, smallLesson, testStep } from '../fixtures/lessons.js';
import { planLesson } from '../plan/index.js';
import { contradictionInWords, costsOf, criticalChain, reasonInWords, waysOut, whyNotEarlier } from './index.js';

const holding = (lesson: Lesson, planning: Partial<Planning>): Lesson => ({ ...lesson, planning: { pins: [], ...planning } });
const sky = testStep('one', { title: 'lay the sky' });
const hill = testStep('two', { title: 'hill on it', needs: 'paintOver' });
const talk = testStep('talk', { title: 'talk', kind: 'look', areaIds: ['b'], mixIds: [], doMin: 3 });

describe('what sets the end', () => {
  it('the chain joins beginning and end without a gap that is not explained', () => {
    const demo = demoLesson();
    const plan = planLesson(demo);
    const chain = criticalChain(plan);
    expect(chain[0]?.reason.kind).toBe('start');
    expect(chain.at(-1)?.endMin).toBe(plan.plan.endMin);
    chain.slice(1).forEach((link, k) => {
      const before = chain[k] as (typeof chain)[number];
      expect(link.startMin).toBeGreaterThanOrEqual(before.endMin);
      if (link.reason.kind === 'after') expect([link.reason.stepId, link.startMin]).toEqual([before.stepId, before.endMin]);
      else expect(link.reason).toMatchObject({ kind: 'dry', stepId: before.stepId, waitMin: link.startMin - before.endMin });
    });
  });

  it('a step shortened by a minute on the chain ends the lesson sooner, one beside the chain does not', () => {
    // Touches here and there: no part of them is known to come late.
    const lesson = smallLesson([sky, talk, { ...hill, coverShare: 0.5 }]);
    const plan = planLesson(lesson);
    expect(criticalChain(plan).map((link) => link.stepId)).toEqual(['one', 'two']);
    const shorter = (id: string) =>
      planLesson({ ...lesson, steps: lesson.steps.map((step) => (step.id === id ? { ...step, doMin: 2 } : step)) }).plan.endMin;
    expect(shorter('one')).toBe(plan.plan.endMin - 2);
    expect(shorter('talk')).toBe(plan.plan.endMin);
  });

  it('each reason has its sentence', () => {
    const lesson = smallLesson([sky, talk, hill]);
    const plan = planLesson(lesson);
    const why = (id: string) => reasonInWords(lesson, whyNotEarlier(plan, id));
    expect(why('one')).toBe('begins the lesson');
    expect(why('talk')).toBe('follows “lay the sky” at once: the hands are busy until then');
    expect(why('two')).toMatch(/^waits \d+ min after step 1 for the sky to be dry enough to paint over$/);
    const pinned = holding(lesson, { pins: [{ stepId: 'talk', startMin: 10 }] });
    expect(reasonInWords(pinned, whyNotEarlier(planLesson(pinned), 'talk'))).toBe('is pinned to this time');
    const rested = holding(smallLesson([testStep('a', { doMin: 40 }), testStep('b', { doMin: 40, areaIds: ['b'] })]), {
      breaks: { lengthMin: 10, everyMin: 60 },
    });
    const plan2 = planLesson(rested);
    expect(plan2.plan.items.map((item) => item.kind)).toEqual(['step', 'break', 'step']);
    expect(reasonInWords(rested, whyNotEarlier(plan2, 'b'))).toBe('comes after a break of 10 min');
  });
});

describe('what pins and rules cost', () => {
  const lesson = smallLesson([sky, talk, hill]);
  const end = planLesson(lesson).plan.endMin;

  it('a pin costs what the end moves by, and nothing where there was time', () => {
    const late = holding(lesson, {
      pins: [
        { stepId: 'two', startMin: 60 },
        { stepId: 'talk', startMin: 6 },
      ],
    });
    expect(planLesson(late).plan.endMin).toBe(64);
    const costs = costsOf(late).filter((cost) => cost.kind === 'pin');
    expect(costs).toEqual([
      { kind: 'pin', stepId: 'two', minutes: 64 - end },
      { kind: 'pin', stepId: 'talk', minutes: 0 },
    ]);
  });

  it('a wait on the chain, care, slack and breaks have their price', () => {
    const [wait] = costsOf(lesson);
    expect(wait).toMatchObject({ kind: 'wait', stepId: 'two', areaId: 'a' });
    expect(wait?.minutes).toBe(end - (4 + 3 + 4));
    const careful = holding(lesson, { cautious: true, slackShare: 0.5 });
    expect(
      costsOf(careful)
        .map((cost) => cost.kind)
        .sort(),
    ).toEqual(['cautious', 'slack', 'wait']);
    for (const cost of costsOf(careful)) expect(cost.minutes).toBeGreaterThan(0);
  });
});

describe('what cannot all be kept', () => {
  it('a pin earlier than the paint allows: left out, said with the earliest time, and mended by pinning there', () => {
    const lesson = holding(smallLesson([sky, hill]), { pins: [{ stepId: 'two', startMin: 5 }] });
    const plan = planLesson(lesson);
    const start = plan.solution.items[1]?.start as number;
    expect(start).toBe(planLesson(smallLesson([sky, hill])).solution.items[1]?.start);
    const [said] = plan.contradictions;
    expect(said).toMatchObject({ pins: [{ step: 'two', start: 5 }], leftOut: { step: 'two', start: 5 } });
    expect(contradictionInWords(lesson, plan, said as never)).toMatch(
      /^Step 2 is pinned to 0:05, and step 2 waits [\d.]+ min for the sky of step 1; in this order step 2 cannot begin before 0:\d\d\.$/,
    );
    const ways = waysOut(lesson, plan, said as never);
    expect(ways.map((way) => way.words)).toEqual([`Pin step 2 to 0:${Math.ceil(start)}`, 'Let go of step 2']);
    for (const way of ways) {
      const mended = carryOut(startHistory(lesson), way.command as 'unpin', way.args as { id: string }).lesson;
      expect(planLesson(mended).contradictions).toEqual([]);
    }
  });

  it('a window with too much work in it: its sentence names both, and doing it straight after mends it', () => {
    const lesson = smallLesson([
      { ...sky, medium: 'retarder' },
      { ...talk, doMin: 30 },
      testStep('two', { title: 'shade into it', needs: 'wet', doMin: 1, partByPart: true }),
    ]);
    const plan = planLesson(lesson);
    const said = plan.contradictions[0] as (typeof plan.contradictions)[number];
    expect(contradictionInWords(lesson, plan, said)).toMatch(
      /^Step 3 must begin within [\d.]+ min after step 1, while the sky is still open; in this order [\d.]+ min are missing\.$/,
    );
    const [straight] = waysOut(lesson, plan, said);
    expect(straight).toMatchObject({ words: 'Do step 3 straight after step 1', command: 'moveStep' });
    const mended = carryOut(startHistory(lesson), 'moveStep', straight?.args as { id: string; to: number }).lesson;
    expect(planLesson(mended).contradictions).toEqual([]);
  });

  it('an order the other way round, and breaks that cannot be', () => {
    const turned = holding(smallLesson([sky, talk]), { pins: [{ firstId: 'talk', thenId: 'one' }] });
    const plan = planLesson(turned);
    expect(contradictionInWords(turned, plan, plan.contradictions[0] as never)).toBe(
      'Step 2 is to come before step 1; the steps stand the other way round.',
    );
    expect(waysOut(turned, plan, plan.contradictions[0] as never)[0]).toMatchObject({ command: 'unpinOrder' });
    const long = holding(smallLesson([{ ...sky, doMin: 90 }]), { breaks: { lengthMin: 10, everyMin: 60 } });
    const broken = planLesson(long);
    expect(contradictionInWords(long, broken, broken.contradictions[0] as never)).toMatch(/The breaks do not fit/);
    expect(broken.plan.endMin).toBe(90);
  });
});

describe('nights', () => {
  it('what was laid dries over night; wet paint does not last', () => {
    const lesson = smallLesson([sky, hill]);
    expect(planLesson(lesson).plan.waitMin).toBeGreaterThan(8);
    const slept = planLesson(holding(lesson, { cutsBefore: ['two'] }));
    expect(slept.plan.waitMin).toBe(0);
    expect(slept.plan.items.map((item) => item.title)).toContain('End of the session: go on another day');
    const wet = holding(smallLesson([sky, testStep('two', { needs: 'wet' })]), { cutsBefore: ['two'] });
    expect(planLesson(wet).misses.map((miss) => miss.kind)).toContain('window');
  });
});
