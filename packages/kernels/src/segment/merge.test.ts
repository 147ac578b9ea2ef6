import { describe, expect, it } from '@jest/globals';
import { type Labels, type LabRaster, labels } from '../raster/index.js';
import { fitOf, joined, type Region, regionGraph, sizeOf } from './graph.js';
import { automatic, cutTree, guided, mergeCost, mergeTree } from './merge.js';
import { grow, modeFilter, sharpenBorders } from './refine.js';
import { gradient, liftDarks, superpixels } from './superpixels.js';

const raster = (width: number, height: number, colour: (x: number, y: number) => [number, number, number]): LabRaster => {
  const out = {
    width,
    height,
    l: new Float32Array(width * height),
    a: new Float32Array(width * height),
    b: new Float32Array(width * height),
  };
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) [out.l[y * width + x], out.a[y * width + x], out.b[y * width + x]] = colour(x, y);
  return out;
};
const columns = (width: number, height: number, count: number): Labels => {
  const map = labels(width, height);
  for (let i = 0; i < map.data.length; i++) map.data[i] = Math.floor(((i % width) * count) / width);
  return map;
};

describe('regions', () => {
  const lab = raster(40, 20, (x, y) => [20 + x, 3 - 0.5 * y, 7]);
  const { regions, borders } = regionGraph(columns(40, 20, 4), lab, 4);
  it('know their size, mean, middle and border', () => {
    expect(regions.map(sizeOf)).toEqual([200, 200, 200, 200]);
    const first = fitOf(regions[0] as Region);
    expect([first.mean[0], first.x, first.y]).toEqual([24.5, 4.5, 9.5]);
    expect(borders[0]?.get(1)).toMatchObject({ length: 20 });
    expect(borders[0]?.has(2)).toBe(false);
  });
  it('a fitted plane follows an even slope (damped by a few pixels)', () => {
    const { slope } = fitOf(joined(regions[0] as Region, regions[1] as Region, 20));
    expect(slope[0]).toBeGreaterThan(0.7);
    expect(slope[0]).toBeLessThanOrEqual(1);
    expect(slope[3]).toBeGreaterThan(-0.5);
    expect(slope[3]).toBeLessThan(-0.3);
  });
  it('joined they are what one region over both would be', () => {
    const both = regionGraph(columns(40, 20, 2), lab, 2);
    const sum = joined(regions[0] as Region, regions[1] as Region, 20);
    expect([...sum.sums]).toEqual([...(both.regions[0] as Region).sums]);
    expect(sum.borderPx).toBe((both.regions[0] as Region).borderPx);
  });
});

describe('what merging costs', () => {
  const even = (l: number, n = 400) =>
    fitOf({ sums: Float64Array.from([n, 0, 0, n * 30, 0, n * 30, l * n, 0, 0, 0, 0, 0, 0, 0, 0]), borderPx: 80 });
  const border = { length: 20, x: 0, y: 0 };
  it('more for a greater difference, for larger regions, and less for a longer contact', () => {
    const cost = (d: number, n: number, length: number) =>
      mergeCost(even(50, n), even(50 + d, n), { ...border, length }, 10_000, automatic);
    expect(cost(20, 400, 20)).toBeGreaterThan(cost(10, 400, 20));
    expect(cost(10, 800, 20)).toBeGreaterThan(cost(10, 400, 20));
    expect(cost(10, 400, 60)).toBeLessThan(cost(10, 400, 20));
  });
  it('a slope that goes on over the border costs less than a step', () => {
    const slope = raster(40, 20, (x) => [30 + x, 0, 0]);
    const step = raster(40, 20, (x) => [x < 20 ? 40 : 60, 0, 0]);
    const cost = (lab: LabRaster) => {
      const { regions, borders } = regionGraph(columns(40, 20, 2), lab, 2);
      return mergeCost(fitOf(regions[0] as Region), fitOf(regions[1] as Region), borders[0]?.get(1) as never, 800, guided);
    };
    expect(cost(slope)).toBeLessThan(0.5 * cost(step));
  });
  it('regions that do not touch may merge, at a higher cost', () => {
    const apart = mergeCost(even(50), even(51), { length: 0, x: 0, y: 0 }, 10_000, automatic);
    expect(apart).toBeGreaterThan(mergeCost(even(50), even(51), border, 10_000, automatic));
    expect(Number.isFinite(apart)).toBe(true);
  });
});

describe('the merge tree', () => {
  const lab = raster(60, 20, (x) => [x < 20 ? 20 : x < 40 ? 24 : 80, 0, 0]);
  const graph = regionGraph(columns(60, 20, 6), lab, 6);
  it('joins what is alike first and ends in one', () => {
    const tree = mergeTree(graph, automatic);
    expect(tree.merges).toHaveLength(5);
    expect(cutTree(tree, 1).areas).toBe(1);
    expect([...cutTree(tree, 3).areaOf]).toEqual([0, 0, 1, 1, 2, 2]);
    expect([...cutTree(tree, 2).areaOf]).toEqual([0, 0, 0, 0, 1, 1]);
  });
  it('equal marks join whatever it costs, unequal ones never', () => {
    const marked = mergeTree(
      graph,
      guided,
      new Map([
        [0, 0],
        [5, 0],
        [2, 1],
        [3, 2],
      ]),
    );
    const { areaOf, areas } = cutTree(marked, 1);
    expect(areas).toBe(3);
    expect([areaOf[0], areaOf[5], areaOf[2], areaOf[3]]).toEqual([0, 0, 1, 2]);
    expect(areaOf[1]).toBe(0);
  });
});

describe('superpixels', () => {
  it('are connected, cover all, and keep to an edge', () => {
    const lab = raster(90, 60, (x) => [x < 47 ? 30 : 70, 0, 0]);
    const { map, count } = superpixels(lab, 40);
    expect(count).toBeGreaterThan(20);
    expect(new Set(map.data).size).toBe(count);
    const sides = new Map<number, Set<boolean>>();
    map.data.forEach((label, i) => {
      sides.set(label, (sides.get(label) ?? new Set()).add(i % 90 < 47));
    });
    expect([...sides.values()].every((side) => side.size === 1)).toBe(true);
  });
  it('the darks are lifted, white and black stay', () => {
    const { l } = liftDarks(raster(3, 1, (x) => [[0, 10, 100][x], 0, 0]));
    expect(l[0]).toBeCloseTo(0, 3);
    expect(l[1]).toBeCloseTo(100 * 0.1 ** 0.6, 1);
    expect(l[2]).toBeCloseTo(100, 3);
  });
  it('the gradient of a slope of one a pixel is one', () => {
    const { data } = gradient(raster(9, 9, (x) => [x, 0, 0]));
    expect(data[4 * 9 + 4]).toBeCloseTo(1, 6);
  });
});

describe('borders sharpened', () => {
  it('move to the crest of the gradient nearby', () => {
    const lab = raster(120, 80, (x) => [x < 64 ? 30 : 70, 0, 0]);
    const coarse = columns(30, 20, 2); // border at 60 of 120
    const { data } = sharpenBorders(coarse, lab);
    for (let y = 0; y < 80; y++)
      for (const x of [61, 62, 63, 64, 65]) expect([x, data[y * 120 + x]]).toEqual([x, x < 64 ? 0 : 1]);
  });
  it('an area thinner than the band is not lost', () => {
    const coarse = labels(40, 40);
    for (let i = 0; i < 1600; i++) coarse.data[i] = i % 40 === 20 ? 1 : 0;
    const { data } = sharpenBorders(
      coarse,
      raster(160, 160, (x) => [x >= 80 && x < 84 ? 80 : 20, 0, 0]),
    );
    expect(data.filter((label) => label === 1).length).toBeGreaterThan(300);
  });
  it('the mode takes away specks and ragged rims', () => {
    const map = columns(30, 30, 2);
    map.data[15 * 30 + 5] = 1;
    expect(modeFilter(map, 2).data[15 * 30 + 5]).toBe(0);
  });
  it('a mask grows by its reach in all directions, and not past the edge', () => {
    const mask = new Uint8Array(25);
    mask[12] = 1;
    expect(grow(mask, 5, 5, 1).reduce((sum, value) => sum + value, 0)).toBe(9);
    expect(grow(mask, 5, 5, 9).every((value) => value === 1)).toBe(true);
  });
});
