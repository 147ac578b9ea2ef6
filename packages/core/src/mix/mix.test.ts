import { describe, expect, it } from '@jest/globals';
import { deltaE00, hueDegrees, labToSrgb, srgbToLab } from '@viaticum/kernels/colour';
import { filmOver, infinite, type MixOptions, mixColour, reflectanceOfLab, xyzOf } from '@viaticum/kernels/mixing';
import { rows } from '@viaticum/kernels/pigment';
import { Color as Spectral, mix as spectralMix } from 'spectral.js';

const mix = (recipe: Record<string, number>, options: MixOptions = {}) =>
  mixColour(
    Object.entries(recipe).map(([pigment, parts]) => ({ pigment, parts })),
    options,
  );
const chroma = ([, a, b]: readonly number[]) => Math.hypot(a as number, b as number);
const hue = ([, a, b]: readonly number[]) => hueDegrees(a as number, b as number);

describe('films (Kubelka and Munk 1931)', () => {
  it('a film without end reflects 1 + K/S − √((K/S)² + 2K/S)', () => {
    for (const ratio of [0.001, 0.1, 1, 8, 100]) {
      expect(infinite(ratio, 1)).toBeCloseTo(1 + ratio - Math.sqrt(ratio * ratio + 2 * ratio), 10);
    }
  });

  it('a thick film over any ground reflects like one without end, a vanishing one like its ground', () => {
    for (const ground of [0, 0.4, 1]) {
      expect(filmOver(0.3, 0.5, 400, ground)).toBeCloseTo(infinite(0.3, 0.5), 9);
      expect(filmOver(0.3, 0.5, 1e-9, ground)).toBeCloseTo(ground, 6);
    }
  });

  it('two films laid on each other are one of double thickness', () => {
    for (const [K, S] of [
      [0.2, 0.7],
      [3, 0.05],
      [1e-12, 0.9],
    ] as const) {
      const once = filmOver(K, S, S * 1.3, 0.25);
      expect(filmOver(K, S, S * 1.3, once)).toBeCloseTo(filmOver(K, S, S * 2.6, 0.25), 9);
    }
  });

  it('without absorption the reflectance over black is SX/(SX + 1)', () => {
    expect(filmOver(0, 0.8, 2, 0)).toBeCloseTo(2 / 3, 9);
  });

  it('good white hides in two coats of 20 µm at contrast ratio 0.98 (ISO 6504-3, ASTM D2805), zinc white does not in four', () => {
    expect(mix({ PW6: 1 }, { film: { dryUm: 20 } }).contrastRatio).toBeLessThan(0.98);
    expect(mix({ PW6: 1 }, { film: { dryUm: 40 } }).contrastRatio).toBeGreaterThan(0.98);
    expect(mix({ PW4: 1 }, { film: { dryUm: 80 } }).contrastRatio).toBeLessThan(0.98);
    expect(mix({ PY3: 1 }, { film: { dryUm: 40 } }).contrastRatio).toBeLessThan(0.98);
  });

  it('a thin film shows its ground, a thick one hides it', () => {
    const over = (ground: [number, number, number], dryUm: number) => mix({ PY3: 1 }, { film: { dryUm }, ground }).lab;
    expect(deltaE00(over([20, 0, 0], 5), over([90, 0, 0], 5))).toBeGreaterThan(15);
    expect(deltaE00(over([20, 0, 0], 1000), over([90, 0, 0], 1000))).toBeLessThan(0.5);
  });

  it('the ground comes back through a vanishing film with the colour it had', () => {
    const ground: [number, number, number] = [62, 8, 22];
    expect(deltaE00(mix({ PW6: 1 }, { film: { dryUm: 1e-6 }, ground }).lab, ground)).toBeLessThan(0.5);
    expect(deltaE00(mix({ PW6: 1 }, { film: { dryUm: 1e-6 }, ground: reflectanceOfLab(ground) }).lab, ground)).toBeLessThan(0.5);
  });

  it('a perfect white is exactly white', () => {
    const [x, y, z] = xyzOf(new Float64Array(36).fill(1));
    expect(x).toBeCloseTo(95.047, 6);
    expect(y).toBeCloseTo(100, 6);
    expect(z).toBeCloseTo(108.883, 6);
  });
});

describe('the pigment table', () => {
  it.each(rows.map((row) => [row.id, row] as const))('%s keeps its mass tone and its tint with white', (id, row) => {
    // The table's own colours hold with the surface's gloss included, as for a matt paint-out. From memory.
    const masstone = mix({ [id]: 1 }, { finish: 'matt' }).lab;
    const tint = mix({ [id]: 1, PW6: 10 }, { finish: 'matt' }).lab;
    expect(deltaE00(masstone, row.masstoneLab as [number, number, number])).toBeLessThan(1.2);
    if (id !== 'PW6') expect(deltaE00(tint, row.tint1to10Lab as [number, number, number])).toBeLessThan(1.2);
  });
});

describe('mixing behaves as paint does (common practice, no published source)', () => {
  it('two tubes of nearly equal sRGB mix differently with a third', () => {
    const one = mix({ PBk9: 1 }).srgb; // bone black
    const other = mix({ PBk7: 1 }).srgb; // carbon black
    expect(Math.max(...one.map((value, i) => Math.abs(value - (other[i] as number))))).toBeLessThan(0.03);
    expect(deltaE00(mix({ PBk9: 1, PW6: 10 }).lab, mix({ PBk7: 1, PW6: 10 }).lab)).toBeGreaterThan(10);
    // An average of sRGB values would give nearly the same colour for both.
    const white = mix({ PW6: 1 }).srgb;
    const average = (a: readonly number[]) =>
      a.map((value, i) => (value + 10 * (white[i] as number)) / 11) as [number, number, number];
    expect(deltaE00(srgbToLab(average(one)), srgbToLab(average(other)))).toBeLessThan(1);
  });

  it('phthalo blue and a green-shade yellow give a strong green, ultramarine a duller one', () => {
    const strong = mix({ 'PB15:3': 1, PY3: 8 }).lab;
    const dull = mix({ PB29: 3, PY3: 6 }).lab;
    expect(hue(strong)).toBeGreaterThan(110);
    expect(hue(strong)).toBeLessThan(190);
    expect(chroma(strong)).toBeGreaterThan(chroma(dull) + 8);
  });

  it('ultramarine and burnt umber make a near-neutral dark, and grey with white', () => {
    const dark = mix({ PB29: 1, 'PBr7-BU': 1 }).lab;
    expect(dark[0]).toBeLessThan(30);
    expect(chroma(dark)).toBeLessThan(8);
    expect(chroma(mix({ PB29: 1, 'PBr7-BU': 1, PW6: 8 }).lab)).toBeLessThan(16);
  });

  it('magenta and phthalo blue with white give a violet, cadmium red in its place a dull one', () => {
    const violet = mix({ PR122: 4, 'PB15:3': 1, PW6: 6 }).lab;
    const dull = mix({ PR108: 4, 'PB15:3': 1, PW6: 6 }).lab;
    expect(hue(violet)).toBeGreaterThan(270);
    expect(hue(violet)).toBeLessThan(350);
    expect(chroma(dull)).toBeLessThan(chroma(violet) - 5);
  });

  it('white first raises, then lowers the chroma of phthalo blue', () => {
    const at = (white: number) => chroma(white === 0 ? mix({ 'PB15:3': 1 }).lab : mix({ 'PB15:3': 1, PW6: white }).lab);
    expect(at(4)).toBeGreaterThan(at(0));
    expect(at(400)).toBeLessThan(at(4));
  });

  it('black turns a yellow to olive', () => {
    const olive = mix({ PY74: 8, PBk9: 1 }).lab;
    expect(hue(olive)).toBeGreaterThan(hue(mix({ PY74: 1 }).lab) + 3);
  });

  it('phthalo green and magenta are near black', () => {
    const dark = mix({ PG7: 1, PR122: 1 }).lab;
    expect(dark[0]).toBeLessThan(28);
    expect(chroma(dark)).toBeLessThan(12);
  });

  it('phthalo blue tints far more strongly than ultramarine', () => {
    expect(mix({ 'PB15:3': 1, PW6: 20 }).lab[0]).toBeLessThan(mix({ PB29: 1, PW6: 20 }).lab[0] - 8);
  });

  it('mid tones darken on drying by 1 to 5 L* in a gloss finish, and a gloss dark is darker than a matt one', () => {
    const recipe = { PB29: 2, PW6: 3 };
    const fall = mix(recipe, { state: 'wet' }).lab[0] - mix(recipe, { finish: 'gloss' }).lab[0];
    expect(fall).toBeGreaterThan(1);
    expect(fall).toBeLessThan(5);
    expect(mix({ PBk7: 1 }, { finish: 'gloss' }).lab[0]).toBeLessThan(mix({ PBk7: 1 }, { finish: 'matt' }).lab[0] - 10);
  });

  it('turns hues to the side to which spectral.js turns them', () => {
    const hex = (pigment: string) =>
      `#${mix({ [pigment]: 1 }, { finish: 'matt' })
        .srgb.map((v) =>
          Math.round(v * 255)
            .toString(16)
            .padStart(2, '0'),
        )
        .join('')}`;
    for (const [one, other] of [
      ['PB28', 'PY3'],
      ['PR122', 'PY74'],
      ['PR254', 'PY35'],
    ] as const) {
      const theirs = spectralMix([new Spectral(hex(one)), 1], [new Spectral(hex(other)), 1]);
      const ours = mix({ [one]: 1, [other]: 1 }).lab;
      const [r, g, b] = theirs.sRGB as [number, number, number];
      const gap = Math.abs(hue(ours) - hue(srgbToLab([r / 255, g / 255, b / 255])));
      expect(Math.min(gap, 360 - gap)).toBeLessThan(90);
    }
  });

  it('amounts: a touch is a sixteenth of a part, a speck a sixty-fourth', () => {
    const touch = mixColour([
      { pigment: 'PW6', parts: 1 },
      { pigment: 'PB15:3', parts: 'touch' },
    ]).lab;
    expect(deltaE00(touch, mix({ PW6: 16, 'PB15:3': 1 }).lab)).toBeLessThan(1e-9);
    const speck = mixColour([
      { pigment: 'PW6', parts: 1 },
      { pigment: 'PB15:3', parts: 'speck' },
    ]).lab;
    expect(deltaE00(speck, mix({ PW6: 64, 'PB15:3': 1 }).lab)).toBeLessThan(1e-9);
  });
});

describe('bad input', () => {
  it.each([
    ['no tubes', () => mixColour([]), /at least one tube/],
    ['an unknown tube', () => mix({ PX1: 1 }), /called “PX1”/],
    ['negative parts', () => mix({ PW6: -1 }), /above 0/],
    ['NaN parts', () => mix({ PW6: Number.NaN }), /above 0/],
    ['a film of nothing', () => mix({ PW6: 1 }, { film: { dryUm: 0 } }), /thicker than 0/],
  ])('%s is refused with a sentence', (_, call, words) => {
    expect(call).toThrow(words);
  });

  it('a colour outside what bands can reach is clipped to a reflectance between 0 and 1', () => {
    for (const value of reflectanceOfLab(srgbToLab(labToSrgb([95, -60, 90])))) {
      expect(value).toBeGreaterThanOrEqual(0);
      expect(value).toBeLessThanOrEqual(1);
    }
  });
});
