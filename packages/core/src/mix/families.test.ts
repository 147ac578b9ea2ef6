import { describe, expect, it } from '@jest/globals';
import { deltaE00 } from '@viaticum/kernels/colour';
import { mixColour } from '@viaticum/kernels/mixing';
import { pigmentOf } from '@viaticum/kernels/pigment';
import {
  type FamilyMember,
  gradient,
  mixedPaint,
  type Paint,
  paletteLayout,
  shadowAndLight,
  twoGreys,
  valueLadder,
} from './index.js';

const white = pigmentOf('PW6');
const umber = pigmentOf('PBr7-BU');
const sky = mixedPaint('sky', [
  { pigment: 'PB29', parts: 1 },
  { pigment: 'PW6', parts: 5 },
]);
const peach = mixedPaint('peach', [
  { pigment: 'PW6', parts: 12 },
  { pigment: 'PY42', parts: 1 },
  { pigment: 'PR254', parts: 'touch' },
]);
/** What a member’s recipe gives when it is mixed again. */
const mixedAgain = (member: FamilyMember, paints: Paint[]) =>
  mixColour(member.parts.map(({ id, parts }) => ({ pigment: paints.find((paint) => paint.id === id) as Paint, parts }))).lab;

describe('a value ladder', () => {
  it.each([5, 6, 7, 8, 9])('of %d steps falls evenly from light to dark, each step from the one mix', (steps) => {
    const ladder = valueLadder(sky, white, umber, steps);
    expect(ladder).toHaveLength(steps);
    for (let i = 1; i < ladder.length; i++)
      expect((ladder[i] as FamilyMember).lab[0]).toBeLessThan((ladder[i - 1] as FamilyMember).lab[0]);
    for (const member of ladder) {
      expect(member.parts.some((part) => part.id === 'sky')).toBe(true);
      expect(deltaE00(member.lab, mixedAgain(member, [sky, white, umber]))).toBeLessThan(1e-6);
      expect(Math.abs(member.lab[0] - member.aim[0])).toBeLessThan(3.5);
    }
  });

  it('keeps between five and nine', () => {
    expect(valueLadder(sky, white, umber, 2)).toHaveLength(5);
    expect(valueLadder(sky, white, umber, 40)).toHaveLength(9);
  });
});

describe('a gradient', () => {
  it('goes from one mix to the other without turning back, mixed of the two alone', () => {
    const steps = gradient(sky, peach, 5);
    const ends = [mixColour([{ pigment: sky, parts: 1 }]).lab, mixColour([{ pigment: peach, parts: 1 }]).lab] as const;
    expect(steps).toHaveLength(5);
    let before = 0;
    for (const step of steps) {
      expect(step.parts.map((part) => part.id)).toEqual(['sky', 'peach']);
      const share = deltaE00(ends[0], step.lab) / (deltaE00(ends[0], step.lab) + deltaE00(ends[1], step.lab));
      expect(share).toBeGreaterThan(before);
      before = share;
    }
    const shares = steps.map((step) => deltaE00(ends[0], step.lab) / (deltaE00(ends[0], step.lab) + deltaE00(ends[1], step.lab)));
    shares.forEach((share, i) => {
      expect(Math.abs(share - (i + 1) / 6)).toBeLessThan(0.08);
    });
  });
});

describe('two greys', () => {
  it('a blue and an earth make a warm and a cool one of like value (common practice, no published source)', () => {
    const { parents, greys } = twoGreys(['PW6', 'PB29', 'PBr7-BU', 'PY74'].map(pigmentOf), white, 58);
    expect(parents).toEqual(['PB29', 'PBr7-BU']);
    const [warm, cool] = greys as [FamilyMember, FamilyMember];
    expect(warm.lab[2]).toBeGreaterThan(cool.lab[2] + 4);
    for (const { lab } of greys) expect(Math.hypot(lab[1], lab[2])).toBeLessThan(14);
    expect(Math.abs(warm.lab[0] - cool.lab[0])).toBeLessThan(10);
  });

  it('two tubes that make no grey are told so', () => {
    expect(() => twoGreys([white, pigmentOf('PY74')], white, 50)).toThrow(/make a grey/);
  });
});

describe('shadow and light', () => {
  it('one is darker, one lighter, and both are mixed from the mix', () => {
    const [shadow, light] = shadowAndLight(sky, [white, umber, pigmentOf('PY42')]) as [FamilyMember, FamilyMember];
    const own = mixColour([{ pigment: sky, parts: 1 }]).lab;
    expect(shadow.lab[0]).toBeLessThan(own[0] - 5);
    expect(light.lab[0]).toBeGreaterThan(own[0] + 5);
    for (const member of [shadow, light]) expect(member.parts.some((part) => part.id === 'sky')).toBe(true);
  });
});

describe('places on the palette', () => {
  it('warm mixes lie left of cool ones, and none on another', () => {
    const colours = ['PY42', 'PR254', 'PW6', 'PB29', 'PB15:3', 'PBk9', 'PY74', 'PG7', 'PO20', 'PV23', 'PR101', 'PB36'].map(
      (pigment) => mixColour([{ pigment, parts: 1 }]).lab,
    );
    const { places } = paletteLayout(colours);
    const x = (i: number) => (places[i] as [number, number])[0];
    expect(x(0)).toBeLessThan(x(5));
    expect(x(5)).toBeLessThan(x(3));
    expect(paletteLayout([]).places).toEqual([]);
    expect(paletteLayout([[50, 0, 0]]).places).toHaveLength(1);
  });

  it.each([1, 7, 8, 9, 16, 17, 40, 200])(
    'of %i mixes none lies on another or past the rim, in as many rows as it takes',
    (count) => {
      const colours = Array.from({ length: count }, (_, i): [number, number, number] => [
        50,
        40 * Math.cos(i * 2.4),
        40 * Math.sin(i * 2.4),
      ]);
      const { places, rows } = paletteLayout(colours);
      for (const [i, [px, py]] of places.entries()) {
        expect(px).toBeGreaterThan(0.05);
        expect(px).toBeLessThan(0.95);
        expect(py).toBeLessThan(1);
        // As it is drawn: 400 wide, 50 for each row.
        for (const [qx, qy] of places.slice(i + 1))
          expect(Math.hypot((px - qx) * 400, (py - qy) * rows * 50)).toBeGreaterThan(30);
      }
    },
  );
});
