import { fileURLToPath } from 'node:url';
import { describe, expect, it } from '@jest/globals';
import type { Placement } from '@viaticum/contract';
import { converter } from 'culori';
import sharp from 'sharp';
import {
  canvasToPixel,
  cropMeasures,
  discColour,
  fillPlacement,
  meanColour,
  pixelToCanvas,
  scaledAbout,
  squintBlurMm,
} from './index.js';

const canvas = { widthMm: 406.4, heightMm: 508 };

describe('crop', () => {
  it('a picture of another shape just fills the canvas and loses its overhang', () => {
    const picture = { widthPx: 3000, heightPx: 2000 };
    const placement = fillPlacement(picture, canvas);
    const { lostShare, bareShare, dpi } = cropMeasures(picture, placement, canvas);
    expect(lostShare).toBeCloseTo(1 - (406.4 / 508) * (2000 / 3000), 9);
    expect(bareShare).toBe(0);
    expect(dpi).toBeCloseTo(2000 / 20, 6);
  });
  it('one of the same shape loses nothing; a smaller one leaves canvas bare', () => {
    const picture = { widthPx: 1280, heightPx: 1600 };
    const placement = fillPlacement(picture, canvas);
    expect(cropMeasures(picture, placement, canvas)).toMatchObject({ lostShare: 0, bareShare: 0 });
    const half = cropMeasures(picture, { ...placement, mmPerPx: placement.mmPerPx / 2 }, canvas);
    expect(half.lostShare).toBe(0);
    expect(half.bareShare).toBeCloseTo(0.75, 9);
  });
  it.each([0, 30, 90, 211])('made larger or smaller, turned by %d°, what lies under the fingers stays there', (rotationDeg) => {
    const picture = { widthPx: 1280, heightPx: 1600 };
    for (const flip of [false, true])
      for (const about of [
        [0, 0],
        [100, 300],
        [406, 17],
      ] as const)
        for (const ratio of [0.4, 1, 2.5]) {
          const before = { ...fillPlacement(picture, canvas), rotationDeg, flip };
          const after = scaledAbout(picture, before, before.mmPerPx * ratio, about);
          const [was, is] = [canvasToPixel(picture, before, about), canvasToPixel(picture, after, about)];
          expect(is[0]).toBeCloseTo(was[0], 6);
          expect(is[1]).toBeCloseTo(was[1], 6);
        }
  });
  it('turned by 90° about its middle', () => {
    const picture = { widthPx: 200, heightPx: 100 };
    const placement: Placement = { mmPerPx: 1, xMm: 0, yMm: 0, rotationDeg: 90, flip: false };
    const [x, y] = pixelToCanvas(picture, placement, [200, 50]);
    expect([x, y]).toEqual([expect.closeTo(100, 9), expect.closeTo(150, 9)]);
  });
  it('canvas to pixel undoes pixel to canvas, also turned and mirrored', () => {
    const picture = { widthPx: 640, heightPx: 480 };
    for (const rotationDeg of [0, 13, -90, 170]) {
      for (const flip of [false, true]) {
        const placement = { mmPerPx: 0.31, xMm: -12, yMm: 40, rotationDeg, flip };
        const [px, py] = canvasToPixel(picture, placement, pixelToCanvas(picture, placement, [17, 401]));
        expect([px, py]).toEqual([expect.closeTo(17, 8), expect.closeTo(401, 8)]);
      }
    }
  });
  it('squinting at two metres blurs by some millimetres', () => {
    expect(squintBlurMm(2)).toBeCloseTo(5.82, 2);
  });
});

describe('colour of a place', () => {
  it('averages light, not sRGB numbers: black and white make a middle light of L* 76', () => {
    const rgba = [0, 0, 0, 255, 255, 255, 255, 255];
    expect(meanColour(rgba, 2, 1, () => true)[0]).toBeCloseTo(76.07, 1);
  });
  it('agrees with sharp on a region of the demo picture', async () => {
    const file = fileURLToPath(new URL('../../../server/assets/demo/balloons.jpg', import.meta.url));
    const { data, info } = await sharp(file).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
    const box = { left: 40, top: 60, width: 60, height: 40 };
    const stats = await sharp(await sharp(file).extract(box).png().toBuffer()).stats();
    const [r = 0, g = 0, b = 0] = stats.channels.map((channel) => channel.mean / 255);
    const theirs = converter('lab65')({ mode: 'rgb', r, g, b });
    const ours = meanColour(data, info.width, info.height, (x, y) => x >= 40 && x < 100 && y >= 60 && y < 100);
    // Sharp averages sRGB numbers; on a nearly even region both agree.
    expect(Math.abs(ours[0] - theirs.l)).toBeLessThan(1);
    expect(Math.hypot(ours[1] - theirs.a, ours[2] - theirs.b)).toBeLessThan(1.5);
  });
  it('a disc at the corner counts its inside; one off the picture is refused', () => {
    const rgba = new Uint8ClampedArray(4 * 4 * 4).fill(255);
    expect(discColour(rgba, 4, 4, [0, 0], 2)[0]).toBeCloseTo(100, 6);
    expect(() => discColour(rgba, 4, 4, [50, 50], 2)).toThrow(/no picture at this place/);
  });
});
