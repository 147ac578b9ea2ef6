import { describe, expect, it } from '@jest/globals';
import { papers, tileSheets } from './sheets.js';

const tiled = (widthMm: number, heightMm: number, paper: keyof typeof papers = 'A4', overlapMm = 10, marginMm = 8) =>
  tileSheets({ widthMm, heightMm }, { ...papers[paper], marginMm }, overlapMm);

describe('sheets', () => {
  it('sizes of paper are those of ISO 216 and of Letter (8.5 × 11 in)', () => {
    expect(papers.A4).toEqual({ widthMm: 210, heightMm: 297 });
    expect(papers.A3).toEqual({ widthMm: 297, heightMm: 420 });
    expect(papers.Letter.widthMm).toBeCloseTo(8.5 * 25.4, 9);
    expect(papers.Letter.heightMm).toBeCloseTo(11 * 25.4, 9);
  });
  it.each([
    [406.4, 508],
    [762, 762],
    [200, 250],
    [10, 10],
    [5000, 3000],
    [297, 420],
  ])('tiles of %d × %d mm cover the canvas without a gap, overlap as asked, and fit on the paper', (w, h) => {
    for (const paper of ['A4', 'A3', 'Letter'] as const) {
      const { landscape, columns, rows, sheets } = tiled(w, h, paper);
      const [across, down] = landscape
        ? [papers[paper].heightMm, papers[paper].widthMm]
        : [papers[paper].widthMm, papers[paper].heightMm];
      expect(sheets).toHaveLength(columns * rows);
      for (const one of sheets) {
        expect(one.widthMm).toBeLessThanOrEqual(across - 16 + 1e-9);
        expect(one.heightMm).toBeLessThanOrEqual(down - 16 + 1e-9);
      }
      for (let k = 0; k < columns; k++) {
        const [here, next] = [sheets[k], sheets[k + 1]];
        if (k + 1 < columns) expect((here?.xMm ?? 0) + (here?.widthMm ?? 0) - (next?.xMm ?? 0)).toBeCloseTo(10, 9);
        else expect((here?.xMm ?? 0) + (here?.widthMm ?? 0)).toBeCloseTo(w, 9);
      }
      const last = sheets.at(-1);
      expect((last?.yMm ?? 0) + (last?.heightMm ?? 0)).toBeCloseTo(h, 9);
      expect(sheets[0]).toMatchObject({ xMm: 0, yMm: 0 });
      // No fewer sheets would do either way round: rounding up is the least by arithmetic.
      const least = Math.min(
        ...[
          [across, down],
          [down, across],
        ].map(
          ([a, d]) =>
            Math.max(1, Math.ceil((w - 10) / ((a as number) - 26) - 1e-9)) *
            Math.max(1, Math.ceil((h - 10) / ((d as number) - 26) - 1e-9)),
        ),
      );
      expect(columns * rows).toBe(least);
    }
  });
  it('30 × 30 in on A4 is 15 sheets', () => {
    expect(tiled(762, 762).sheets).toHaveLength(15);
  });
  it('a margin as wide as the paper, and a canvas of nothing, are refused in a sentence', () => {
    expect(() => tiled(400, 500, 'A4', 10, 105)).toThrow(/not wider than the overlap/);
    expect(() => tiled(0, 500)).toThrow(/width and a height/);
    expect(() => tiled(400, 500, 'A4', -1)).toThrow(/0 mm or more/);
  });
});
