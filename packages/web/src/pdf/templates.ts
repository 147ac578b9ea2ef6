import { type Curve, type PaperName, type Point, papers, type Sheets, tileSheets } from '@viaticum/core/transfer';
import { sizeInWords } from '@viaticum/core/units';
import {
  appendBezierCurve,
  clip,
  concatTransformationMatrix,
  endPath,
  LineCapStyle,
  LineJoinStyle,
  lineTo,
  moveTo,
  PDFDocument,
  type PDFFont,
  type PDFOperator,
  type PDFPage,
  popGraphicsState,
  pushGraphicsState,
  rectangle,
  StandardFonts,
  setDashPattern,
  setLineCap,
  setLineJoin,
  setLineWidth,
  setStrokingGrayscaleColor,
  stroke,
} from 'pdf-lib';
import { printWords as w } from '../words/transfers.js';
import { bar, MM, plain, put, rule } from './page.js';

export type PrintLayer = { name: string; curves: readonly Curve[]; look: 'line' | 'help' | 'second' };
/** One template: a canvas, what is drawn on it, and the paper. Curves and labels in mm of this canvas. */
export type Template = {
  title: string;
  canvas: { widthMm: number; heightMm: number };
  units: 'in' | 'cm';
  layers: readonly PrintLayer[];
  labels: readonly { at: Point; text: string }[];
  paper: PaperName;
  overlapMm: number;
  marginMm: number;
  lineMm: number;
  isMirrored: boolean;
  /** Whose picture it is, and by what permission it is used. */
  source: string;
  /** All of it on one sheet, so many times smaller; null: at true size. */
  reduced: boolean;
};

const CROSS_MM = 4;
const looks = {
  line: { share: 1, grey: 0, dash: [] },
  help: { share: 0.5, grey: 0.55, dash: [] },
  second: { share: 0.8, grey: 0.3, dash: [3, 2] },
} as const;

/**
 * Templates as one PDF (ISO 32000), at true size: a first page with the map of sheets, how to print and two bars to check the printer;
 * then the tiles with their overlap, registration crosses and the canvas's edge; or all of it on one sheet, smaller. Throws the sentence of
 * `tileSheets` where the paper is too small.
 */
export async function templatesPdf(templates: readonly Template[]): Promise<Uint8Array> {
  const pdf = await PDFDocument.create();
  const [first] = templates;
  pdf.setTitle(plain(first ? `${first.title}: ${w.pdfTitle}` : w.pdfTitle));
  pdf.setCreator('Viaticum');
  const font = await pdf.embedFont(StandardFonts.Helvetica);
  for (const template of templates) {
    const turned = template.isMirrored ? mirrored(template) : template;
    if (template.reduced) reducedPage(pdf, font, turned);
    else trueSize(pdf, font, turned);
  }
  return pdf.save();
}

function mirrored(template: Template): Template {
  const { widthMm } = template.canvas;
  const turn = ([x, y]: Point): Point => [widthMm - x, y];
  return {
    ...template,
    layers: template.layers.map((layer) => ({ ...layer, curves: layer.curves.map((curve) => curve.map(turn)) })),
    labels: template.labels.map((label) => ({ ...label, at: turn(label.at) })),
  };
}

const letter = (n: number): string => String.fromCharCode(65 + (n % 26)) + (n >= 26 ? String(Math.floor(n / 26)) : '');
const nameOf = (i: number, columns: number): string => `${letter(i % columns)}${Math.floor(i / columns) + 1}`;

function trueSize(pdf: PDFDocument, font: PDFFont, template: Template): void {
  const { canvas, paper, marginMm, overlapMm } = template;
  const sheets = tileSheets(canvas, { ...papers[paper], marginMm }, overlapMm);
  coverPage(pdf, font, template, sheets);
  const size = pageSize(template, sheets.landscape);
  sheets.sheets.forEach((window, i) => {
    const page = pdf.addPage([size.widthMm * MM, size.heightMm * MM]);
    const place: Place = { xMm: marginMm - window.xMm, yMm: marginMm - window.yMm, scale: 1 };
    drawn(page, template, place, window);
    crosses(page, template, sheets, i, place);
    labelled(page, font, template, place, window);
    const name = nameOf(i, sheets.columns);
    put(
      page,
      font,
      `${plain(template.title)} · ${name}${template.isMirrored ? ` · ${w.mirrored}` : ''}`,
      marginMm,
      Math.max(4, marginMm - 2),
      8,
      0.35,
    );
    put(page, font, template.source, marginMm, size.heightMm - Math.max(2, marginMm - 5), 7, 0.45);
  });
}

const pageSize = ({ paper }: Template, isLandscape: boolean) => {
  const { widthMm, heightMm } = papers[paper];
  return isLandscape ? { widthMm: heightMm, heightMm: widthMm } : { widthMm, heightMm };
};

/** Where the canvas lies on a page: its upper left corner in mm from the page's, and how much smaller. */
type Place = { xMm: number; yMm: number; scale: number };
type Window = { xMm: number; yMm: number; widthMm: number; heightMm: number };

/** All lines that meet a window of the canvas, in mm of the canvas under one matrix, clipped to the window. */
function drawn(page: PDFPage, { canvas, layers, lineMm }: Template, { xMm, yMm, scale }: Place, window: Window): void {
  const k = MM * scale;
  const operators: PDFOperator[] = [
    pushGraphicsState(),
    concatTransformationMatrix(k, 0, 0, -k, xMm * MM, page.getHeight() - yMm * MM),
    rectangle(window.xMm, window.yMm, window.widthMm, window.heightMm),
    clip(),
    endPath(),
    setLineCap(LineCapStyle.Round),
    setLineJoin(LineJoinStyle.Round),
    // The canvas's edge.
    setStrokingGrayscaleColor(0.45),
    setLineWidth((lineMm * 0.7) / scale),
    setDashPattern([4 / scale, 2 / scale], 0),
    rectangle(0, 0, canvas.widthMm, canvas.heightMm),
    stroke(),
  ];
  for (const { curves, look } of layers) {
    const { share, grey: tone, dash } = looks[look];
    operators.push(
      setStrokingGrayscaleColor(tone),
      setLineWidth((lineMm * share) / scale),
      setDashPattern(
        dash.map((mm) => mm / scale),
        0,
      ),
    );
    for (const curve of curves) if (meets(curve, window)) operators.push(...strokeOf(curve));
  }
  page.pushOperators(...operators, popGraphicsState());
}

function strokeOf(curve: Curve): PDFOperator[] {
  const out: PDFOperator[] = [moveTo(...(curve[0] as Point))];
  for (let i = 1; i + 2 < curve.length; i += 3) {
    const [a, b, c, d] = [curve[i - 1], curve[i], curve[i + 1], curve[i + 2]] as [Point, Point, Point, Point];
    out.push(isStraight(a, b, c, d) ? lineTo(...d) : appendBezierCurve(...b, ...c, ...d));
  }
  return [...out, stroke()];
}
const isStraight = (a: Point, b: Point, c: Point, d: Point): boolean =>
  [b, c].every(
    (p) =>
      Math.abs((d[0] - a[0]) * (p[1] - a[1]) - (d[1] - a[1]) * (p[0] - a[0])) <
      1e-9 * (1 + (d[0] - a[0]) ** 2 + (d[1] - a[1]) ** 2),
  );

const PAST_MM = 1;
function meets(curve: Curve, { xMm, yMm, widthMm, heightMm }: Window): boolean {
  let [x0, y0, x1, y1] = [Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (const [x, y] of curve) {
    x0 = Math.min(x0, x);
    y0 = Math.min(y0, y);
    x1 = Math.max(x1, x);
    y1 = Math.max(y1, y);
  }
  return x0 <= xMm + widthMm + PAST_MM && x1 >= xMm - PAST_MM && y0 <= yMm + heightMm + PAST_MM && y1 >= yMm - PAST_MM;
}

/** The places of registration crosses: two in every strip that two sheets share. Never off the canvas. */
export function crossPlaces({ sheets, columns, rows }: Sheets, overlapMm: number): { at: Point; on: [number, number] }[] {
  const out: { at: Point; on: [number, number] }[] = [];
  sheets.forEach((one, i) => {
    const [column, row] = [i % columns, Math.floor(i / columns)];
    for (const share of [0.25, 0.75]) {
      if (column + 1 < columns)
        out.push({ at: [one.xMm + one.widthMm - overlapMm / 2, one.yMm + one.heightMm * share], on: [i, i + 1] });
      if (row + 1 < rows)
        out.push({ at: [one.xMm + one.widthMm * share, one.yMm + one.heightMm - overlapMm / 2], on: [i, i + columns] });
    }
  });
  return out;
}

function crosses(page: PDFPage, template: Template, sheets: Sheets, sheet: number, { xMm, yMm }: Place): void {
  const half = Math.min(CROSS_MM, template.overlapMm * 0.4);
  for (const { at, on } of crossPlaces(sheets, template.overlapMm)) {
    if (!on.includes(sheet) || half <= 0) continue;
    const [x, y] = [at[0] + xMm, at[1] + yMm];
    rule(page, [x - half, y], [x + half, y], 0.15);
    rule(page, [x, y - half], [x, y + half], 0.15);
  }
}

function labelled(page: PDFPage, font: PDFFont, { labels }: Template, { xMm, yMm, scale }: Place, window: Window): void {
  for (const { at, text } of labels) {
    const [x, y] = [Math.max(at[0], 1), Math.max(at[1], 4)];
    if (x < window.xMm || y < window.yMm || x > window.xMm + window.widthMm - 2 || y > window.yMm + window.heightMm) continue;
    put(page, font, text, xMm + x * scale + 1, yMm + y * scale + 1, 9, 0.35);
  }
}

/** The first page: how to print, the map of sheets, two bars to measure, and whose picture it is. */
function coverPage(pdf: PDFDocument, font: PDFFont, template: Template, sheets: Sheets): void {
  const size = pageSize(template, false);
  const page = pdf.addPage([size.widthMm * MM, size.heightMm * MM]);
  const left = 15;
  put(page, font, template.title, left, 20, 16);
  const { widthMm, heightMm } = template.canvas;
  put(
    page,
    font,
    w.covers(sizeInWords(widthMm, heightMm, template.units), sheets.sheets.length, template.paper),
    left,
    28,
    10,
    0.3,
  );
  const how = w.how(template.overlapMm, template.isMirrored);
  for (const [i, line] of how.entries()) put(page, font, line, left, 38 + i * 6, 10);
  const top = 38 + how.length * 6 + 8;
  bar(page, font, left, top, 100, '100 mm');
  bar(page, font, left, top + 10, 4 * 25.4, '4 in');
  const scale = Math.min((size.widthMm - 2 * left) / widthMm, (size.heightMm - top - 50) / heightMm, 0.5);
  const place: Place = { xMm: left, yMm: top + 26, scale };
  drawn(page, { ...template, lineMm: 0.2 }, place, { xMm: 0, yMm: 0, widthMm, heightMm });
  sheets.sheets.forEach((one, i) => {
    const [x, y, w1, h1] = [place.xMm + one.xMm * scale, place.yMm + one.yMm * scale, one.widthMm * scale, one.heightMm * scale];
    for (const [from, to] of [
      [
        [x, y],
        [x + w1, y],
      ],
      [
        [x, y + h1],
        [x + w1, y + h1],
      ],
      [
        [x, y],
        [x, y + h1],
      ],
      [
        [x + w1, y],
        [x + w1, y + h1],
      ],
    ] as [[number, number], [number, number]][])
      rule(page, from, to, 0.15, 0.5);
    put(page, font, nameOf(i, sheets.columns), x + w1 / 2 - 2, y + h1 / 2 + 1.5, 11, 0.3);
  });
  put(page, font, template.source, left, size.heightMm - 8, 8, 0.35);
}

/** All of it on one sheet with a band for its words; how much smaller it is stands beside it. */
function reducedPage(pdf: PDFDocument, font: PDFFont, template: Template): void {
  const { widthMm, heightMm } = template.canvas;
  const size = pageSize(template, widthMm > heightMm);
  const page = pdf.addPage([size.widthMm * MM, size.heightMm * MM]);
  const [left, top] = [Math.max(8, template.marginMm), 22];
  const scale = Math.min((size.widthMm - 2 * left) / widthMm, (size.heightMm - top - 30) / heightMm);
  const place: Place = { xMm: left, yMm: top, scale };
  drawn(page, template, place, { xMm: 0, yMm: 0, widthMm, heightMm });
  labelled(page, font, template, place, { xMm: -5, yMm: -5, widthMm: widthMm + 10, heightMm: heightMm + 10 });
  put(page, font, `${plain(template.title)}${template.isMirrored ? ` · ${w.mirrored}` : ''}`, left, 10, 12);
  put(page, font, w.reducedTo(sizeInWords(widthMm, heightMm, template.units), Math.round(100 / scale) / 100), left, 16, 9, 0.35);
  bar(page, font, left, size.heightMm - 15, 100, '100 mm');
  put(page, font, template.source, left, size.heightMm - 6, 8, 0.35);
  page.setTrimBox(0, 0, size.widthMm * MM, size.heightMm * MM);
}
