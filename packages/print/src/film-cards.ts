import type { Lesson } from '@viaticum/contract';
import {
  type Card,
  type CardLayout,
  cardFile,
  cardLayout,
  cardPanels,
  cardsCsv,
  cardsOf,
  type Size,
  type Timeline,
} from '@viaticum/core/film';
import * as fontkit from 'fontkit';
import { fonts } from './fonts.js';

type Font = {
  unitsPerEm: number;
  layout: (text: string) => { glyphs: { path: { toSVG: () => string } }[]; positions: { xAdvance: number; xOffset: number }[] };
};

let known: { title: Font; line: Font } | null = null;
const faces = () => {
  const { serifBold, sans } = fonts();
  known ??= { title: fontkit.create(serifBold) as unknown as Font, line: fontkit.create(sans) as unknown as Font };
  return known;
};
const faceOf = (isTitle: boolean): Font => (isTitle ? faces().title : faces().line);

/** How wide letters are, in pixels. */
export const letterWidth = (text: string, sizePx: number, isTitle: boolean): number => {
  const font = faceOf(isTitle);
  return (font.layout(text).positions.reduce((sum, { xAdvance }) => sum + xAdvance, 0) * sizePx) / font.unitsPerEm;
};

const n = (value: number): string => String(Math.round(value * 10) / 10);
const rgbOf = (rgb: readonly number[]): string => `rgb(${rgb.join(' ')})`;

/** Letters as outlines, so that they look the same where the face is not there. */
function letters({ text, x, y, sizePx, isTitle }: CardLayout['texts'][number]): string {
  const font = faceOf(isTitle);
  const scale = sizePx / font.unitsPerEm;
  const { glyphs, positions } = font.layout(text);
  let at = 0;
  const paths = glyphs.map(({ path }, i) => {
    const { xAdvance, xOffset } = positions[i] as (typeof positions)[number];
    const shape = path.toSVG();
    const own = shape ? `<path transform="translate(${n(at + xOffset)} 0)" d="${shape}"/>` : '';
    at += xAdvance;
    return own;
  });
  return `<g transform="translate(${n(x)} ${n(y)}) scale(${scale.toFixed(5)} ${(-scale).toFixed(5)})">${paths.join('')}</g>`;
}

/** A card as an SVG of the film's size, transparent beside its panel, its letters as outlines. */
export function cardSvg(card: Card, { widthPx, heightPx }: Size): string {
  const { panel, isDark, texts, swatch, bar, brush } = cardLayout(card, { widthPx, heightPx }, letterWidth);
  const { rgb, alpha, ink } = isDark ? cardPanels.dark : cardPanels.light;
  const hair = isDark ? cardPanels.light.rgb : cardPanels.dark.rgb;
  const box = ({ x, y, width, height }: { x: number; y: number; width: number; height: number }, fill: string) =>
    `<rect x="${n(x)}" y="${n(y)}" width="${n(width)}" height="${n(height)}" fill="${fill}"/>`;
  const parts = [
    `<rect x="${panel.x}" y="${panel.y}" width="${panel.width}" height="${panel.height}" fill="${rgbOf(rgb)}" fill-opacity="${alpha}" stroke="${rgbOf(hair)}" stroke-opacity="0.5"/>`,
    ...(swatch ? [box(swatch.ground, 'rgb(128 128 128)'), box(swatch.wet, swatch.wetRgb), box(swatch.dry, swatch.rgb)] : []),
    ...(bar ?? []).map((part) => box(part, part.rgb)),
    ...(bar?.[0] ? [outline(bar, rgbOf(hair))] : []),
    ...(brush
      ? [
          `<path d="${brush.path}" fill="none" stroke="${rgbOf(ink)}" stroke-width="${n(heightPx / 360)}" stroke-linejoin="round"/>`,
        ]
      : []),
    `<g fill="${rgbOf(ink)}">${texts.map(letters).join('')}</g>`,
  ];
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${widthPx}" height="${heightPx}" viewBox="0 0 ${widthPx} ${heightPx}">${parts.join('')}</svg>`;
}

function outline(bar: NonNullable<CardLayout['bar']>, colour: string): string {
  const [first] = bar;
  const width = bar.reduce((sum, part) => sum + part.width, 0);
  return first
    ? `<rect x="${n(first.x)}" y="${n(first.y)}" width="${n(width)}" height="${n(first.height)}" fill="none" stroke="${colour}" stroke-opacity="0.6"/>`
    : '';
}

/** All cards of a cut as SVG by their files' names, and the list of when and where each stands (CSV). */
export function filmCards(lesson: Lesson, timeline: Timeline, size: Size): { svgs: Map<string, string>; list: string } {
  const cards = cardsOf(lesson, timeline).filter(({ isHidden }) => !isHidden);
  const svgs = new Map(cards.map((card) => [cardFile(card), cardSvg(card, size)]));
  const places = new Map(cards.map((card) => [card.key, cardLayout(card, size, letterWidth).panel]));
  return { svgs, list: cardsCsv(lesson, timeline, places) };
}
