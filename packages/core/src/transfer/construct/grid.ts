import { say } from '@viaticum/contract';
import { letters, line, said, saidAlong, type Working } from './tools.js';

const lengthRatio = (ratio: number): string => String(Math.round(ratio * 100) / 100);
const inner = (size: number, parts: number): number[] => Array.from({ length: parts - 1 }, (_, i) => ((i + 1) * size) / parts);

/**
 * Cells on the canvas and on the printed picture, with letters and numbers; halves and diagonals within the cells where they are asked for. Marks
 * are told as places along one ruler. Canvases of other sizes, which variants of the lesson have, get numbers of their own.
 */
export const grid: Working<'grid'> = (lesson, { columns, rows, ratio, halves, crossed }, out) => {
  const { widthMm, heightMm } = lesson.support;
  const [w, h] = [widthMm / columns, heightMm / rows];
  for (const x of inner(widthMm, columns)) out.lines.push(line([x, 0], [x, heightMm]));
  for (const y of inner(heightMm, rows)) out.lines.push(line([0, y], [widthMm, y]));
  if (halves) {
    for (let i = 0; i < columns; i++) out.second.push(line([(i + 0.5) * w, 0], [(i + 0.5) * w, heightMm]));
    for (let k = 0; k < rows; k++) out.second.push(line([0, (k + 0.5) * h], [widthMm, (k + 0.5) * h]));
  }
  if (crossed)
    for (let i = 0; i < columns; i++)
      for (let k = 0; k < rows; k++) {
        const [x0, y0, x1, y1] = [i * w, k * h, (i + 1) * w, (k + 1) * h];
        out.second.push(line([x0, y0], [x1, y1]), line([x1, y0], [x0, y1]));
      }
  for (let i = 0; i < columns; i++) out.labels.push({ at: [(i + 0.5) * w, 0], text: letters(i) });
  for (let k = 0; k < rows; k++) out.labels.push({ at: [0, (k + 0.5) * h], text: String(k + 1) });
  const marks = (width: number, height: number): string => {
    const across = saidAlong(lesson, inner(width, columns));
    const down = saidAlong(lesson, inner(height, rows));
    if (columns === 1) return say`from the top edge at ${down} along both sides`;
    if (rows === 1) return say`from the left edge at ${across} along the top and bottom`;
    return say`from the left edge at ${across} along the top and bottom, from the top edge at ${down} along both sides`;
  };
  if (columns > 1 || rows > 1)
    out.how.push(
      say`On the canvas lay the ruler with its zero at the edge and mark ${marks(widthMm, heightMm)}; join the marks.`,
      say`On the printed picture, ${said(lesson, widthMm / ratio)} wide, mark ${marks(widthMm / ratio, heightMm / ratio)}: 1 there is ${lengthRatio(ratio)} here.`,
    );
  out.how.push(
    say(
      'Write the same letters and numbers along both edges, and copy one cell at a time: where does a line enter, where does it leave?',
    ),
  );
  if (halves) out.how.push(say('Halve a cell by eye where much happens in it: does the line pass above or below its middle?'));
  if (crossed)
    out.how.push(say('Diagonals of a cell cross in its middle and need no ruler: on which side of them does a corner lie?'));
  if (Math.abs(w - h) >= 0.05) out.how.push(say('The cells are not square on this canvas. Count along the side you measure.'));
  for (const { name, support } of lesson.variants) {
    if (!support) continue;
    out.how.push(
      say`${name}, ${said(lesson, support.widthMm)} × ${said(lesson, support.heightMm)}: mark ${marks(support.widthMm, support.heightMm)}.`,
    );
  }
};
