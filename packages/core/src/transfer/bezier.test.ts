import { describe, expect, it } from '@jest/globals';
import { seeded } from '@viaticum/kernels/fixtures';
import { distance, fromSegment, type Point } from '../geometry/index.js';
import { fitCurve, flattened, nodesOf, pathData, straightCurve, throughPoints } from './bezier.js';
import { fitted } from './lines/index.js';

const off = (points: readonly Point[], curve: Point[]): number => {
  const line = flattened(curve, 0.1);
  return Math.max(...points.map((p) => Math.min(...line.slice(1).map((b, i) => fromSegment(p, line[i] as Point, b)))));
};
const even = (at: (t: number) => Point, count: number): Point[] => Array.from({ length: count + 1 }, (_, i) => at(i / count));

describe('fitting', () => {
  it('stays within its tolerance on circles, waves and random walks', () => {
    const random = seeded(4);
    const lines: Point[][] = [
      even((t) => [40 * Math.cos(6 * t), 40 * Math.sin(6 * t)], 400),
      even((t) => [t * 200, 15 * Math.sin(t * 20)], 400),
      even((t) => [t * 100, t * t * 80], 200),
    ];
    for (let k = 0; k < 12; k++) {
      let [x, y, turn] = [0, 0, 0];
      lines.push(
        Array.from({ length: 200 }, (): Point => {
          turn += (random() - 0.5) * 0.4;
          x += 0.5 * Math.cos(turn);
          y += 0.5 * Math.sin(turn);
          return [x, y];
        }),
      );
    }
    for (const line of lines)
      for (const toleranceMm of [0.2, 0.4, 2])
        expect(off(line, fitCurve(line, { toleranceMm }))).toBeLessThan(toleranceMm + 1e-6);
  });
  it('takes few pieces: a quarter circle of 50 mm within 0.4 mm is one, a straight line too', () => {
    const quarter = even((t) => [50 * Math.cos((t * Math.PI) / 2), 50 * Math.sin((t * Math.PI) / 2)], 150);
    expect(nodesOf(fitCurve(quarter, { toleranceMm: 0.4 }))).toBe(2);
    const straight = even((t) => [t * 80, t * 20], 100);
    expect(fitCurve(straight, { toleranceMm: 0.4 })).toEqual(
      straightCurve([
        [0, 0],
        [80, 20],
      ]),
    );
  });
  it('a looser tolerance never takes more pieces; ends are kept exactly', () => {
    const line = even((t) => [t * 120, 9 * Math.sin(t * 25) + 4 * Math.sin(t * 61)], 300);
    const counts = [0.2, 0.5, 1, 3].map((toleranceMm) => nodesOf(fitCurve(line, { toleranceMm })));
    expect([...counts].sort((a, b) => b - a)).toEqual(counts);
    const curve = fitCurve(line, { toleranceMm: 1 });
    expect([curve[0], curve.at(-1)]).toEqual([line[0], line.at(-1)]);
  });
  it('corners stay corners: a square keeps its four', () => {
    const side = (from: Point, to: Point) =>
      even((t) => [from[0] + (to[0] - from[0]) * t, from[1] + (to[1] - from[1]) * t], 80).slice(1);
    const [a, b, c, d]: Point[] = [
      [0, 0],
      [40, 0],
      [40, 40],
      [0, 40],
    ] as Point[];
    const square = [
      a as Point,
      ...side(a as Point, b as Point),
      ...side(b as Point, c as Point),
      ...side(c as Point, d as Point),
      ...side(d as Point, a as Point),
    ];
    const curve = fitted(square);
    for (const corner of [b, c, d]) expect(Math.min(...curve.map((p) => distance(p, corner as Point)))).toBeLessThan(1e-9);
    expect(nodesOf(curve)).toBe(5);
  });
  it('nothing, one point and the same point twice give no curve', () => {
    expect(fitCurve([], { toleranceMm: 1 })).toEqual([]);
    expect(fitCurve([[1, 1]], { toleranceMm: 1 })).toEqual([]);
    expect(
      fitCurve(
        [
          [1, 1],
          [1, 1],
        ],
        { toleranceMm: 1 },
      ),
    ).toEqual([]);
  });
});

it('a smooth curve goes through its points, and through two of them straight', () => {
  const points: Point[] = [
    [0, 0],
    [20, 30],
    [60, 10],
    [90, 50],
  ];
  expect(throughPoints(points).filter((_, i) => i % 3 === 0)).toEqual(points);
  expect(throughPoints(points.slice(0, 2))).toEqual(straightCurve(points.slice(0, 2)));
});

it('path data: straight pieces as lines, round ones as curves, to a thousandth of a mm', () => {
  expect(
    pathData(
      straightCurve([
        [0, 0],
        [10.12345, 0],
      ]),
    ),
  ).toBe('M0 0L10.123 0');
  expect(
    pathData([
      [0, 0],
      [0, 5],
      [5, 10],
      [10, 10],
    ]),
  ).toBe('M0 0C0 5 5 10 10 10');
});
