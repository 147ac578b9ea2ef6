import { describe, expect, it } from '@jest/globals';
import type { Lab } from '@viaticum/contract';
import { deltaE00 } from '@viaticum/kernels/colour';
import { type MixPart, mixColour } from '@viaticum/kernels/mixing';
import { coatTimes } from '../coat/index.js';
import { covering, glazeOver, HIDES_AT, hidingUm, spreadingRate } from './index.js';

const room = { airC: 21, humidity: 0.45, airSpeed: 0.15 };
const blockIn = coatTimes({ technique: 'block-in' }, room).dryUm;
const loaded = coatTimes({ technique: 'loaded' }, room).dryUm;
const only = (pigment: string): MixPart[] => [{ pigment, parts: 1 }];
const darkGround: Lab = [25, 2, 3];
const middle: Lab = [62, 8, 22];

describe('covering', () => {
  it('the hiding thickness has contrast ratio 0.98 exactly, and a thinner film less (ISO 6504-3, ASTM D2805)', () => {
    for (const pigment of ['PW6', 'PY3', 'PR254', 'PG7']) {
      const um = hidingUm(only(pigment));
      expect(mixColour(only(pigment), { film: { dryUm: um } }).contrastRatio).toBeCloseTo(HIDES_AT, 4);
      expect(mixColour(only(pigment), { film: { dryUm: um * 0.8 } }).contrastRatio).toBeLessThan(HIDES_AT);
      expect(spreadingRate(only(pigment))).toBeCloseTo(1000 / um, 9);
    }
  });

  it('white covers a middle ground in about two block-in coats, in one when loaded; zinc white takes far more', () => {
    // Common practice, no published source: good white hides in 1–2 coats, zinc white and yellows in several.
    expect(covering(only('PW6'), blockIn, middle).coats).toBe(2);
    expect(covering(only('PW6'), loaded, middle).coats).toBe(1);
    expect(covering(only('PW4'), blockIn, middle).coats ?? 99).toBeGreaterThan(3);
    expect(covering(only('PY3'), blockIn, middle).coats ?? 99).toBeGreaterThan(2);
  });

  it('darks hide by absorption in one coat', () => {
    expect(covering(only('PBk7'), blockIn, middle).coats).toBe(1);
    expect(covering(only('PB29'), blockIn, middle).coats).toBe(1);
  });

  it('the same colour beneath needs one coat, a dark one at least as many as a middle one', () => {
    const own = mixColour(only('PY42')).lab;
    expect(covering(only('PY42'), blockIn, own).coats).toBe(1);
    expect(covering(only('PY42'), blockIn, darkGround).coats ?? 99).toBeGreaterThanOrEqual(
      covering(only('PY42'), blockIn, middle).coats ?? 99,
    );
  });

  it('what never covers says so', () => {
    expect(covering(only('PW4'), 0.5, darkGround).coats).toBeNull();
  });

  it('a glaze lies between its ground and its own colour, and less medium moves it farther', () => {
    const ground: Lab = [80, 0, 10];
    const moved = [60, 20, 8].map((medium) => glazeOver(only('PR122'), ground, { medium, dryUm: 6 }).deltaE);
    expect(moved[0]).toBeGreaterThan(0.5);
    expect(moved[1]).toBeGreaterThan(moved[0] as number);
    expect(moved[2]).toBeGreaterThan(moved[1] as number);
    const { lab, deltaE } = glazeOver(only('PR122'), ground, { medium: 20, dryUm: 6 });
    expect(deltaE).toBeCloseTo(deltaE00(ground, lab), 9);
    expect(lab[1]).toBeGreaterThan(ground[1]);
    expect(lab[0]).toBeLessThan(ground[0]);
  });
});
