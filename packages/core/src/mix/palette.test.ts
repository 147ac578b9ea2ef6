import { describe, expect, it } from '@jest/globals';
import type { Lab } from '@viaticum/contract';
import { deltaE00 } from '@viaticum/kernels/colour';
import { seeded } from '@viaticum/kernels/fixtures';
import { mixColour, partsList } from '@viaticum/kernels/mixing';
import { pigmentTable } from '@viaticum/kernels/pigment';
import { smallestPalette } from './index.js';

const tubes = ['PW6', 'PB29', 'PB15:3', 'PR122', 'PY74', 'PY42', 'PBr7-BU'];

/** Least ΔE00 that whole-part recipes of a set of tubes have to a target, by plain loops. */
const cache = new Map<string, Lab[]>();
function coloursOf(set: string[]): Lab[] {
  const key = set.join();
  const known = cache.get(key);
  if (known) return known;
  const { count, parts } = partsList(set.length, true);
  const colours = Array.from(
    { length: count },
    (_, r) => mixColour(set.map((pigment, i) => ({ pigment, parts: parts[r * set.length + i] as number }))).lab,
  );
  cache.set(key, colours);
  return colours;
}
function subsets<T>(list: T[], most: number): T[][] {
  const all: T[][] = [[]];
  for (const one of list) for (const set of [...all]) if (set.length < most) all.push([...set, one]);
  return all;
}
function plainly(targets: Lab[], from: string[], tolerance: number) {
  const best = (target: Lab, set: string[]) =>
    Math.min(
      ...subsets(set, 4)
        .filter((one) => one.length > 0)
        .flatMap((one) => coloursOf(one).map((lab) => deltaE00(target, lab))),
    );
  const reachable = targets.filter((target) => best(target, from) <= tolerance);
  const sets = subsets(from, from.length).filter((set) => set.length > 0);
  const good = sets.filter((set) => reachable.every((target) => best(target, set) <= tolerance));
  const least = Math.min(...good.map((set) => set.length));
  return { least, reachable: reachable.length, sets: good.filter((set) => set.length === least).map((set) => set.join()) };
}

describe('the smallest palette', () => {
  it('is the smallest: equal to trying every set of tubes', () => {
    const random = seeded(12);
    for (let round = 0; round < 4; round++) {
      const from = [...tubes].sort(() => random() - 0.5).slice(0, 5);
      const targets = Array.from(
        { length: 4 },
        () =>
          mixColour(
            [...from]
              .sort(() => random() - 0.5)
              .slice(0, 2)
              .map((pigment) => ({ pigment, parts: 1 + Math.floor(4 * random()) })),
          ).lab,
      ).map(([l, a, b]): Lab => [l, a + 2 * random(), b + 2 * random()]);
      const truth = plainly(targets, from, 3);
      const found = smallestPalette(targets, from, { tolerance: 3 });
      expect(found.tubes).toHaveLength(truth.least);
      expect(truth.sets).toContain(found.tubes.join());
      expect(found.others.length + 1).toBe(Math.min(11, truth.sets.length));
      expect(targets.length - found.unreachable.length).toBe(truth.reachable);
      expect(found.proven).toBe(true);
      expect(found.worst).toBeLessThanOrEqual(3);
    }
  });

  it('keeps must-haves and leaves out must-nots', () => {
    const targets: Lab[] = [
      mixColour([
        { pigment: 'PW6', parts: 3 },
        { pigment: 'PB29', parts: 1 },
      ]).lab,
    ];
    expect(smallestPalette(targets, tubes, { tolerance: 3, must: ['PY42'] }).tubes).toContain('PY42');
    const without = smallestPalette(targets, tubes, { tolerance: 8, mustNot: ['PB29'] });
    expect(without.tubes).not.toContain('PB29');
  });

  it('the trade-off never gets worse with more tubes, and ends with all of them', () => {
    const targets: Lab[] = [
      [60, 10, 30],
      [40, -10, -20],
      [80, 2, 10],
      [30, 20, 5],
    ];
    const { tradeOff } = smallestPalette(targets, tubes, { tolerance: 12 });
    for (let i = 1; i < tradeOff.length; i++)
      expect((tradeOff[i] as { worst: number }).worst).toBeLessThanOrEqual((tradeOff[i - 1] as { worst: number }).worst + 1e-6);
    expect(tradeOff.at(-1)?.tubes).toHaveLength(tubes.length);
  });

  it('says what each tube is for: without it its target is farther', () => {
    const targets: Lab[] = [
      mixColour([
        { pigment: 'PW6', parts: 4 },
        { pigment: 'PB29', parts: 1 },
      ]).lab,
      mixColour([{ pigment: 'PY42', parts: 1 }]).lab,
    ];
    const { usefulness, tubes: chosen } = smallestPalette(targets, tubes, { tolerance: 1 });
    expect(chosen).toEqual(['PW6', 'PB29', 'PY42']);
    expect(usefulness.find((one) => one.tube === 'PY42')?.target).toBe(1);
    for (const one of usefulness) expect(one.without).toBeGreaterThan(one.with);
  });

  it('tells unreachable colours apart and answers for the rest', () => {
    const found = smallestPalette(
      [
        [50, 0, 0],
        [60, 100, 100],
      ],
      ['PW6', 'PBk9', 'PB29', 'PBr7-BU'],
      { tolerance: 4 },
    );
    expect(found.unreachable).toEqual([1]);
    expect(found.worst).toBeLessThanOrEqual(4);
    expect(smallestPalette([[60, 100, 100]], ['PW6'], { tolerance: 1 }).unreachable).toEqual([0]);
  });

  it.each([
    ['no targets', () => smallestPalette([], tubes, { tolerance: 3 }), /no colour to reach/],
    ['a tolerance of 0', () => smallestPalette([[50, 0, 0]], tubes, { tolerance: 0 }), /above 0/],
    [
      'a must that is not there',
      () => smallestPalette([[50, 0, 0]], tubes, { tolerance: 3, must: ['PG7'] }),
      /must be on the palette/,
    ],
    [
      'everything ruled out',
      () => smallestPalette([[50, 0, 0]], ['PW6'], { tolerance: 3, mustNot: ['PW6'] }),
      /Allow at least one/,
    ],
    ['too many tubes', () => smallestPalette([[50, 0, 0]], [...pigmentTable.keys()], { tolerance: 3 }), /at most 24/],
    ['an impossible colour', () => smallestPalette([[50, 0, Number.NaN]], tubes, { tolerance: 3 }), /Check the three numbers/],
  ])('%s is refused with a sentence', (_, call, words) => {
    expect(call).toThrow(words);
  });
});
