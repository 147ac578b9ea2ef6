import { describe, expect, it } from '@jest/globals';
import type { Lab } from '@viaticum/contract';
import { deltaE00, labToSrgb, srgbToLab } from '@viaticum/kernels/colour';
import { seeded } from '@viaticum/kernels/fixtures';
import {
  amountsOf,
  leastSquared,
  type MixPart,
  mixColour,
  palePlan,
  partsList,
  recipeTable,
  tierPlan,
} from '@viaticum/kernels/mixing';
import { pigmentOf, pigmentTable } from '@viaticum/kernels/pigment';
import { findRecipes } from './index.js';

const all = [...pigmentTable.keys()];
const some = (random: () => number, count: number) => [...all].sort(() => random() - 0.5).slice(0, count);
const colour = (random: () => number): Lab => srgbToLab([random(), random(), random()]);

/** Every recipe of the grid by plain loops, and the least ΔE00, worked out by mixColour itself. */
function exhaustive(target: Lab, tubes: string[], maxTubes: number, smalls: number, withPale = false): number {
  let best = Number.POSITIVE_INFINITY;
  const amounts = [...Array.from({ length: 12 }, (_, i) => i + 1), 'touch', 'speck'] as const;
  const more = ['2 touches', '3 touches', '2 specks', '3 specks', 16, 24, 32] as const;
  const gcd = (a: number, b: number): number => (b === 0 ? a : gcd(b, a % b));
  const go = (at: number, parts: MixPart[]) => {
    const whole = parts.flatMap((part) => (typeof part.parts === 'number' ? [part.parts] : []));
    const small = parts.length - whole.length;
    // Pale tints: up to three small amounts, each up to three times, in white alone, of which a heap may be large.
    const isPale =
      withPale && whole.length <= 1 && parts.every((part) => typeof part.parts !== 'number' || part.pigment === 'PW6');
    const isPlain = small <= smalls && parts.every(({ parts: amount }) => !/^\d /.test(String(amount)));
    const isCounted = whole.reduce((sum, one) => sum + one, 0) <= 12;
    if (parts.length > maxTubes || (!isPale && !(isPlain && isCounted))) return;
    if (whole.length > 0 && (small > 0 || (isCounted && whole.reduce(gcd) === 1)))
      best = Math.min(best, deltaE00(target, mixColour(parts).lab));
    for (let i = at; i < tubes.length; i++)
      for (const amount of withPale ? [...amounts, ...more] : amounts)
        go(i + 1, [...parts, { pigment: tubes[i] as string, parts: amount }]);
  };
  go(0, []);
  return best;
}

describe('the grid of recipes', () => {
  it('has the sizes worked out on paper for twelve tubes', () => {
    expect([0, 1, 2].map((smalls) => tierPlan(12, 4, smalls).rows)).toEqual([283_207, 961_488, 815_760]);
    expect(tierPlan(12, 4, 1, ['touch']).rows).toBe(480_744);
    // Of 11 others three in 6 ways each, two in 6² ways, one in 6; in 15 heaps of white, and what the other tiers have in 3.
    expect(palePlan(12, 4, [0]).rows).toBe(15 * (165 * 216 + 55 * 32 + 11 * 4) + 3 * (55 * 4 + 11 * 2));
  });

  it('counts coprime pairs as Euler’s totient does', () => {
    // φ(2) + … + φ(12) = 45; all pairs with a sum up to 12: 66. Source: Hardy and Wright, An Introduction to the Theory of Numbers (from memory).
    expect(partsList(2, true).count).toBe(45);
    expect(partsList(2, false).count).toBe(66);
  });

  it('never names a tube twice and never more than are allowed', () => {
    for (const smalls of [0, 1, 2])
      for (const block of tierPlan(5, 3, smalls).blocks) {
        const tubes = amountsOf(block, block.list.count - 1).map((part) => part.tube);
        expect(new Set(tubes).size).toBe(tubes.length);
        expect(tubes.length).toBeLessThanOrEqual(3);
      }
  });
});

describe('the bound', () => {
  it('never lies above the true difference', () => {
    const random = seeded(7);
    for (let i = 0; i < 20_000; i++) {
      const [one, other] = [colour(random), colour(random)];
      const near = i % 2 ? other : (one.map((value) => value + 6 * random() - 3) as Lab);
      const [l, a, b] = near;
      const c = Math.hypot(a, b);
      const size = i % 3;
      const box = {
        l0: l - size,
        l1: l + size,
        a0: a - size,
        a1: a + size,
        b0: b - size,
        b1: b + size,
        c0: Math.max(0, c - 1.5 * size),
        c1: c + 1.5 * size,
      };
      const truth = deltaE00(one, near);
      expect(Math.sqrt(leastSquared(one[0], one[1], one[2], box))).toBeLessThanOrEqual(truth + 1e-9);
    }
  });
});

describe('recipes', () => {
  it('are the best there are: equal to looking at every recipe, on 100 random cases of 4–8 tubes', () => {
    const random = seeded(41);
    let equal = 0;
    for (let i = 0; i < 100; i++) {
      const count = 4 + (i % 5);
      const tubes = some(random, count);
      // The larger the case the smaller its grid, so that plain loops end.
      const [maxTubes, smalls] = count <= 5 ? [3, 1] : [2, 1];
      const target = colour(random);
      const table = recipeTable(tubes.map(pigmentOf), { maxTubes, smalls: smalls as 1 });
      const [hit] = table.nearest(target);
      const truth = exhaustive(target, tubes, maxTubes, smalls);
      if (Math.abs((hit?.deltaE as number) - truth) < 1e-3) equal++;
    }
    expect(equal).toBe(100);
  });

  it('of four tubes with two small amounts too, and of a white with three', () => {
    const random = seeded(5);
    for (let i = 0; i < 3; i++) {
      const tubes = some(random, 4);
      const target = colour(random);
      const [best] = findRecipes(target, tubes, { maxTubes: 4, count: 1 });
      expect(best?.deltaE).toBeCloseTo(exhaustive(target, tubes, 4, 2, tubes.includes('PW6')), 6);
    }
    const pale = ['PW6', 'PB29', 'PBr7-BU', 'PR254'];
    const [best] = findRecipes([84, 0, 3], pale, { count: 1 });
    expect(best?.deltaE).toBeCloseTo(exhaustive([84, 0, 3], pale, 4, 2, true), 6);
  });

  it('light greys, neutral and nearly so, are met within ΔE00 2 where a free mix of the same tubes meets them', () => {
    // Common practice, no published source: a light grey is the colour in which a difference is seen first.
    const greys: Lab[] = [76, 80, 84, 88, 92].flatMap((l): Lab[] => [
      [l, 0, 0],
      [l, 1, 3],
      [l, -1, -3],
      [l, 3, 0],
      [l, 0, 5],
    ]);
    for (const tubes of [
      ['PW6', 'PB29', 'PB15:3', 'PR122', 'PR254', 'PY74', 'PY42', 'PBr7-BU'],
      ['PW6', 'PB29', 'PR254', 'PY42', 'PBr7-BS', 'PBr7-BU'],
    ]) {
      const table = recipeTable(tubes.map(pigmentOf));
      const off = greys.map((grey) => (table.nearest(grey)[0] as { deltaE: number }).deltaE);
      expect(off.filter((deltaE) => deltaE > 2).length).toBeLessThanOrEqual(1);
      expect(Math.max(...off)).toBeLessThan(2.1);
    }
  });

  it('come best first, with whole parts up to 12 in all and at most two small amounts, three in white', () => {
    const found = findRecipes([60, 12, -22], ['PW6', 'PB29', 'PR122', 'PY74', 'PBr7-BU'], { count: 20 });
    expect(found).toHaveLength(20);
    for (const [i, { parts, deltaE, lab }] of found.entries()) {
      if (i > 0) expect(deltaE).toBeGreaterThanOrEqual((found[i - 1] as { deltaE: number }).deltaE - 1e-9);
      expect(deltaE).toBeCloseTo(deltaE00([60, 12, -22], mixColour(parts).lab), 9);
      expect(lab).toEqual(mixColour(parts).lab);
      const whole = parts.flatMap((part) => (typeof part.parts === 'number' ? [part.parts] : []));
      expect(whole.reduce((sum, one) => sum + one, 0)).toBeLessThanOrEqual(whole.length === 1 ? 32 : 12);
      expect(parts.length - whole.length).toBeLessThanOrEqual(whole.length === 1 && parts[0]?.pigment === 'PW6' ? 3 : 2);
      expect(parts.length).toBeLessThanOrEqual(4);
    }
  });

  it('a colour that is a mix is found again', () => {
    const { lab } = mixColour([
      { pigment: 'PW6', parts: 5 },
      { pigment: 'PB29', parts: 1 },
      { pigment: 'PBr7-BU', parts: 'touch' },
    ]);
    const [best] = findRecipes(lab, ['PBr7-BU', 'PB29', 'PW6']);
    expect(best?.deltaE).toBeLessThan(0.01);
    expect(best?.parts).toHaveLength(3);
  });

  it('small amounts halve what whole parts leave, as the grid’s design says (models: 5.3 → 1.0 on twelve tubes)', () => {
    const tubes = ['PW6', 'PB29', 'PB15:3', 'PR122', 'PR254', 'PY74', 'PY42', 'PBr7-BU'].map(pigmentOf);
    const tables = ([0, 2] as const).map((smalls) => recipeTable(tubes, { smalls }));
    const random = seeded(3);
    const means = [0, 0];
    for (let i = 0; i < 20; i++) {
      const target = mixColour(some(random, 3).map((pigment) => ({ pigment, parts: 1 + Math.floor(9 * random()) }))).lab;
      tables.forEach((table, k) => {
        means[k] = (means[k] as number) + (table.nearest(target)[0]?.deltaE as number) / 20;
      });
    }
    expect(means[1]).toBeLessThan((means[0] as number) / 1.5);
  });

  it('keep to the tubes allowed', () => {
    const table = recipeTable(['PW6', 'PBk7', 'PB29', 'PBr7-BU'].map(pigmentOf));
    for (const hit of table.nearest([35, 0, 0], { count: 10, among: 0b1101 }))
      expect(hit.parts.every(({ tube }) => tube !== 1)).toBe(true);
  });
});

describe('bad input', () => {
  it.each([
    ['no tubes', () => findRecipes([50, 0, 0], []), /no tubes to mix from/],
    ['a lightness beyond 100', () => findRecipes([120, 0, 0], ['PW6']), /between 0 and 100/],
    ['NaN', () => findRecipes([50, Number.NaN, 0], ['PW6']), /Check the three numbers/],
    ['an unknown tube', () => findRecipes([50, 0, 0], ['PX0']), /called “PX0”/],
    ['more tubes than can be searched', () => findRecipes([50, 0, 0], all), /at most 24/],
  ])('%s is refused with a sentence', (_, call, words) => {
    expect(call).toThrow(words);
  });

  it('one tube gives one recipe, the same tube twice counts once, and no white is no fault', () => {
    expect(findRecipes([50, 0, 0], ['PB29'])).toMatchObject([{ parts: [{ pigment: 'PB29', parts: 1 }] }]);
    expect(findRecipes([50, 0, 0], ['PB29', 'PB29'])).toHaveLength(1);
    expect(findRecipes([95, 0, 3], ['PB29', 'PY74'], { count: 1 })[0]?.deltaE).toBeGreaterThan(4);
  });

  it('a colour no paint reaches is answered by the nearest', () => {
    const violent = srgbToLab([0, 1, 0]);
    const [best] = findRecipes(violent, ['PW6', 'PY3', 'PB15:3']);
    expect(best?.deltaE).toBeGreaterThan(4);
    expect(labToSrgb(best?.lab as Lab)[1]).toBeLessThan(0.95);
  });
});
