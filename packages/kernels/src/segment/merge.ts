import { type Border, type Fit, fitOf, joined, type Region, type RegionGraph, sizeOf } from './graph.js';

/** Weights of the merge cost; see {@link mergeCost}. */
export type MergeWeights = { al: number; p: number; q: number; apart: number };
/** Found by measuring on painted scenes with known regions. */
export const automatic: MergeWeights = { al: 0.49, p: 0.38, q: 0.35, apart: 2.5 };
export const guided: MergeWeights = { al: 0.8, p: 0, q: 0.6, apart: 2 };

/** A part of the picture below this share of it is hardly worth a mass of its own. */
const SMALL_SHARE = 0.002;
/** They are looked for when so many regions are left, among those of at most this share of the picture. */
const APART_BELOW = 60;
const APART_SHARE = 0.05;

/**
 * What merging two neighbours costs: d^(1−al) · (step + 0.3)^al · hm^p · small · (1 − q · shared / least perimeter), with d the
 * distance of their mean colours, step that of their fitted planes where they meet (a smooth gradient has none), and hm the
 * harmonic mean of their shares of the picture.
 */
export function mergeCost(one: Fit, other: Fit, border: Border, pixels: number, { al, p, q, apart }: MergeWeights): number {
  const least = Math.min(one.n, other.n);
  const hm = (one.n * other.n) / (one.n + other.n) / pixels;
  const small = Math.min(1, Math.sqrt(least / (SMALL_SHARE * pixels)));
  const x = border.x / border.length;
  const y = border.y / border.length;
  let d = 0;
  let step = 0;
  for (let c = 0; c < 3; c++) {
    const between = one.mean[c] - other.mean[c];
    const here =
      between +
      one.slope[2 * c] * (x - one.x) +
      one.slope[2 * c + 1] * (y - one.y) -
      other.slope[2 * c] * (x - other.x) -
      other.slope[2 * c + 1] * (y - other.y);
    d += between * between;
    step += here * here;
  }
  d = Math.sqrt(d);
  if (border.length === 0) return apart * (d + 0.3) * hm ** p * small;
  const contact = Math.min(1, border.length / Math.min(one.borderPx, other.borderPx));
  return (d + 0.1) ** (1 - al) * (Math.sqrt(step) + 0.3) ** al * hm ** p * small * (1 - q * contact);
}

/** `merges[i]` joins two nodes into node `leaves + i`; leaves are the superpixels. Cheapest first. */
export type MergeTree = { leaves: number; merges: { one: number; other: number; cost: number }[]; seedOf: Int32Array };

class Heap {
  private cost: number[] = [];
  private pair: [number, number][] = [];
  push(cost: number, pair: [number, number]): void {
    let i = this.cost.length;
    this.cost.push(cost);
    this.pair.push(pair);
    while (i > 0) {
      const parent = (i - 1) >> 1;
      if (this.cost[parent] <= cost) break;
      this.cost[i] = this.cost[parent];
      this.pair[i] = this.pair[parent] as [number, number];
      i = parent;
    }
    this.cost[i] = cost;
    this.pair[i] = pair;
  }
  pop(): { cost: number; pair: [number, number] } | null {
    const { cost, pair } = this;
    if (cost.length === 0) return null;
    const top = { cost: cost[0], pair: pair[0] as [number, number] };
    const lastCost = cost.pop() as number;
    const lastPair = pair.pop() as [number, number];
    if (cost.length > 0) {
      let i = 0;
      for (;;) {
        let child = 2 * i + 1;
        if (child >= cost.length) break;
        if (child + 1 < cost.length && cost[child + 1] < cost[child]) child++;
        if (cost[child] >= lastCost) break;
        cost[i] = cost[child];
        pair[i] = pair[child] as [number, number];
        i = child;
      }
      cost[i] = lastCost;
      pair[i] = lastPair;
    }
    return top;
  }
}

/**
 * Merges a region graph down, cheapest pair first. `seeds` gives superpixels a mark: equal marks join before all else, unequal
 * ones never. Without marks the tree ends in one region.
 */
export function mergeTree(graph: RegionGraph, weights: MergeWeights, seeds: ReadonlyMap<number, number> = new Map()): MergeTree {
  const leaves = graph.regions.length;
  const regions: Region[] = [...graph.regions];
  const fits = regions.map(fitOf);
  const borders = graph.borders.map((map) => new Map(map));
  const alive = new Uint8Array(2 * leaves);
  alive.fill(1, 0, leaves);
  const seedOf = new Int32Array(2 * leaves).fill(-1);
  for (const [leaf, seed] of seeds) seedOf[leaf] = seed;
  const heap = new Heap();
  const offer = (i: number, j: number, border: Border) => {
    const [s, t] = [seedOf[i], seedOf[j]];
    if (s !== -1 && t !== -1 && s !== t) return;
    const cost = mergeCost(fits[i] as Fit, fits[j] as Fit, border, graph.pixels, weights);
    heap.push(s !== -1 && s === t ? cost * 1e-9 : cost, [i, j]);
  };
  for (let i = 0; i < leaves; i++) for (const [j, border] of borders[i] as Map<number, Border>) if (i < j) offer(i, j, border);
  const merges: MergeTree['merges'] = [];
  const offerApart = () => {
    const left = [...alive.keys()].filter((i) => alive[i] && sizeOf(regions[i] as Region) < APART_SHARE * graph.pixels);
    for (const [a, i] of left.entries())
      for (const j of left.slice(a + 1)) {
        if (borders[i]?.has(j)) continue;
        const border = { length: 0, x: 0, y: 0 };
        borders[i]?.set(j, border);
        borders[j]?.set(i, border);
        offer(i, j, border);
      }
  };
  for (let next = heap.pop(); next; next = heap.pop()) {
    const [i, j] = next.pair;
    if (!alive[i] || !alive[j]) continue;
    const fresh = regions.length;
    const [ofI, ofJ] = [borders[i] as Map<number, Border>, borders[j] as Map<number, Border>];
    const whole = joined(regions[i] as Region, regions[j] as Region, (ofI.get(j) as Border).length);
    regions.push(whole);
    fits.push(fitOf(whole));
    seedOf[fresh] = Math.max(seedOf[i], seedOf[j]);
    alive[i] = 0;
    alive[j] = 0;
    alive[fresh] = 1;
    const around = new Map<number, Border>();
    for (const [from, skip] of [
      [ofI, j],
      [ofJ, i],
    ] as const)
      for (const [k, border] of from) {
        if (k === skip) continue;
        const old = around.get(k);
        around.set(k, old ? { length: old.length + border.length, x: old.x + border.x, y: old.y + border.y } : border);
      }
    borders.push(around);
    borders[i] = new Map();
    borders[j] = new Map();
    for (const [k, border] of around) {
      const map = borders[k] as Map<number, Border>;
      map.delete(i);
      map.delete(j);
      map.set(fresh, border);
      offer(k, fresh, border);
    }
    merges.push({ one: i, other: j, cost: next.cost });
    if (leaves - merges.length === APART_BELOW) offerApart();
  }
  return { leaves, merges, seedOf };
}

/**
 * Cuts a tree into about `count` areas: undoes its last merges until so many are left. Regions with the same mark count and
 * come out as one area, also when they do not touch. Gives an area number to every superpixel; marks keep their order first.
 */
export function cutTree({ leaves, merges, seedOf }: MergeTree, count: number): { areaOf: Int32Array; areas: number } {
  const parent = new Int32Array(leaves + merges.length).fill(-1);
  const used = seedOf.subarray(0, leaves).filter((seed) => seed >= 0);
  const marks = new Set(used);
  const open = new Set<number>();
  let unmarked = 0;
  for (let i = 0; i < leaves; i++) if (seedOf[i] === -1) unmarked++;
  for (let i = 0; i < leaves; i++) open.add(i);
  for (const [k, { one, other }] of merges.entries()) {
    if (marks.size + unmarked <= Math.max(count, marks.size)) break;
    const fresh = leaves + k;
    parent[one] = fresh;
    parent[other] = fresh;
    if (seedOf[one] === -1) unmarked--;
    if (seedOf[other] === -1) unmarked--;
    if (seedOf[fresh] === -1) unmarked++;
  }
  const order = new Map([...marks].sort((a, b) => a - b).map((mark, i) => [`m${mark}`, i]));
  const areaOf = new Int32Array(leaves);
  for (let i = 0; i < leaves; i++) {
    let root = i;
    while (parent[root] !== -1) root = parent[root];
    const key = seedOf[root] >= 0 ? `m${seedOf[root]}` : `r${root}`;
    if (!order.has(key)) order.set(key, order.size);
    areaOf[i] = order.get(key) as number;
  }
  return { areaOf, areas: order.size };
}
