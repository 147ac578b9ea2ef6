import { describe, expect, it } from '@jest/globals';
import { type Card, cardPanels, timelineOf } from '@viaticum/core/film';
import { demoLesson } from '@viaticum/core/fixtures';
import sharp from 'sharp';
import { cardSvg, filmCards, letterWidth } from './film-cards.js';

const SIZE = { widthPx: 1920, heightPx: 1080 };
/** Relative luminance and contrast of sRGB (WCAG 2.2). */
const luminance = (rgb: readonly number[]): number => {
  const [r = 0, g = 0, b = 0] = rgb.map((v) => (v / 255 <= 0.04045 ? v / 255 / 12.92 : ((v / 255 + 0.055) / 1.055) ** 2.4));
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
};
const contrast = (a: readonly number[], b: readonly number[]): number => {
  const [dark = 0, light = 0] = [luminance(a), luminance(b)].sort((x, y) => x - y);
  return (light + 0.05) / (dark + 0.05);
};
const mix: Card = {
  key: 's/mix',
  kind: 'mix',
  takeId: 's',
  slate: 'S004',
  from: 0,
  to: 100,
  title: 'Cloth blue',
  lines: ['2 ultramarine : 1 white : a touch of burnt umber'],
  swatch: { rgb: 'rgb(60 80 150)', wetRgb: 'rgb(70 90 165)' },
  parts: [
    { name: 'ultramarine', rgb: 'rgb(30 40 140)', weight: 2 },
    { name: 'white', rgb: 'rgb(245 245 240)', weight: 1 },
  ],
  corner: 'lower-left',
  isHidden: false,
};

describe('cards over a film', () => {
  it('are read over any picture: 7 to 1 over the worst pixel beneath (WCAG 2.2)', () => {
    for (const { rgb, alpha, ink } of Object.values(cardPanels))
      for (const beneath of [0, 255])
        expect(
          contrast(
            rgb.map((v) => v * alpha + beneath * (1 - alpha)),
            ink,
          ),
        ).toBeGreaterThanOrEqual(7);
  });
  it('are transparent beside their panel, which keeps the edges and the captions free', async () => {
    const { data, info } = await sharp(Buffer.from(cardSvg(mix, SIZE)))
      .raw()
      .toBuffer({ resolveWithObject: true });
    expect([info.width, info.height, info.channels]).toEqual([1920, 1080, 4]);
    const opaque: [number, number][] = [];
    for (let y = 0; y < 1080; y += 4)
      for (let x = 0; x < 1920; x += 4) if ((data[(y * 1920 + x) * 4 + 3] as number) > 0) opaque.push([x, y]);
    const [xs, ys] = [opaque.map(([x]) => x), opaque.map(([, y]) => y)];
    expect(Math.min(...xs)).toBeGreaterThanOrEqual(1920 * 0.05 - 4);
    expect(Math.max(...ys)).toBeLessThanOrEqual(1080 * 0.78 + 4);
    expect(Math.max(...xs)).toBeLessThan(1920 * 0.6);
    expect(opaque.length).toBeGreaterThan(2000);
  });
  it('have letters as outlines of a readable size, as wide as they were measured', () => {
    const svg = cardSvg(mix, SIZE);
    expect(svg).not.toContain('<text');
    expect(svg.match(/<path transform="translate/g)?.length).toBeGreaterThan(30);
    expect(letterWidth('Cloth blue', 54, true)).toBeCloseTo(2 * letterWidth('Cloth blue', 27, true), 6);
    for (const [, scale] of svg.matchAll(/scale\(([\d.]+) -/g)) expect(Number(scale) * 1000).toBeGreaterThanOrEqual(42);
  });
  it('of a lesson come with a list that names every file, the same bytes each time', () => {
    const lesson = demoLesson('kettle');
    const make = () => filmCards(lesson, timelineOf(lesson, 'full'), SIZE);
    const { svgs, list } = make();
    expect(svgs.size).toBeGreaterThan(40);
    const named = [...list.matchAll(/,(S\d{3}-[a-z]+-[^,]*)\.png,/g)].map(([, name]) => name);
    expect(new Set(named)).toEqual(new Set(svgs.keys()));
    expect(named).toHaveLength(svgs.size);
    expect(make()).toEqual({ svgs, list });
  });
});
