import { describe, expect, it } from '@jest/globals';
import { commonSizes } from '../document/index.js';
import { coverWhenTurned, fittingSizes, guessByName, namesOfThings } from './index.js';

describe('what a name says', () => {
  it.each([
    ['Left eye', 'feature', null],
    ['eye, left', 'feature', null],
    ['A far lake', 'water', 'ripples'],
    ['Rose petals', 'subject', 'petals'],
    ['cherry trees', 'foliage', 'leaves'],
    ['Window of the shed', 'ground', 'boards'],
    ['Gizmo', null, null],
    ['', null, null],
  ] as const)('%s', (name, role, surface) => {
    expect(guessByName(name)).toEqual({ role, surface });
  });
  it('names are told apart, whatever their case', () => {
    const things = ['', 'Hill', 'hill', ' '].map((name) => ({ name, called: 'Thing' }));
    expect(namesOfThings(things)).toEqual(['Thing 1', 'Hill 1', 'hill 2', 'Thing 2']);
  });
});

describe('canvases for a picture', () => {
  const best = (widthPx: number, heightPx: number) => {
    const [found] = fittingSizes(
      { widthPx, heightPx },
      commonSizes.filter(({ unit }) => unit === 'in'),
    );
    return found && [found.size.name, found.isLying, Math.round(found.lostShare * 100)];
  };
  it('the one that cuts off least, lying or standing as the picture does', () => {
    // A 3 : 2 picture on a 4 : 3 canvas: 1 − (4/3) / (3/2) = 1/9 is cut off.
    expect(best(3000, 2000)).toEqual(['12 × 16 in', true, 11]);
    expect(best(2000, 3000)).toEqual(['12 × 16 in', false, 11]);
    expect(best(1600, 2000)).toEqual(['16 × 20 in', false, 0]);
    expect(best(1000, 1000)).toEqual(['24 × 24 in', false, 0]);
  });
  it('a 3 : 2 picture loses no more than 17 % (the design’s bound)', () => {
    expect((best(3000, 2000) as [string, boolean, number])[2]).toBeLessThanOrEqual(17);
  });
  it('turned, a square must grow by the root of two at most', () => {
    const square = { widthMm: 300, heightMm: 300 };
    expect(coverWhenTurned(0, square)).toBe(1);
    expect(coverWhenTurned(45, square)).toBeCloseTo(Math.SQRT2, 9);
    expect(coverWhenTurned(-45, square)).toBeCloseTo(Math.SQRT2, 9);
  });
});
