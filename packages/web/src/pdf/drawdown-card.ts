import { band, card, greyStrip, stripes } from '@viaticum/core/drawdown';
import { PDFDocument, type PDFFont, type PDFPage, rgb, StandardFonts } from 'pdf-lib';
import { words } from '../words/words.js';
import { bar, grey, MM, put, rule } from './page.js';

const w = words.paints.card;

/** The card for drawdowns (A4, to be printed at true size): a black band, places for two films, a tint and a grey step card. */
export async function drawdownCard(): Promise<Uint8Array> {
  const pdf = await PDFDocument.create();
  pdf.setTitle(w.title);
  const font = await pdf.embedFont(StandardFonts.Helvetica);
  const page = pdf.addPage([card.widthMm * MM, card.heightMm * MM]);
  put(page, font, w.title, 18, 22, 13);
  box(page, greyStrip);
  put(page, font, w.greys, greyStrip.x, greyStrip.y + greyStrip.height + 6, 8, 0.4);
  page.drawRectangle({
    x: band.x * MM,
    y: page.getHeight() - (band.y + band.height) * MM,
    width: band.width * MM,
    height: band.height * MM,
    color: rgb(0, 0, 0),
  });
  for (const [name, { x, width }] of Object.entries(stripes)) {
    const text = w.stripes[name as keyof typeof stripes];
    text.forEach((line, i) => {
      put(page, font, line, x, band.y - 8 + 4 * i, 8, 0.3);
    });
    brackets(page, x, width, band.y + band.height + 60);
  }
  w.steps.forEach((line, i) => {
    put(page, font, `${i + 1}. ${line}`, 18, 238 + 6 * i, 9);
  });
  scale(page, font);
  return pdf.save();
}

function box(page: PDFPage, { x, y, width, height }: typeof greyStrip): void {
  page.drawRectangle({
    x: x * MM,
    y: page.getHeight() - (y + height) * MM,
    width: width * MM,
    height: height * MM,
    borderColor: grey(0.7),
    borderWidth: 0.2 * MM,
  });
}

/** Where a stripe ends below, so that the whole of it is painted. */
function brackets(page: PDFPage, x: number, width: number, y: number): void {
  rule(page, [x, y], [x + width, y], 0.25, 0.6);
  for (const at of [x, x + width]) rule(page, [at, y - 3], [at, y], 0.25, 0.6);
}

const scale = (page: PDFPage, font: PDFFont): void => bar(page, font, 18, 288, 50, w.ruler);
