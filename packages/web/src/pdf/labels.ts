import { PDFDocument, type PDFFont, rgb, StandardFonts } from 'pdf-lib';
import { labelWords as w } from '../words/labels.js';
import { grey, MM, plain, put } from './page.js';

export type Label = { name: string; rgb: string; words: string; steps: number[]; keepsDays: number };

/** A sheet of labels, 21 on A4 (common in trade): each 63.5 × 38.1 mm, in three columns. */
export const labelSheet = {
  widthMm: 210,
  heightMm: 297,
  columns: 3,
  rows: 7,
  labelMm: [63.5, 38.1],
  leftMm: 7.2,
  topMm: 15.15,
  gapMm: 2.55,
} as const;
/** Where a label lies on its sheet, by its place, mm from the upper left corner. */
export function labelAt(place: number): { x: number; y: number } {
  const { columns, labelMm, leftMm, topMm, gapMm } = labelSheet;
  return { x: leftMm + (place % columns) * (labelMm[0] + gapMm), y: topMm + Math.floor(place / columns) * labelMm[1] };
}

const colour = (css: string) => {
  const [r = 0, g = 0, b = 0] = (css.match(/\d+(\.\d+)?/g) ?? []).map(Number);
  const hex = css.match(/^#(..)(..)(..)$/);
  return hex
    ? rgb(...(hex.slice(1).map((one) => Number.parseInt(one, 16) / 255) as [number, number, number]))
    : rgb(r / 255, g / 255, b / 255);
};
/** As much of a text as fits. */
function fitted(font: PDFFont, text: string, size: number, widthMm: number): string {
  let out = plain(text);
  while (out.length > 1 && font.widthOfTextAtSize(out, size) > widthMm * MM) out = `${out.slice(0, -2).trimEnd()}.`;
  return out;
}

/** Labels for portions of mixes, to be printed at true size on sheets of 21. */
export async function labelsPdf(title: string, labels: readonly Label[]): Promise<Uint8Array> {
  const pdf = await PDFDocument.create();
  pdf.setTitle(plain(w.title(title)));
  const [font, bold] = [await pdf.embedFont(StandardFonts.Helvetica), await pdf.embedFont(StandardFonts.HelveticaBold)];
  const each = labelSheet.columns * labelSheet.rows;
  const [labelWidth, labelHeight] = labelSheet.labelMm;
  for (let from = 0; from < labels.length; from += each) {
    const page = pdf.addPage([labelSheet.widthMm * MM, labelSheet.heightMm * MM]);
    labels.slice(from, from + each).forEach((label, place) => {
      const { x, y } = labelAt(place);
      const square = (left: number, fill: ReturnType<typeof rgb> | null) =>
        page.drawRectangle({
          x: (x + left) * MM,
          y: page.getHeight() - (y + 15) * MM,
          width: 11 * MM,
          height: 11 * MM,
          borderColor: grey(0.6),
          borderWidth: 0.2 * MM,
          ...(fill && { color: fill }),
        });
      square(3, colour(label.rgb));
      square(15, null);
      put(page, font, w.painted, x + 27, y + 14, 6.5, 0.4);
      put(page, bold, fitted(bold, label.name, 11, labelWidth - 30), x + 27, y + 8, 11);
      put(page, font, fitted(font, label.words, 7.5, labelWidth - 6), x + 3, y + 20, 7.5);
      put(page, font, fitted(font, w.steps(label.steps), 7.5, labelWidth - 6), x + 3, y + 24.5, 7.5);
      put(page, font, w.made, x + 3, y + 29, 7.5);
      put(page, font, w.keeps(label.keepsDays), x + 3, y + labelHeight - 4, 7.5);
    });
  }
  if (labels.length === 0) pdf.addPage([labelSheet.widthMm * MM, labelSheet.heightMm * MM]);
  return pdf.save();
}
