import { type Labels, type LabRaster, labelMeans, labels, labRaster, type Rgba, shrink, sizeWithin } from '../raster/index.js';
import { type Region, type RegionGraph, regionGraph, sizeOf } from './graph.js';
import { automatic, cutTree, guided, mergeTree } from './merge.js';
import { finish, sharpenBorders } from './refine.js';
import { calm, liftDarks, superpixels } from './superpixels.js';

const DRAFT_PIXELS = 400_000;
const SUPERPIXELS = 1200;
const MEDIAN_RADIUS = 5;

/** A place in canvas shares (0-1 across and down) marked as belonging to an area by its number. */
export type Tap = { x: number; y: number; area: number };

/** What is worked out once for a picture, from which areas are cut and taps answered. */
export type Segmentation = {
  picture: Rgba;
  /** The picture at draft size; `lab` is calmed, with lifted darks. */
  plain: LabRaster;
  lab: LabRaster;
  map: Labels;
  graph: RegionGraph;
};

/** A label map of `areas` areas; marks of taps come first, in their order. */
export type AreaMap = { map: Labels; areas: number };

/**
 * Prepares a picture (up to some megapixels) for proposing areas: shrunk to 0.4 megapixels in linear light, calmed by a
 * median, cut into superpixels with their graph. Yields a share 0-1 of the work done, so that a worker can take messages.
 */
export function* prepare(picture: Rgba): Generator<number, Segmentation> {
  const size = sizeWithin(picture, DRAFT_PIXELS);
  const small = shrink(picture, size.width, size.height);
  yield 0.2;
  const plain = labRaster(small);
  const lifted = liftDarks(plain);
  yield 0.3;
  const radius = Math.max(1, Math.min(MEDIAN_RADIUS, Math.floor(Math.min(size.width, size.height) / 20)));
  const lab = calm(lifted, radius);
  yield 0.6;
  const { map, count } = superpixels(lab, Math.min(SUPERPIXELS, Math.max(1, (size.width * size.height) / 16)));
  yield 0.9;
  return { picture, plain, lab, map, graph: regionGraph(map, lab, count) };
}

/** Superpixels that taps mark. Two marks within one superpixel: it is split between them by colour and place. */
function seedsOf(segmentation: Segmentation, taps: readonly Tap[]) {
  const { lab, map } = segmentation;
  const { width, height } = map;
  const at = ({ x, y }: Tap) =>
    Math.min(height - 1, Math.max(0, Math.floor(y * height))) * width + Math.min(width - 1, Math.max(0, Math.floor(x * width)));
  const byLeaf = new Map<number, Tap[]>();
  for (const tap of taps) {
    const leaf = map.data[at(tap)];
    byLeaf.set(leaf, [...(byLeaf.get(leaf) ?? []), tap]);
  }
  const clashes = [...byLeaf].filter(([, list]) => new Set(list.map((tap) => tap.area)).size > 1);
  if (clashes.length === 0)
    return { map, graph: segmentation.graph, seeds: new Map([...byLeaf].map(([leaf, [tap]]) => [leaf, (tap as Tap).area])) };
  const split = labels(width, height);
  split.data.set(map.data);
  let count = segmentation.graph.regions.length;
  const seeds = new Map([...byLeaf].map(([leaf, list]) => [leaf, (list[0] as Tap).area]));
  for (const [leaf, list] of clashes) {
    const areas = [...new Set(list.map((tap) => tap.area))];
    const numbers = areas.map((area, i) => {
      const number = i === 0 ? leaf : count++;
      seeds.set(number, area);
      return number;
    });
    for (let pixel = 0; pixel < map.data.length; pixel++) {
      if (map.data[pixel] !== leaf) continue;
      let [best, least] = [0, Number.POSITIVE_INFINITY];
      for (const tap of list) {
        const seat = at(tap);
        const place = Math.hypot((pixel % width) - (seat % width), Math.floor(pixel / width) - Math.floor(seat / width));
        const colour = Math.hypot(lab.l[pixel] - lab.l[seat], lab.a[pixel] - lab.a[seat], lab.b[pixel] - lab.b[seat]);
        if (colour + place * 0.5 < least) [best, least] = [areas.indexOf(tap.area), colour + place * 0.5];
      }
      split.data[pixel] = numbers[best];
    }
  }
  return { map: split, graph: regionGraph(split, lab, count), seeds };
}

/**
 * The draft: about `count` areas at 0.4 megapixels, cut from the merge tree. Taps join what carries the same mark and keep
 * apart what carries different ones. Parts smaller than `leastShare` of the picture go to a neighbour, unless they hold a tap.
 */
export function cutAreas(segmentation: Segmentation, count: number, taps: readonly Tap[] = [], leastShare = 0.0004): AreaMap {
  const { map, graph, seeds } = seedsOf(segmentation, taps);
  const tree = mergeTree(graph, taps.length > 0 ? guided : automatic, seeds);
  const { areaOf } = cutTree(tree, count);
  const marked = new Set(taps.map((tap) => tap.area)).size;
  joinSmallParts(graph, areaOf, (area) => (area < marked ? 6 : leastShare * map.data.length));
  const out = labels(map.width, map.height);
  for (let at = 0; at < out.data.length; at++) out.data[at] = areaOf[map.data[at]];
  return renumber(out);
}

/** Connected parts of an area below so many pixels go to the area with which they share most border, smallest first, in place. */
function joinSmallParts({ regions, borders }: RegionGraph, areaOf: Int32Array, least: (area: number) => number): void {
  const seen = new Uint8Array(regions.length);
  const small: { size: number; leaves: number[] }[] = [];
  for (let start = 0; start < regions.length; start++) {
    if (seen[start]) continue;
    const leaves = [start];
    seen[start] = 1;
    let size = 0;
    for (let k = 0; k < leaves.length; k++) {
      const leaf = leaves[k];
      size += sizeOf(regions[leaf] as Region);
      for (const other of borders[leaf]?.keys() ?? [])
        if (!seen[other] && areaOf[other] === areaOf[leaf]) {
          seen[other] = 1;
          leaves.push(other);
        }
    }
    if (size < least(areaOf[start])) small.push({ size, leaves });
  }
  small.sort((a, b) => a.size - b.size);
  for (const { leaves } of small) {
    const own = areaOf[leaves[0]];
    const around = new Map<number, number>();
    for (const leaf of leaves)
      for (const [other, border] of borders[leaf] ?? []) {
        const area = areaOf[other];
        if (area !== own) around.set(area, (around.get(area) ?? 0) + border.length);
      }
    let [best, most] = [own, 0];
    for (const [area, length] of around) if (length > most || (length === most && area < best)) [best, most] = [area, length];
    for (const leaf of leaves) areaOf[leaf] = best;
  }
}

/** The areas at the picture's full working size, their borders laid on the crest of the gradient. */
export function refineAreas(segmentation: Segmentation, draft: AreaMap, leastShare = 0.0004): AreaMap {
  const { picture } = segmentation;
  const { width, height } = picture;
  const full = liftDarks(labRaster(picture));
  if (width * height < 4000) return renumber(sharpenBorders(draft.map, full, 1));
  return renumber(finish(draft.map, full, () => leastShare * width * height * 0.5));
}

/** Numbers 0 to n − 1 without gaps, in the order of the old numbers. */
function renumber(map: Labels): AreaMap {
  const used = [...new Set(map.data)].sort((a, b) => a - b);
  const number = new Map(used.map((old, i) => [old, i]));
  for (let at = 0; at < map.data.length; at++) map.data[at] = number.get(map.data[at]) as number;
  return { map, areas: used.length };
}

/** Whether the picture has anything to tell apart: the spread of its colours in Lab, 0 for one even colour. */
export function colourSpread({ lab, map, graph }: Segmentation): number {
  const colours = labelMeans(map, lab, graph.regions.length).filter((colour) => colour !== null);
  const mean = [0, 1, 2].map((c) => colours.reduce((sum, colour) => sum + colour[c], 0) / colours.length);
  return Math.max(...colours.map((colour) => Math.hypot(...colour.map((value, c) => value - mean[c]))));
}
