import { describe, expect, it } from '@jest/globals';
import { seeded } from '@viaticum/kernels/fixtures';
import { polygonHull } from 'd3-polygon';
import {
  alongPath,
  circleDivision,
  convexHull,
  crossing,
  crossRatio,
  distance,
  evenlySpaced,
  groundCircle,
  homography,
  inverted,
  mapped,
  mirrorLine,
  multiplied,
  type Point,
  shadowTip,
} from './index.js';

describe('a circle divided', () => {
  it('the radius stepped round divides it in six (Euclid, Things IV.15)', () => {
    const { chordMm, points } = circleDivision(80, 6);
    expect(chordMm).toBeCloseTo(80, 12);
    for (const [i, p] of points.entries()) expect(distance(p, points[(i + 1) % 6] as Point)).toBeCloseTo(80, 10);
  });
  it('chords against a handbook table of 2·sin(180°/n) for radius 1 (from memory)', () => {
    // Inscribed regular polygons: triangle √3, square √2, pentagon √(10 − 2√5)/2, octagon √(2 − √2), decagon (√5 − 1)/2.
    const known: [number, number][] = [
      [3, Math.sqrt(3)],
      [4, Math.SQRT2],
      [5, Math.sqrt(10 - 2 * Math.sqrt(5)) / 2],
      [8, Math.sqrt(2 - Math.SQRT2)],
      [10, (Math.sqrt(5) - 1) / 2],
    ];
    for (const [n, chord] of known) expect(circleDivision(1, n).chordMm).toBeCloseTo(chord, 12);
  });
  it('no radius and one part are refused in a sentence', () => {
    expect(() => circleDivision(0, 6)).toThrow(/radius/);
    expect(() => circleDivision(10, 1)).toThrow(/2 parts/);
    expect(() => circleDivision(10, 2.5)).toThrow(/2 parts/);
  });
});

describe('the hull', () => {
  it('of random points: holds all of them, turns one way, and every corner is one of them', () => {
    const random = seeded(3);
    for (let round = 0; round < 60; round++) {
      const points = Array.from(
        { length: 3 + Math.floor(random() * 60) },
        (): Point => [Math.round(random() * 20), Math.round(random() * 20)],
      );
      const hull = convexHull(points);
      if (hull.length < 3) continue;
      for (const [i, a] of hull.entries()) {
        const b = hull[(i + 1) % hull.length] as Point;
        expect(points).toContainEqual(a);
        for (const p of points) expect((b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0])).toBeGreaterThanOrEqual(0);
        const c = hull[(i + 2) % hull.length] as Point;
        // Strictly one way: no corner on a side.
        expect((b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0])).toBeGreaterThan(0);
      }
    }
  });
  it('is the hull of a reference library (d3-polygon), corner by corner', () => {
    const random = seeded(8);
    for (let round = 0; round < 200; round++) {
      const points = Array.from({ length: 3 + Math.floor(random() * 80) }, (): Point => [random() * 100, random() * 100]);
      const theirs = polygonHull(points) as Point[];
      const ours = convexHull(points);
      expect(new Set(ours.map(String))).toEqual(new Set(theirs.map(String)));
    }
  });
  it('of a point, two points and a line', () => {
    expect(convexHull([[1, 1]])).toEqual([[1, 1]]);
    expect(
      convexHull([
        [1, 1],
        [1, 1],
        [3, 1],
      ]),
    ).toEqual([
      [1, 1],
      [3, 1],
    ]);
    expect(
      convexHull([
        [0, 0],
        [1, 1],
        [2, 2],
        [3, 3],
      ]),
    ).toHaveLength(2);
  });
});

describe('four corners to four corners', () => {
  it('solved by hand: the unit square to a trapezoid', () => {
    // (0,0)→(0,0), (1,0)→(2,0), (1,1)→(1.5,1), (0,1)→(0.5,1): x = (2x − … )… worked out on paper: [2, 0.5·2, 0; 0, 2, 0; 0, 1, 1].
    const h = homography(
      [
        [0, 0],
        [1, 0],
        [1, 1],
        [0, 1],
      ],
      [
        [0, 0],
        [2, 0],
        [1.5, 1],
        [0.5, 1],
      ],
    );
    const byHand = [2, 1, 0, 0, 2, 0, 0, 1, 1];
    for (const [i, value] of byHand.entries()) expect(h[i]).toBeCloseTo(value, 10);
  });
  it('a shift, a scale and a turn come back as such', () => {
    const square: Point[] = [
      [0, 0],
      [100, 0],
      [100, 100],
      [0, 100],
    ];
    const shifted = homography(
      square,
      square.map(([x, y]): Point => [x + 7, y - 3]),
    );
    for (const [i, value] of [1, 0, 7, 0, 1, -3, 0, 0, 1].entries()) expect(shifted[i]).toBeCloseTo(value, 9);
    const turned = homography(
      square,
      square.map(([x, y]): Point => [-y, x]),
    );
    for (const [i, value] of [0, -1, 0, 1, 0, 0, 0, 0, 1].entries()) expect(turned[i]).toBeCloseTo(value, 9);
  });
  it('random maps: found again, and the way back undoes them', () => {
    const random = seeded(9);
    for (let round = 0; round < 100; round++) {
      const four = [
        [0, 0],
        [300, 0],
        [300, 400],
        [0, 400],
      ].map(([x, y]): Point => [(x as number) + random() * 80, (y as number) + random() * 80]);
      const to = [
        [10, 20],
        [900, 60],
        [860, 1300],
        [40, 1200],
      ].map(([x, y]): Point => [(x as number) + random() * 90, (y as number) + random() * 90]);
      const h = homography(four, to);
      for (const [i, p] of four.entries()) expect(distance(mapped(h, p), to[i] as Point)).toBeLessThan(1e-6);
      const there: Point = [random() * 300, random() * 400];
      expect(distance(mapped(inverted(h), mapped(h, there)), there)).toBeLessThan(1e-6);
      const one = multiplied(inverted(h), h);
      expect((one[1] as number) / (one[8] as number)).toBeCloseTo(0, 8);
    }
  });
  it('three corners on a line and three corners are refused', () => {
    expect(() =>
      homography(
        [
          [0, 0],
          [1, 1],
          [2, 2],
          [0, 5],
        ],
        [
          [0, 0],
          [1, 0],
          [1, 1],
          [0, 1],
        ],
      ),
    ).toThrow(/one line/);
    expect(() =>
      homography(
        [
          [0, 0],
          [1, 0],
          [1, 1],
        ],
        [
          [0, 0],
          [1, 0],
          [1, 1],
        ],
      ),
    ).toThrow(/Four points/);
  });
});

describe('perspective', () => {
  it('evenly spaced things keep the cross-ratio of evenly spaced points, wherever they vanish (projective geometry)', () => {
    const vanishing: Point = [400, 100];
    const found = evenlySpaced([0, 300], [100, 250], vanishing, 6);
    const along = found.map(({ at }) => distance(at, found[0]?.at as Point));
    for (let i = 0; i + 3 < along.length; i++) {
      const four = along.slice(i, i + 4) as [number, number, number, number];
      // For 0, 1, 2, 3 on level ground the cross-ratio is (2 · 2) / (1 · 3).
      expect(crossRatio(...four)).toBeCloseTo(4 / 3, 9);
    }
    expect(found[1]?.at[0]).toBeCloseTo(100, 9);
  });
  it('the diagonal way of the draughtsman gives the same third post (common practice, no published source)', () => {
    // Through the middle of the second post a line from the head of the first meets the foot line where the third stands.
    const vanishing: Point = [500, 100];
    const [a, b] = [
      [0, 300],
      [125, 250],
    ] as [Point, Point];
    const height = 120;
    const size = distance(b, vanishing) / distance(a, vanishing);
    const middle: Point = [b[0], b[1] - (height * size) / 2];
    const foot = crossing([a[0], a[1] - height], middle, a, vanishing) as Point;
    const third = evenlySpaced(a, b, vanishing, 3)[2]?.at as Point;
    expect(distance(foot, third)).toBeLessThan(1e-9);
  });
  it('a thing behind the vanishing point is refused', () => {
    expect(() => evenlySpaced([0, 300], [500, 50], [400, 100], 4)).toThrow(/between/);
    expect(() => alongPath([[0, 0]], 0.5, [10, 10], 3)).toThrow(/two points/);
    expect(() =>
      alongPath(
        [
          [0, 0],
          [1, 1],
        ],
        1.5,
        [10, 10],
        3,
      ),
    ).toThrow(/smaller/);
  });
  it('along a straight path the things stand as on the line; on a bent one they keep their sizes', () => {
    const vanishing: Point = [400, 100];
    const straight = alongPath([[0, 300], vanishing], 0.75, vanishing, 5);
    const line = evenlySpaced([0, 300], [100, 250], vanishing, 5);
    for (const [i, one] of straight.entries()) expect(distance(one.at, line[i]?.at as Point)).toBeLessThan(1e-9);
    const rising = alongPath(
      [
        [0, 300],
        [200, 150],
        [390, 90],
      ],
      0.75,
      vanishing,
      4,
    );
    for (const [i, one] of rising.entries()) expect(one.size).toBeCloseTo(line[i]?.size as number, 12);
    expect(rising.length).toBeGreaterThan(2);
    const [height, level] = [rising, line].map((list) => list.map(({ at }) => at[1]));
    expect(height?.[1]).toBeLessThan(level?.[1] as number);
  });
  it('every point of a circle on the ground, projected one by one, lies on the ellipse', () => {
    const eye = { xMm: 150, horizonMm: 80, distanceMm: 500 };
    for (const at of [
      [150, 200],
      [60, 260],
      [280, 150],
    ] as Point[]) {
      const { at: middle, longMm, shortMm, turnDeg } = groundCircle(eye, at, 40);
      const z = eye.distanceMm / (at[1] - eye.horizonMm);
      const x = ((at[0] - eye.xMm) / eye.distanceMm) * z;
      const radius = (40 / eye.distanceMm) * z;
      const t = (turnDeg * Math.PI) / 180;
      for (let i = 0; i < 24; i++) {
        const [gx, gz] = [x + radius * Math.cos(i), z + radius * Math.sin(i)];
        const seen: Point = [eye.xMm + (eye.distanceMm * gx) / gz, eye.horizonMm + eye.distanceMm / gz];
        const [dx, dy] = [seen[0] - middle[0], seen[1] - middle[1]];
        const [u, v] = [(dx * Math.cos(t) + dy * Math.sin(t)) / longMm, (-dx * Math.sin(t) + dy * Math.cos(t)) / shortMm];
        expect(u * u + v * v).toBeCloseTo(1, 6);
      }
      expect(longMm).toBeGreaterThan(shortMm);
    }
    expect(() => groundCircle(eye, [150, 60], 20)).toThrow(/below the horizon/);
    expect(() => groundCircle(eye, [150, 90], 4000)).toThrow(/behind the eye/);
  });
  it('a shadow: light from the side at 45° throws one as long as the thing is high, level with its foot', () => {
    const eye = { xMm: 0, horizonMm: 0, distanceMm: 600 };
    const [foot, head] = [
      [50, 200],
      [50, 120],
    ] as [Point, Point];
    const tip = shadowTip(eye, foot, head, { azimuthDeg: 90, elevationDeg: 45 });
    expect(tip[0]).toBeCloseTo(50 - 80, 6);
    expect(tip[1]).toBeCloseTo(200, 6);
  });
  it('a shadow against points projected in space: the ray through the head meets the ground there', () => {
    const eye = { xMm: 20, horizonMm: 30, distanceMm: 700 };
    const random = seeded(5);
    for (let round = 0; round < 30; round++) {
      const light = { azimuthDeg: random() * 360, elevationDeg: 20 + random() * 50 };
      const [x, z, h] = [random() * 2 - 1, 3 + random() * 3, 0.3 + random() * 0.6];
      const seen = (gx: number, gy: number, gz: number): Point => [20 + (700 * gx) / gz, 30 + (700 * (1 - gy)) / gz];
      const [a, e] = [(light.azimuthDeg * Math.PI) / 180, (light.elevationDeg * Math.PI) / 180];
      const long = h / Math.tan(e);
      const there = [x - long * Math.sin(a), z - long * Math.cos(a)] as const;
      if (there[1] < 0.5) continue;
      const tip = shadowTip(eye, seen(x, 0, z), seen(x, h, z), light);
      expect(distance(tip, seen(there[0], 0, there[1]))).toBeLessThan(1e-6);
    }
    expect(() => shadowTip(eye, [20, 200], [20, 100], { azimuthDeg: 10, elevationDeg: 0 })).toThrow(/no end/);
  });
});

describe('a reflection', () => {
  it('obeys the law of reflection: the ray from the eye to the mirrored point strikes the water at equal angles', () => {
    const [horizonMm, f] = [100, 800];
    for (const [eyeM, bankM, farM, highM] of [
      [1.6, 0.4, 12, 3],
      [3, 0, 20, 5],
      [2, 1, 9, 1.5],
    ] as const) {
      // The thing stands on a bank at a distance; canvas height of a point at height y above the water: horizon + f (eye − y) / far.
      const seen = (y: number) => horizonMm + (f * (eyeM - y)) / farM;
      const line = mirrorLine({ baseMm: seen(bankM), horizonMm, bankM, eyeM });
      const mirrored = 2 * line - seen(bankM + highM);
      // The ray through that place strikes the water (y = 0) at distance d; both angles with the surface must be equal.
      const slope = (mirrored - horizonMm) / f;
      const d = eyeM / slope;
      const [down, up] = [eyeM / d, (bankM + highM) / (farM - d)];
      expect(down).toBeCloseTo(up, 9);
    }
  });
  it('with no bank it is mirrored about its foot; an eye below the bank is refused', () => {
    expect(mirrorLine({ baseMm: 200, horizonMm: 100, bankM: 0, eyeM: 1.6 })).toBe(200);
    expect(() => mirrorLine({ baseMm: 200, horizonMm: 100, bankM: 2, eyeM: 1.6 })).toThrow(/higher above the water/);
    expect(() => mirrorLine({ baseMm: 90, horizonMm: 100, bankM: 1, eyeM: 1.6 })).toThrow(/below the horizon/);
    expect(() => mirrorLine({ baseMm: 90, horizonMm: 100, bankM: -1, eyeM: 1.6 })).toThrow(/0 or higher/);
  });
});
