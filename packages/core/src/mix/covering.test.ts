import { describe, expect, it } from '@jest/globals';
import type { Lab } from '@viaticum/contract';
import { deltaE00 } from '@viaticum/kernels/colour';
import { type MixPart, mixColour } from '@viaticum/kernels/mixing';
import { coatTimes } from '../coat/index.js';
import { covering, glazeMedium, glazeOver, HIDES_AT, hidingUm, spreadingRate } from './index.js';

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

  it('blacks and oxides hide in one coat, transparent blues in several, yellows never hide a dark (common practice, no published source)', () => {
    for (const pigment of ['PBk7', 'PBk11', 'PR101', 'PG17']) expect(covering(only(pigment), blockIn, middle).coats).toBe(1);
    for (const pigment of ['PB29', 'PB15:3', 'PR122', 'PG7'])
      expect(covering(only(pigment), blockIn, middle).coats).toBeGreaterThanOrEqual(3);
    for (const pigment of ['PY3', 'PY74', 'PY83', 'PY150']) expect(covering(only(pigment), blockIn, darkGround).coats).toBeNull();
  });

  it('white over a dusk blue wants more than one thin coat (common practice, no published source)', () => {
    expect(covering(only('PW6'), blockIn, [38, 2, -24]).coats).toBeGreaterThan(1);
  });

  it('the two ways of counting coats agree: what hides black beside white hides any ground between', () => {
    for (const pigment of ['PW6', 'PY42', 'PR254', 'PB29', 'PBr7-BU', 'PG17']) {
      const { contrastRatio, hidingUm: um, chartCoats } = covering(only(pigment), blockIn, middle);
      expect(chartCoats === 1).toBe(contrastRatio >= HIDES_AT);
      if (chartCoats !== null)
        expect(mixColour(only(pigment), { film: { dryUm: chartCoats * blockIn } }).contrastRatio).toBeGreaterThanOrEqual(
          HIDES_AT - 1e-9,
        );
      else expect(um).toBeGreaterThan(12 * blockIn);
    }
  });

  it('the glaze of a tube takes as many parts of medium as tint a middle grey without drowning it', () => {
    // Judged; between the 2 parts of an umber and the 48 of a phthalo.
    const parts = Object.fromEntries(
      ['PBr7-RU', 'PB29', 'PBr7-BS', 'PB27', 'PV23', 'PR122', 'PB15:3', 'PG7'].map((id) => [id, glazeMedium(only(id))]),
    );
    expect(parts).toEqual({ 'PBr7-RU': 2, PB29: 4, 'PBr7-BS': 8, PB27: 12, PV23: 16, PR122: 32, 'PB15:3': 32, PG7: 48 });
    for (const id of ['PB29', 'PBr7-BS', 'PR122', 'PB15:3', 'PV19', 'PG18']) {
      const { lab } = glazeOver(only(id), [70, 0, 0], { medium: glazeMedium(only(id)), dryUm: 8 });
      // Common practice, no published source: a glaze over a light middle tone darkens it by 5 to 15.
      expect(70 - lab[0]).toBeGreaterThan(2);
      expect(70 - lab[0]).toBeLessThan(15);
    }
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
