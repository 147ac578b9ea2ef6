import { describe, expect, it } from '@jest/globals';
import jstat from 'jstat';
import { demoLesson } from '../fixtures/lessons.js';
import { planLesson } from '../plan/index.js';
import { leaveOutFacts } from '../student-sheet/index.js';
import { keyOf } from './draws.js';
import { eventSim } from './event-sim.fixture.js';
import {
  divideAt,
  type PaceModel,
  type PaceStep,
  paceModel,
  pacesOf,
  quantile,
  simulatePace,
  tooShort,
  twoSpeeds,
  whatHelps,
} from './index.js';
import { player } from './play.js';

const step = (id: string, doMin: number, rest: Partial<PaceStep> = {}): PaceStep => ({
  id,
  key: keyOf(id),
  doMin,
  showMin: 0,
  breakMin: 0,
  pauseMin: 0,
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
const last = <T>(work: Generator<number, T>): T => {
  for (;;) {
    const one = work.next();
    if (one.done) return one.value;
  }
};

describe('against arithmetic', () => {
  it('with no spread it is the plan itself; drying is no part of the next step’s gate', () => {
    const result = simulatePace(
      model([step('a', 10), step('b', 5, { showMin: 3 }), step('c', 7, { drying: [{ after: 'a', minutes: 12 }], pauseMin: 4 })]),
      { runs: 50, seed: 1 },
    );
    // a ends at 10, b at 18, c may begin at 22.
    expect(result.endMin).toEqual({ mean: 29, p05: 29, p50: 29, p90: 29, p95: 29 });
    expect(result.classMin).toEqual(result.endMin);
    expect(result.finishInSlot).toBe(1);
    expect(result.perStep.map((one) => one.waitMin)).toEqual([0, 0, 4]);
    expect(result.perStep.every((one) => one.lateShare === 0 && one.overMin === 0 && one.pauseOverMin === 0)).toBe(true);
  });
  it.each([
    ['never', 1, null],
    ['5 min', 1, 5],
    ['90 %', 0.9, null],
    ['90 % or 5 min', 0.9, 5],
  ])('one student exactly at plan pace, gate %s: no step is over, no pause longer, the end is the plan’s', (_, q, overMin) => {
    const lesson = demoLesson();
    const plan = planLesson(lesson);
    const own = paceModel(lesson, plan, { n: 1, level: 'beginner', q, overMin, slotMin: 300, factors: [1] });
    const result = simulatePace({ ...own, students: { n: 1, sigma: 0, stepSigma: 0, factors: [1] } }, { runs: 2, seed: 1 });
    for (const { id, overMin: over, pauseOverMin } of result.perStep) {
      expect([id, over]).toEqual([id, expect.closeTo(0, 6)]);
      expect([id, pauseOverMin]).toEqual([id, expect.closeTo(0, 6)]);
    }
    // The plan rounds its pauses up to a quarter of a minute.
    expect(result.endMin.p50).toBeLessThanOrEqual(plan.plan.endMin + 1e-9);
    expect(result.endMin.p50).toBeGreaterThan(plan.plan.endMin - 3);
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
  it('a late student’s coat dries later: the class goes by the share of its gate, they may begin only when their own allows it', () => {
    const steps = [
      step('a', 10, { gate: { q: 0.5, afterMin: null } }),
      step('b', 10, { drying: [{ after: 'a', minutes: 30 }], gate: { q: 0.5, afterMin: null }, pauseMin: 30 }),
    ];
    const result = simulatePace(model(steps, { n: 2, factors: [1, 1.4] }), { runs: 3, seed: 1 });
    // Done of a at 10 and 14, b from 40 and 44, done at 50 and 58; the class is at its end at 50.
    expect(result.endMin.mean).toBeCloseTo(44 + 14, 9);
    expect(result.classMin.mean).toBeCloseTo(50, 9);
    expect(result.perStep[1]).toMatchObject({ waitMin: expect.closeTo(30, 9), overMin: 0, pauseOverMin: 0 });
  });
  it('the gate opens after its minutes though few are done; a break lies before its step and in no gate', () => {
    const steps = [step('a', 10, { gate: { q: 1, afterMin: 12 } }), step('b', 10, { breakMin: 8, gate: { q: 1, afterMin: 12 } })];
    const result = simulatePace(model(steps, { n: 2, factors: [1, 3] }), { runs: 1, seed: 1 });
    expect(result.perStep.map((one) => one.overMin)).toEqual([2, 2]);
    expect(result.endMin.mean).toBe(60);
    expect(result.classMin.mean).toBe(12 + 8 + 12);
  });
  it('hands wait behind one instructor: minutes of help cannot run beside each other, and with more helpers they do', () => {
    const asks = { n: 24, sigma: 0.38, stepSigma: 0.2, help: { chance: 1, minutes: 3 } };
    const [one, two, six] = [1, 2, 6].map((helpers) =>
      simulatePace(model([step('a', 5)], { ...asks, helpers }), { runs: 300, seed: 4 }),
    );
    // 24 hands of about 3.6 minutes (the mean of a lognormal of 3 in the middle): 86 instructor-minutes.
    expect(one?.hands.helpedMin).toBeCloseTo(24 * 3 * Math.exp(0.6 ** 2 / 2), -1);
    expect(one?.endMin.mean).toBeGreaterThan(one?.hands.helpedMin ?? 0);
    expect(two?.endMin.mean).toBeLessThan(0.65 * (one?.endMin.mean ?? 0));
    expect(six?.hands.waitedMin).toBeLessThan(0.25 * (two?.hands.waitedMin ?? 0));
  });
  it('while showing the instructor helps nobody, and shows only when hands of before are helped', () => {
    const steps = [step('a', 10, { gate: { q: 0.5, afterMin: null } }), step('b', 10, { showMin: 4 })];
    const { play, starts, opens } = player(model(steps, { n: 2, factors: [1, 2], help: { chance: 1, minutes: 5 } }), 1);
    for (let run = 0; run < 40; run++) {
      play(run);
      const own = eventSim(model(steps, { n: 2, factors: [1, 2], help: { chance: 1, minutes: 5 } }), 1, run);
      expect([...starts]).toEqual(own.starts);
      expect([...opens]).toEqual(own.opens);
    }
  });
});

describe('against a plain simulation of events', () => {
  const lesson = demoLesson();
  const plan = planLesson(lesson);
  it.each([
    [20, 0, 0.9, 5, 0.12, 3],
    [20, 1, 0.9, 5, 0.12, 3],
    [8, 0, 1, null, 0.3, 4],
    [12, 2, 0.7, 3, 0.5, 2],
    [30, 0, 0.8, 4, 0.06, 3],
    [1, 0, 1, null, 0, 1],
    [5, 0, 0.6, 0, 0.9, 5],
  ])(
    '%i students, %i assistants, gate %d or %j over, %d ask for %d min: every start, gate and end is the same',
    (n, assistants, q, overMin, chance, minutes) => {
      const own = paceModel(lesson, plan, { n, level: 'beginner', q, overMin, slotMin: 240, assistants });
      const steps = own.steps.map(({ mayBeLeftOut: _, ...one }) => one);
      const group = { ...own, steps, students: { ...own.students, help: { chance, minutes } } };
      const { play, starts, opens } = player(group, 7);
      for (let run = 0; run < 20; run++) {
        const { end } = play(run);
        const plain = eventSim(group, 7, run);
        expect([...starts]).toEqual(plain.starts);
        expect([...opens]).toEqual(plain.opens);
        expect(end).toBe(plain.end);
      }
    },
  );
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
  it('leaving a step out does not shift the chances of the others', () => {
    const spread = { sigma: 0.38, stepSigma: 0.2, n: 6 };
    const [both, one] = [[step('a', 10), step('b', 4)], [step('a', 10)]].map((steps) => player(model(steps, spread), 5));
    for (let run = 0; run < 30; run++) {
      both?.play(run);
      one?.play(run);
      expect(both?.opens[0]).toBe(one?.opens[0]);
    }
  });
  const lesson = demoLesson();
  const plan = planLesson(lesson);
  const leave = leaveOutFacts(lesson, plan);
  const group = { n: 20, level: 'beginner' as const, q: 0.9, overMin: 5, slotMin: 300 };
  it('the demo lesson as a class: the class and the last one are two ends, both later than the plan', () => {
    const own = paceModel(lesson, plan, group);
    const real = simulatePace(own, { runs: 400, seed: 1 });
    expect(real.classMin.p50).toBeGreaterThan(plan.plan.endMin);
    expect(real.classMin.p90).toBeGreaterThan(real.classMin.p50);
    expect(real.endMin.p50).toBeGreaterThan(real.classMin.p50);
    expect(real.classInSlot).toBeGreaterThanOrEqual(real.finishInSlot);
    expect(own.steps.some((one) => one.breakMin > 0)).toBe(true);
    expect(own.steps.every((one) => lesson.steps.find(({ id }) => id === one.id)?.kind !== 'break')).toBe(true);
  });
  it('each help that is offered has its minutes, sure beyond chance; the most comes first', () => {
    const own = paceModel(lesson, plan, group);
    const base = simulatePace(own, { runs: 600, seed: 1 });
    const gains = last(whatHelps(own, base, leave, { runs: 600, seed: 1 }));
    expect(gains.length).toBeGreaterThan(2);
    expect(gains.map((gain) => gain.kind)).toEqual(expect.arrayContaining(['assistant', 'go-on-earlier', 'dryer']));
    for (const { kind, savedMin, errorMin, model: helped } of gains) {
      expect([kind, savedMin >= 1 && savedMin >= 3 * errorMin]).toEqual([kind, true]);
      // With other chances it saves too.
      const [before, after] = [own, helped].map((one) => simulatePace(one, { runs: 400, seed: 77 }).classMin.mean);
      expect([kind, (before ?? 0) - (after ?? 0) > 0]).toEqual([kind, true]);
    }
    expect(gains.map((gain) => gain.savedMin)).toEqual([...gains].map((gain) => gain.savedMin).sort((a, b) => b - a));
  });
  it('a group that is even and asks nothing is offered no assistant', () => {
    const own = paceModel(lesson, plan, group);
    const even = { ...own, students: { n: 20, sigma: 0, stepSigma: 0 } };
    const base = simulatePace(even, { runs: 50, seed: 1 });
    const kinds = last(whatHelps(even, base, {}, { runs: 50, seed: 1 })).map((gain) => gain.kind);
    expect(kinds).not.toContain('assistant');
    expect(kinds).not.toContain('go-on-earlier');
  });
  it('a slot shorter than the plan is said with what must go, each planned anew; one that fits is not', () => {
    expect(tooShort(lesson, plan.plan.endMin, plan.plan.endMin, leave)).toBeNull();
    const short = tooShort(lesson, plan.plan.endMin, plan.plan.endMin - 6, leave);
    expect(short?.shortMin).toBe(6);
    const rest = lesson.steps.filter((one) => !short?.leaveOut.includes(one.id));
    if (short?.fitsAfter) expect(planLesson({ ...lesson, steps: rest }).plan.endMin).toBeLessThanOrEqual(plan.plan.endMin - 6);
    expect(tooShort(lesson, plan.plan.endMin, 30, leave)?.fitsAfter).toBe(false);
    expect(tooShort(lesson, plan.plan.endMin, 30, {})?.leaveOut).toEqual([]);
  });
  it('two speeds: divided at the widest gap in the middle, each part with its own minutes, the slower part leaves out what costs least', () => {
    expect(divideAt([0.7, 0.8, 0.82, 1.3, 1.4, 1.5])).toBe(3);
    expect(divideAt([0.3, 1, 1.01, 1.02, 1.03, 3])).toBeGreaterThan(1);
    expect(pacesOf({ n: 5, sigma: 0, stepSigma: 0, factors: [2] })).toEqual([1, 1, 1, 1, 2]);
    const own = paceModel(lesson, plan, group);
    const two = twoSpeeds(own, leave);
    if (!two) throw new Error('no two speeds');
    expect(two.quick.n + two.slow.n).toBe(20);
    expect(two.quick.endMin).toBeLessThan(two.slow.wholeMin);
    expect(two.slow.endMin).toBeLessThanOrEqual(two.slow.wholeMin);
    expect(two.leftOut.every((id) => leave[id])).toBe(true);
    expect(two.stretches.flatMap((stretch) => stretch.stepIds)).toEqual(own.steps.map((one) => one.id));
    expect(two.stretches.flatMap((stretch) => stretch.leftOut).sort()).toEqual([...two.leftOut].sort());
    for (const stretch of two.stretches.filter((one) => one.leftOut.length === 0 && one.quickMin > 5))
      expect(stretch.slowMin).toBeGreaterThan(stretch.quickMin);
    expect(twoSpeeds({ ...own, students: { ...own.students, n: 3 } }, leave)).toBeNull();
  });
  it('no steps end at once; one student is a class; what cannot be is said in a sentence', () => {
    expect(simulatePace(model([]), { runs: 3, seed: 1 }).endMin.mean).toBe(0);
    expect(simulatePace(model([step('a', 10)], { n: 1 }), { runs: 3, seed: 1 }).endMin.mean).toBe(10);
    const run = (bad: PaceModel) => () => simulatePace(bad, { runs: 2, seed: 1 });
    expect(run(model([step('a', Number.NaN)]))).toThrow(/0 minutes or more/);
    expect(run(model([step('a', 1)], { n: 0 }))).toThrow(/between 1 and 1200/);
    expect(run(model([step('a', 1, { gate: { q: 0, afterMin: null } })]))).toThrow(/share/);
    expect(run(model([step('a', 1, { drying: [{ after: 'b', minutes: 1 }] }), step('b', 1)]))).toThrow(/comes later or never/);
    expect(run(model([step('a', 1)], {}, 0))).toThrow(/slot/);
    expect(() => simulatePace(model([]), { runs: 0, seed: 1 })).toThrow(/runs/);
  });
});
