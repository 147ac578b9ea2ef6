import type { Card } from './cards.js';

export type Size = { widthPx: number; heightPx: number };
export type Box = { x: number; y: number; width: number; height: number };
/** A line of letters: its left end and baseline. */
export type CardText = { text: string; x: number; y: number; sizePx: number; isTitle: boolean };
/** A card laid out in the pixels of a film: its panel, and what lies on it. */
export type CardLayout = {
  panel: Box;
  isDark: boolean;
  texts: CardText[];
  /** Halves of a swatch, wet and dry, on neutral grey. */
  swatch?: { ground: Box; wet: Box; dry: Box; wetRgb: string; rgb: string };
  bar?: (Box & { rgb: string })[];
  /** The hairs and handle of a brush in their proportion, as an SVG path. */
  brush?: { path: string };
  /** Strokes that stand for dry paint: flat and matt. */
  dry?: Box;
};

/**
 * Panels that are read over any picture: near-black (L* 12) at 78 %, near-white (L* 96) at 86 %. Over the worst pixel beneath, white or
 * black, letters keep 7 to 1 (WCAG 2.2, contrast enhanced; worked out in the test).
 */
export const cardPanels = {
  dark: { rgb: [31, 31, 31], alpha: 0.78, ink: [255, 255, 255] },
  light: { rgb: [243, 243, 243], alpha: 0.86, ink: [31, 31, 31] },
} as const;

/** Within the middle nine tenths; the lowest 22 % are kept for captions. Letters are at least 1/25 of the height. */
const SAFE = 0.05;
const CAPTIONS = 0.22;
const LETTER = 1 / 25;
const WIDEST = 0.5;

/** Where a card's parts lie in a film of a size; `widthOf` measures letters (text, size in pixels, whether in the title's face). */
export function cardLayout(
  card: Card,
  { widthPx, heightPx }: Size,
  widthOf: (text: string, sizePx: number, isTitle: boolean) => number,
  isDark = true,
): CardLayout {
  const unit = heightPx * LETTER;
  const [titlePx, linePx] = [unit * 1.25, unit];
  const pad = unit * 0.7;
  const gap = unit * 0.55;
  const most = widthPx * WIDEST - 2 * pad;
  const swatchPx = card.swatch ? unit * 3 : 0;
  const brushPx = card.brush ? unit * 3.4 : 0;
  const aside = Math.max(swatchPx, brushPx);
  const left = aside > 0 ? aside + pad * 0.8 : 0;
  const titles = wrapped(card.title, most - left, (text) => widthOf(text, titlePx, true));
  const lines = card.lines.flatMap((line) => wrapped(line, most - left, (text) => widthOf(text, linePx, false)));
  const widest = Math.max(
    ...titles.map((text) => widthOf(text, titlePx, true)),
    ...lines.map((text) => widthOf(text, linePx, false)),
    card.parts ? unit * 9 : 0,
  );
  const barPx = card.parts && card.parts.length > 1 ? unit * 0.8 : 0;
  const textHeight =
    titles.length * titlePx * 1.2 +
    (lines.length > 0 ? gap * 0.4 + lines.length * linePx * 1.25 : 0) +
    (barPx > 0 ? barPx + gap : 0);
  const height = Math.max(aside, textHeight) + 2 * pad;
  const width = left + widest + 2 * pad;
  const x = card.corner === 'upper-right' ? widthPx * (1 - SAFE) - width : widthPx * SAFE;
  const y = card.corner === 'lower-left' ? heightPx * (1 - CAPTIONS) - height : heightPx * SAFE;
  const panel = whole({ x, y, width, height });
  const texts: CardText[] = [];
  let at = y + pad;
  for (const text of titles) {
    texts.push({ text, x: x + pad + left, y: at + titlePx * 0.95, sizePx: titlePx, isTitle: true });
    at += titlePx * 1.2;
  }
  if (barPx > 0) at += gap * 0.5;
  const bar = barPx > 0 ? barOf(card, { x: x + pad + left, y: at, width: widest, height: barPx }) : undefined;
  if (barPx > 0) at += barPx + gap * 0.5;
  at += lines.length > 0 ? gap * 0.4 : 0;
  for (const text of lines) {
    texts.push({ text, x: x + pad + left, y: at + linePx * 0.95, sizePx: linePx, isTitle: false });
    at += linePx * 1.25;
  }
  return {
    panel,
    isDark,
    texts,
    ...(card.swatch && { swatch: swatchOf(card.swatch, x + pad, y + pad, swatchPx) }),
    ...(bar && { bar }),
    ...(card.brush && { brush: { path: brushPath(card.brush, { x: x + pad, y: y + pad, width: brushPx, height: brushPx }) } }),
  };
}

const whole = ({ x, y, width, height }: Box): Box => ({
  x: Math.round(x),
  y: Math.round(y),
  width: Math.round(width),
  height: Math.round(height),
});

function wrapped(text: string, most: number, widthOf: (text: string) => number): string[] {
  const lines: string[] = [];
  for (const word of text.split(/ +/)) {
    const last = lines.at(-1);
    const longer = last === undefined ? word : `${last} ${word}`;
    if (last === undefined || widthOf(longer) > most) lines.push(word);
    else lines[lines.length - 1] = longer;
  }
  return lines;
}

function swatchOf(
  { rgb, wetRgb }: NonNullable<Card['swatch']>,
  x: number,
  y: number,
  side: number,
): NonNullable<CardLayout['swatch']> {
  const inset = side * 0.12;
  const half = (side - 2 * inset) / 2;
  const box = (from: number): Box => ({ x: x + inset + from, y: y + inset, width: half, height: side - 2 * inset });
  return { ground: { x, y, width: side, height: side }, wet: box(0), dry: box(half), wetRgb, rgb };
}

function barOf({ parts = [] }: Card, { x, y, width, height }: Box): (Box & { rgb: string })[] {
  const sum = parts.reduce((total, { weight }) => total + weight, 0) || 1;
  let at = x;
  return parts.map(({ rgb, weight }) => {
    const own = (width * weight) / sum;
    const box = { x: at, y, width: own, height, rgb };
    at += own;
    return box;
  });
}

/** How long the hairs of a brush are against their width, by its kind (common practice, no published source). */
const hairs: Readonly<Record<string, { long: number; tip: 'straight' | 'round' | 'point' | 'slant' | 'fan' }>> = {
  flat: { long: 1.2, tip: 'straight' },
  filbert: { long: 1.3, tip: 'round' },
  round: { long: 2.4, tip: 'point' },
  angled: { long: 1.2, tip: 'slant' },
  fan: { long: 0.8, tip: 'fan' },
  rigger: { long: 9, tip: 'point' },
  rake: { long: 1.1, tip: 'straight' },
  mop: { long: 1.2, tip: 'round' },
  hake: { long: 0.5, tip: 'straight' },
  knife: { long: 2.6, tip: 'point' },
};
/** The widest brush fills the box; one of half its width half of it. */
const WIDEST_MM = 55;

function brushPath({ type, widthMm }: NonNullable<Card['brush']>, { x, y, width, height }: Box): string {
  const { long, tip } = hairs[type] ?? { long: 1.2, tip: 'straight' as const };
  const w = Math.max(width * 0.05, (width * 0.9 * Math.min(widthMm, WIDEST_MM)) / WIDEST_MM);
  const h = Math.min(height * 0.55, Math.max(w * long, height * 0.2));
  const middle = x + width / 2;
  const ferrule = Math.min(w, width * 0.4);
  const [top, neck, bottom] = [y, y + h, y + height];
  const n = (value: number) => value.toFixed(1);
  const [l, r] = [middle - w / 2, middle + w / 2];
  const [fl, fr] = [middle - ferrule / 2, middle + ferrule / 2];
  const tips: Record<typeof tip, string> = {
    straight: `L${n(l)} ${n(top)}L${n(r)} ${n(top)}`,
    round: `L${n(l)} ${n(top + w * 0.45)}Q${n(l)} ${n(top)} ${n(middle)} ${n(top)}Q${n(r)} ${n(top)} ${n(r)} ${n(top + w * 0.45)}`,
    point: `Q${n(l)} ${n(top + h * 0.3)} ${n(middle)} ${n(top)}Q${n(r)} ${n(top + h * 0.3)} ${n(fr)} ${n(neck)}`,
    slant: `L${n(l)} ${n(top + w * 0.5)}L${n(r)} ${n(top)}`,
    fan: `L${n(l)} ${n(top + h * 0.2)}Q${n(middle)} ${n(top - h * 0.15)} ${n(r)} ${n(top + h * 0.2)}`,
  };
  const stem = Math.max(2, width * 0.05);
  const tail = `L${n(fr)} ${n(neck + height * 0.14)}L${n(middle + stem)} ${n(bottom)}L${n(middle - stem)} ${n(bottom)}L${n(fl)} ${n(neck + height * 0.14)}Z`;
  return `M${n(fl)} ${n(neck)}${tips[tip]}L${n(fr)} ${n(neck)}${tail}`;
}
