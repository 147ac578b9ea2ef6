import { describe, expect, it } from '@jest/globals';
import { converter } from 'culori';
import { drawn } from '../fixtures/index.js';
import { seeded } from '../fixtures/seeded.js';
import {
  blur,
  connectedParts,
  dropSmallParts,
  labels,
  labRaster,
  lightness,
  lightnessBins,
  median,
  type Plane,
  plane,
  resample,
  shrink,
  sizeWithin,
} from './index.js';

const noise = (width: number, height: number, seed: number): Plane => {
  const random = seeded(seed);
  const out = plane(width, height);
  for (let i = 0; i < out.data.length; i++) out.data[i] = random() * 100;
  return out;
};

describe('colour of pixels', () => {
  const random = seeded(3);
  const picture = drawn(
    40,
    40,
    () => [random() * 255, random() * 255, random() * 255].map(Math.round) as [number, number, number],
  );
  it('L*, a*, b* agree with culori (D65)', () => {
    const toLab = converter('lab65');
    const lab = labRaster(picture);
    for (let i = 0; i < 1600; i++) {
      const [r, g, b] = [0, 1, 2].map((c) => picture.data[i * 4 + c] / 255) as [number, number, number];
      const theirs = toLab({ mode: 'rgb', r, g, b });
      expect(Math.abs(lab.l[i] - theirs.l)).toBeLessThan(0.03);
      expect(Math.abs(lab.a[i] - theirs.a)).toBeLessThan(0.06);
      expect(Math.abs(lab.b[i] - theirs.b)).toBeLessThan(0.06);
    }
  });
  it('the three ways to lightness agree', () => {
    const [lab, plain, bins] = [labRaster(picture), lightness(picture), lightnessBins(picture)];
    for (let i = 0; i < 1600; i++) {
      expect(plain.data[i]).toBeCloseTo(lab.l[i], 3);
      expect(Math.abs((bins[i] * 100) / 255 - lab.l[i])).toBeLessThan(0.35);
    }
  });
});

it('lightness does not depend on where the bytes lie in memory', () => {
  const random = seeded(8);
  const picture = drawn(20, 10, () => [random() * 255, random() * 255, random() * 255]);
  const moved = new Uint8Array(picture.data.length + 1);
  moved.set(picture.data, 1);
  const shifted = { width: 20, height: 10, data: moved.subarray(1) };
  expect([...lightnessBins(shifted)]).toEqual([...lightnessBins(picture)]);
});

describe('size', () => {
  it('shrinking averages light, not numbers: black and white make the byte 188', () => {
    const board = drawn(4, 4, (x, y) => ((x + y) % 2 ? [255, 255, 255] : [0, 0, 0]));
    expect([...shrink(board, 2, 2).data]).toEqual(new Array(4).fill([188, 188, 188, 255]).flat());
  });
  it('uneven ratios keep the mean', () => {
    const from = noise(97, 61, 5);
    const mean = (one: Plane) => one.data.reduce((sum, value) => sum + value, 0) / one.data.length;
    expect(mean(resample(from, 13, 7))).toBeCloseTo(mean(from), 2);
  });
  it('a panorama and a single pixel keep at least one pixel each way', () => {
    expect(sizeWithin({ width: 10_000, height: 1 }, 100)).toEqual({ width: 1000, height: 1 });
    expect(
      shrink(
        drawn(1, 1, () => [7, 8, 9]),
        1,
        1,
      ).data[2],
    ).toBe(9);
  });
});

describe('blur', () => {
  /** The exact one: a full kernel, edges continued. */
  const exact = (from: Plane, sigma: number, x: number, y: number) => {
    let [sum, weight] = [0, 0];
    const reach = Math.ceil(sigma * 5);
    for (let dy = -reach; dy <= reach; dy++)
      for (let dx = -reach; dx <= reach; dx++) {
        const w = Math.exp(-(dx * dx + dy * dy) / (2 * sigma * sigma));
        const px = Math.min(from.width - 1, Math.max(0, x + dx));
        const py = Math.min(from.height - 1, Math.max(0, y + dy));
        sum += w * from.data[py * from.width + px];
        weight += w;
      }
    return sum / weight;
  };
  it.each([0.8, 2.5, 4, 7, 15])('is a Gaussian of the width asked for (σ = %d px)', (sigma) => {
    const from = plane(96, 80);
    for (let y = 0; y < 80; y++) for (let x = 0; x < 96; x++) from.data[y * 96 + x] = x > 40 && y > 25 ? 100 : 10 + 0.3 * x;
    const soft = blur(from, sigma);
    for (const [x, y] of [
      [41, 40],
      [48, 26],
      [60, 60],
      [30, 30],
      [41, 25],
    ] as const)
      expect(Math.abs(soft.data[y * 96 + x] - exact(from, sigma, x, y))).toBeLessThan(1);
  });
  it('changes nothing where all is even', () => {
    const from = plane(30, 30);
    from.data.fill(42);
    for (const sigma of [1, 6]) for (const value of blur(from, sigma).data) expect(value).toBeCloseTo(42, 3);
  });
});

describe('median', () => {
  it.each([1, 2, 5])('equals sorting the window (radius %d)', (radius) => {
    const from = noise(24, 19, 9);
    const found = median(from, radius);
    const step = 100 / 255;
    for (let y = 0; y < 19; y++)
      for (let x = 0; x < 24; x++) {
        const window: number[] = [];
        for (let dy = -radius; dy <= radius; dy++)
          for (let dx = -radius; dx <= radius; dx++)
            window.push(from.data[Math.min(18, Math.max(0, y + dy)) * 24 + Math.min(23, Math.max(0, x + dx))]);
        window.sort((a, b) => a - b);
        expect(Math.abs(found.data[y * 24 + x] - window[window.length >> 1])).toBeLessThan(step);
      }
  });
  it('takes out specks and keeps an edge in place, also with every second row only', () => {
    const from = plane(40, 40);
    for (let i = 0; i < 1600; i++) from.data[i] = i % 40 < 20 ? 0 : 100;
    from.data[20 * 40 + 5] = 100;
    for (const rowStep of [1, 2]) {
      const calm = median(from, 4, rowStep);
      for (let i = 0; i < 1600; i++) expect(calm.data[i]).toBe(i % 40 < 20 ? 0 : 100);
    }
  });
  it('one even plane stays', () => expect([...median(plane(5, 5), 2).data]).toEqual(new Array(25).fill(0)));
});

describe('connected parts', () => {
  const map = labels(6, 4);
  map.data.set([0, 0, 1, 1, 0, 0, 0, 1, 1, 1, 1, 0, 2, 2, 2, 2, 2, 2, 2, 2, 0, 2, 2, 2]);
  it('equal labels that do not touch are parts of their own', () => {
    const { labelOf, sizeOf } = connectedParts(map);
    expect([...labelOf]).toEqual([0, 1, 0, 2, 0]);
    expect([...sizeOf]).toEqual([3, 6, 3, 11, 1]);
  });
  it('small parts go to the neighbour with which they share most border', () => {
    dropSmallParts(map, () => 2);
    expect(map.data[20]).toBe(2);
    expect(map.data[5]).toBe(0);
  });
  it('the whole picture as one small part stays', () => {
    const one = labels(2, 1);
    dropSmallParts(one, () => 9);
    expect([...one.data]).toEqual([0, 0]);
  });
});
