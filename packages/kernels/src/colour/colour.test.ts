import { describe, expect, it } from '@jest/globals';
import Color from 'colorjs.io';
import { converter, differenceCiede2000 } from 'culori';
import { seeded } from '../fixtures/seeded.js';
import {
  deltaE00,
  differenceInWords,
  hueName,
  labToSrgb,
  QUICK_ERROR,
  quickDeltaE,
  srgbToLab,
  valueStep,
  weights,
  white,
  xyzToLab,
} from './index.js';

type Triple = [number, number, number];

// Deterministic numbers for random colours.
describe('CIEDE2000', () => {
  // Sharma, Wu, Dalal 2005, table 1.
  const published: [Triple, Triple, number][] = [
    [[50, 2.6772, -79.7751], [50, 0, -82.7485], 2.0425],
    [[50, 2.49, -0.001], [50, -2.49, 0.0009], 7.1792],
    [[50, 2.5, 0], [73, 25, -18], 27.1492],
    [[60.2574, -34.0099, 36.2677], [60.4626, -34.1751, 39.4387], 1.2644],
    [[22.7233, 20.0904, -46.694], [23.0331, 14.973, -42.5619], 2.0373],
  ];
  it.each(published)('%j and %j differ by the published %d, both ways round', (one, other, expected) => {
    expect(Math.abs(deltaE00(one, other) - expected)).toBeLessThan(1e-4);
    expect(Math.abs(deltaE00(other, one) - expected)).toBeLessThan(1e-4);
  });

  it('agrees with culori and colorjs.io to 1e-9 on 500 random pairs', () => {
    const random = seeded(7);
    const lab = (): Triple => [random() * 100, random() * 200 - 100, random() * 200 - 100];
    const culori = differenceCiede2000();
    for (let i = 0; i < 500; i++) {
      const [one, other] = [lab(), lab()];
      const ours = deltaE00(one, other);
      const theirs = culori(
        { mode: 'lab65', l: one[0], a: one[1], b: one[2] },
        { mode: 'lab65', l: other[0], a: other[1], b: other[2] },
      );
      expect(Math.abs(ours - theirs)).toBeLessThan(1e-9);
      // Raw D65 numbers go in as `lab`: its difference would otherwise adapt them to D50 first.
      const also = new Color('lab', one).deltaE(new Color('lab', other), '2000');
      expect(Math.abs(ours - also)).toBeLessThan(1e-9);
    }
  });
});

describe('conversions', () => {
  it('the weights sum to the D65 white, which is L* 100 without a hue', () => {
    const sum = (values: number[]) => values.reduce((a, b) => a + b, 0);
    expect(sum(weights.x)).toBeCloseTo(95.047, 6);
    expect(sum(weights.y)).toBeCloseTo(100, 6);
    expect(sum(weights.z)).toBeCloseTo(108.883, 6);
    xyzToLab([white[0], white[1], white[2]]).forEach((value, i) => {
      expect(value).toBeCloseTo(i === 0 ? 100 : 0, 10);
    });
  });

  it('sRGB to L*a*b* agrees with culori to 0.02 and comes back', () => {
    const toLab = converter('lab65');
    const random = seeded(3);
    for (let i = 0; i < 300; i++) {
      const rgb: Triple = [random(), random(), random()];
      const ours = srgbToLab(rgb);
      const theirs = toLab({ mode: 'rgb', r: rgb[0], g: rgb[1], b: rgb[2] });
      expect(Math.abs(ours[0] - theirs.l)).toBeLessThan(0.02);
      expect(Math.abs(ours[1] - theirs.a)).toBeLessThan(0.02);
      expect(Math.abs(ours[2] - theirs.b)).toBeLessThan(0.02);
      labToSrgb(ours).forEach((value, k) => {
        expect(value).toBeCloseTo(rgb[k], 9);
      });
    }
  });

  it('greys stay neutral', () => {
    for (const grey of [0, 0.02, 0.2, 0.5, 0.9, 1]) {
      const [, a, b] = srgbToLab([grey, grey, grey]);
      expect(Math.hypot(a, b)).toBeLessThan(1e-9);
    }
  });

  it('a colour that no screen shows is clipped to one it does', () => {
    for (const value of labToSrgb([50, 120, -120])) {
      expect(value).toBeGreaterThanOrEqual(0);
      expect(value).toBeLessThanOrEqual(1);
    }
  });

  it('the painter’s scale runs from 1 for black to 10 for white', () => {
    expect(valueStep(0)).toBe(1);
    expect(valueStep(100)).toBe(10);
    expect(valueStep(50)).toBe(5.5);
  });
});

describe('a difference in words', () => {
  const target: Triple = [55, 30, 40];
  const at = (l: number, chroma: number, turn: number): Triple => {
    const hue = Math.atan2(40, 30) + (turn * Math.PI) / 180;
    return [55 + l, (50 + chroma) * Math.cos(hue), (50 + chroma) * Math.sin(hue)];
  };
  const cases: [string, Triple, RegExp][] = [
    ['darker', at(-2, 0, 0), /a little dark$/],
    ['much lighter', at(14, 0, 0), /much too light$/],
    ['duller', at(0, -20, 0), /too dull/],
    ['stronger', at(0, 20, 0), /too strong/],
    ['turned to yellow', at(0, 0, 14), /yellow|orange/],
    ['turned to red', at(0, 0, -14), /red/],
  ];
  it.each(cases)('says when the mix is %s', (_, mixed, words) => {
    expect(differenceInWords(target, mixed)).toMatch(words);
  });

  it('says nothing is off when the eye sees none', () => {
    expect(differenceInWords(target, [55.3, 30.2, 40.1])).toBe('the same to the eye');
  });

  it('names the cast of a grey', () => {
    expect(differenceInWords([60, 0, 0], [60, 0, -9])).toBe('much too blue');
    expect(differenceInWords([60, 0, 0], [60, -2.5, 1.5])).toMatch(/^slightly .*green/);
  });

  it('knows the hue names round the circle', () => {
    expect([0, 30, 60, 90, 160, 265, 305].map(hueName)).toEqual(['pink', 'red', 'orange', 'yellow', 'green', 'blue', 'violet']);
  });
});

describe('differences in a painter’s words, by the signs of lightness, strength and hue', () => {
  const at = (l: number, c: number, h: number): [number, number, number] => [
    l,
    c * Math.cos((h * Math.PI) / 180),
    c * Math.sin((h * Math.PI) / 180),
  ];
  const table: [string, [number, number, number], [number, number, number], RegExp][] = [
    ['lighter', at(50, 30, 250), at(56, 30, 250), /^too light$/],
    ['a little lighter', at(50, 30, 250), at(52.2, 30, 250), /^a little light$/],
    ['darker', at(50, 30, 250), at(44, 30, 250), /^too dark$/],
    ['stronger', at(50, 30, 80), at(50, 40, 80), /^too strong$/],
    ['duller', at(50, 40, 80), at(50, 30, 80), /^too dull$/],
    ['a blue turned to violet', at(50, 40, 265), at(50, 40, 285), /violet/],
    ['a blue turned to green', at(50, 40, 265), at(50, 40, 245), /green/],
    ['an orange turned to red', at(60, 50, 58), at(60, 50, 44), /red/],
    ['an orange turned to yellow', at(60, 50, 58), at(60, 50, 72), /yellow/],
    ['a yellow turned to green', at(80, 60, 90), at(80, 60, 108), /green/],
    ['a grey with a blue cast', [50, 0, 0], [50, -1, -5], /blue/],
    ['a grey with a warm cast', [50, 0, 0], [50, 2, 5], /orange|yellow/],
    ['much too dark', at(60, 20, 40), at(35, 20, 40), /much too dark/],
    ['the same', at(60, 20, 40), at(60.3, 20, 40), /the same to the eye/],
  ];
  it.each(table)('%s', (_, target, mixed, words) => {
    expect(differenceInWords(target, mixed)).toMatch(words);
  });
});

describe('the quick difference', () => {
  it('lies within its error of the exact one, everywhere', () => {
    const random = seeded(17);
    for (let i = 0; i < 60_000; i++) {
      const one = [100 * random(), -110 + 220 * random(), -110 + 220 * random()] as [number, number, number];
      const near = i % 2 === 0;
      const other = (
        near ? one.map((value) => value + 8 * random() - 4) : [100 * random(), -110 + 220 * random(), -110 + 220 * random()]
      ) as [number, number, number];
      if (i % 5 === 0) for (const lab of [one, other]) [lab[1], lab[2]] = [lab[1] / 60, lab[2] / 60];
      const exact = deltaE00(one, other);
      expect(Math.abs(quickDeltaE(...one)(...other, 1e9) - exact)).toBeLessThan(QUICK_ERROR);
      // What is set aside unseen is farther than asked for.
      if (quickDeltaE(...one)(...other, 5) === Number.POSITIVE_INFINITY) expect(exact).toBeGreaterThan(5 - QUICK_ERROR);
    }
  });
});
