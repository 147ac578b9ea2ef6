import { describe, expect, it } from '@jest/globals';
import type { Lab } from '@viaticum/contract';
import { deltaE00 } from '@viaticum/kernels/colour';
import { mixColour, type Spectra } from '@viaticum/kernels/mixing';
import { pigmentOf, pigmentTable } from '@viaticum/kernels/pigment';
import { calibrateTube } from './index.js';

const labs = (paint: string | Spectra, whiteParts: number) => ({
  masstone: mixColour([{ pigment: paint, parts: 1 }]).lab,
  tint: mixColour([
    { pigment: paint, parts: 1 },
    { pigment: 'PW6', parts: whiteParts },
  ]).lab,
});
/** A tube as another maker fills it: stronger or weaker, of a slightly other hue. */
const otherMake = (id: string, strength: number, tilt: number): Spectra => {
  const { K, S, film } = pigmentOf(id);
  return {
    film,
    K: K.map((value, i) => value * strength * Math.exp(tilt * (i / 17.5 - 1))),
    S: S.map((value) => value * Math.sqrt(strength)),
  };
};

describe('a tube of one’s own from its samples', () => {
  it('the table’s own colours give the table’s tube back', () => {
    for (const id of [...pigmentTable.keys()].filter((one) => one !== 'PW6')) {
      const { masstone, tint } = labs(id, 10);
      const { left } = calibrateTube({ masstoneLab: masstone, tint: { lab: tint, whiteParts: 10 } });
      expect([id, left.masstone < 1 && (left.tint as number) < 1]).toEqual([id, true]);
    }
  });

  it.each([
    ['PB29', 1.6, 0.15],
    ['PR122', 0.6, -0.2],
    ['PY42', 1.4, 0.1],
    ['PG7', 0.7, 0.1],
  ] as const)('%s of another make is met in mass tone and tint, and a mix of it foretold', (id, strength, tilt) => {
    const truth = otherMake(id, strength, tilt);
    const { masstone, tint } = labs(truth, 10);
    const fitted = calibrateTube({ masstoneLab: masstone, tint: { lab: tint, whiteParts: 10 } });
    expect(fitted.left.masstone).toBeLessThan(1.5);
    expect(fitted.left.tint).toBeLessThan(1.5);
    expect(fitted.warning).toBeNull();
    for (let i = 0; i < 36; i++) {
      expect(fitted.K[i]).toBeGreaterThan(0);
      expect(fitted.S[i]).toBeGreaterThan(0);
    }
    // A mix that was not among the samples: nearer to the truth than the table’s tube gives it.
    const mix = (paint: string | Spectra) =>
      mixColour([
        { pigment: paint, parts: 1 },
        { pigment: 'PW6', parts: 40 },
      ]).lab;
    expect(deltaE00(mix(truth), mix(fitted))).toBeLessThan(deltaE00(mix(truth), mix(id)));
  });

  it('without a tint the strength stays the table’s, and says so', () => {
    const fitted = calibrateTube({ masstoneLab: labs('PB29', 10).masstone });
    expect(fitted.strength).toBeCloseTo(1, 1);
    expect(fitted.warning).toMatch(/ten of white/);
  });

  it('samples that contradict each other leave a difference and a warning', () => {
    const { left, warning } = calibrateTube({ masstoneLab: [30, 18, -38], tint: { lab: [70, 40, 60], whiteParts: 10 } });
    expect(Math.max(left.masstone, left.tint as number)).toBeGreaterThan(3);
    expect(warning).toMatch(/cannot be met together/);
  });

  it.each([
    ['a lightness of 140', { masstoneLab: [140, 0, 0] as Lab }, /between 0 and 100/],
    ['NaN', { masstoneLab: [Number.NaN, 0, 0] as Lab }, /Check the three numbers/],
    [
      'a tint without white',
      { masstoneLab: [50, 0, 0] as Lab, tint: { lab: [70, 0, 0] as Lab, whiteParts: 0 } },
      /between 1 and 200/,
    ],
  ])('%s is refused with a sentence', (_, sample, words) => {
    expect(() => calibrateTube(sample)).toThrow(words);
  });
});
