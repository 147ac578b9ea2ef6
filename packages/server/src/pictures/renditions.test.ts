import { describe, expect, it } from '@jest/globals';
import sharp, { type Sharp } from 'sharp';
import { render, renditions } from './renditions.js';

const BROWN = { r: 200, g: 100, b: 80 };
const field = (width: number, height: number, background: object = BROWN): Sharp =>
  sharp({ create: { width, height, channels: 3, background: background as never } });
const middle = async (bytes: Buffer): Promise<number[]> => {
  const { data, info } = await sharp(bytes).removeAlpha().raw().toBuffer({ resolveWithObject: true });
  const at = (Math.floor(info.height / 2) * info.width + Math.floor(info.width / 2)) * info.channels;
  return [...data.subarray(at, at + info.channels)];
};
const near = (found: number[], wanted: number[], off: number) => {
  expect(found).toHaveLength(wanted.length);
  for (const [i, value] of found.entries()) expect(Math.abs(value - (wanted[i] as number))).toBeLessThanOrEqual(off);
};

describe('what is kept of an upload', () => {
  it('a single pixel, and a panorama of ten to one', async () => {
    const pixel = await render(await field(1, 1).png().toBuffer());
    expect([pixel.widthPx, pixel.heightPx]).toEqual([1, 1]);
    near(await middle(pixel.work), [200, 100, 80], 6);
    const wide = await render(await field(4000, 400).jpeg().toBuffer());
    expect([wide.widthPx, wide.heightPx]).toEqual([4000, 400]);
    const { width, height } = await sharp(wide.work).metadata();
    expect([width, height]).toEqual([renditions.work, 160]);
  });
  it('what is transparent becomes white in what is measured, and stays in the full one', async () => {
    const clear = sharp({ create: { width: 60, height: 60, channels: 4, background: { ...BROWN, alpha: 0 } } });
    const { format, work, full } = await render(await clear.png().toBuffer());
    expect(format).toBe('png');
    near(await middle(work), [255, 255, 255], 1);
    expect((await sharp(full).metadata()).hasAlpha).toBe(true);
  });
  it('a CMYK JPEG comes out in sRGB, near the colour it was made from', async () => {
    const cmyk = await field(80, 80).toColourspace('cmyk').jpeg({ quality: 95 }).toBuffer();
    expect((await sharp(cmyk).metadata()).channels).toBe(4);
    const { work } = await render(cmyk);
    expect((await sharp(work).metadata()).space).toBe('srgb');
    near(await middle(work), [200, 100, 80], 16);
  });
  it('a PNG of 16 bits comes out in 8, its values unchanged', async () => {
    const deep = await field(50, 50).toColourspace('rgb16').png().toBuffer();
    expect((await sharp(deep).metadata()).depth).toBe('ushort');
    const { full, work } = await render(deep);
    near(await middle(full), [200, 100, 80], 2);
    near(await middle(work), [200, 100, 80], 4);
  });
  it('a grey one has three channels', async () => {
    const { work } = await render(await field(30, 30).greyscale().png().toBuffer());
    const [r = 0, g = 0, b = 0] = await middle(work);
    expect(Math.max(r, g, b) - Math.min(r, g, b)).toBeLessThanOrEqual(2);
  });
  it('a Display-P3 profile is converted: the numbers change, the colour does not', async () => {
    const wide = await field(80, 80).withIccProfile('p3').png().toBuffer();
    const [coded = 0] = await sharp(wide, { ignoreIcc: true } as never)
      .removeAlpha()
      .raw()
      .toBuffer();
    expect(Math.abs(coded - 200)).toBeGreaterThan(5);
    const { work, full } = await render(wide);
    near(await middle(full), [200, 100, 80], 3);
    near(await middle(work), [200, 100, 80], 5);
    expect((await sharp(full).metadata()).icc).toBeUndefined();
  });
});
