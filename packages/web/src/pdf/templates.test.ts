import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import type { Lesson } from '@viaticum/contract';
import { toEnd } from '@viaticum/core/picture';
import {
  construct,
  type DrawnLine,
  drawLines,
  type Point,
  papers,
  sectorOf,
  straightCurve,
  tileSheets,
} from '@viaticum/core/transfer';
import { getDocument, OPS } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { motifPdf } from './motif.js';
import { crossPlaces, type Template, templatesPdf } from './templates.js';

const demo = JSON.parse(readFileSync(new URL('../../../server/assets/demo/balloons.json', import.meta.url), 'utf8')) as Lesson;
const lines: DrawnLine[] = toEnd(drawLines(demo, null));
const template = (rest: Partial<Template> = {}): Template => ({
  title: demo.title,
  canvas: demo.support,
  units: 'in',
  layers: [{ name: 'all', curves: lines.map((line) => line.curve), look: 'line' }],
  labels: [],
  paper: 'A4',
  overlapMm: 10,
  marginMm: 8,
  lineMm: 0.35,
  isMirrored: false,
  source: 'Picture: own picture.',
  reduced: false,
  ...rest,
});
const standardFontDataUrl = new URL('../../../../node_modules/pdfjs-dist/standard_fonts/', import.meta.url).pathname;
const open = async (templates: Template[]) => opened(await templatesPdf(templates));
const opened = async (data: Uint8Array) => {
  const warnings: string[] = [];
  const { warn } = console;
  console.warn = (...words: unknown[]) => warnings.push(words.join(' '));
  const pdf = await getDocument({ data, verbosity: 1, standardFontDataUrl }).promise;
  const pages = await Promise.all(Array.from({ length: pdf.numPages }, (_, i) => pdf.getPage(i + 1)));
  const read = await Promise.all(
    pages.map(async (page) => ({
      page,
      paths: await pathsOf(page),
      text: (await page.getTextContent()).items.map((item) => ('str' in item ? item.str : '')).join(' '),
    })),
  );
  console.warn = warn;
  return { read, warnings };
};

type Matrix = [number, number, number, number, number, number];
const PER_MM = 72 / 25.4;
/** Every point of every path of a page, in mm from its upper left corner. */
async function pathsOf(page: {
  getOperatorList: () => Promise<{ fnArray: number[]; argsArray: unknown[][] }>;
  view: number[];
}): Promise<Point[][]> {
  const { fnArray, argsArray } = await page.getOperatorList();
  const height = (page.view[3] as number) / PER_MM;
  let now: Matrix = [1, 0, 0, 1, 0, 0];
  const stack: Matrix[] = [];
  const out: Point[][] = [];
  fnArray.forEach((operator, i) => {
    const args = argsArray[i] as unknown[];
    if (operator === OPS.save) stack.push(now);
    else if (operator === OPS.restore) now = stack.pop() ?? now;
    else if (operator === OPS.transform) {
      const [a, b, c, d, e, f] = args as Matrix;
      const [A, B, C, D, E, F] = now;
      now = [A * a + C * b, B * a + D * b, A * c + C * d, B * c + D * d, A * e + C * f + E, B * e + D * f + F];
    } else if (operator === OPS.constructPath) {
      const data = (args[1] as unknown[])[0] as Float32Array | null;
      if (!data) return;
      const points: Point[] = [];
      // 0 move, 1 line, 2 curve, 4 close: as pdfjs 5 packs them.
      for (let k = 0; k < data.length; ) {
        const kind = data[k++] as number;
        const count = kind === 2 ? 3 : kind === 4 ? 0 : 1;
        for (let n = 0; n < count; n++) {
          const [x, y] = [data[k++] as number, data[k++] as number];
          points.push([(now[0] * x + now[2] * y + now[4]) / PER_MM, height - (now[1] * x + now[3] * y + now[5]) / PER_MM]);
        }
      }
      out.push(points);
    }
  });
  return out;
}

describe('templates at true size, read back with another program', () => {
  it('every mark lies within 0.01 mm of where it should be on its sheet', async () => {
    const marks: Point[] = [
      [0, 0],
      [203.2, 254],
      [406.4, 508],
      [37.123, 411.987],
      [250.5, 7.25],
    ];
    const sheets = tileSheets(demo.support, { ...papers.A4, marginMm: 8 }, 10);
    const layers = [{ name: 'marks', curves: marks.map((p) => straightCurve([p, [p[0] + 3, p[1] + 2]])), look: 'line' as const }];
    const { read } = await open([template({ layers })]);
    let seen = 0;
    sheets.sheets.forEach((window, i) => {
      const points = (read[i + 1] as (typeof read)[0]).paths.flat();
      for (const [x, y] of marks) {
        if (x < window.xMm || y < window.yMm || x > window.xMm + window.widthMm || y > window.yMm + window.heightMm) continue;
        const [px, py] = [x - window.xMm + 8, y - window.yMm + 8];
        const near = Math.min(...points.map(([qx, qy]) => Math.hypot(qx - px, qy - py)));
        expect(near).toBeLessThan(0.01);
        seen++;
      }
    });
    expect(seen).toBeGreaterThanOrEqual(marks.length);
  });
  it('a motif: one sector and all of it lie within 0.05 mm of where they should be', async () => {
    const one = {
      ...{ id: 'm', kind: 'motif' as const, at: [203.2, 254] as Point, parts: 12, startDeg: -90 },
      rings: [
        { unit: 'leaf' as const, fromMm: 25.4, toMm: 88.9, widthMm: 15.875 },
        { unit: 'drop' as const, fromMm: 88.9, toMm: 139.7, widthMm: 22.225, between: true },
      ],
    };
    const near = (points: readonly Point[], [x, y]: Point) => Math.min(...points.map(([px, py]) => Math.hypot(px - x, py - y)));
    const sector = (await opened(await motifPdf(demo, one, true))).read.slice(1).flatMap(({ paths }) => paths.flat());
    // Ten mm of margin and four around the sector.
    for (const [x, y] of sectorOf(one).lines.flat()) expect(near(sector, [x + 14, y + 14])).toBeLessThan(0.05);
    const { read } = await opened(await motifPdf(demo, one, false));
    const sheets = tileSheets(demo.support, { ...papers.A4, marginMm: 10 }, 10).sheets;
    let seen = 0;
    for (const [x, y] of construct(demo, one).lines.map((curve) => curve[0] as Point))
      sheets.forEach((window, i) => {
        if (x < window.xMm || y < window.yMm || x > window.xMm + window.widthMm || y > window.yMm + window.heightMm) return;
        expect(near((read[i + 1] as (typeof read)[0]).paths.flat(), [x - window.xMm + 10, y - window.yMm + 10])).toBeLessThan(
          0.05,
        );
        seen++;
      });
    expect(seen).toBeGreaterThanOrEqual(24);
  });
  it('each tile holds all its curves, and all tiles together all of the drawing', async () => {
    const { read } = await open([template()]);
    const sheets = tileSheets(demo.support, { ...papers.A4, marginMm: 8 }, 10).sheets;
    for (const [i, window] of sheets.entries()) {
      const wanted = lines.filter(({ curve }) =>
        curve.some(
          ([x, y], k) =>
            k % 3 === 0 &&
            x > window.xMm &&
            y > window.yMm &&
            x < window.xMm + window.widthMm &&
            y < window.yMm + window.heightMm,
        ),
      );
      const firsts = (read[i + 1] as (typeof read)[0]).paths.map((path) => path[0]);
      for (const { curve } of wanted) {
        const [x, y] = curve[0] as Point;
        expect(firsts.some((p) => p && Math.hypot(p[0] - (x - window.xMm + 8), p[1] - (y - window.yMm + 8)) < 0.02)).toBe(true);
      }
    }
  });
  it.each(['A4', 'A3', 'Letter'] as const)(
    'page boxes are those of %s, one cover and one page a sheet, opened without a warning',
    async (paper) => {
      const { read, warnings } = await open([template({ paper })]);
      const { landscape, sheets } = tileSheets(demo.support, { ...papers[paper], marginMm: 8 }, 10);
      expect(read).toHaveLength(sheets.length + 1);
      for (const { page } of read.slice(1)) {
        const [, , w, h] = page.view as [number, number, number, number];
        const [across, down] = landscape
          ? [papers[paper].heightMm, papers[paper].widthMm]
          : [papers[paper].widthMm, papers[paper].heightMm];
        expect(w / PER_MM).toBeCloseTo(across, 3);
        expect(h / PER_MM).toBeCloseTo(down, 3);
      }
      expect(warnings).toEqual([]);
    },
  );
  it('the bars are 100 mm and 4 in long, and text is text', async () => {
    const { read } = await open([template({ isMirrored: true })]);
    const [cover] = read;
    const spans =
      cover?.paths
        .filter((path) => path.length === 2 || path.length === 3)
        .map((path) => [path[0], path.at(-1)])
        .map(([a, b]) => Math.hypot((a?.[0] ?? 0) - (b?.[0] ?? 0), (a?.[1] ?? 0) - (b?.[1] ?? 0))) ?? [];
    expect(spans.some((mm) => Math.abs(mm - 100) < 0.01)).toBe(true);
    expect(spans.some((mm) => Math.abs(mm - 101.6) < 0.01)).toBe(true);
    expect(cover?.text).toContain('Balloons over the terraces');
    expect(cover?.text).toContain('own picture');
    expect(cover?.text).toContain('mirrored');
    expect(read[1]?.text).toContain('A1');
  });
  it('mirrored, what was on the left is on the right', async () => {
    const layers = [
      {
        name: 'mark',
        curves: [
          straightCurve([
            [10, 20],
            [12, 20],
          ]),
        ],
        look: 'line' as const,
      },
    ];
    const { read } = await open([template({ layers, isMirrored: true, paper: 'A3' })]);
    const sheets = tileSheets(demo.support, { ...papers.A3, marginMm: 8 }, 10);
    const i = sheets.sheets.findIndex((one) => one.xMm + one.widthMm > 400 && one.yMm === 0);
    const window = sheets.sheets[i] as (typeof sheets.sheets)[0];
    const near = Math.min(...(read[i + 1]?.paths.flat() ?? []).map(([x, y]) => Math.hypot(x - (396.4 - window.xMm + 8), y - 28)));
    expect(near).toBeLessThan(0.01);
  });
  it('crosses lie in the strips that two sheets share, on both, and never off the canvas', () => {
    const sheets = tileSheets(demo.support, { ...papers.A4, marginMm: 8 }, 10);
    const places = crossPlaces(sheets, 10);
    expect(places.length).toBeGreaterThan(8);
    for (const {
      at: [x, y],
      on,
    } of places) {
      expect(x > 0 && y > 0 && x < 406.4 && y < 508).toBe(true);
      for (const i of on) {
        const one = sheets.sheets[i] as (typeof sheets.sheets)[0];
        expect(x >= one.xMm && x <= one.xMm + one.widthMm && y >= one.yMm && y <= one.yMm + one.heightMm).toBe(true);
      }
    }
  });
  it('one sheet, smaller, holds everything at the scale it names; several sizes go into one file', async () => {
    const { read } = await open([
      template({ reduced: true }),
      template({ canvas: { widthMm: 203.2, heightMm: 254 }, paper: 'A3' }),
    ]);
    expect(read).toHaveLength(3);
    const [one] = read;
    const scale = Number(/1 : ([\d.]+)/.exec(one?.text ?? '')?.[1]);
    const edge = one?.paths.find((path) => path.length >= 4) ?? [];
    const width = Math.max(...edge.map(([x]) => x)) - Math.min(...edge.map(([x]) => x));
    expect(width * scale).toBeCloseTo(406.4, -0.5);
  });
  it('30 × 30 in is fifteen sheets and a cover; a canvas of 1 cm and one of 5 m come out too', async () => {
    expect((await open([template({ canvas: { widthMm: 762, heightMm: 762 } })])).read).toHaveLength(16);
    expect((await open([template({ canvas: { widthMm: 10, heightMm: 10 } })])).read).toHaveLength(2);
    expect((await open([template({ canvas: { widthMm: 5000, heightMm: 400 }, layers: [] })])).read.length).toBeGreaterThan(40);
    await expect(templatesPdf([template({ marginMm: 110 })])).rejects.toThrow(/not wider than the overlap/);
  });
});
