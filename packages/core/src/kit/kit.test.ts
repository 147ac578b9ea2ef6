import { describe, expect, it } from '@jest/globals';
import { type Lesson, newStudio } from '@viaticum/contract';
import { partsOf } from '@viaticum/kernels/mixing';
import { areasWorkedOn, coverOf, extentsOf, isOnlyMarks, laysPaint } from '../derived/index.js';
import { demoLesson, smallLesson, testStep } from '../fixtures/lessons.js';
import { layingsOf } from '../heap/index.js';
import { uniform } from '../pace/index.js';
import { planLesson } from '../plan/index.js';
import {
  costOf,
  groupOf,
  kitPaint,
  leastTrueMl,
  mixVolumes,
  moneyInWords,
  packTubes,
  paysFrom,
  readMoney,
  reserveShare,
  scrapGrey,
  shareOut,
  standsInFor,
  storageLife,
  TUBE_YIELD,
  tubeShares,
  worthMore,
} from './index.js';

const through = (lesson: Lesson, level = lesson.level) => mixVolumes(lesson, planLesson(lesson).plan, level);
const kit = (lesson: Lesson, studio = newStudio) => kitPaint(lesson, planLesson(lesson).plan, studio);
/** One mix over a canvas of 20 by 16 inches, in so many steps. */
function background(technique: 'block-in' | 'blend', brushId: string, level: Lesson['level'], steps = 1): Lesson {
  const lesson = smallLesson(
    Array.from({ length: steps }, (_, k) =>
      testStep(`s${k}`, { areaIds: [], wholeCanvas: true, technique, brushId, needs: 'any' }),
    ),
  );
  return {
    ...lesson,
    level,
    // The paint is used while it is fresh: nothing skins.
    heapsOn: 'bag',
    support: { ...lesson.support, kind: 'canvas', widthMm: 508, heightMm: 406.4, groundCoats: [] },
  };
}

describe('paint on one canvas', () => {
  // Worked by hand in the kit's design (A7): 508 × 406.4 mm = 2 064.5 cm²; ml on the canvas, in the brush, kept back, on the palette, in all.
  it.each([
    ['block-in', 'flat-1-in', 'experienced', 1, [12.4, 0.5, 1.9, 1.5, 17.9]],
    ['block-in', 'flat-2-in', 'experienced', 1, [12.4, 2.1, 1.9, 1.6, 19.7]],
    ['blend', 'flat-2-in', 'experienced', 1, [14.5, 2.1, 2.2, 1.9, 22.6]],
    ['block-in', 'flat-2-in', 'beginner', 1, [12.4, 4.1, 1.9, 1.8, 27.3]],
    ['blend', 'flat-2-in', 'experienced', 2, [26.8, 4.1, 4.0, 3.5, 42.3]],
  ] as const)('a background coat, %s with %s, %s, %s times', (technique, brush, level, steps, [F, B, C, P, V]) => {
    const [mix] = through(background(technique, brush, level, steps));
    const found = [mix?.canvas, mix?.brush, mix?.kept, mix?.palette, mix?.total];
    [F, B, C, P, V].forEach((expected, i) => {
      expect(Math.abs((found[i] ?? 0) - expected)).toBeLessThanOrEqual(0.0501);
    });
  });
  // The design's own run over the three lessons (A8), ml on one canvas.
  it.each([
    ['balloons', 17.9],
    ['kettle', 10.6],
    ['star', 10.3],
  ] as const)('%s: %s ml on the canvas', (name, ml) => {
    expect(kit(demoLesson(name)).canvasMl).toBeCloseTo(ml, 1);
  });
  it('is area × film: what is laid comes to extents times films, to a billionth', () => {
    for (const name of ['balloons', 'kettle', 'star'] as const) {
      const lesson = demoLesson(name);
      const areas = new Map(extentsOf(lesson).map((one) => [one.id, one.areaCm2]));
      for (const step of lesson.steps) {
        if (!laysPaint(step) || step.mixIds.length === 0 || isOnlyMarks(step) || step.wholeCanvas) continue;
        const own = layingsOf(lesson).filter((one) => one.step === step && one.what === 'area');
        const cm2 = areasWorkedOn(lesson, step).reduce((sum, id) => sum + (areas.get(id) ?? 0), 0) * coverOf(lesson, step);
        expect(own.reduce((sum, one) => sum + one.cm2, 0)).toBeCloseTo(cm2, 9);
        for (const { ml, cm2: part, um, coats, toothUm } of own)
          expect(ml).toBeCloseTo((part * um * coats) / 10_000 + (part * toothUm) / 10_000, 9);
      }
    }
  });
  it('never less for more: coats, cover, a wider brush, drier air, a lower level', () => {
    const total = (lesson: Lesson) => through(lesson)[0]?.total ?? 0;
    const base = background('block-in', 'flat-1-in', 'improver');
    const withStep = (more: object): Lesson => ({ ...base, steps: base.steps.map((step) => ({ ...step, ...more })) });
    expect(total(withStep({ brushId: 'flat-2-in' }))).toBeGreaterThan(total(base));
    expect(total(withStep({ coverShare: 0.6 }))).toBeLessThan(total(base));
    expect(total(withStep({ repeat: { most: 3, until: '', expected: 2 } }))).toBeGreaterThan(total(base));
    expect(total(withStep({ load: 'thin' }))).toBeLessThan(total(base));
    expect(total({ ...base, level: 'beginner' })).toBeGreaterThan(total({ ...base, level: 'experienced' }));
    const open = (humidity: number) =>
      total({ ...background('block-in', 'flat-1-in', 'improver', 2), heapsOn: 'plate', room: { ...base.room, humidity } });
    expect(open(0.25)).toBeGreaterThan(open(0.7));
  });
  it('losses that were weighed count: none of them leaves the film, twice of one adds as much again', () => {
    const base = background('block-in', 'flat-2-in', 'beginner');
    const { plan } = planLesson(base);
    const of = (times: { brush: number; kept: number; palette: number; growth: number }) =>
      mixVolumes(base, plan, 'beginner', times)[0];
    const usual = of({ brush: 1, kept: 1, palette: 1, growth: 1 });
    const none = of({ brush: 0, kept: 0, palette: 0, growth: 0 });
    expect(none?.total).toBeCloseTo(usual?.canvas ?? 0, 9);
    expect(of({ brush: 2, kept: 1, palette: 1, growth: 1 })?.brush).toBeCloseTo(2 * (usual?.brush ?? 0), 9);
    expect(of({ brush: 1, kept: 1, palette: 1, growth: 2 })?.total).toBeGreaterThan(usual?.total ?? 0);
  });
  it('a canvas half as wide and high takes a quarter of the film and as much of the brush', () => {
    const base = background('block-in', 'flat-1-in', 'improver');
    const half = { ...base, support: { ...base.support, widthMm: 254, heightMm: 203.2 } };
    const [one, other] = [through(base)[0], through(half)[0]];
    expect((other?.canvas ?? 0) / (one?.canvas ?? 1)).toBeCloseTo(0.25, 9);
    expect(other?.brush).toBe(one?.brush);
  });
  it('tubes come to their mixes, whatever lies within them', () => {
    const lesson = demoLesson('kettle');
    for (const { mixId } of through(lesson)) {
      const shares = [...tubeShares(lesson, mixId).values()];
      expect(shares.reduce((sum, one) => sum + one, 0)).toBeCloseTo(1, 9);
    }
  });
});

describe('tubes for a group', () => {
  it('each tube is bought no less than is needed; more heads never need less', () => {
    const lesson = demoLesson('balloons');
    const of = (heads: number) => kit({ ...lesson, kit: { heads } });
    const [six, twelve] = [of(6), of(12)];
    for (const [i, tube] of twelve.tubes.entries()) {
      expect(tube.buy.sizes.reduce((sum, ml) => sum + Math.floor(ml * TUBE_YIELD), 0)).toBeGreaterThanOrEqual(
        Math.floor(tube.needMl),
      );
      expect(tube.groupMl).toBeGreaterThanOrEqual(six.tubes[i]?.groupMl ?? 0);
      expect(tube.sureMl).toBeGreaterThan(tube.groupMl);
    }
    expect(groupOf(lesson)).toEqual({ heads: 12, teaching: 1, tableOf: 4 });
  });
  it('bought so that nine classes in ten have enough, every tube holds its reserve, and what is used up stays the same', () => {
    const lesson = demoLesson('balloons');
    const [mean, sure] = (['mean', 'sure'] as const).map((buys) => kit({ ...lesson, kit: { heads: 12, buys } }));
    for (const [i, tube] of (sure?.tubes ?? []).entries()) {
      expect(tube.buy.sizes.reduce((sum, ml) => sum + ml, 0) * TUBE_YIELD).toBeGreaterThanOrEqual(Math.floor(tube.sureMl));
      expect(tube.groupMl).toBe(mean?.tubes[i]?.groupMl);
      // What a usual class leaves of it is the reserve at least.
      expect(tube.buy.leftMl).toBeGreaterThanOrEqual(tube.sureMl - tube.groupMl - 1);
    }
    expect(sure?.cashMinor ?? 0).toBeGreaterThan(mean?.cashMinor ?? Number.POSITIVE_INFINITY);
    expect(sure?.usedMinor).toBe(mean?.usedMinor);
  });
  it('what is in the cupboard is not bought', () => {
    const lesson = demoLesson('balloons');
    const white = kit(lesson).tubes[0];
    const stock = [{ paint: white?.key ?? '', ml: 10_000 }];
    const own = kit(lesson, { ...newStudio, stock }).tubes[0];
    expect([own?.needMl, own?.buy.sizes]).toEqual([0, []]);
  });
  it('a reserve by how many share a tube, as the design worked it out', () => {
    const found = [reserveShare(1), reserveShare(4), reserveShare(12), reserveShare(12, 8)];
    [0.49, 0.29, 0.23, 0.14].forEach((share, i) => {
      expect(Math.abs((found[i] ?? 0) - share)).toBeLessThan(0.01);
    });
  });
  it('portions and what stays in containers come to a batch', () => {
    const found = kit({ ...demoLesson('balloons'), kit: { heads: 9, teaching: 2 } });
    for (const { premix, volume, teachingMl } of found.mixes) {
      if (!premix.batch) continue;
      expect(premix.batch.ml).toBeCloseTo((9 * volume.portion + 2 * teachingMl + 11 * 0.4) * 1.03, 9);
      expect(premix.batch.portions).toBe(12);
      // Rounded to what a syringe shows, the colour stays near what nobody sees.
      expect(premix.batch.roundedBy).toBeLessThan(1.5);
      const sum = premix.batch.parts.reduce((all, part) => all + part.ml, 0);
      expect(sum / premix.batch.ml).toBeGreaterThan(0.95);
      expect(sum / premix.batch.ml).toBeLessThan(1.15);
    }
  });
  it('what nobody can measure at a palette is mixed for all, and one word of the instructor’s turns it', () => {
    const lesson = demoLesson('balloons');
    const low = lesson.mixes.find(({ name }) => name === 'low sky');
    const [first] = kit(lesson).mixes.filter(({ premix }) => premix.mix === low);
    expect(first?.premix).toMatchObject({ advised: 'must', isBatch: true });
    // The least heap is what makes the smallest part the tip of a knife: 0.02 ml × the sum of the parts over the least.
    const parts = (low?.recipe ?? []).map((part) => partsOf(part.parts));
    const sum = parts.reduce((all, part) => all + part, 0);
    expect(leastTrueMl(lesson, low as Lesson['mixes'][number])).toBeCloseTo((0.02 * sum) / Math.min(...parts), 9);
    const said = { ...lesson, kit: { premix: [{ mixId: low?.id ?? '', how: 'palette' as const }] } };
    expect(kit(said).mixes.find(({ premix }) => premix.mix.id === low?.id)?.premix.batch).toBeNull();
  });
});

describe('what is left', () => {
  it('all heaps mixed are a grey, whose colour follows what they are', () => {
    const lesson = demoLesson('balloons');
    const scrap = scrapGrey(lesson, kit(lesson));
    expect(scrap?.ml).toBeGreaterThan(3);
    // Between the darkest and the lightest of its mixes, and duller than the reddest.
    expect(scrap?.lab[0]).toBeGreaterThan(20);
    expect(scrap?.lab[0]).toBeLessThan(95);
    expect(Math.hypot(scrap?.lab[1] ?? 99, scrap?.lab[2] ?? 99)).toBeLessThan(60);
    expect(scrapGrey({ ...lesson, tubes: [] }, kit(lesson))).toBeNull();
    // One white alone stays white, and is no ground.
    const white = {
      ...lesson,
      mixes: lesson.mixes.map((mix) => ({ ...mix, recipe: [{ tubeId: 'white', parts: 1 }], mixedFrom: [] })),
    };
    expect(scrapGrey(white, kit(white))).toMatchObject({ isGround: false });
  });
  it('a left-over stands in for what looks like it', () => {
    const lesson = demoLesson('balloons');
    const [first, second, ...rest] = lesson.mixes as [Lesson['mixes'][number], Lesson['mixes'][number], ...Lesson['mixes']];
    const twins = { ...lesson, mixes: [first, { ...second, recipe: first.recipe }, ...rest] };
    expect(standsInFor(twins, kit(twins))[0]).toMatchObject({ left: first.name, for: second.name, deltaE: 0 });
  });
});

describe('packing tubes', () => {
  it('is the cheapest of all ways, as trying all of them finds', () => {
    const draw = uniform(11);
    for (let round = 0; round < 300; round++) {
      const need = 1 + Math.floor(draw() * 200);
      const places = 1 + Math.floor(draw() * 3);
      const sizes = [20, 37, 75].map((ml, i) => ({ ml, priceMinor: 100 * (i + 1) + Math.floor(draw() * 500) }));
      let least = Number.POSITIVE_INFINITY;
      for (let a = 0; a < 14; a++)
        for (let b = 0; b < 8; b++)
          for (let c = 0; c < 5; c++) {
            const ml = a * Math.floor(20 * TUBE_YIELD) + b * Math.floor(37 * TUBE_YIELD) + c * Math.floor(75 * TUBE_YIELD);
            if (a + b + c < places || ml < need) continue;
            const cost = [a, b, c].reduce((sum, count, i) => sum + count * (sizes[i]?.priceMinor ?? 0), 0);
            least = Math.min(least, cost);
          }
      const found = packTubes(need, sizes, places);
      expect(found.costMinor).toBe(least);
      expect(found.sizes.length).toBeGreaterThanOrEqual(places);
      expect(found.sizes.reduce((sum, ml) => sum + Math.floor(ml * TUBE_YIELD), 0)).toBeGreaterThanOrEqual(need);
    }
  });
  it('of equal money leaves least, buys nothing where nothing is needed, and says what is wrong', () => {
    const sizes = [
      { ml: 75, priceMinor: 700 },
      { ml: 100, priceMinor: 700 },
    ];
    expect(packTubes(60, sizes).sizes).toEqual([75]);
    expect(packTubes(0, sizes)).toEqual({ sizes: [], costMinor: 0, leftMl: 0 });
    expect(packTubes(10, [{ ml: 37, priceMinor: 0 }])).toMatchObject({ sizes: [37], costMinor: 0 });
    expect(() => packTubes(10, [])).toThrow(/no size of tube/);
    expect(() => packTubes(Number.NaN, sizes)).toThrow(/no number/);
    expect(() => packTubes(5, [{ ml: 37, priceMinor: 4.5 }])).toThrow(/smallest coin/);
  });
  it('names a larger purchase that is worth it', () => {
    const sizes = [
      { ml: 75, priceMinor: 690 },
      { ml: 150, priceMinor: 830 },
    ];
    expect(worthMore(packTubes(60, sizes), sizes, 1)).toEqual({ moreMinor: 140, moreMl: 75, sizes: [150] });
    expect(worthMore(packTubes(60, [{ ml: 75, priceMinor: 690 }]), [{ ml: 75, priceMinor: 690 }], 1)).toBeNull();
  });
});

describe('money', () => {
  it('is read and written in the coins of its currency', () => {
    expect([moneyInWords(8430, 'EUR'), moneyInWords(5, 'EUR'), moneyInWords(843, 'JPY'), moneyInWords(12_345, 'KWD')]).toEqual([
      '84.30',
      '0.05',
      '843',
      '12.345',
    ]);
    expect(['7.80', '7,8', ' 780 ', '7.805', '-1', '', 'x', '1e3'].map((text) => readMoney(text, 'EUR'))).toEqual([
      780,
      780,
      78_000,
      null,
      null,
      null,
      null,
      null,
    ]);
    expect(readMoney('7.8', 'JPY')).toBeNull();
  });
  it('is shared out so that the shares come to it exactly, in whatever order', () => {
    const draw = uniform(3);
    for (let round = 0; round < 1000; round++) {
      const weights = Array.from({ length: 1 + Math.floor(draw() * 14) }, () => Math.floor(draw() * 5000));
      if (weights.every((one) => one === 0)) continue;
      const amount = Math.floor(draw() * 1_000_000);
      const shares = shareOut(amount, weights);
      expect(shares.reduce((sum, one) => sum + one, 0)).toBe(amount);
      const sum = weights.reduce((all, one) => all + one, 0);
      shares.forEach((share, i) => {
        expect(Math.abs(share - (amount * (weights[i] ?? 0)) / sum)).toBeLessThan(1);
      });
    }
    expect(() => shareOut(100, [0, 0])).toThrow(/nobody/);
    expect(costOf(3750, { ml: 75, priceMinor: 691 })).toBe(346);
  });
  it('pays from so many on, as the design worked it out', () => {
    expect(paysFrom(4500, 25, 892, 11_800)).toBe(4);
    expect(paysFrom(4500, 25, 892, 29_800)).toBe(9);
    expect(paysFrom(800, 25, 892, 100)).toBeNull();
  });
});

describe('how long a mix keeps', () => {
  it('as the design has it in four airs: minutes on a plate, hours under film, days in bags and jars', () => {
    const air = (airC: number, humidity: number, airSpeed = 0.1) => ({ name: 'x', airC, humidity, airSpeed });
    for (const [room, plateMin, filmH] of [
      [air(21, 0.45), 17, 21],
      [air(21, 0.3), 10, 13],
      [air(17, 0.7), 84, 48],
      [air(31, 0.25, 0.3), 3, 5],
    ] as const) {
      expect(Math.abs(storageLife('plate', room).minutes / plateMin - 1)).toBeLessThan(0.15);
      expect(Math.abs(storageLife('film', room).minutes / 60 / filmH - 1)).toBeLessThan(0.1);
      const days = (['wet-palette', 'bag', 'jar'] as const).map((store) => storageLife(store, room).minutes / 1440);
      expect(days).toEqual([3, 14, 60]);
    }
  });
});
