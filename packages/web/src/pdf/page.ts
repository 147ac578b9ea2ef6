import { type PDFFont, type PDFPage, rgb } from 'pdf-lib';

/** PDF user units in a millimetre (ISO 32000: 1/72 in). */
export const MM = 72 / 25.4;
export const grey = (value: number) => rgb(value, value, value);
/** Only letters that the PDF's own font has. */
export const plain = (text: string): string =>
  text
    .replace(/[‘’]/g, "'")
    .replace(/[“”]/g, '"')
    .replace(/×/g, 'x')
    .replace(/[^\x20-\x7e\xa0-\xff]/g, '');

/** A text on a page, its place in mm from the upper left corner. */
export function put(page: PDFPage, font: PDFFont, text: string, xMm: number, yMm: number, size = 10, tone = 0.12): void {
  page.drawText(plain(text), { x: xMm * MM, y: page.getHeight() - yMm * MM, size, font, color: grey(tone) });
}

/** A line of a page, in mm from the upper left corner. */
export function rule(
  page: PDFPage,
  from: readonly [number, number],
  to: readonly [number, number],
  widthMm = 0.25,
  tone = 0.1,
): void {
  const at = ([x, y]: readonly [number, number]) => ({ x: x * MM, y: page.getHeight() - y * MM });
  page.drawLine({ start: at(from), end: at(to), thickness: widthMm * MM, color: grey(tone) });
}

/** A bar of a true length to lay a ruler on. */
export function bar(page: PDFPage, font: PDFFont, xMm: number, yMm: number, lengthMm: number, text: string): void {
  rule(page, [xMm, yMm], [xMm + lengthMm, yMm], 0.3);
  for (const x of [xMm, xMm + lengthMm]) rule(page, [x, yMm - 1.5], [x, yMm + 1.5], 0.3);
  put(page, font, text, xMm + lengthMm + 3, yMm + 1, 8, 0.35);
}
