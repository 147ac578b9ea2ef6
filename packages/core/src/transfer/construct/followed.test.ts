import { describe, expect, it } from '@jest/globals';
import type { Construction, Lesson } from '@viaticum/contract';
import { seeded } from '@viaticum/kernels/fixtures';
import { polygonArea, polygonContains, polygonHull } from 'd3-polygon';
import { smallLesson } from '../../fixtures/lessons.js';
import { distance, type Point } from '../../geometry/index.js';
import { construct, dividedCircle, envelope, gapBetween, motifMarks, motifOverlaps, sectorOf } from './index.js';

const small = smallLesson([]);
const on = (units: 'in' | 'cm', widthMm = 406.4, heightMm = 304.8): Lesson => ({
  ...small,
  units,
  support: { ...small.support, widthMm, heightMm },
});
const told = (lesson: Lesson, one: object) => construct(lesson, { id: 'c', ...one } as Construction);

/** Lengths in a sentence, as a hand reads them off it: "2, 4 1/16 and 6 ½" in the unit that stands behind, mm. */
function lengthsIn(text: string, units: 'in' | 'cm'): number[] {
  const letters: Record<string, number> = { '½': 0.5, '¼': 0.25, '¾': 0.75 };
  return [...text.matchAll(/(?:(\d+(?:\.\d+)?)(?: (\d+)\/(\d+)| ([½¼¾]))?)|([½¼¾])/g)].flatMap((match) => {
    const [whole, number, over, under, letter, alone] = match;
    // A bare fraction: "5/8".
    if (number && text[(match.index as number) + whole.length] === '/') return [];
    const before = text.slice(0, match.index).match(/(\d+)\/$/);
    if (before) return [(Number(before[1]) / Number(number)) * 25.4];
    const value = Number(number ?? 0) + (over ? Number(over) / Number(under) : 0) + (letters[letter ?? alone ?? ''] ?? 0);
    return [value * (units === 'in' ? 25.4 : 10)];
  });
}

describe('a circle that is divided by following its own words', () => {
  const turn = { 'the right end': 0, 'the bottom end': 90, 'the left end': 180, 'the top end': 270 } as const;
  const clockwise: Record<string, Record<string, number>> = {
    'the right end': { downwards: 1, upwards: -1 },
    'the bottom end': { 'to the left': 1, 'to the right': -1 },
    'the left end': { upwards: 1, downwards: -1 },
    'the top end': { 'to the right': 1, 'to the left': -1 },
  };
  /** Angles of the marks that somebody makes who does what is said. */
  function followed(how: readonly string[], units: 'in' | 'cm'): { radius: number; angles: number[] } {
    const radius = lengthsIn((how[0] as string).split('with a string ')[1] as string, units)[0] as number;
    const sentence = how.find((one) => one.startsWith('Mark on the circle')) as string;
    const angles = [...sentence.matchAll(/from (the \w+ end): (.*?)(?=; from|\.$)/g)].flatMap(([, end = '', rest = '']) => {
      const base = turn[end as keyof typeof turn];
      const ways = [
        ...rest.matchAll(/(?:^|and |, )?([^,]*?(?:,[^,]*?)*?) (?:in|cm) (upwards|downwards|to the right|to the left)/g),
      ];
      const marks = ways.flatMap(([, list = '', way = '']) =>
        lengthsIn(list, units).map(
          (mm) => base + (clockwise[end]?.[way] ?? 0) * ((2 * Math.asin(mm / (2 * radius)) * 180) / Math.PI),
        ),
      );
      return rest.includes('at the end itself') ? [base, ...marks] : marks;
    });
    return { radius, angles: angles.map((deg) => ((deg % 360) + 360) % 360).sort((a, b) => a - b) };
  }
  it.each(['in', 'cm'] as const)('closes within 1 mm for n = 3 … 24 (%s)', (units) => {
    for (let parts = 3; parts <= 24; parts++)
      for (const [radiusMm, startDeg] of [
        [40, -90],
        [77.3, -90],
        [140, 13],
      ] as const) {
        if (parts === 6) continue;
        const { how } = told(on(units), { kind: 'radial', at: [200, 150], radiusMm, parts, startDeg, rings: [] });
        const { radius, angles } = followed(how, units);
        expect(Math.abs(radius - radiusMm)).toBeLessThan(1);
        expect(angles).toHaveLength(parts);
        const should = Array.from({ length: parts }, (_, i) => (((startDeg + (i * 360) / parts) % 360) + 360) % 360).sort(
          (a, b) => a - b,
        );
        should.forEach((deg, i) => {
          const off = Math.abs((((angles[i] as number) - deg + 540) % 360) - 180);
          expect((off * Math.PI * radius) / 180).toBeLessThan(1);
        });
      }
  });
  it('says what a strip that is stepped round comes to: twelve chords of 15.5 mm said as 5/8 in', () => {
    const radiusMm = 15.5 / (2 * Math.sin(Math.PI / 12));
    const { how } = told(on('in'), { kind: 'radial', at: [200, 150], radiusMm, parts: 12, startDeg: -90, rings: [] });
    // 12 × 15.875 mm on a circle of 1 3/16 in, by hand: 1.5 mm too long together.
    expect(how.join(' ')).toMatch(
      /Or set a strip of paper to 5\/8 in and step it round 12 times: .* too (long|short)|meets its beginning/,
    );
    const six = told(on('in'), { kind: 'radial', at: [200, 150], radiusMm: 80, parts: 6, startDeg: 0, rings: [] });
    // Euclid, Elements IV.15: the radius steps round a circle exactly six times.
    expect(six.how[1]).toContain('exactly 6');
  });
});

describe('marks along one ruler', () => {
  it.each(['in', 'cm'] as const)(
    'a grid of any number of cells has each mark within 1 mm, however many there are (%s)',
    (units) => {
      for (const [columns, rows] of [
        [3, 2],
        [7, 5],
        [13, 11],
      ] as const) {
        const lesson = on(units, 397, 283);
        const { how } = told(lesson, { kind: 'grid', columns, rows, ratio: 1 });
        const across = lengthsIn((how[0] as string).match(/left edge at (.*?) (?:in|cm) along/)?.[1] as string, units);
        expect(across).toHaveLength(columns - 1);
        for (const [i, mm] of across.entries()) expect(Math.abs(mm - ((i + 1) * 397) / columns)).toBeLessThan(1);
      }
    },
  );
  it('canvases of other sizes get numbers of their own, cells their halves and diagonals', () => {
    const lesson: Lesson = {
      ...on('in'),
      variants: [{ id: 'v', name: 'On 8 × 10', support: { widthMm: 254, heightMm: 203.2 }, changes: [] }],
    };
    const { how, second } = told(lesson, { kind: 'grid', columns: 4, rows: 3, ratio: 2, halves: true, crossed: true });
    expect(how.find((one) => one.startsWith('On 8 × 10, 10 in × 8 in'))).toContain('at 2 ½, 5 and 7 ½ in');
    expect(second).toHaveLength(4 + 3 + 2 * 12);
  });
});

describe('things that lie apart', () => {
  const draw = seeded(5);
  /** A convex thing of some points about a place. */
  const thing = (cx: number, cy: number, size: number): Point[] =>
    polygonHull(
      Array.from({ length: 9 }, (): Point => [cx + size * (draw() - 0.5) * 2, cy + size * (draw() - 0.5) * 2]),
    ) as Point[];
  const sideOf = (a: Point, b: Point, p: Point) => (b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0]);

  it('200 random pairs: the gap’s openings are the outer tangents of brute force, its narrowest place too, and its sides meet where their lines do', () => {
    for (let i = 0; i < 200; i++) {
      const [one, other] = [
        thing(60, 100, 25 + 15 * draw()),
        thing(190 + 60 * draw(), 100 + 60 * (draw() - 0.5), 20 + 25 * draw()),
      ];
      const gap = gapBetween(one, other);
      const all = [...one, ...other];
      const tangents = one.flatMap((p) =>
        other.flatMap((q) => {
          const sides = all.map((r) => sideOf(p, q, r));
          return sides.every((s) => s >= -1e-9) || sides.every((s) => s <= 1e-9) ? [[p, q] as const] : [];
        }),
      );
      expect(tangents).toHaveLength(2);
      for (const [p, q] of tangents)
        expect(gap?.openings.some(([a, b]) => distance(a, p) < 1e-9 && distance(b, q) < 1e-9)).toBe(true);
      // The narrowest place, by points along both rims.
      const dense = (ring: Point[]) =>
        ring.flatMap((a, k) => {
          const b = ring[(k + 1) % ring.length] as Point;
          return Array.from({ length: 60 }, (_, m): Point => [a[0] + ((b[0] - a[0]) * m) / 60, a[1] + ((b[1] - a[1]) * m) / 60]);
        });
      const other2 = dense(other);
      const least = Math.min(...dense(one).map((a) => Math.min(...other2.map((b) => distance(a, b)))));
      expect(Math.abs((gap?.narrowestMm as number) - least)).toBeLessThan(0.6);
      if (!gap?.sides) continue;
      const [[a0, a1], [b0, b1]] = gap.sides;
      // Each side belongs to its thing, and no line between the two sides' ends cuts through either thing.
      for (const [p, q] of [
        [a0, b0],
        [a1, b1],
      ] as const) {
        const [x, y] = [one.map((r) => sideOf(p, q, r)), other.map((r) => sideOf(p, q, r))];
        expect(Math.min(Math.max(...x), -Math.min(...x))).toBeLessThan(1e-6);
        expect(Math.min(Math.max(...y), -Math.min(...y))).toBeLessThan(1e-6);
      }
      const [ta, tb] = [Math.atan2(a1[1] - a0[1], a1[0] - a0[0]), Math.atan2(b1[1] - b0[1], b1[0] - b0[0])];
      const off = Math.abs(Math.sin(ta - tb));
      expect(Math.sin((gap.angleDeg * Math.PI) / 180)).toBeCloseTo(off, 6);
      if (!gap.meets) continue;
      // It lies on both lines.
      const size = 1 + distance(gap.meets, a0) + distance(gap.meets, b0);
      expect(Math.abs(sideOf(a0, a1, gap.meets)) / distance(a0, a1)).toBeLessThan(1e-6 * size);
      expect(Math.abs(sideOf(b0, b1, gap.meets)) / distance(b0, b1)).toBeLessThan(1e-6 * size);
    }
  });
  it('200 random pairs: the envelope holds both, is no smaller than their hull, and has no side too short to draw', () => {
    for (let i = 0; i < 200; i++) {
      const pair = [thing(60, 100, 30), thing(200, 90 + 40 * draw(), 25)];
      const found = envelope(
        pair.map((points) => [[points]]),
        6,
        0,
      );
      const ring = found?.points as Point[];
      const hull = polygonHull(pair.flat()) as Point[];
      expect(Math.abs(polygonArea(ring))).toBeGreaterThanOrEqual(Math.abs(polygonArea(hull)) * 0.999);
      const grown = ring.map(([x, y]): Point => {
        const [mx, my] = [130, 100];
        return [mx + (x - mx) * 1.001, my + (y - my) * 1.001];
      });
      // What was joined was cut by less than a hair.
      for (const p of hull) expect(polygonContains(grown, p) || Math.min(...grown.map((q) => distance(p, q))) < 1.5).toBe(true);
      expect(found?.parts).toHaveLength(2);
    }
  });
  it('is told in words: the gap, where its sides meet, corners by the ruler, plumb and level, and at arm’s length', () => {
    const square = (x: number, y: number, w: number, h: number): [number, number][] => [
      [x, y],
      [x + w, y],
      [x + w, y + h],
      [x, y + h],
    ];
    const lesson: Lesson = {
      ...on('cm', 400, 300),
      areas: [
        { id: 'k', name: 'Kettle', outline: [[square(50, 100, 100, 120)]] },
        { id: 'c', name: 'Cup', outline: [[square(190, 180, 60, 40)]] },
      ],
    };
    const { how } = told(lesson, { kind: 'envelope', areaIds: ['k', 'c'], shadowIds: [], sides: 6, thinMm: 0 });
    const words = how.join(' ');
    expect(words).toMatch(/The gap between the kettle and the cup is 4 cm at its narrowest; its sides run side by side/);
    expect(words).toContain('as wide as the cup is high');
    expect(words).toMatch(/corner \d stands plumb over corner \d|corner \d lies level with corner \d/);
    expect(words).toMatch(/At arm’s length, one eye shut: the height of the group on the pencil goes 1\.75 times into its width/);
    // A handle that all but touches its cup is part of it; a corner beyond the canvas is cut off at its edge.
    const handle = { id: 'h', name: 'Handle', outline: [[square(252, 190, 14, 20)]] };
    const near = { ...lesson, support: { ...lesson.support, widthMm: 262 }, areas: [...lesson.areas, handle] };
    const again = told(near, { kind: 'envelope', areaIds: ['k', 'c', 'h'], shadowIds: [], sides: 6, thinMm: 0 });
    expect(again.how.filter((one) => one.startsWith('The gap'))).toHaveLength(1);
    for (const [x] of again.lines.flat()) expect(x).toBeLessThanOrEqual(262);
    const corners = lengthsIn((how[0] as string).replaceAll(/\d+: /g, ''), 'cm');
    expect(corners.length % 2).toBe(0);
  });
});

describe('a motif on rings', () => {
  const ring = (rest: object = {}) => ({ unit: 'leaf' as const, fromMm: 20, toMm: 60, widthMm: 10, ...rest });
  const motif = (rings: ReturnType<typeof ring>[], parts = 8) => ({ at: [200, 150] as Point, parts, startDeg: -90, rings });
  it('repeats its unit on every spoke, with ticks at each distance, and counts what is painted', () => {
    const { lines, second, how, labels } = told(on('in'), {
      kind: 'motif',
      ...motif([ring(), ring({ unit: 'v', fromMm: 60, toMm: 80, between: true })]),
    });
    expect(lines).toHaveLength(16);
    expect(labels).toHaveLength(8);
    // Eight spokes, 8 × 4 ticks, three circles.
    expect(second).toHaveLength(8 + 32 + 3);
    expect(how.join(' ')).toContain('16 units in all');
    const first = lines[0] as Point[];
    expect(first[0]?.[1]).toBeCloseTo(130, 9);
    expect(Math.min(...first.map(([, y]) => y))).toBeCloseTo(90, 6);
  });
  it('dots on a ring lie as far apart as chord less width says, and overlap where that is below nothing', () => {
    for (const [parts, widthMm] of [
      [8, 10],
      [12, 16],
      [24, 12],
    ] as const) {
      const gap = motifOverlaps(
        motif([ring({ unit: 'dots', dots: 1, fromMm: 50 - widthMm / 2, toMm: 50 + widthMm / 2, widthMm })], parts),
      )[0]?.gapMm;
      expect(gap).toBeCloseTo(Math.max(0, 2 * 50 * Math.sin(Math.PI / parts) - widthMm), 1);
    }
  });
  it('says where neighbours touch or overlap, within a ring and from ring to ring', () => {
    const how = (rings: ReturnType<typeof ring>[], parts = 8) =>
      told(on('cm'), { kind: 'motif', ...motif(rings, parts) }).how.join(' ');
    expect(how([ring({ widthMm: 60 })])).toContain('They overlap its neighbours');
    expect(how([ring(), ring({ fromMm: 50, toMm: 90 })])).toContain('They overlap ring 2');
    expect(how([ring({ widthMm: 8 })], 4)).toMatch(/They lie [\d.]+ cm apart/);
    expect(told(on('cm'), { kind: 'motif', ...motif([ring({ fromMm: 70 })]) }).fault).toContain('Exchange its distances');
  });
  it('turned and mirrored units are those turned and mirrored', () => {
    const own = ring({
      unit: 'own',
      own: [
        [0, 0],
        [0.5, 1],
        [1, 0],
      ],
      turned: true,
      mirrored: true,
    });
    const { lines } = told(on('cm'), { kind: 'motif', ...motif([own], 4) });
    const [up, right] = lines as [Point[], Point[]];
    expect(up[0]?.[1]).toBeCloseTo(90, 9);
    // Its middle lies to the right of the upright spoke, and of the next, mirrored, above it.
    const middle = (curve: Point[]) => curve[3] as Point;
    expect(middle(up)[0]).toBeCloseTo(205, 9);
    expect(middle(right)[1]).toBeCloseTo(145, 9);
  });
  it('becomes marks that are counted, at the places of its units', () => {
    const marks = motifMarks(
      motif([ring(), ring({ unit: 'dots', dots: 3, fromMm: 60, toMm: 90, between: true, widthMm: 6 })], 12),
    );
    expect(marks.map(({ kind, count }) => [kind, count])).toEqual([
      ['unit', 12],
      ['dots', 12],
      ['dots', 12],
      ['dots', 12],
    ]);
    expect(marks[0]?.round?.radiusMm).toBe(40);
    expect(marks.slice(1).map(({ round }) => round?.radiusMm)).toEqual([63, 75, 87]);
    expect(marks[1]?.round?.turnDeg).toBeCloseTo(-90 + 15, 9);
  });
  it('a sector stands upright in a box of its own and is the same shape', () => {
    const one = motif([ring()]);
    const sector = sectorOf(one);
    const leaf = sector.lines[0] as Point[];
    const whole = told(on('cm'), { kind: 'motif', ...one }).lines[0] as Point[];
    const spans = (points: Point[]) => points.slice(1).map((p, i) => distance(p, points[i] as Point));
    for (const [i, mm] of spans(leaf).entries()) expect(mm).toBeCloseTo(spans(whole)[i] as number, 9);
    for (const [x, y] of sector.lines.flat()) {
      expect(x).toBeGreaterThan(-5);
      expect(y).toBeGreaterThan(-1e-6);
      expect(y).toBeLessThan(sector.heightMm + 1e-6);
    }
    expect(dividedCircle({ at: [0, 0], radiusMm: 10, parts: 4, startDeg: 0 })[1]?.[1]).toBeCloseTo(10, 9);
  });
});
