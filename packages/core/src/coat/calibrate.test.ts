import { describe, expect, it } from '@jest/globals';
import { seeded } from '@viaticum/kernels/fixtures';
import { calibrate, coatTimes, type TouchTest } from './index.js';

describe('calibration by touch tests', () => {
  it('without tests nothing is changed; a test that agrees with the model changes nothing', () => {
    expect(calibrate([])).toBe(1);
    // Symmetric about the model on a logarithmic scale.
    expect(calibrate([{ predictedMin: 10, wetAtMin: 8, dryAtMin: 12.5 }])).toBeCloseTo(1, 4);
  });
  it('a coat still wet when it should be dry makes evaporation slower, one dry too early quicker', () => {
    expect(calibrate([{ predictedMin: 10, wetAtMin: 14 }])).toBeLessThan(0.95);
    expect(calibrate([{ predictedMin: 10, dryAtMin: 6 }])).toBeGreaterThan(1.05);
  });
  it('a coat that is dry at once, or wet for hours, still says something, within a quarter and four times', () => {
    const early = calibrate([{ predictedMin: 20, dryAtMin: 0.05 }]);
    const late = calibrate([{ predictedMin: 5, wetAtMin: 600 }]);
    expect(early).toBeGreaterThan(1.5);
    expect(early).toBeLessThanOrEqual(4.001);
    expect(late).toBeLessThan(0.67);
    expect(late).toBeGreaterThanOrEqual(0.249);
  });
  it('with two exact tests it goes half the way, since the model weighs as two; with many it goes nearly all of it', () => {
    const slow = (n: number): TouchTest[] =>
      Array.from({ length: n }, () => ({ predictedMin: 10, wetAtMin: 14.99, dryAtMin: 15.01 }));
    // Half of ln 1.5, as for a normal mean with a prior of equal weight.
    expect(Math.log(calibrate(slow(2)))).toBeCloseTo(-Math.log(1.5) / 2, 2);
    expect(calibrate(slow(60))).toBeCloseTo(1 / 1.5, 1);
  });
  it('finds the factor of a room again from tests at random times', () => {
    const random = seeded(6);
    const room = { airC: 20, humidity: 0.5, airSpeed: 0.1 };
    const predictedMin = coatTimes({ technique: 'block-in' }, room).paintOverMin;
    const truth = coatTimes({ technique: 'block-in' }, { ...room, calibration: 0.7 }).paintOverMin;
    const tests = Array.from({ length: 40 }, (): TouchTest => {
      const at = predictedMin * (0.6 + 1.4 * random());
      return at < truth ? { predictedMin, wetAtMin: at } : { predictedMin, dryAtMin: at };
    });
    expect(calibrate(tests)).toBeCloseTo(0.7, 1);
  });
  it('the order of tests does not matter, and what contradicts itself is refused in a sentence', () => {
    const tests = [
      { predictedMin: 10, wetAtMin: 12 },
      { predictedMin: 20, dryAtMin: 18 },
      { predictedMin: 5, wetAtMin: 5, dryAtMin: 9 },
    ];
    expect(calibrate([...tests].reverse())).toBeCloseTo(calibrate(tests), 9);
    expect(() => calibrate([{ predictedMin: 10, wetAtMin: 12, dryAtMin: 8 }])).toThrow(/before it was still wet/);
    expect(() => calibrate([{ predictedMin: Number.POSITIVE_INFINITY, dryAtMin: 8 }])).toThrow(/a coat that dries/);
  });
});
