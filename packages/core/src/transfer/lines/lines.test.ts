import { beforeAll, describe, expect, it } from '@jest/globals';
import type { Lesson } from '@viaticum/contract';
import { toEnd } from '@viaticum/kernels/cooperative';
import { drawn } from '@viaticum/kernels/fixtures';
import { blur, labRaster, plane } from '@viaticum/kernels/raster';
import { carryOut, startHistory } from '../../document/index.js';
import { demoLesson, smallLesson } from '../../fixtures/lessons.js';
import { scene } from '../../fixtures/scenes.js';
import { distance, evenly, lengthOf, type Point } from '../../geometry/index.js';
import { type Curve, flattened } from '../bezier.js';
import {
  type DrawnLine,
  decidedLines,
  drawLines,
  fromLine,
  innerLines,
  middleOf,
  nodesIn,
  softened,
  upToAmount,
} from './index.js';

const dense = (curve: Curve): Point[] => evenly(flattened(curve, 0.5), 0.5);
/** The true border of a scene, and the share of it near lines, and of lines far from it. */
function against(lines: readonly DrawnLine[], truth: ArrayLike<number>, width: number, height: number, mmPerPx: number) {
  const border: Point[] = [];
  for (let y = 0; y < height - 1; y++)
    for (let x = 0; x < width - 1; x++) {
      const at = y * width + x;
      if (truth[at] !== truth[at + 1] || truth[at] !== truth[at + width]) border.push([(x + 1) * mmPerPx, (y + 1) * mmPerPx]);
    }
  const drawnPoints = lines.flatMap(({ curve }) => dense(curve));
  const near = (from: Point[], to: Point[]) => {
    const cells = new Map<string, Point[]>();
    const key = (x: number, y: number) => `${Math.floor(x / 2)},${Math.floor(y / 2)}`;
    for (const p of to) cells.set(key(...p), [...(cells.get(key(...p)) ?? []), p]);
    return from.filter(([x, y]) =>
      [-2, 0, 2].some((dx) => [-2, 0, 2].some((dy) => cells.get(key(x + dx, y + dy))?.some((p) => distance(p, [x, y]) <= 2))),
    ).length;
  };
  return { found: near(border, drawnPoints) / border.length, spurious: 1 - near(drawnPoints, border) / drawnPoints.length };
}

describe.each(['balloons', 'kettle', 'star'] as const)('the line drawing of %s', (name) => {
  let lines: DrawnLine[] = [];
  let found = { found: 0, spurious: 1 };
  beforeAll(async () => {
    const lesson = demoLesson(name);
    const { picture, labels, width, height } = await scene(name, 900, 1);
    lines = toEnd(drawLines(lesson, picture));
    found = against(upToAmount(lines, 0.65), labels, width, height, lesson.support.widthMm / width);
  });
  it('at the middle amount: at least 90 % of the true border has a line within 2 mm, at most 20 % of what is drawn is spurious', () => {
    expect(found.found).toBeGreaterThan(0.9);
    expect(found.spurious).toBeLessThan(0.2);
  });
  it('a beginner’s amount takes at most 400 points, and every amount holds all of a smaller one', () => {
    expect(nodesIn(upToAmount(lines, 0.3))).toBeLessThanOrEqual(400);
    let before = new Set<DrawnLine>();
    for (const amount of [0, 0.1, 0.3, 0.5, 0.65, 0.8, 1]) {
      const now = new Set(upToAmount(lines, amount));
      expect(now.size).toBeGreaterThan(0);
      for (const line of before) expect(now.has(line)).toBe(true);
      before = now;
    }
    expect(before.size).toBe(lines.length);
  });
  it('lines come heaviest first, lie on the canvas, and parts of one thing weigh the same', () => {
    for (const [i, line] of lines.entries()) if (i > 0) expect(line.weight).toBeLessThanOrEqual(lines[i - 1]?.weight as number);
    const { widthMm, heightMm } = demoLesson(name).support;
    for (const { curve } of lines)
      for (const [x, y] of curve) {
        expect(x).toBeGreaterThan(-3);
        expect(y).toBeGreaterThan(-3);
        expect(x).toBeLessThan(widthMm + 3);
        expect(y).toBeLessThan(heightMm + 3);
      }
  });
});

describe('lines within an area', () => {
  const flat = (width: number, height: number, value: (x: number, y: number) => number) =>
    labRaster(
      drawn(width, height, (x, y) => {
        const v = value(x, y);
        return [v, v, v];
      }),
    );
  it('a constant gives none, a step of one tone a straight line where it lies, to a fifth of a mm', () => {
    expect(
      innerLines(
        flat(200, 200, () => 120),
        0.55,
        new Uint8Array(40_000),
      ),
    ).toEqual([]);
    const found = innerLines(
      flat(200, 200, (x) => (x < 100 ? 90 : 150)),
      0.55,
      new Uint8Array(40_000),
    );
    expect(found).toHaveLength(1);
    for (const [x] of (found[0]?.points ?? []).slice(4, -4)) expect(Math.abs(x - 55)).toBeLessThan(0.2);
    // The step is told in ΔE: 90 and 150 of sRGB differ by about 23 in L*.
    expect(found[0]?.deltaE).toBeGreaterThan(20);
    expect(found[0]?.deltaE).toBeLessThan(26);
  });
  it('the softening keeps a constant constant and an impulse where it is: a shifted blur makes false lines', () => {
    const constant = plane(41, 41);
    constant.data.fill(7);
    for (const value of blur(constant, 2).data) expect(value).toBeCloseTo(7, 4);
    const impulse = plane(41, 41);
    impulse.data[20 * 41 + 20] = 1;
    const { data } = blur(impulse, 2);
    let [sx, sy, sum] = [0, 0, 0];
    data.forEach((value, i) => {
      sx += value * (i % 41);
      sy += value * Math.floor(i / 41);
      sum += value;
    });
    expect(sx / sum).toBeCloseTo(20, 4);
    expect(sy / sum).toBeCloseTo(20, 4);
  });
  it('nothing in what is forbidden, and nothing shorter than 8 mm', () => {
    const lab = flat(200, 200, (x) => (x < 100 ? 90 : 150));
    const half = Uint8Array.from({ length: 40_000 }, (_, i) => (i < 20_000 ? 1 : 0));
    for (const { points } of innerLines(lab, 0.55, half)) for (const [, y] of points) expect(y).toBeGreaterThan(54);
    const spot = flat(200, 200, (x, y) => (Math.hypot(x - 100, y - 100) < 2 ? 200 : 90));
    expect(innerLines(spot, 0.55, new Uint8Array(40_000)).every(({ points }) => lengthOf(points) >= 8)).toBe(true);
  });
  it('softening along a line keeps its ends and a straight run', () => {
    const line = Array.from({ length: 30 }, (_, i): Point => [i, 2 * i]);
    for (const [i, p] of softened(line, 3).entries()) expect(distance(p, line[i] as Point)).toBeLessThan(1e-9);
    expect(
      evenly(
        [
          [0, 0],
          [10, 0],
          [10, 10],
        ],
        2.5,
      ),
    ).toHaveLength(9);
  });
});

describe('what a person decides about lines', () => {
  const lesson = demoLesson('kettle');
  const lines = toEnd(drawLines(lesson, null));
  const [line] = lines as [DrawnLine];
  const edit = { kind: 'border' as const, areas: line.areaIds, at: middleOf(line) };
  const after = (change: Partial<Lesson['drawing']['edits'][number]>) =>
    decidedLines(carryOut(startHistory(lesson), 'decideLine', { edit: { ...edit, ...change } }).lesson, lines);
  it('a line taken out is gone, and only it; decided again, it comes back', () => {
    const gone = after({ gone: true });
    expect(gone).toHaveLength(lines.length - 1);
    expect(gone.some((one) => one.id === line.id)).toBe(false);
    let history = carryOut(startHistory(lesson), 'decideLine', { edit: { ...edit, gone: true } });
    history = carryOut(history, 'decideLine', { edit, clear: ['gone'] });
    expect(history.lesson.drawing.edits).toEqual([]);
  });
  it('the decision finds its line again after the area was nudged', () => {
    const { lesson: decided } = carryOut(startHistory(lesson), 'decideLine', { edit: { ...edit, gone: true } });
    const areas = decided.areas.map((area) => ({
      ...area,
      outline: area.outline.map((polygon) => polygon.map((ring) => ring.map(([x, y]): [number, number] => [x + 1.5, y + 1]))),
    }));
    const moved = { ...decided, areas };
    const again = toEnd(drawLines(moved, null));
    expect(decidedLines(moved, again)).toHaveLength(again.length - 1);
  });
  it('made smoother it has fewer points or as many, and keeps its ends', () => {
    const trees = demoLesson();
    const all = toEnd(drawLines(trees, null));
    const wavy = [...all].sort((a, b) => b.curve.length - a.curve.length)[0] as DrawnLine;
    const at = middleOf(wavy);
    const { lesson: decided } = carryOut(startHistory(trees), 'decideLine', {
      edit: { kind: 'border', areas: wavy.areaIds, at, smoothMm: 4 },
    });
    const smoother = decidedLines(decided, all).find((one) => one.id === wavy.id);
    expect(smoother?.curve.length).toBeLessThan(wavy.curve.length);
    expect(distance(smoother?.curve[0] as Point, wavy.curve[0] as Point)).toBeLessThan(0.5);
  });
  it('lines of one’s own are always there, with the area in which they lie', () => {
    const own = {
      id: 'mine',
      curve: [
        [60, 160],
        [70, 160],
        [80, 170],
        [90, 170],
      ] as Point[],
    };
    const { lesson: added } = carryOut(startHistory(smallLesson([])), 'addLines', { lines: [own] });
    const [found] = decidedLines(added, []);
    expect(found).toMatchObject({ id: 'mine', kind: 'own', areaIds: ['b'] });
    expect(upToAmount([found as DrawnLine], 0)).toHaveLength(1);
    expect(fromLine(own, [75, 165])).toBeLessThan(1);
  });
  it('a lesson of no areas has no lines; one area with no neighbour neither', () => {
    expect(toEnd(drawLines({ ...lesson, areas: [] }, null))).toEqual([]);
    expect(toEnd(drawLines({ ...lesson, areas: lesson.areas.slice(0, 1) }, null))).toEqual([]);
  });
  it.each([
    [10, 10],
    [5000, 4000],
  ])('a canvas of %d × %d mm is drawn like any other', (widthMm, heightMm) => {
    const at = (share: number): [number, number][] => [
      [0, heightMm * share],
      [widthMm, heightMm * share],
      [widthMm, heightMm],
      [0, heightMm],
    ];
    const areas = [
      { id: 'a', name: 'a', outline: [[at(0)]] },
      { id: 'b', name: 'b', outline: [[at(0.5)]] },
    ];
    const found = toEnd(drawLines({ ...smallLesson([]), areas, support: { ...lesson.support, widthMm, heightMm } }, null));
    expect(found).toHaveLength(1);
    expect(found[0]?.lengthMm).toBeCloseTo(widthMm, -Math.log10(widthMm / 50));
  });
});

describe('where a drawing ends', () => {
  it('an area beside bare canvas has an edge there, and a line that runs out of the picture runs to the rim of the canvas', () => {
    const lesson: Lesson = {
      ...smallLesson([]),
      areas: [
        {
          id: 'hill',
          name: 'hill',
          outline: [
            [
              [
                [0, 180],
                [200, 150],
                [200, 250],
                [0, 250],
              ],
            ],
          ],
        },
        {
          id: 'moon',
          name: 'moon',
          outline: [
            [
              [
                [60, 40],
                [110, 40],
                [110, 90],
                [60, 90],
              ],
            ],
          ],
        },
      ],
    };
    const lines = toEnd(drawLines(lesson, null));
    const of = (id: string) => lines.filter(({ areaIds }) => areaIds[0] === id);
    // All round the square that stands alone, and along the ridge, not along the rim of the canvas.
    expect(of('moon').reduce((sum, line) => sum + line.lengthMm, 0)).toBeCloseTo(200, -1);
    expect(of('hill').reduce((sum, line) => sum + line.lengthMm, 0)).toBeCloseTo(202, -1);
    const ends = of('hill').flatMap(({ curve }) => [curve[0] as Point, curve.at(-1) as Point]);
    expect(Math.min(...ends.map(([x]) => x))).toBeLessThan(0.5);
    expect(Math.max(...ends.map(([x]) => x))).toBeGreaterThan(199.5);
  });
  it('an area that ends a hair before the rim has no edge along it', () => {
    const lesson: Lesson = {
      ...smallLesson([]),
      areas: [
        {
          id: 'sky',
          name: 'sky',
          outline: [
            [
              [
                [0, 0],
                [199.5, 0],
                [199.5, 130],
                [0, 130],
              ],
            ],
          ],
        },
        {
          id: 'sea',
          name: 'sea',
          outline: [
            [
              [
                [0, 130],
                [199.5, 130],
                [199.5, 249],
                [0, 249],
              ],
            ],
          ],
        },
      ],
    };
    const lines = toEnd(drawLines(lesson, null));
    expect(lines).toHaveLength(1);
    expect(lines[0]?.areaIds).toEqual(['sea', 'sky']);
  });
  it.each(['balloons', 'kettle'] as const)('every line of %s that comes within 3 mm of the rim reaches it', (name) => {
    const lesson = demoLesson(name);
    const { widthMm, heightMm } = lesson.support;
    const rims = toEnd(drawLines(lesson, null))
      .flatMap(({ curve }) => [curve[0] as Point, curve.at(-1) as Point])
      .map(([x, y]) => Math.min(x, y, widthMm - x, heightMm - y))
      .filter((mm) => mm < 3);
    expect(rims.length).toBeGreaterThan(1);
    expect(Math.max(...rims)).toBeLessThan(0.3);
  });
});
