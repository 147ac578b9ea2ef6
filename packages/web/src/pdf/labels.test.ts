import { describe, expect, it } from '@jest/globals';
import { PDFDocument } from 'pdf-lib';
import { labelAt, labelSheet, labelsPdf } from './labels.js';
import { MM } from './page.js';

const label = { name: 'low sky', rgb: 'rgb(240, 200, 180)', words: '12 white : 1 arylide yellow', steps: [4], keepsDays: 14 };

describe('labels', () => {
  it('lie on the sheet without leaving it or touching each other', () => {
    const places = Array.from({ length: 21 }, (_, k) => labelAt(k));
    for (const { x, y } of places) {
      expect(x).toBeGreaterThan(5);
      expect(x + labelSheet.labelMm[0]).toBeLessThan(labelSheet.widthMm - 5);
      expect(y + labelSheet.labelMm[1]).toBeLessThan(labelSheet.heightMm - 10);
    }
    expect(new Set(places.map(({ x, y }) => `${x} ${y}`)).size).toBe(21);
  });
  it('fill as many sheets of A4 as they need, at true size, whatever letters a name has', async () => {
    const odd = {
      ...label,
      name: 'Himmel über “Łódź” with a name that is far too long for its label 🎨',
      steps: [1, 2, 3, 14, 15, 16],
    };
    const pdf = await PDFDocument.load(await labelsPdf('A lesson', [...Array(21).fill(label), odd]));
    expect(pdf.getPageCount()).toBe(2);
    const { width, height } = (pdf.getPages()[0] as ReturnType<PDFDocument['getPages']>[number]).getSize();
    expect([width / MM, height / MM].map(Math.round)).toEqual([210, 297]);
    expect((await PDFDocument.load(await labelsPdf('none', []))).getPageCount()).toBe(1);
  });
});
