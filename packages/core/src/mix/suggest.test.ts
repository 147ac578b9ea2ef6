import { describe, expect, it } from '@jest/globals';
import type { Lab } from '@viaticum/contract';
import { deltaE00, srgbToLab } from '@viaticum/kernels/colour';
import { toEnd } from '@viaticum/kernels/cooperative';
import { mixColour, partsOf } from '@viaticum/kernels/mixing';
import { pigmentOf } from '@viaticum/kernels/pigment';
import { addingOrder, outOfReach, type StockPaint, sensitivity, suggest, tableOf, whatWouldReach } from './index.js';

const ids = ['PW6', 'PB29', 'PR122', 'PY74', 'PY42', 'PBr7-BU', 'PBk9'];
const prices: Record<string, number> = { PW6: 6, PB29: 10, PR122: 20, PY74: 15, PY42: 7, 'PBr7-BU': 7, PBk9: 6 };
const paints = ids.map((id): StockPaint => ({ ...pigmentOf(id), pricePerMl: prices[id], isBlack: id === 'PBk9' }));
const table = toEnd(tableOf(paints));
const plain = (target: Lab, options = {}) => suggest(target, paints, table, options);
const used = (one: { parts: { id: string }[] }) => one.parts.map((part) => part.id);

describe('suggested recipes', () => {
  const target = mixColour([
    { pigment: 'PW6', parts: 4 },
    { pigment: 'PB29', parts: 2 },
    { pigment: 'PBr7-BU', parts: 1 },
  ]).lab;

  it('the first is the nearest, and every reason is given once', () => {
    const found = plain(target, { film: { dryUm: 20 }, ground: [62, 8, 22] });
    expect(found[0]?.reasons).toContain('best');
    const reasons = found.flatMap((one) => one.reasons);
    expect(new Set(reasons).size).toBe(reasons.length);
    expect(reasons).toEqual(expect.arrayContaining(['best', 'fewest', 'cheapest', 'opaque']));
  });

  it('keeps what each alternative promises', () => {
    const found = plain(target, { film: { dryUm: 20 }, ground: [62, 8, 22] });
    const of = (reason: string) => found.find((one) => (one.reasons as string[]).includes(reason)) as (typeof found)[number];
    expect(of('fewest').parts.length).toBeLessThanOrEqual(of('best').parts.length);
    expect(of('cheapest').pricePerMl).toBeLessThanOrEqual(of('best').pricePerMl as number);
    expect(of('opaque').film?.contrastRatio).toBeGreaterThanOrEqual((of('best').film?.contrastRatio as number) - 1e-9);
    for (const one of found) expect(one.deltaE).toBeCloseTo(deltaE00(target, one.lab), 9);
  });

  it('both numbers are kept: endless film, and laid once over the ground, which moves a yellow by several', () => {
    const yellow = mixColour([{ pigment: 'PY74', parts: 1 }]).lab;
    const [best] = plain(yellow, { film: { dryUm: 17 }, ground: [40, 5, 5] });
    expect(best?.film?.deltaE).toBeGreaterThan((best?.deltaE as number) + 2);
    expect(best?.film?.lab).toEqual(
      mixColour(
        (best as { parts: { id: string; parts: number }[] }).parts.map(({ id, parts }) => ({ pigment: id, parts })),
        { film: { dryUm: 17 }, ground: [40, 5, 5] },
      ).lab,
    );
  });

  it('offers a way without black where black is in the best', () => {
    const found = plain(
      mixColour([
        { pigment: 'PBk9', parts: 1 },
        { pigment: 'PW6', parts: 4 },
      ]).lab,
    );
    expect(used(found[0] as (typeof found)[number])).toContain('PBk9');
    const without = found.find((one) => one.reasons.includes('without-black'));
    expect(without && used(without)).not.toContain('PBk9');
  });

  it('a target to be met wet is met wet: its dry colour is then darker than the target', () => {
    const aim: Lab = [60, -2, -20];
    const [best] = plain(aim, { state: 'wet', finish: 'gloss' });
    const parts = (best as { parts: { id: string; parts: number }[] }).parts.map(({ id, parts }) => ({ pigment: id, parts }));
    expect(deltaE00(aim, mixColour(parts, { state: 'wet' }).lab)).toBeLessThan(3);
    expect(mixColour(parts, { finish: 'gloss' }).lab[0]).toBeLessThan(aim[0] - 0.5);
  });

  it('says what is off, and what is out of reach', () => {
    const [violent] = plain(srgbToLab([0, 1, 0.2]));
    expect(outOfReach(violent?.deltaE as number)).toBe(true);
    expect(violent?.off).toMatch(/dull/);
    expect(outOfReach(plain(target)[0]?.deltaE as number)).toBe(false);
  });
});

describe('which tube would reach it', () => {
  it('a green-blue that these tubes miss is reached with a phthalo', () => {
    const teal = mixColour([
      { pigment: 'PG7', parts: 1 },
      { pigment: 'PW6', parts: 6 },
    ]).lab;
    const best = plain(teal)[0]?.deltaE as number;
    const candidates = ['PG7', 'PR254', 'PY35', 'PBr7-BS'].map(pigmentOf);
    const found = toEnd(whatWouldReach(teal, paints, candidates));
    expect(found[0]?.id).toBe('PG7');
    expect(found[0]?.deltaE).toBeLessThan(best - 2);
  });
});

describe('putting it together', () => {
  it('the light and weak first, the strong and the small last (common practice, no published source)', () => {
    const order = addingOrder([
      { pigment: 'PB15:3', parts: 'touch' as const },
      { pigment: 'PB29', parts: 2 },
      { pigment: 'PW6', parts: 3 },
      { pigment: 'PY42', parts: 1 },
    ]).map((part) => part.pigment);
    expect(order).toEqual(['PW6', 'PY42', 'PB29', 'PB15:3']);
  });

  it('a touch of a strong tube is touchier than a part of a weak one', () => {
    const strong = sensitivity([
      { pigment: 'PW6', parts: 4 },
      { pigment: 'PB15:3', parts: 'touch' },
    ]);
    const weak = sensitivity([
      { pigment: 'PW6', parts: 4 },
      { pigment: 'PY42', parts: 'touch' },
    ]);
    expect(strong.part).toBe(1);
    expect(strong.deltaE).toBeGreaterThan(1.5 * weak.deltaE);
    // The same by hand: the touch doubled is an eighth of a part.
    const before = mixColour([
      { pigment: 'PW6', parts: 4 },
      { pigment: 'PB15:3', parts: 'touch' },
    ]).lab;
    const after = mixColour([
      { pigment: 'PW6', parts: 4 },
      { pigment: 'PB15:3', parts: 2 * partsOf('touch') },
    ]).lab;
    expect(strong.deltaE).toBeCloseTo(deltaE00(before, after), 9);
    expect(sensitivity([{ pigment: 'PW6', parts: 1 }]).deltaE).toBe(0);
  });
});
