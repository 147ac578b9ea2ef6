import { describe, expect, it } from '@jest/globals';
import type { Area, Outline } from '@viaticum/contract';
import { seeded } from '@viaticum/kernels/fixtures';
import * as exact from 'polyclip-ts';
import { extentsOf, overlapsBetween, restsOn } from '../derived/index.js';
import { smallLesson, testStep } from '../fixtures/lessons.js';
import {
  common,
  extentOutline,
  labelSheets,
  offset,
  outlineArea,
  outlineFault,
  overlapsOf,
  paintedExtents,
  repaired,
  sharedBorders,
  united,
  visibleParts,
  without,
} from './index.js';

const box = (x: number, y: number, w: number, h: number): Outline => [
  [
    [
      [x, y],
      [x + w, y],
      [x + w, y + h],
      [x, y + h],
    ],
  ],
];
const area = (id: string, outline: Outline): Area => ({ id, name: id, outline });
const canvas = { widthMm: 200, heightMm: 100 };
describe('clipping', () => {
  type Geom = Parameters<typeof exact.union>[0];
  const close = (outline: Outline) => outline.map((polygon) => polygon.map((ring) => [...ring, ring[0]])) as unknown as Geom;
  const area = (geom: ReturnType<typeof exact.union>) =>
    outlineArea(geom.map((polygon) => polygon.map((ring) => ring.slice(0, -1))) as Outline);
  const blob = (random: () => number): Outline => {
    const [cx, cy, r] = [random() * 200, random() * 100, 10 + random() * 60];
    return [
      [
        Array.from({ length: 30 }, (_, i): [number, number] => {
          const reach = r * (0.6 + 0.4 * random());
          return [cx + reach * Math.cos(i / 4.775), cy + reach * Math.sin(i / 4.775)];
        }),
      ],
    ];
  };
  it('agrees with polyclip-ts on random polygons: union, difference, intersection', () => {
    const random = seeded(21);
    for (let round = 0; round < 30; round++) {
      const [a, b] = [blob(random), blob(random)];
      expect(outlineArea(united(a, b))).toBeCloseTo(area(exact.union(close(a), close(b))), 1);
      expect(outlineArea(without(a, b))).toBeCloseTo(area(exact.difference(close(a), close(b))), 1);
      expect(outlineArea(common(a, b))).toBeCloseTo(area(exact.intersection(close(a), close(b))), 1);
    }
  });
  it('an offset square has the area of Steiner’s formula: a² + 4ar + πr²', () => {
    const steiner = 2500 + 4 * 50 * 6 + Math.PI * 36;
    expect(Math.abs(outlineArea(offset(box(0, 0, 50, 50), 6)) / steiner - 1)).toBeLessThan(0.001);
    expect(outlineArea(offset(box(0, 0, 50, 50), -5))).toBeCloseTo(1600, 1);
    expect(offset(box(0, 0, 8, 8), -5)).toEqual([]);
  });
  it('an outline that crosses itself is repaired to the area that the even-odd rule fills', () => {
    const bow: Outline = [
      [
        [
          [0, 0],
          [40, 40],
          [40, 0],
          [0, 40],
        ],
      ],
    ];
    const sound = repaired(bow);
    expect(outlineFault(sound)).toBeNull();
    expect(outlineArea(sound)).toBeCloseTo(800, 0);
  });
});

describe('which sheet is seen at a pixel', () => {
  it('the frontmost; none where none lies', () => {
    const map = labelSheets([box(0, 0, 20, 10), box(5, 0, 5, 10)], 15, 6, 2);
    expect([...map.data.slice(0, 15)]).toEqual([0, 0, 1, 1, 1, 0, 0, 0, 0, 0, -1, -1, -1, -1, -1]);
    expect(map.data[5 * 15]).toBe(-1);
  });
});

describe('painted extents', () => {
  const areas = [area('sky', box(0, 0, 200, 100)), area('hill', box(60, 50, 80, 50))];
  const parts = visibleParts(areas, canvas);
  const borders = sharedBorders(parts);
  const extents = (order: string[], mm = 6) => paintedExtents(parts, new Map(order.map((id, i) => [id, i])), mm, borders);
  const sizeOf = (list: ReturnType<typeof extents>, id: string) => list.find((one) => one.id === id)?.areaCm2 as number;

  it('background first: the sky runs under the hill, the hill stays within its outline', () => {
    const list = extents(['sky', 'hill']);
    // Along two sides of 50 mm and a top of 80 mm, 6 mm wide; the corners lie within.
    expect(sizeOf(list, 'sky')).toBeCloseTo(160 + (2 * 50 * 6 + 80 * 6 - 2 * 36) / 100, 1);
    expect(sizeOf(list, 'hill')).toBeCloseTo(40, 6);
    expect(list.map((one) => one.cutInMm)).toEqual([0, 0]);
  });
  it('subject first: the hill is laid too large, and the sky cuts in round it', () => {
    const list = extents(['hill', 'sky']);
    expect(sizeOf(list, 'hill')).toBeCloseTo(40 + (2 * 50 * 6 + 80 * 6 + (Math.PI * 36) / 2) / 100, 1);
    expect(sizeOf(list, 'sky')).toBeCloseTo(160, 6);
    expect(list.find((one) => one.id === 'sky')?.cutInMm).toBeCloseTo(180, 0);
  });
  it('nothing is painted off the canvas, and nothing past an edge without overlap', () => {
    for (const one of extents(['hill', 'sky'], 30)) {
      const [ys, xs] = [
        extentOutline(one)
          .flat(2)
          .map(([, y]) => y),
        extentOutline(one)
          .flat(2)
          .map(([x]) => x),
      ];
      expect([Math.min(...xs) >= 0, Math.max(...xs) <= 200, Math.max(...ys) <= 100]).toEqual([true, true, true]);
    }
    expect(sizeOf(extents(['sky', 'hill'], 0), 'sky')).toBeCloseTo(160, 6);
  });
  it('overlaps are the areas that lie on each other', () => {
    const list = extents(['sky', 'hill']);
    const overlap = overlapsOf(list);
    expect(overlap.get('hill')?.get('sky')).toBeCloseTo(sizeOf(list, 'sky') - 160, 3);
    expect(overlap.get('sky')?.get('hill')).toBe(overlap.get('hill')?.get('sky'));
    expect(overlapsOf(extents(['sky', 'hill'], 0)).get('sky')?.size).toBe(0);
  });
  it('two that run into the same third lie on each other there, exactly', () => {
    const three = [area('left', box(0, 0, 50, 100)), area('right', box(50, 0, 50, 100)), area('foot', box(0, 80, 100, 20))];
    const seen = visibleParts(three, { widthMm: 100, heightMm: 100 });
    const rank = new Map([
      ['left', 0],
      ['right', 1],
      ['foot', 2],
    ]);
    const list = paintedExtents(seen, rank, 6, sharedBorders(seen));
    const overlap = overlapsOf(list);
    const exactly = outlineArea(common(...(list.slice(0, 2).map(extentOutline) as [Outline, Outline]))) / 100;
    expect(exactly).toBeGreaterThan(4.8);
    expect(overlap.get('left')?.get('right')).toBeCloseTo(exactly, 3);
  });
  it('a lesson’s extents follow its steps; a dropped thing is not painted', () => {
    const lesson = smallLesson([testStep('one', { areaIds: ['b'] }), testStep('two', { areaIds: ['a'] })]);
    const of = (which: typeof lesson, id: string) => extentsOf(which).find((one) => one.id === id)?.areaCm2 as number;
    const swapped = { ...lesson, steps: [...lesson.steps].reverse() };
    expect(of(lesson, 'b')).toBeGreaterThan(of(swapped, 'b'));
    expect(of(lesson, 'a')).toBeLessThan(of(swapped, 'a'));
    expect(restsOn(lesson, 'a')).toEqual(['b']);
    expect(overlapsBetween(lesson).get('a')?.get('b')).toBeGreaterThan(5);
    const dropped = {
      ...lesson,
      things: [{ id: 'e', name: 'hill', fate: 'dropped' as const }],
      areas: lesson.areas.map((one) => (one.id === 'b' ? { ...one, thingId: 'e' } : one)),
    };
    expect(of(dropped, 'b')).toBe(0);
    expect(of(dropped, 'a')).toBeCloseTo(500, 3);
  });
});
