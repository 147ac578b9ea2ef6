import { describe, expect, it } from '@jest/globals';
import { lengthNumber, onRuler, readLength } from './index.js';

describe('a length that is typed', () => {
  // 1 in is 25.4 mm by definition (international yard and pound agreement, 1959).
  it.each([
    ['5/8', 'in', 15.875],
    ['3 1/2', 'in', 88.9],
    ['3½', 'in', 88.9],
    ['⅜ in', 'cm', 9.525],
    ['2"', 'cm', 50.8],
    ['4,5', 'cm', 45],
    ['40 mm', 'in', 40],
    ['12', 'in', 304.8],
  ] as const)('%s, where %s are usual', (text, unit, mm) => {
    expect(readLength(text, unit)).toBeCloseTo(mm, 9);
  });
  it.each(['', 'x', '1/0', '-3', '3 1', '1/2/3', 'in'])('“%s” is none', (text) => {
    expect(readLength(text, 'in')).toBeNull();
  });
  it('comes back as a ruler says it, and what a ruler says is what a hand measures', () => {
    for (let sixteenths = 1; sixteenths < 200; sixteenths++) {
      const mm = (sixteenths * 25.4) / 16;
      expect(readLength(lengthNumber(mm, 'in'), 'in')).toBeCloseTo(mm, 9);
      expect(onRuler(mm + 0.7, 'in')).toBeCloseTo(mm, 9);
    }
    expect(onRuler(15.5, 'in')).toBeCloseTo(15.875, 9);
    expect(onRuler(15.5, 'cm')).toBe(16);
  });
});
