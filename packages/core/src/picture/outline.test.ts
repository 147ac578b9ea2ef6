import { describe, expect, it } from '@jest/globals';
import type { Outline } from '@viaticum/contract';
import { seeded } from '@viaticum/kernels/fixtures';
import { type Labels, labels } from '@viaticum/kernels/raster';
import { modeFilter } from '@viaticum/kernels/segment';
import * as exact from 'polyclip-ts';
import { labelSheets, outlineArea, outlineFault, visibleParts } from '../area/index.js';
import { bordersOf, contacts, douglasPeucker, outlineOf, sheetsOf, traceArcs } from './outline/index.js';

const mapOf = (rows: string[]): Labels => {
  const map = labels((rows[0] as string).length, rows.length);
  map.data.set(rows.flatMap((row) => [...row].map(Number)));
  return map;
};
/** Blobs of random labels: discs thrown on each other, their rims roughened. */
const randomMap = (seed: number, areas: number, size = 60): Labels => {
  const random = seeded(seed);
  const map = labels(size, size);
  for (let k = 0; k < areas * 3; k++) {
    const [cx, cy, r, label] = [random() * size, random() * size, 3 + random() * size * 0.3, Math.floor(random() * areas)];
    for (let y = 0; y < size; y++)
      for (let x = 0; x < size; x++) if (Math.hypot(x - cx, y - cy) < r * (0.85 + 0.3 * random())) map.data[y * size + x] = label;
  }
  for (let label = 0; label < areas; label++) map.data[label] = label; // every label occurs
  return map;
};

describe('arcs', () => {
  it('every border of every pixel lies in exactly one arc', () => {
    for (let seed = 1; seed <= 6; seed++) {
      const map = randomMap(seed, 5, 30);
      const edges = new Set<string>();
      for (const { points, closed } of traceArcs(map)) {
        const n = closed ? points.length : points.length - 1;
        for (let i = 0; i < n; i++) {
          const ends = [points[i] as [number, number], points[(i + 1) % points.length] as [number, number]];
          const [a, b] = ends.sort((p, q) => p[0] - q[0] || p[1] - q[1]);
          const key = `${a} ${b}`;
          expect(edges.has(key)).toBe(false);
          edges.add(key);
        }
      }
      let wanted = 4 * 30;
      for (let y = 0; y < 30; y++)
        for (let x = 0; x < 30; x++) {
          if (x < 29 && map.data[y * 30 + x] !== map.data[y * 30 + x + 1]) wanted++;
          if (y < 29 && map.data[y * 30 + x] !== map.data[y * 30 + x + 30]) wanted++;
        }
      expect(edges.size).toBe(wanted);
    }
  });
  it('left and right are what lies there', () => {
    const arcs = traceArcs(mapOf(['00', '11']));
    const middle = arcs.find((arc) => arc.left >= 0 && arc.right >= 0);
    expect(middle?.points).toEqual([
      [0, 1],
      [1, 1],
      [2, 1],
    ]);
    expect([middle?.left, middle?.right]).toEqual([0, 1]);
  });
});

describe('outlines from a map', () => {
  it('without simplification have the area of their pixels, holes and islands included', () => {
    for (let seed = 1; seed <= 8; seed++) {
      const map = randomMap(seed, 6);
      const borders = bordersOf(map, 6, 1, 0);
      for (let area = 0; area < 6; area++) {
        const outline = outlineOf(borders, (one) => one === area);
        expect(outlineArea(outline)).toBeCloseTo(map.data.filter((label) => label === area).length, 6);
      }
    }
  });
  it('a ring round an island has a hole, and the island lies in it', () => {
    const map = mapOf(['00000', '01110', '01210', '01110', '00000']);
    const outline = outlineOf(bordersOf(map, 3, 2, 0), (area) => area === 1);
    expect(outline).toHaveLength(1);
    expect(outline[0]).toHaveLength(2);
    expect(outlineArea(outline)).toBe(32);
  });
  it('a corner where an area touches itself makes no crossing', () => {
    const map = mapOf(['0011', '0011', '1100', '1100']);
    for (const area of [0, 1]) expect(outlineFault(outlineOf(bordersOf(map, 2, 1, 0), (one) => one === area))).toBeNull();
  });
  it.each([1, 2, 3, 4, 5, 6, 7, 8])('simplified, no border crosses another (random map %d)', (seed) => {
    const map = modeFilter(randomMap(seed, 7, 90), 2);
    const borders = bordersOf(map, 7, 1, 2);
    for (let area = 0; area < 7; area++) {
      const outline = outlineOf(borders, (one) => one === area);
      if (outline.length > 0) expect(outlineFault(outline)).toBeNull();
    }
    const points = (tolerance: number) => bordersOf(map, 7, 1, tolerance).arcs.reduce((sum, arc) => sum + arc.points.length, 0);
    expect(points(2)).toBeLessThan(points(0) / 3);
  });
  it('stays within the tolerance of the border it stands for', () => {
    const circle = Array.from({ length: 200 }, (_, i): [number, number] => [
      50 + 40 * Math.cos(i / 31.83),
      50 + 40 * Math.sin(i / 31.83),
    ]);
    const simple = douglasPeucker(circle, 0.5);
    expect(simple.length).toBeLessThan(40);
    for (let i = 0; i + 1 < simple.length; i++) {
      const [p, q] = [simple[i] as [number, number], simple[i + 1] as [number, number]];
      expect(40 - Math.hypot((p[0] + q[0]) / 2 - 50, (p[1] + q[1]) / 2 - 50)).toBeLessThan(0.51);
    }
  });
  it('who touches whom, and for how long', () => {
    const touching = contacts(bordersOf(mapOf(['00', '11', '22']), 3, 10, 0));
    expect(touching[1]?.get(0)).toBe(20);
    expect(touching[0]?.get(2)).toBeUndefined();
  });
});

describe('sheets', () => {
  const size = 60;
  const close = (outline: Outline) =>
    outline.map((polygon) => polygon.map((ring) => [...ring, ring[0]])) as unknown as Parameters<typeof exact.union>[0];
  it.each([1, 2, 3, 4, 5, 6])('what is seen covers the canvas without gap or overlap, in any order (random map %d)', (seed) => {
    const random = seeded(seed * 77);
    const map = modeFilter(randomMap(seed, 7, size), 2);
    const order = [0, 1, 2, 3, 4, 5, 6].filter((area) => map.data.includes(area)).sort(() => random() - 0.5);
    const borders = bordersOf(map, 7, 1, 1);
    const sheets = sheetsOf(borders, order);
    const parts = visibleParts(
      sheets.map((outline, i) => ({ id: String(i), name: 'z', outline })),
      { widthMm: size, heightMm: size },
    );
    expect(parts.reduce((sum, part) => sum + part.areaCm2, 0) * 100).toBeCloseTo(size * size, 1);
    parts.forEach((part, i) => {
      expect(part.areaCm2 * 100).toBeCloseTo(outlineArea(outlineOf(borders, (area) => area === order[i])), 1);
    });
    // The same by an outside library.
    const all = exact.union(close(sheets[0] as Outline), ...sheets.slice(1).map(close));
    expect(outlineArea(all.map((polygon) => polygon.map((ring) => ring.slice(0, -1))) as Outline)).toBeCloseTo(size * size, 1);
  });
  it('drawn again as pixels they give the map back', () => {
    const map = randomMap(3, 5, 50);
    const order = [3, 0, 4, 1, 2];
    const again = labelSheets(sheetsOf(bordersOf(map, 5, 2, 0), order), 50, 50, 2);
    expect([...again.data].map((rank) => order[rank])).toEqual([...map.data]);
  });
  it('after a thousand random drags the canvas is still covered', () => {
    const random = seeded(5);
    const map = modeFilter(randomMap(9, 6, size), 2);
    const order = [0, 1, 2, 3, 4, 5].filter((area) => map.data.includes(area));
    const areas = sheetsOf(bordersOf(map, 6, 1, 1), order).map((outline, i) => ({ id: String(i), name: 'z', outline }));
    for (let drag = 0; drag < 1000; drag++) {
      const k = 1 + Math.floor(random() * (areas.length - 1)); // the backmost sheet is the canvas itself
      const area = areas[k] as (typeof areas)[number];
      const ring = area.outline[0]?.[0] as [number, number][];
      const i = Math.floor(random() * ring.length);
      const moved = ring.map((point, j): [number, number] =>
        j === i ? [point[0] + random() * 8 - 4, point[1] + random() * 8 - 4] : point,
      );
      const outline: Outline = [[moved, ...(area.outline[0]?.slice(1) ?? [])], ...area.outline.slice(1)];
      if (outlineFault(outline) === null) areas[k] = { ...area, outline };
      if (drag % 20 !== 19) continue;
      const covered = visibleParts(areas, { widthMm: size, heightMm: size }).reduce((sum, part) => sum + part.areaCm2, 0) * 100;
      expect(Math.abs(covered - size * size) / (size * size)).toBeLessThan(0.001);
    }
  });
});
