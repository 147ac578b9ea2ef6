import { describe, expect, it } from '@jest/globals';
import type { ClassLog } from '@viaticum/contract';
import { seeded } from '@viaticum/kernels/fixtures';
import jstat from 'jstat';
import { factorOf, fitEffects, type Observation } from './fit.js';
import { asksAt, fitPace, pace } from './pace.js';

const draw = seeded(7);
const bell = () => Math.sqrt(-2 * Math.log(draw() || 1e-9)) * Math.cos(2 * Math.PI * draw());

/** Dones of a lesson of some steps, of which the first takes `ratio` of its plan; one in ten is pressed at any time. */
function taught(ratio: number, classes: number, students: number, steps = 6): Observation[] {
  const own = Array.from({ length: steps }, (_, k) => (k === 0 ? Math.log(ratio) : 0.2 * bell()));
  return Array.from({ length: classes }, (_, c) => {
    const ofClass = pace.class * bell();
    return Array.from({ length: students }, (_, person) => {
      const ofPerson = 0.3 * bell();
      return own.map((ofStep, k): Observation => {
        const at = draw() < 0.1 ? 1.2 * bell() : ofStep + ofClass + ofPerson + pace.one * bell();
        return { lo: at - 0.1, hi: at + 0.1, effects: ['level:beginner', `step:${k}`], class: String(c), person };
      });
    }).flat();
  }).flat();
}
const ofFirst = ['level:beginner', 'step:0'];

describe('how long a step takes', () => {
  it('comes out of what students took, however far the plan was off, with limits that hold', () => {
    let [held, bias] = [0, 0];
    const times = 120;
    for (let i = 0; i < times; i++) {
      const ratio = Math.exp(0.2236 * bell());
      const tests = taught(ratio, 4, 6);
      const { factor, from, to } = factorOf(fitPace(tests), ofFirst);
      held += from <= ratio && ratio <= to ? 1 / times : 0;
      bias += Math.log(factor / ratio) / times;
    }
    expect(Math.abs(bias)).toBeLessThan(0.03);
    expect(held).toBeGreaterThan(0.72);
    expect(held).toBeLessThan(0.9);
    for (const ratio of [0.4, 2.5]) {
      const tests = taught(ratio, 8, 12);
      expect(Math.abs(Math.log(factorOf(fitPace(tests), ofFirst).factor / ratio))).toBeLessThan(0.12);
    }
  });

  it('is the same whether people are taken out of the equations or stand among them', () => {
    const tests = taught(1.6, 3, 5);
    const among = tests.map(({ person, ...one }) => ({ ...one, effects: [...one.effects, `person:${one.class} ${person}`] }));
    const [taken, dense] = [
      fitPace(tests),
      fitEffects(among, { ...pace, kinds: { ...pace.kinds, person: pace.person as number } }),
    ].map((fit) => fit.of(ofFirst.map((effect) => [effect, 1])));
    expect(taken?.mean).toBeCloseTo(dense?.mean as number, 5);
    expect(taken?.sd).toBeCloseTo(dense?.sd as number, 5);
  });

  it('is the normal posterior where nothing is nonsense and all is known to the minute', () => {
    // Conjugate normal: the mean of n observations, drawn towards 0 by the prior (Gelman et al., Bayesian Data Analysis, 2.5).
    const values = [0.31, 0.52, 0.44, 0.27, 0.6];
    const spread = { kinds: { step: 0.2 }, class: 1e-4, one: 0.2, nonsense: 1e-9, wide: 1.2 };
    const fit = fitEffects(
      values.map((at) => ({ lo: at - 1e-3, hi: at + 1e-3, effects: ['step:a'], class: 'x' })),
      spread,
    );
    const { mean } = fit.of([['step:a', 1]]);
    const n = values.length;
    const at = (one: number) => (jstat.mean(values) * n * 0.04) / (n * 0.04 + one ** 2);
    // The spread of one observation is not known: between the steadiest and the wildest that are weighed.
    expect(mean).toBeGreaterThan(at(0.31));
    expect(mean).toBeLessThan(at(0.12));
    expect(mean).toBeCloseTo(at(jstat.stdev(values, true)), 1);
  });
});

it('how often help is asked for lies within the limits of the gamma distribution of a reference library', () => {
  for (const [asks, students] of [
    [0, 30],
    [4, 30],
    [11, 24],
    [40, 300],
  ] as const) {
    const log = {
      level: 'beginner',
      kind: 'class',
      items: [{ kind: 'step', stepId: 'a', present: students, asks, reasons: [] }],
    } as unknown as ClassLog;
    const found = asksAt([{ id: 'x', log }]).get('a');
    const [shape, weight] = [20 * 0.1 + asks, 20 + students];
    expect(found?.rate).toBeCloseTo(shape / weight, 9);
    expect(Math.abs((found?.from as number) - jstat.gamma.inv(0.1, shape, 1 / weight))).toBeLessThan(0.004);
  }
});
