import { describe, expect, it } from '@jest/globals';
import { band, card, greyPlaces, paperPlaces, places, stripes } from '@viaticum/core/drawdown';
import { PDFDocument } from 'pdf-lib';
import { drawdownCard } from './drawdown-card.js';
import { MM } from './page.js';

describe('the card for drawdowns', () => {
  it('is one sheet of A4 at true size', async () => {
    const pdf = await PDFDocument.load(await drawdownCard());
    expect(pdf.getPageCount()).toBe(1);
    const { width, height } = (pdf.getPages()[0] as ReturnType<PDFDocument['getPages']>[number]).getSize();
    expect([width / MM, height / MM].map(Math.round)).toEqual([card.widthMm, card.heightMm]);
  });
  it('what is read lies well inside what is painted, and bare paper is read where nothing is', () => {
    const inside = (name: keyof typeof places, stripe: { x: number; width: number }) => {
      const { x, width } = places[name];
      expect(x).toBeGreaterThan(stripe.x + 4);
      expect(x + width).toBeLessThan(stripe.x + stripe.width - 4);
    };
    inside('thinOverBlack', stripes.thin);
    inside('thickOverWhite', stripes.thick);
    inside('tint', stripes.tint);
    expect(places.black.x).toBeGreaterThan(stripes.thin.x + stripes.thin.width);
    expect(places.black.x + places.black.width).toBeLessThan(stripes.thick.x);
    for (const paper of paperPlaces) {
      const isOnBand =
        paper.x + paper.width > band.x &&
        paper.x < band.x + band.width &&
        paper.y + paper.height > band.y &&
        paper.y < band.y + 2 * band.height;
      expect(isOnBand).toBe(false);
    }
    expect(greyPlaces(6)).toHaveLength(6);
  });
});
