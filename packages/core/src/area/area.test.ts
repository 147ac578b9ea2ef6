import { describe, expect, it } from '@jest/globals';
import type { Area, Outline } from '@viaticum/contract';
import { seeded } from '@viaticum/kernels/fixtures';
import * as exact from 'polyclip-ts';
import {
  borderPieces,
  canvasOutline,
  insideOutline,
  outlineArea,
  outlineFault,
  outlineLength,
  outlinePath,
  sharedBorders,
  visibleParts,
} from './index.js';

const canvas = { widthMm: 400, heightMm: 500 };
const square = (x: number, y: number, size: number): Outline => [
  [
    [
      [x, y],
      [x + size, y],
      [x + size, y + size],
      [x, y + size],
    ],
  ],
];
const area = (id: string, outline: Outline): Area => ({ id, name: id, outline });

const blob = (random: () => number): Outline => {
  const [cx, cy, r] = [random() * 420 - 10, random() * 520 - 10, 20 + random() * 110];
  return [
    [
      Array.from({ length: 24 }, (_, i) => {
        const reach = r * (0.7 + 0.3 * random());
        return [cx + reach * Math.cos((i / 24) * 2 * Math.PI), cy + reach * Math.sin((i / 24) * 2 * Math.PI)] as [number, number];
      }),
    ],
  ];
};

describe('outlines of very many points', () => {
  const round = (count: number, x: number): Outline[number] => [
    Array.from({ length: count }, (_, i): [number, number] => [
      x + 100 * Math.cos((i / count) * 2 * Math.PI),
      100 * Math.sin((i / count) * 2 * Math.PI),
    ]),
  ];
  it('eighty thousand points are sound, and one crossing among them is found', () => {
    const many = Array.from({ length: 20 }, (_, k) => round(4000, k * 300));
    expect(outlineFault(many)).toBeNull();
    const points = many[7]?.[0] as [number, number][];
    [points[100], points[110]] = [points[110], points[100]] as [[number, number], [number, number]];
    expect(outlineFault(many)).toMatch(/crosses itself/);
  });
  it('one whose every edge lies beside every other is given up with a sentence', () => {
    const comb = (x: number): Outline[number] => [
      [
        ...Array.from({ length: 3998 }, (_, p): [number, number] => {
          const at = x + (p >> 1) * 0.1;
          return (p >> 1) % 2 === p % 2 ? [at, 0] : [at + 10_000, 10_000];
        }),
        [x + 300, -10],
        [x - 100, -10],
      ],
    ];
    expect(outlineFault([comb(0), comb(1000), comb(2000)])).toMatch(/too intricate/);
  });
});

describe('outlines', () => {
  it('measures area less holes, and the length of all borders', () => {
    const frame: Outline = [
      [...(square(0, 0, 100)[0] as [number, number][][]), ...(square(25, 25, 50)[0] as [number, number][][])],
    ];
    expect(outlineArea(frame)).toBe(7500);
    expect(outlineLength(frame)).toBe(600);
    expect(outlineFault(frame)).toBeNull();
    expect(insideOutline(frame, 50, 50)).toBe(false);
    expect(insideOutline(frame, 10, 50)).toBe(true);
    expect(outlinePath(square(0, 0, 10))).toBe('M0 0L10 0L10 10L0 10Z');
  });

  it.each<[string, Outline, RegExp]>([
    [
      'a bow tie',
      [
        [
          [
            [0, 0],
            [10, 10],
            [10, 0],
            [0, 10],
          ],
        ],
      ],
      /crosses itself|encloses nothing/,
    ],
    [
      'a crossing outline with an area',
      [
        [
          [
            [0, 0],
            [20, 10],
            [20, 0],
            [0, 30],
          ],
        ],
      ],
      /crosses itself/,
    ],
    [
      'a hole that cuts its edge',
      [
        [
          [
            [0, 0],
            [20, 0],
            [20, 20],
            [0, 20],
          ],
          [
            [10, 10],
            [30, 10],
            [30, 15],
            [10, 15],
          ],
        ],
      ],
      /crosses itself/,
    ],
    [
      'three points on a line',
      [
        [
          [
            [0, 0],
            [5, 5],
            [10, 10],
          ],
        ],
      ],
      /encloses nothing/,
    ],
    [
      'one point thrice',
      [
        [
          [
            [1, 1],
            [1, 1],
            [1, 1],
          ],
        ],
      ],
      /three different points/,
    ],
    ['nothing', [], /three points/],
  ])('%s is refused with a sentence', (_, outline, words) => {
    expect(outlineFault(outline)).toMatch(words);
  });
});

describe('sheets of cut paper', () => {
  it('what is in front hides what is behind, the canvas edge cuts both', () => {
    const [back, front] = visibleParts([area('back', square(300, 400, 200)), area('front', square(350, 450, 100))], canvas);
    expect(front?.areaCm2).toBeCloseTo(25, 9);
    expect(back?.areaCm2).toBeCloseTo(75, 9);
  });

  it('an area wholly covered, or off the canvas, shows nothing', () => {
    const [hidden, , off] = visibleParts(
      [area('a', square(10, 10, 20)), area('b', square(0, 0, 60)), area('c', square(900, 0, 10))],
      canvas,
    );
    expect(hidden).toEqual({ id: 'a', outline: [], areaCm2: 0 });
    expect(off?.areaCm2).toBe(0);
  });

  it('a taped margin makes the window smaller, painted sides make it larger', () => {
    const areas = [area('sky', canvasOutline(canvas)), area('hill', square(350, 450, 100))];
    const sizes = (more: object) => visibleParts(areas, { ...canvas, ...more }).map((part) => part.areaCm2);
    const sum = (list: number[]) => list.reduce((total, size) => total + size, 0);
    expect(sum(sizes({ marginMm: 20 }))).toBeCloseTo((360 * 460) / 100, 6);
    expect(sizes({ marginMm: 20 })[1]).toBeCloseTo((30 * 30) / 100, 6);
    // The hill runs off two edges and goes on round both sides.
    expect(sum(sizes({ wrapMm: 30 }))).toBeCloseTo((460 * 560) / 100, 6);
    expect(sizes({ wrapMm: 30 })[1]).toBeCloseTo((80 * 80) / 100, 6);
  });
  it('moving a front outline changes what is seen behind it and never leaves a gap', () => {
    const sum = (x: number) =>
      visibleParts([area('sky', canvasOutline(canvas)), area('hill', square(x, 200, 120))], canvas).reduce(
        (total, part) => total + part.areaCm2,
        0,
      );
    for (const x of [-50, 0, 130.5, 380]) expect(sum(x)).toBeCloseTo(2000, 6);
  });

  it('areas agree with the exact clipping of polyclip-ts on random stacks', () => {
    const random = seeded(11);
    type Geom = Parameters<typeof exact.union>[0];
    const close = (outline: Outline) => outline.map((polygon) => polygon.map((ring) => [...ring, ring[0]])) as unknown as Geom;
    for (let round = 0; round < 6; round++) {
      const areas = Array.from({ length: 5 }, (_, i) => area(`z${i}`, blob(random)));
      visibleParts(areas, canvas).forEach((part, i) => {
        const seen = exact.intersection(close(areas[i]?.outline as Outline), close(canvasOutline(canvas)));
        const front = areas.slice(i + 1).map((one) => close(one.outline));
        const left = front.length > 0 ? exact.difference(seen, ...front) : seen;
        const area = outlineArea(left.map((polygon) => polygon.map((ring) => ring.slice(0, -1))) as Outline) / 100;
        expect(part.areaCm2).toBeCloseTo(area, 3);
      });
    }
  });

  it('knows how long a border two parts share', () => {
    const parts = visibleParts(
      [area('sky', canvasOutline(canvas)), area('hill', square(100, 300, 80)), area('hut', square(120, 280, 20))],
      canvas,
    );
    const shared = sharedBorders(parts);
    expect(shared.get('hill')?.get('sky')).toBeCloseTo(300, 0);
    expect(shared.get('hut')?.get('sky')).toBeCloseTo(60, 0);
    expect(shared.get('hut')?.get('hill')).toBeCloseTo(20, 0);
    expect(shared.get('sky')?.size).toBe(0);
  });
  it('where two areas meet, piece by piece: as long as their border, and nowhere but on it', () => {
    const parts = visibleParts([area('back', square(0, 0, 200)), area('front', square(50, 50, 60))], canvas);
    const [back, front] = parts as [(typeof parts)[number], (typeof parts)[number]];
    const pieces = borderPieces(front, back);
    const length = pieces.reduce((sum, [[x1, y1], [x2, y2]]) => sum + Math.hypot(x2 - x1, y2 - y1), 0);
    expect(length).toBeCloseTo(sharedBorders(parts).get('front')?.get('back') as number, 6);
    expect(pieces.flat().every(([x, y]) => x === 50 || x === 110 || y === 50 || y === 110)).toBe(true);
    expect(borderPieces(front, { ...back, outline: [] })).toEqual([]);
  });
});
