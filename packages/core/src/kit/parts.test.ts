import { describe, expect, it } from '@jest/globals';
import { type Lesson, newStudio, type Variant } from '@viaticum/contract';
import { carryOut, startHistory } from '../document/index.js';
import { demoLesson } from '../fixtures/lessons.js';
import { planLesson } from '../plan/index.js';
import { withVariant } from '../variant/index.js';
import { groupParts, kitBrushes, kitPaint, kitThings, mixVolumes, preparation } from './index.js';

const demo = demoLesson();
const half: Variant = {
  id: 'half',
  name: 'Half as wide',
  changes: [],
  support: { widthMm: demo.support.widthMm / 2, heightMm: demo.support.heightMm / 2 },
};
/** Everybody mixes every mix at the palette, so that amounts add up without what a batch leaves in its pot. */
const atPalettes = demo.mixes.map(({ id }) => ({ mixId: id, how: 'palette' as const }));
const group = (heads: number, others: { variantId: string; heads: number }[], teaching = 0): Lesson => ({
  ...demo,
  variants: [half],
  kit: { heads, teaching, premix: atPalettes, others },
});
const paintOf = (lesson: Lesson) => kitPaint(lesson, planLesson(lesson).plan, newStudio);
const sumOf = (ml: number[]) => ml.reduce((sum, one) => sum + one, 0);

describe('a group that paints two sizes', () => {
  const mixed = group(12, [{ variantId: 'half', heads: 4 }]);
  it('needs what its parts need, mix by mix', () => {
    const whole = group(8, []);
    const small: Lesson = { ...withVariant(group(4, []), half).lesson };
    const [of, a, b] = [mixed, whole, small].map(
      (lesson) => new Map(paintOf(lesson).mixes.map((one) => [one.volume.mixId, one.groupMl])),
    );
    expect(of?.size).toBeGreaterThan(3);
    for (const [id, ml] of of ?? []) expect(ml).toBeCloseTo((a?.get(id) ?? 0) + (b?.get(id) ?? 0), 6);
    expect(sumOf([...(of?.values() ?? [])])).toBeLessThan(paintOf(group(12, [])).groupMl);
  });
  it('the paint on the canvases goes by their size: a quarter of it on half the width', () => {
    const small = withVariant(mixed, half).lesson;
    const canvas = (lesson: Lesson) => sumOf(mixVolumes(lesson, planLesson(lesson).plan).map((one) => one.canvas));
    expect(canvas(small) / canvas(demo)).toBeGreaterThan(0.2);
    expect(canvas(small) / canvas(demo)).toBeLessThan(0.3);
    expect(paintOf(mixed).canvasMl).toBeCloseTo((8 * canvas(demo) + 4 * canvas(small)) / 12, 6);
  });
  it('supports, brushes and drawings are counted for each size, and what only some need says so', () => {
    const supports = kitThings(mixed, planLesson(mixed)).filter(({ key }) => key.startsWith('support'));
    // 8 and one to spare, 4 and one to spare.
    expect(supports.map(({ count }) => count)).toEqual([9, 5]);
    expect(new Set(supports.map(({ name }) => name)).size).toBe(2);
    // A letter that lists both says that one of them is meant.
    for (const { note } of supports) expect(note).toMatch(/^one of the sizes each/);
    const { brushes } = kitBrushes(mixed, planLesson(mixed));
    const only = brushes.filter(({ onlyFor }) => onlyFor.length > 0);
    expect(only.length).toBeGreaterThan(0);
    for (const { onlyFor, count, perHead } of only) expect(count).toBe((onlyFor[0] === half.name ? 4 : 8) * perHead);
    for (const { onlyFor, count, perHead } of brushes) if (onlyFor.length === 0) expect(count).toBeLessThanOrEqual(12 * perHead);
  });
  it('boards of both sizes are toned, and the small ones take less', () => {
    const toned = (lesson: Lesson) => {
      const raw: Lesson = { ...lesson, support: { ...lesson.support, kind: 'board', absorbency: 'raw' } };
      return preparation(raw, newStudio, []).find(({ key }) => key === 'gesso 1');
    };
    expect(toned(mixed)?.what).toMatch(/14 boards/);
    expect(toned(mixed)?.minutes).toBeLessThan(toned(group(12, []))?.minutes ?? 0);
  });
  it('more than there are cannot paint a variant, and with the variant its painters go', () => {
    const start = startHistory({ ...demo, variants: [half], kit: { heads: 12 } });
    const four = carryOut(start, 'editKit', { kit: { others: [{ variantId: 'half', heads: 4 }] } });
    expect(() => carryOut(four, 'editKit', { kit: { heads: 3 } })).toThrow(/4 would paint variants/);
    expect(() => carryOut(four, 'editKit', { kit: { others: [{ variantId: 'half', heads: 2.5 }] } })).toThrow(/whole people/);
    expect(carryOut(four, 'removeVariant', { id: 'half' }).lesson.kit?.others).toEqual([]);
  });
  it('nobody is counted twice, and who is not there is not counted', () => {
    const heads = (lesson: Lesson) => groupParts(lesson).map((part) => part.heads);
    expect(heads(mixed)).toEqual([8, 4]);
    expect(heads(group(3, [{ variantId: 'half', heads: 9 }]))).toEqual([0, 3]);
    expect(heads(group(12, [{ variantId: 'gone', heads: 4 }]))).toEqual([12]);
    expect(paintOf(group(3, [{ variantId: 'half', heads: 9 }])).groupMl).toBeGreaterThan(0);
  });
});
