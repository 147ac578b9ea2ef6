import { describe, expect, it } from '@jest/globals';
import jstat from 'jstat';
import { demoLesson } from '../fixtures/lessons.js';
import { planLesson } from '../plan/index.js';
import { type PaceModel, type PaceStep, paceModel, quantile, simulatePace, whatHelps } from './index.js';

const step = (id: string, minutes: number, rest: Partial<PaceStep> = {}): PaceStep => ({
  id,
  minutes,
  gate: { q: 1, afterMin: null },
  drying: [],
  ...rest,
});
const model = (steps: PaceStep[], students: Partial<PaceModel['students']> = {}, slotMin = 60): PaceModel => ({
  steps,
  students: { n: 20, sigma: 0, stepSigma: 0, ...students },
  slotMin,
});
const normalCdf = (x: number) => jstat.normal.cdf(x, 0, 1);

describe('against arithmetic', () => {
  it('with no spread it is the plan itself', () => {
    const result = simulatePace(
      model([step('a', 10), step('b', 5, { fixedMin: 3 }), step('c', 7, { drying: [{ after: 'a', minutes: 12 }] })]),
      { runs: 50, seed: 1 },
    );
    // a ends at 10, b at 18, c may begin at 22.
    expect(result.endMin).toEqual({ mean: 29, p05: 29, p50: 29, p95: 29 });
    expect(result.finishInSlot).toBe(1);
    expect(result.perStep.map((one) => one.waitMin)).toEqual([0, 0, 4]);
    expect(result.perStep.every((one) => one.lateShare === 0)).toBe(true);
  });
  it('a known slow student keeps the others waiting at the gate, or is left behind where it opens without them', () => {
    const slow = { n: 4, factors: [1, 1, 1, 2] };
    const all = simulatePace(model([step('a', 10), step('b', 10)], slow), { runs: 5, seed: 1 });
    expect(all.endMin.mean).toBe(40);
    expect(all.perStep[1]?.waitMin).toBe(7.5);
    const most = simulatePace(model([step('a', 10, { gate: { q: 0.75, afterMin: null } }), step('b', 10)], slow), {
      runs: 5,
      seed: 1,
    });
    // They go on at 10; the slow one ends a at 20 and b at 40.
    expect(most.endMin.mean).toBe(40);
    expect(most.perStep[0]?.lateShare).toBe(0.25);
    expect(most.perStep[1]?.waitMin).toBe(0);
    const left = simulatePace(
      model([step('a', 10, { gate: { q: 0.75, afterMin: null }, mayBeLeftOut: true }), step('b', 10)], slow),
      { runs: 5, seed: 1 },
    );
    expect(left.endMin.mean).toBe(30);
  });
  it('who asks for help waits for the one instructor: three at once are helped one after the other', () => {
    const result = simulatePace(model([step('a', 10)], { n: 3, help: { chance: 1, minutes: 2 } }), { runs: 3, seed: 1 });
    // All ask at 5; the last is helped from 9 to 11 and has 5 minutes left.
    expect(result.endMin.mean).toBeCloseTo(16, 9);
  });
  it('a late student’s coat dries later: they may begin only when their own allows it', () => {
    const steps = [step('a', 10, { gate: { q: 0.5, afterMin: null } }), step('b', 10, { drying: [{ after: 'a', minutes: 30 }] })];
    const result = simulatePace(model(steps, { n: 2, factors: [1, 1.4] }), { runs: 3, seed: 1 });
    // Done of a at 10 and 14, b from 40 and 44, done at 50 and 58.
    expect(result.endMin.mean).toBeCloseTo(44 + 14, 9);
    expect(result.perStep[1]?.waitMin).toBeCloseTo(30, 9);
  });
  it('the gate opens after its minutes though few are done', () => {
    const steps = [step('a', 10, { gate: { q: 1, afterMin: 12 } }), step('b', 10)];
    const result = simulatePace(model(steps, { n: 2, factors: [1, 3] }), { runs: 1, seed: 1 });
    expect(result.perStep[0]?.overMin).toBe(2);
    expect(result.endMin.mean).toBe(60);
  });
});

describe('against published figures', () => {
  it('the mean of the largest of n lognormals, by numerical integration', () => {
    const sigma = Math.sqrt(0.3 ** 2 + 0.2 ** 2);
    for (const n of [2, 5, 20]) {
      // E[max] = ∫ 1 − F(x)^n dx, F lognormal.
      let expected = 0;
      const dx = 0.001;
      for (let x = dx / 2; x < 12; x += dx) expected += (1 - normalCdf(Math.log(x) / sigma) ** n) * dx;
      const result = simulatePace(model([step('a', 10)], { n, sigma: 0.3, stepSigma: 0.2 }), { runs: 20_000, seed: 5 });
      expect(Math.abs(result.endMin.mean / 10 / expected - 1)).toBeLessThan(0.012);
    }
  });
  it('logs against the table of the largest of n normals (Teichroew 1956; from memory)', () => {
    const table: [number, number][] = [
      [2, 0.5642],
      [5, 1.163],
      [10, 1.5388],
      [20, 1.8675],
    ];
    const sigma = Math.sqrt(0.22 ** 2 + 0.2 ** 2);
    for (const [n, largest] of table) {
      const { ends } = simulatePace(model([step('a', 7)], { n, sigma: 0.22, stepSigma: 0.2 }), { runs: 20_000, seed: 8 });
      const mean = ends.reduce((sum, end) => sum + Math.log(end / 7), 0) / ends.length;
      expect(Math.abs(mean - sigma * largest)).toBeLessThan(0.008);
    }
  });
  it('quantiles against a reference library (jstat)', () => {
    const values = [3, 1, 4, 1, 5, 9, 2, 6, 5, 3, 5].sort((a, b) => a - b);
    // jstat's quantiles with alphap = betap = 1 are definition 7.
    for (const q of [0.05, 0.25, 0.5, 0.81, 0.95])
      expect(quantile(values, q)).toBeCloseTo(jstat.quantiles(values, [q], 1, 1)[0] as number, 9);
  });
});

describe('as a tool', () => {
  it('the same seed gives the same, another another', () => {
    const spread = model([step('a', 10), step('b', 4)], { sigma: 0.3, stepSigma: 0.2 });
    const [one, again, other] = [3, 3, 4].map((seed) => simulatePace(spread, { runs: 400, seed }));
    expect(again?.ends).toEqual(one?.ends);
    expect(other?.ends).not.toEqual(one?.ends);
  });
  it('the step that holds the class up most comes first', () => {
    const { bottlenecks } = simulatePace(
      model([step('short', 2), step('long', 30), step('middle', 10)], { sigma: 0.3, stepSigma: 0.2 }),
      { runs: 300, seed: 2 },
    );
    expect(bottlenecks.slice(0, 2)).toEqual(['long', 'middle']);
  });
  it('the demo lesson as a class: about its plan with even paces, longer with a spread, and what helps does help', () => {
    const lesson = demoLesson();
    const plan = planLesson(lesson);
    const group = { n: 12, level: 'beginner' as const, q: 0.9, overMin: null, slotMin: 300 };
    const own = paceModel(lesson, plan, group);
    const even = simulatePace({ ...own, students: { n: 12, sigma: 0, stepSigma: 0 } }, { runs: 1, seed: 1 });
    expect(even.endMin.mean).toBeGreaterThan(plan.plan.endMin * 0.75);
    expect(even.endMin.mean).toBeLessThan(plan.plan.endMin + 1);
    const real = simulatePace(own, { runs: 400, seed: 1 });
    expect(real.endMin.p50).toBeGreaterThan(even.endMin.mean);
    expect(real.endMin.p95).toBeGreaterThan(real.endMin.p50);
    for (const { kind, model: helped } of whatHelps(own, real.bottlenecks)) {
      const { endMin } = simulatePace(helped, { runs: 400, seed: 1 });
      expect([kind, endMin.p50 <= real.endMin.p50 + 1]).toEqual([kind, true]);
    }
  });
  it('no steps end at once; one student is a class; what cannot be is said in a sentence', () => {
    expect(simulatePace(model([]), { runs: 3, seed: 1 }).endMin.mean).toBe(0);
    expect(simulatePace(model([step('a', 10)], { n: 1 }), { runs: 3, seed: 1 }).endMin.mean).toBe(10);
    const run = (bad: PaceModel) => () => simulatePace(bad, { runs: 2, seed: 1 });
    expect(run(model([step('a', Number.NaN)]))).toThrow(/0 minutes or more/);
    expect(run(model([step('a', 1)], { n: 0 }))).toThrow(/between 1 and 500/);
    expect(run(model([step('a', 1, { gate: { q: 0, afterMin: null } })]))).toThrow(/share/);
    expect(run(model([step('a', 1, { drying: [{ after: 'b', minutes: 1 }] }), step('b', 1)]))).toThrow(/comes later or never/);
    expect(run(model([step('a', 1)], {}, 0))).toThrow(/slot/);
    expect(() => simulatePace(model([]), { runs: 0, seed: 1 })).toThrow(/runs/);
  });
});
