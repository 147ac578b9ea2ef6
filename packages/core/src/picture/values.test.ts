import { describe, expect, it } from '@jest/globals';
import { drawn, seeded } from '@viaticum/kernels/fixtures';
import { scene } from '../fixtures/scenes.js';
import { binL, extremes, multiOtsu, reduceValues } from './values.js';

/** Variance between the classes that thresholds make (the criterion of Otsu 1979, extended to several classes). */
const between = (counts: number[], thresholds: number[]) => {
  const total = counts.reduce((sum, n) => sum + n, 0);
  const mean = counts.reduce((sum, n, i) => sum + n * i, 0) / total;
  const cuts = [-1, ...thresholds, counts.length - 1];
  let sum = 0;
  for (let k = 1; k < cuts.length; k++) {
    let [w, m] = [0, 0];
    for (let i = (cuts[k - 1] as number) + 1; i <= (cuts[k] as number); i++) {
      w += counts[i] as number;
      m += (counts[i] as number) * i;
    }
    if (w > 0) sum += (w / total) * (m / w - mean) ** 2;
  }
  return sum;
};
const exhaustive = (counts: number[], classes: number): number => {
  let best = 0;
  const walk = (from: number, chosen: number[]): void => {
    if (chosen.length === classes - 1) {
      best = Math.max(best, between(counts, chosen));
      return;
    }
    for (let i = from; i < counts.length - 1; i++) walk(i + 1, [...chosen, i]);
  };
  walk(0, []);
  return best;
};

describe('values by thresholds', () => {
  it.each([2, 3, 4])('are as good as the best of all cuts (%d classes, random histograms)', (classes) => {
    const random = seeded(classes);
    for (let round = 0; round < 25; round++) {
      const counts = Array.from({ length: 16 }, () => Math.floor(random() ** 3 * 100));
      const thresholds = multiOtsu(counts, classes);
      expect(between(counts, thresholds)).toBeCloseTo(exhaustive(counts, classes), 9);
    }
  });
  it('Otsu’s own case: two humps are parted in the valley', () => {
    const counts = Array.from(
      { length: 256 },
      (_, i) => Math.exp(-(((i - 60) / 12) ** 2)) + 0.4 * Math.exp(-(((i - 190) / 15) ** 2)),
    );
    const [threshold] = multiOtsu(counts, 2);
    expect(threshold).toBeGreaterThan(100);
    expect(threshold).toBeLessThan(145);
  });
  it('more classes than values: as many as there are', () => {
    expect(multiOtsu([0, 5, 0, 9, 0], 4)).toHaveLength(1);
    expect(multiOtsu([0, 0, 0], 4)).toEqual([]);
  });
  it('a picture of three greys keeps its three greys and their shares', () => {
    const picture = drawn(30, 10, (x) => (x < 15 ? [40, 40, 40] : x < 24 ? [128, 128, 128] : [220, 220, 220]));
    const { classes, classOf } = reduceValues(picture, 3);
    expect(classes.map((one) => one.share)).toEqual([0.5, 0.3, 0.2]);
    expect(classes.map((one) => Math.round(one.meanL))).toEqual([16, 54, 88]);
    expect([classOf[0], classOf[20], classOf[29]]).toEqual([0, 1, 2]);
  });
  it('shares add up to all, classes rise, and every pixel lies in its class (demo picture)', async () => {
    const { picture } = await scene('balloons', 300, 1);
    for (const count of [2, 5, 7]) {
      const { classes } = reduceValues(picture, count);
      expect(classes).toHaveLength(count);
      expect(classes.reduce((sum, one) => sum + one.share, 0)).toBeCloseTo(1, 9);
      for (const one of classes) {
        expect(one.meanL).toBeGreaterThanOrEqual(one.fromL);
        expect(one.meanL).toBeLessThanOrEqual(one.toL);
      }
    }
  });
  it('pixels that do not count do not weigh', () => {
    const picture = drawn(10, 1, (x) => (x < 8 ? [0, 0, 0] : [200, 200, 200]));
    const counted = Uint8Array.from({ length: 10 }, (_, i) => (i >= 6 ? 1 : 0));
    expect(reduceValues(picture, 2, counted).classes.map((one) => one.share)).toEqual([0.5, 0.5]);
  });
});

describe('the darkest and the lightest', () => {
  it('cover about the share asked for', async () => {
    const { picture } = await scene('kettle', 320, 1);
    for (const share of [0.01, 0.03, 0.05]) {
      const { darkest, lightest, darkL, lightL } = extremes(picture, share);
      const covered = (mask: Uint8Array) => mask.reduce((sum, value) => sum + value, 0) / mask.length;
      expect(covered(darkest)).toBeGreaterThanOrEqual(share);
      expect(covered(darkest)).toBeLessThan(share + 0.02);
      expect(covered(lightest)).toBeGreaterThanOrEqual(share);
      expect(lightL).toBeGreaterThan(darkL + 30);
    }
  });
  it('bins and L* are the same scale', () => expect([binL(0), binL(255)]).toEqual([0, 100]));
});
