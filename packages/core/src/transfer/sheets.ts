import { say } from '@viaticum/contract';

export type Sheets = {
  landscape: boolean;
  columns: number;
  rows: number;
  /** Printable windows on the canvas, in mm, row by row. */
  sheets: { xMm: number; yMm: number; widthMm: number; heightMm: number }[];
};

/** Paper of the standards: ISO 216, and Letter (8.5 × 11 in). Sizes in mm, upright. */
export const papers = {
  A4: { widthMm: 210, heightMm: 297 },
  A3: { widthMm: 297, heightMm: 420 },
  Letter: { widthMm: 215.9, heightMm: 279.4 },
} as const;
export type PaperName = keyof typeof papers;

/**
 * The fewest sheets on which a canvas can be printed at true size, tiled with an overlap: both ways to lay the paper are tried,
 * and for the same number the one with less paper left over in its narrowest part. The tiles are balanced: all columns are equally
 * wide, and so are all rows, so that none is nearly empty. Throws where paper less margins is not wider than the overlap.
 */
export function tileSheets(
  canvas: { widthMm: number; heightMm: number },
  paper: { widthMm: number; heightMm: number; marginMm: number },
  overlapMm: number,
): Sheets {
  if (!(canvas.widthMm > 0 && canvas.heightMm > 0)) throw new RangeError(say('The canvas needs a width and a height.'));
  if (!(overlapMm >= 0)) throw new RangeError(say('An overlap is 0 mm or more.'));
  const tried = [false, true].flatMap((landscape) => {
    const [across, down] = landscape ? [paper.heightMm, paper.widthMm] : [paper.widthMm, paper.heightMm];
    const [width, height] = [across - 2 * paper.marginMm, down - 2 * paper.marginMm];
    if (width <= overlapMm || height <= overlapMm) return [];
    const columns = parts(canvas.widthMm, width, overlapMm);
    const rows = parts(canvas.heightMm, height, overlapMm);
    const [tileWidth, tileHeight] = [tile(canvas.widthMm, columns, overlapMm), tile(canvas.heightMm, rows, overlapMm)];
    const spare = Math.min(width - tileWidth, height - tileHeight);
    return [{ landscape, columns, rows, tileWidth, tileHeight, spare }];
  });
  const [best] = tried.sort((a, b) => a.columns * a.rows - b.columns * b.rows || b.spare - a.spare);
  if (!best)
    throw new RangeError(
      say('The printable part of this paper is not wider than the overlap. Choose larger paper or less overlap.'),
    );
  const { landscape, columns, rows, tileWidth, tileHeight } = best;
  return {
    landscape,
    columns,
    rows,
    sheets: Array.from({ length: columns * rows }, (_, i) => ({
      xMm: (i % columns) * (tileWidth - overlapMm),
      yMm: Math.floor(i / columns) * (tileHeight - overlapMm),
      widthMm: tileWidth,
      heightMm: tileHeight,
    })),
  };
}

const parts = (whole: number, part: number, overlap: number): number =>
  Math.max(1, Math.ceil((whole - overlap) / (part - overlap) - 1e-9));
const tile = (whole: number, count: number, overlap: number): number => (whole + (count - 1) * overlap) / count;
