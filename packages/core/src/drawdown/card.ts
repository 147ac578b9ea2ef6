/** A place on the card, mm from its upper left corner. */
export type Patch = { x: number; y: number; width: number; height: number };

/** The card for drawdowns is one sheet of A4 (ISO 216); its corners are the corners of the paper. */
export const card = { widthMm: 210, heightMm: 297 };
/** The printed black band; bare paper below it is the white. */
export const band: Patch = { x: 18, y: 98, width: 176, height: 62 };
const WHITE_FROM = 160;
/** Where the grey step card is laid: its steps share this strip evenly. */
export const greyStrip: Patch = { x: 18, y: 34, width: 174, height: 30 };
/** The two drawdowns run over black and white; the tint lies on white. */
export const stripes = {
  thin: { x: 26, width: 40 },
  thick: { x: 82, width: 40 },
  tint: { x: 138, width: 40 },
} as const;
const LENGTH = 56;
const RIM = 8;
const inner = (x: number, y: number, width: number, height: number): Patch => ({
  x: x + RIM,
  y: y + RIM,
  width: width - 2 * RIM,
  height: height - 2 * RIM,
});

/** What is read of each stripe, well inside it; and of the bare black and white between them. */
export const places = {
  thinOverBlack: inner(stripes.thin.x, band.y + 2, stripes.thin.width, LENGTH),
  thickOverBlack: inner(stripes.thick.x, band.y + 2, stripes.thick.width, LENGTH),
  thinOverWhite: inner(stripes.thin.x, WHITE_FROM + 2, stripes.thin.width, LENGTH),
  thickOverWhite: inner(stripes.thick.x, WHITE_FROM + 2, stripes.thick.width, LENGTH),
  tint: inner(stripes.tint.x, WHITE_FROM + 2, stripes.tint.width, LENGTH),
  black: { x: 70, y: 110, width: 8, height: 38 },
  white: { x: 70, y: 172, width: 8, height: 38 },
} satisfies Record<string, Patch>;
export type PlaceName = keyof typeof places;

/** Bare paper round the sheet, from which the fall-off of the light is read. */
export const paperPlaces: readonly Patch[] = [
  ...[8, 70, 84, 232, 246, 260, 284].flatMap((y) => [12, 60, 105, 150, 192].map((x) => ({ x, y, width: 6, height: 5 }))),
  ...[110, 140, 180, 205].flatMap((y) => [6, 198].map((x) => ({ x, y, width: 6, height: 8 }))),
];

/** The steps of the grey card, from its first to its last, each well inside. */
export const greyPlaces = (count: number): Patch[] =>
  Array.from({ length: count }, (_, i) => {
    const width = greyStrip.width / count;
    return { x: greyStrip.x + (i + 0.25) * width, y: greyStrip.y + 8, width: width / 2, height: greyStrip.height - 16 };
  });

/** L* of the neutral steps of Munsell's scale N9.5, N8, N6.5, N5, N3.5 and N2 (published renotation). */
export const usualGreys: readonly number[] = [95.6, 81.3, 66.7, 51.6, 35.9, 20.5];
