import { describe, expect, it } from '@jest/globals';
import { seeded } from '@viaticum/kernels/fixtures';
import jstat from 'jstat';
import { cdf, density } from '../pace/index.js';
import { drying } from './drying.js';
import { fitEffects, type Observation } from './fit.js';

const techniques = ['wash', 'block-in', 'loaded', 'glaze'];
const bellOf = (draw: () => number) => () => Math.sqrt(-2 * Math.log(draw() || 1e-9)) * Math.cos(2 * Math.PI * draw());

type Room = { tests?: number; classes?: number; one?: number; bad?: number; techniques?: number[] };
/** Touch tests of one room: at the planned time or a little off, then again until it is dry; some mean nothing. */
function touched(
  draw: () => number,
  bell: () => number,
  room: number,
  { tests = 20, classes = 4, one, bad = 0.1, techniques: own }: Room,
) {
  const effects = own ?? techniques.map(() => (drying.kinds.technique as number) * bell());
  const out: Observation[] = [];
  for (let c = 0; c < classes; c++) {
    const ofClass = drying.class * bell();
    for (let i = 0; i < tests / classes; i++) {
      const k = Math.floor(draw() * 4);
      const truth = room + (effects[k] as number) + ofClass + (one ?? drying.one) * bell();
      let [lo, hi, at] = [Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY, Math.log(0.75 + 0.4 * draw())];
      if (draw() < bad) {
        if (draw() < 0.5) hi = Math.log(0.1 + 0.3 * draw());
        else lo = Math.log(2 + 2 * draw());
      } else
        for (let turn = 0; turn < 6; turn++) {
          if (truth <= at) {
            hi = at;
            break;
          }
          lo = at;
          at += Math.log(1.1 + 0.15 * draw());
        }
      out.push({ lo, hi, effects: ['room:a', `technique:${techniques[k]}`], class: String(c) });
    }
  }
  return { out, truth: room + effects.reduce((sum, value) => sum + value, 0) / 4 };
}
const ofRoom = [['room:a', 1], ...techniques.map((k) => [`technique:${k}`, 0.25])] as [string, number][];

function trial(options: Room, rooms = 500, roomOf = (bell: () => number) => (drying.kinds.room as number) * bell()) {
  const draw = seeded(42);
  const bell = bellOf(draw);
  let [bias, square, held] = [0, 0, 0];
  for (let i = 0; i < rooms; i++) {
    const { out, truth } = touched(draw, bell, roomOf(bell), options);
    const { mean, sd } = fitEffects(out, drying).of(ofRoom);
    bias += (mean - truth) / rooms;
    square += (mean - truth) ** 2 / rooms;
    held += Math.abs(mean - truth) <= 1.2816 * sd ? 1 / rooms : 0;
  }
  return { bias: Math.abs(bias), rms: Math.sqrt(square), held };
}

describe('the normal distribution', () => {
  it('is that of a reference library, jstat', () => {
    for (let x = -6; x <= 6; x += 0.37) {
      expect(cdf(x)).toBeCloseTo(jstat.normal.cdf(x, 0, 1), 6);
      expect(density(x)).toBeCloseTo(jstat.normal.pdf(x, 0, 1), 9);
    }
    expect([cdf(Number.POSITIVE_INFINITY), cdf(Number.NEGATIVE_INFINITY), density(Number.POSITIVE_INFINITY)]).toEqual([1, 0, 0]);
  });
});

describe('effects behind touch tests', () => {
  it('of rooms as they are expected: right on the average, within 8 %, and the interval holds four times in five', () => {
    const { bias, rms, held } = trial({ classes: 10 });
    expect(bias).toBeLessThan(0.02);
    expect(rms).toBeLessThan(0.08);
    expect(held).toBeGreaterThan(0.75);
    expect(held).toBeLessThan(0.85);
  });
  it('from a few classes only: hardly wider, and the interval holds as well', () => {
    const { bias, rms, held } = trial({ classes: 4 });
    expect(bias).toBeLessThan(0.02);
    expect(rms).toBeLessThan(0.086);
    expect(held).toBeGreaterThan(0.75);
    expect(held).toBeLessThan(0.85);
  });
  it.each([
    ['wilder', 0.33],
    ['steadier', 0.18],
  ])('hold their interval with coats a third %s than assumed', (_, one) => {
    const { held } = trial({ one });
    expect(held).toBeGreaterThan(0.75);
    expect(held).toBeLessThan(0.85);
  });
  it('are not led astray by a fifth of nonsense', () => {
    const { bias, rms } = trial({ bad: 0.2 }, 200);
    expect(bias).toBeLessThan(0.03);
    expect(rms).toBeLessThan(0.1);
  });
  it('move little by three tests and by what they show by thirty', () => {
    const alike = (count: number): Observation[] =>
      Array.from({ length: count }, (_, i) => ({
        lo: Math.log(0.74),
        hi: Math.log(0.86),
        effects: ['room:a', `technique:${techniques[i % 4]}`],
        class: String(Math.floor(i / 5)),
      }));
    const said = (count: number) =>
      fitEffects(alike(count), drying).of([
        ['room:a', 1],
        ['technique:wash', 1],
      ]);
    const three = said(3);
    expect(Math.exp(three.mean)).toBeGreaterThan(0.87);
    // Three tests do not exclude that the room is as the model has it.
    expect(three.mean + 1.2816 * three.sd).toBeGreaterThan(0);
    expect(Math.exp(said(30).mean)).toBeLessThan(0.84);
    expect(said(30).mean + 1.2816 * said(30).sd).toBeLessThan(0);
  });
  it('are the same in any order, and what is old says less', () => {
    const { out } = touched(seeded(7), bellOf(seeded(8)), 0.2, {});
    const turned = [...out].reverse();
    const [one, other] = [fitEffects(out, drying).of(ofRoom), fitEffects(turned, drying).of(ofRoom)];
    expect(Math.abs(one.mean - other.mean)).toBeLessThan(1e-9);
    expect(Math.abs(one.sd - other.sd)).toBeLessThan(1e-9);
    const old = fitEffects(
      out.map((test) => ({ ...test, years: 20 })),
      drying,
    ).of(ofRoom);
    expect(old.sd).toBeGreaterThan(one.sd);
  });
  it('that nothing was observed of are as wide as their kind', () => {
    const none = fitEffects([], drying).of([['room:b', 1]]);
    expect(none.mean).toBe(0);
    expect(none.sd).toBeCloseTo(drying.kinds.room as number, 12);
  });
  it('agree with the posterior of points, worked out by hand', () => {
    // Known to a hair, n points y of one effect: mean = Σy/(n + s²/τ²), without classes that differ or nonsense.
    const spread = { kinds: { room: 0.18 }, class: 1e-4, one: 0.25, nonsense: 1e-9, wide: 1.2 };
    const ys = [0.1, 0.3, 0.2, 0.25, 0.15, 0.05];
    const fit = fitEffects(
      ys.map((y) => ({ lo: y - 1e-4, hi: y + 1e-4, effects: ['room:a'], class: 'c' })),
      spread,
    );
    const { mean } = fit.of([['room:a', 1]]);
    const found = fit.one;
    const by = ys.reduce((sum, y) => sum + y, 0) / (ys.length + found ** 2 / 0.18 ** 2);
    expect(mean).toBeCloseTo(by, 2);
  });
});
