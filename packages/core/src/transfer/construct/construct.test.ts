import { describe, expect, it } from '@jest/globals';
import type { Construction, Lesson, Outline } from '@viaticum/contract';
import { insideOutline, outlineArea, outlineBox } from '../../area/index.js';
import { demoLesson, smallLesson } from '../../fixtures/lessons.js';
import { convexHull, distance, type Point } from '../../geometry/index.js';
import { flattened } from '../bezier.js';
import { betweenLandmarks, construct, ellipseCurve, envelope, eyeOf, simpleShape } from './index.js';

const lesson: Lesson = { ...smallLesson([]), light: { azimuthDeg: 90, elevationDeg: 45 } };
const work = (one: object, of: Lesson = lesson) => construct(of, { id: 'c', ...one } as Construction);
const ring = (...points: Point[]): Outline => [[points]];

describe('constructions on a canvas of 200 × 250 mm', () => {
  it('a grid has its lines at even distances, letters along the top and numbers down the side, and says both scales', () => {
    const { lines, labels, how } = work({ kind: 'grid', columns: 4, rows: 5, ratio: 2 });
    expect(lines.map((curve) => [curve[0], curve.at(-1)])).toEqual([
      [
        [50, 0],
        [50, 250],
      ],
      [
        [100, 0],
        [100, 250],
      ],
      [
        [150, 0],
        [150, 250],
      ],
      [
        [0, 50],
        [200, 50],
      ],
      [
        [0, 100],
        [200, 100],
      ],
      [
        [0, 150],
        [200, 150],
      ],
      [
        [0, 200],
        [200, 200],
      ],
    ]);
    expect(labels.map(({ text }) => text)).toEqual(['A', 'B', 'C', 'D', '1', '2', '3', '4', '5']);
    expect(how[0]).toContain(
      'from the left edge at 5, 10 and 15 cm along the top and bottom, from the top edge at 5, 10, 15 and 20 cm',
    );
    expect(how[1]).toContain('10 cm wide, mark from the left edge at 2.5, 5 and 7.5 cm');
    expect(work({ kind: 'grid', columns: 30, rows: 2, ratio: 1 }).labels[27]?.text).toBe('AB');
  });
  it('features: the axes of an ellipse as they were made, and two of a kind by the ruler through their middles', () => {
    const ellipse = (cx: number, cy: number, a: number, b: number, deg: number): Point[] =>
      Array.from({ length: 72 }, (_, i) => {
        const [t, turn] = [(i * Math.PI) / 36, (deg * Math.PI) / 180];
        const [x, y] = [a * Math.cos(t), b * Math.sin(t)];
        return [cx + x * Math.cos(turn) - y * Math.sin(turn), cy + x * Math.sin(turn) + y * Math.cos(turn)];
      });
    const with3: Lesson = {
      ...lesson,
      areas: [
        ...lesson.areas,
        { id: 'l', name: 'Left eye', feature: true, outline: ring(...ellipse(60, 80, 15, 8, 20)) },
        { id: 'r', name: 'Right eye', feature: true, outline: ring(...ellipse(120, 64, 15, 8, -10)) },
        { id: 'n', name: 'Nose', feature: true, outline: ring(...ellipse(92, 120, 9, 7, 0)) },
      ],
    };
    const { lines, second, how, fault } = work({ kind: 'features', areaIds: ['l', 'r', 'n'] }, with3);
    expect(fault).toBeNull();
    expect(lines).toHaveLength(6);
    const [from, to] = [lines[0]?.[0], lines[0]?.at(-1)] as [Point, Point];
    expect(distance(from, to)).toBeCloseTo(2 * 15 * 1.25, 0);
    expect((Math.atan2(to[1] - from[1], to[0] - from[0]) * 180) / Math.PI).toBeCloseTo(20, 0);
    expect(how[0]).toContain(
      '6 cm from the left and 8 cm from the top; 3 cm long and 1.6 cm across, its long axis 20° down to the right',
    );
    expect(how[1]).toContain('its long axis 10° up to the right');
    expect(how[2]).toContain('lying level');
    // The eyes are a pair, the nose is none of them.
    expect(second).toHaveLength(1);
    expect(how.at(-1)).toBe(
      'A ruler through the middles of the left eye and the right eye rises by 15° to the right. They are 6.2 cm apart: 2 times as far as one of them is long.',
    );
    expect(work({ kind: 'features', areaIds: ['gone'] }, with3).fault).toContain('Choose others');
  });
  it('diagonals cross in the middle; thirds lie at thirds', () => {
    expect(work({ kind: 'diagonals' }).how[1]).toContain('10 cm from the side, 12.5 cm from the top');
    const { lines } = work({ kind: 'thirds' });
    expect(lines[0]?.[0]?.[0]).toBeCloseTo(200 / 3, 9);
    expect(lines[3]?.[0]?.[1]).toBeCloseTo(500 / 3, 9);
  });
  it('a radial figure: its spokes end on the circle a chord apart, and the string, strip and lid are told in numbers', () => {
    const { lines, how } = work({ kind: 'radial', at: [100, 125], radiusMm: 80, parts: 8, startDeg: -90, rings: [0.5] });
    const tips = lines.slice(2).map((curve) => curve.at(-1) as Point);
    expect(tips[0]?.[0]).toBeCloseTo(100, 9);
    expect(tips[0]?.[1]).toBeCloseTo(45, 9);
    for (const [i, tip] of tips.entries())
      expect(distance(tip, tips[(i + 1) % 8] as Point)).toBeCloseTo(160 * Math.sin(Math.PI / 8), 9);
    expect(how.join(' ')).toContain('6.1 cm');
    expect(work({ kind: 'radial', at: [100, 125], radiusMm: 80, parts: 6, startDeg: 0, rings: [] }).how[1]).toContain(
      'exactly 6',
    );
  });
  it('a thing that leans throws the shadow of the line under its head, from its own foot; the horizon is where edges vanish', () => {
    const upright = work({ kind: 'shadow', foot: [120, 200], head: [120, 150] });
    const leaning = work({ kind: 'shadow', foot: [90, 200], head: [120, 150], under: [120, 200] });
    expect(leaning.second[0]?.[0]).toEqual([90, 200]);
    // Both heads stand over one place: both shadows end in one.
    expect(distance(leaning.second[0]?.at(-1) as Point, upright.second[0]?.at(-1) as Point)).toBeLessThan(1e-9);
    expect(leaning.how.join(' ')).toContain('It leans');
    const vanishing = { id: 'v', kind: 'vanishing' as const, points: [[60, 90]] as [number, number][], lines: 8 };
    expect(eyeOf({ ...lesson, drawing: { ...lesson.drawing, constructions: [vanishing] } })).toMatchObject({
      xMm: 60,
      horizonMm: 90,
    });
    const eye = { xMm: 10, horizonMm: 20, distanceMm: 300 };
    expect(eyeOf({ ...lesson, drawing: { ...lesson.drawing, eye, constructions: [vanishing] } })).toEqual(eye);
  });
  it('a circle as a curve is round within 0.03 % of its radius', () => {
    for (const p of flattened(ellipseCurve([10, 20], 80, 80), 0.5))
      expect(Math.abs(distance(p, [10, 20]) - 80)).toBeLessThan(0.024);
  });
  it('an ellipse, evenly spaced posts, guides and a shadow have lines and say how', () => {
    for (const one of [
      { kind: 'ellipse', at: [100, 180], halfWidthMm: 40 },
      { kind: 'spacing', first: [20, 220], second: [60, 190], vanishing: [140, 130], count: 6, heightMm: 60 },
      {
        kind: 'spacing',
        first: [20, 220],
        second: [60, 190],
        vanishing: [140, 130],
        count: 6,
        heightMm: 60,
        path: [
          [20, 220],
          [70, 150],
          [138, 128],
        ],
      },
      {
        kind: 'vanishing',
        points: [
          [-300, 100],
          [500, 100],
        ],
        lines: 12,
      },
      { kind: 'vanishing', points: [[100, 100]], lines: 12 },
      { kind: 'shadow', foot: [100, 200], head: [100, 150] },
    ]) {
      const { lines, how, fault } = work(one);
      expect(fault).toBeNull();
      expect(lines.length).toBeGreaterThan(0);
      expect(how.join(' ')).not.toMatch(/NaN|undefined|Infinity|\d\.\d{3}/);
    }
    const guides = work({ kind: 'vanishing', points: [[-300, 100]], lines: 24 });
    for (const curve of guides.lines)
      for (const [x, y] of curve) expect(x >= -1e-9 && x <= 200 + 1e-9 && y >= -1e-9 && y <= 250 + 1e-9).toBe(true);
  });
  it('what cannot be done is said in a sentence', () => {
    expect(work({ kind: 'ellipse', at: [100, 40], halfWidthMm: 40 }).fault).toMatch(/below the horizon/);
    expect(
      work({ kind: 'spacing', first: [20, 220], second: [180, 190], vanishing: [140, 130], count: 6, heightMm: 60 }).fault,
    ).toMatch(/between the first/);
    expect(
      construct({ ...lesson, light: undefined } as never, { id: 'c', kind: 'shadow', foot: [1, 2], head: [1, 1] }).fault,
    ).toMatch(/No light/);
    expect(work({ kind: 'shapes', areaIds: ['gone'] }).fault).toMatch(/Nothing of these areas/);
    expect(work({ kind: 'envelope', areaIds: ['gone'], shadowIds: [], sides: 6, thinMm: 5 }).fault).toMatch(
      /Nothing of these areas/,
    );
  });
  it('landmarks: distance and angle of every pair', () => {
    const drawing = {
      ...lesson.drawing,
      landmarks: [
        { id: 'a', name: 'a', at: [10, 100] as Point },
        { id: 'b', name: 'b', at: [40, 60] as Point },
      ],
    };
    const [pair] = betweenLandmarks({ ...lesson, drawing });
    expect(pair?.mm).toBeCloseTo(50, 9);
    expect(pair?.deg).toBeCloseTo((Math.atan2(40, 30) * 180) / Math.PI, 9);
  });
});

describe('an envelope', () => {
  const square = ring([10, 10], [60, 10], [60, 60], [10, 60]);
  it('of a square is the square; of a circle in four sides a square round it', () => {
    expect(
      envelope([square], 4, 0)
        ?.points.map((p) => p.map(Math.round))
        .sort(),
    ).toEqual([
      [10, 10],
      [10, 60],
      [60, 10],
      [60, 60],
    ]);
    const circle = ring(
      ...Array.from(
        { length: 60 },
        (_, i): Point => [50 + 30 * Math.cos((i * Math.PI) / 30), 50 + 30 * Math.sin((i * Math.PI) / 30)],
      ),
    );
    const four = envelope([circle], 4, 0)?.points ?? [];
    expect(four).toHaveLength(4);
    // The least four sides round a circle of radius 30 measure 60 × 60; one side taken at a time comes within a tenth of it.
    expect(outlineArea([[four]])).toBeLessThan(3600 * 1.1);
    expect(outlineArea([[four]])).toBeGreaterThan(3590);
  });
  it('holds all of the group for every number of sides, and a smaller number never takes less room', () => {
    const demo = demoLesson();
    const group = demo.areas.filter((area) => ['great', 'baskets', 'trees'].includes(area.id)).map((area) => area.outline);
    let before = 0;
    for (const sides of [16, 12, 9, 7, 5, 4, 3]) {
      const { points } = envelope(group, sides, 0) ?? { points: [] };
      expect(points.length).toBeLessThanOrEqual(sides);
      const area = outlineArea([[points]]);
      expect(area).toBeGreaterThanOrEqual(before - 1);
      before = area;
      const [cx, cy] = [
        points.reduce((s, [x]) => s + x, 0) / points.length,
        points.reduce((s, [, y]) => s + y, 0) / points.length,
      ];
      for (const [x, y] of group.flat(3) as Point[]) {
        // A hair towards the middle, since what touches the side is neither in nor out.
        const [px, py] = [x + (cx - x) * 0.02, y + (cy - y) * 0.02];
        expect(insideOutline([[points]], px, py)).toBe(true);
      }
    }
  });
  it('a thin handle that sticks out is left out; what is concave stays so, with the gap’s angle and sides', () => {
    const handle: Outline = [...square, ...ring([60, 30], [160, 30], [160, 33], [60, 33])];
    expect(outlineBox([[envelope([handle], 4, 0)?.points ?? []]])?.width).toBeGreaterThan(149);
    expect(Math.abs((outlineBox([[envelope([handle], 4, 8)?.points ?? []]])?.width ?? 0) - 50)).toBeLessThan(1);
    const angle = ring([0, 0], [100, 0], [100, 40], [40, 40], [40, 100], [0, 100]);
    const { points, wedges } = envelope([angle], 6, 0) ?? { points: [], wedges: [] };
    expect(points).toHaveLength(6);
    expect(wedges).toHaveLength(1);
    expect(wedges[0]?.angleDeg).toBeCloseTo(90, 6);
    expect(wedges[0]?.sidesMm.map(Math.round)).toEqual([60, 60]);
    expect(wedges[0]?.deepest.map(Math.round)).toEqual([40, 40]);
    expect(convexHull(points)).toHaveLength(5);
  });
  it('nothing has none', () => {
    expect(envelope([], 5, 0)).toBeNull();
  });
});

describe('simple shapes', () => {
  const turned = (points: Point[], deg: number): Outline => {
    const t = (deg * Math.PI) / 180;
    return ring(
      ...points.map(([x, y]): Point => [100 + x * Math.cos(t) - y * Math.sin(t), 100 + x * Math.sin(t) + y * Math.cos(t)]),
    );
  };
  const round = (a: number, b: number) =>
    Array.from({ length: 48 }, (_, i): Point => [a * Math.cos((i * Math.PI) / 24), b * Math.sin((i * Math.PI) / 24)]);
  it.each([
    ['circle', turned(round(40, 40), 0)],
    ['ellipse', turned(round(60, 25), 30)],
    [
      'square',
      turned(
        [
          [-30, -30],
          [30, -30],
          [30, 30],
          [-30, 30],
        ],
        0,
      ),
    ],
    [
      'rectangle',
      turned(
        [
          [-50, -20],
          [50, -20],
          [50, 20],
          [-50, 20],
        ],
        25,
      ),
    ],
    [
      'triangle',
      turned(
        [
          [-40, 30],
          [40, 30],
          [0, -50],
        ],
        0,
      ),
    ],
    [
      'wedge',
      turned(
        [
          [-50, 30],
          [50, 30],
          [20, -30],
          [-20, -30],
        ],
        0,
      ),
    ],
  ] as const)('a %s is seen as one, covering at least 97 %% of it', (kind, outline) => {
    const found = simpleShape(outline);
    expect(found?.kind).toBe(kind);
    expect(found?.fit).toBeGreaterThan(0.97);
  });
  it('nothing is no shape; stages are numbered from the largest', () => {
    expect(simpleShape([])).toBeNull();
    const { labels, how } = construct(demoLesson(), { id: 's', kind: 'shapes', areaIds: ['baskets', 'great', 'sky'] });
    expect(labels.map(({ text }) => text)).toEqual(['1', '2', '3']);
    expect(how[0]).toMatch(/^1\. Sky/i);
  });
});
