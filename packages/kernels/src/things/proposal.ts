import { regionGraph } from '../segment/graph.js';
import { guided, mergeTree } from '../segment/merge.js';
import { bestCut, type Cues, cuesOf, ranked } from './cues.js';
import type { Scene, Superpixels } from './prepare.js';

/** A thing that the picture may hold: what it may be, and whether one could be sure of it. */
export type ProposedThing = { kind: 'sky' | 'water' | 'ground' | 'background' | 'subject' };
/** A first proposal: things, and which of them every superpixel belongs to. The subject is only there where it stands out clearly. */
export type Proposal = { things: ProposedThing[]; labels: Int16Array };

/** A subject is only shown where the mean step along its border is at least this (ΔE). */
const CLEAR_STEP = 26;

/** What the picture may be of, without a mark: a guess, to be put right by strokes. */
export function proposeThings(scene: Scene): Proposal {
  const cues = cuesOf(scene);
  const subject = subjectOf(scene, cues);
  const isClear = subject !== null && subject.step >= CLEAR_STEP;
  const inside = isClear ? withoutLeaves(scene, subject.inside) : new Uint8Array(scene.pixels.count);
  // Where nothing stands out the first stroke shall part the whole, not pieces of it.
  const planes = isClear ? planesOf(scene, inside) : [Array.from({ length: scene.pixels.count }, (_, k) => k)];
  const label = new Int16Array(scene.pixels.count);
  const things: ProposedThing[] = planes.map((plane) => ({ kind: kindOf(scene, plane) }));
  planes.forEach((plane, i) => {
    for (const k of plane) label[k] = i;
  });
  if (isClear) {
    const own = things.push({ kind: 'subject' }) - 1;
    for (let k = 0; k < label.length; k++) if (inside[k] !== 0) label[k] = own;
  }
  return { things, labels: label };
}

/** Green and full of detail: what may be leaves or needles. */
const GREEN_FROM = 78;
const GREEN_TO = 160;
const LEAST_CHROMA = 5;
/** Where so much of what stands out is green, and as much is not, the two are not one thing. */
const LEAST_PART = 0.15;
/** What stands out without the leaves that stand out with it, where it is not all leaves. */
function withoutLeaves({ pixels }: Scene, inside: Uint8Array): Uint8Array {
  const { means, size, count } = pixels;
  const chance = new Float32Array(count);
  for (let k = 0; k < count; k++) {
    const [a, b, detail] = [means[1][k], means[2][k], means[3][k]];
    const hue = (Math.atan2(b, a) * 180) / Math.PI;
    const isGreen = hue > GREEN_FROM && hue < GREEN_TO && Math.sqrt(a * a + b * b) > LEAST_CHROMA && detail > SMOOTH;
    chance[k] = isGreen ? 1 : 0;
  }
  const held = new Int16Array(count).fill(-1);
  const green = twoLabels(pixels, held, chance);
  let [whole, leaves] = [0, 0];
  for (let k = 0; k < count; k++) {
    if (inside[k] === 0) continue;
    whole += size[k];
    if (green[k] > 0.5) leaves += size[k];
  }
  if (leaves < LEAST_PART * whole || leaves > (1 - LEAST_PART) * whole) return inside;
  return inside.map((one, k) => (one !== 0 && green[k] <= 0.5 ? 1 : 0));
}

type Subject = { inside: Uint8Array; step: number };
/** Three ways of weighing the middle, some cuts of a two-label walk each; the clearest border round something wins. */
function subjectOf({ pixels }: Scene, cues: Cues): Subject | null {
  const { size } = pixels;
  const { said, centre } = cues;
  const ways = [
    said.map((value, k) => value * (0.35 + 0.65 * centre[k])),
    said.map((value, k) => 0.8 * value + 0.2 * centre[k]),
    said,
  ];
  let best: { value: number; inside: Uint8Array; chance: Float32Array } | null = null;
  for (const way of ways) {
    const { share } = bestCut(way, size);
    let score: Float32Array = way;
    let chance: Float32Array = way;
    for (let round = 0; round < 2; round++) {
      const ranks = ranked(score, size);
      const [low, high] = [(1 - share) * 0.6, 1 - share * 0.5];
      const held = Int16Array.from(ranks, (rank) => (rank < low ? 0 : rank > high ? 1 : -1));
      chance = twoLabels(pixels, held, score);
      score = score.map((value, k) => 0.5 * value + 0.5 * chance[k]);
    }
    for (let cut = 0.2; cut < 0.85; cut += 0.08) {
      const inside = Uint8Array.from(chance, (value) => (value > cut ? 1 : 0));
      const value = worthOf(pixels, cues, inside);
      if (value > (best?.value ?? 0)) best = { value, inside, chance };
    }
  }
  if (!best) return null;
  const inside = mainParts(pixels, cues, best.inside, best.chance);
  const { step, length } = borderOf(pixels, inside);
  return { inside, step: step / Math.max(1, length) };
}

function borderOf({ start, to, length: lengths, step: steps, count }: Superpixels, inside: Uint8Array) {
  let [step, length] = [0, 0];
  for (let k = 0; k < count; k++) {
    if (inside[k] === 0) continue;
    for (let e = start[k]; e < start[k + 1]; e++)
      if (inside[to[e]] === 0) {
        step += steps[e] * lengths[e];
        length += lengths[e];
      }
  }
  return { step, length };
}

function worthOf(pixels: Superpixels, { said, centre, rim }: Cues, inside: Uint8Array): number {
  const { size, count } = pixels;
  let [area, middle, saidIn, saidOut, whole, rimIn, rims] = [0, 0, 0, 0, 0, 0, 0];
  for (let k = 0; k < count; k++) {
    whole += size[k];
    if (rim[k] !== 0) rims++;
    if (inside[k] === 0) {
      saidOut += said[k] * size[k];
      continue;
    }
    if (rim[k] !== 0) rimIn++;
    area += size[k];
    middle += centre[k] * size[k];
    saidIn += said[k] * size[k];
  }
  const share = area / whole;
  const { step, length } = borderOf(pixels, inside);
  if (share < 0.015 || share > 0.8 || length === 0) return 0;
  return (
    (step / length) *
    (0.25 + middle / area) *
    (saidIn / area - saidOut / (whole - area) + 0.05) *
    (1 - (0.6 * rimIn) / Math.max(1, rims)) *
    (Math.min(share, 0.35) / 0.35) ** 0.6
  );
}

/** Of several parts those that count: large, sure, near the middle, not mostly at the rim. */
function mainParts(pixels: Superpixels, { centre, rim }: Cues, inside: Uint8Array, chance: Float32Array): Uint8Array {
  const { size } = pixels;
  const parts = partsOf(pixels, inside);
  const worth = parts.map((own) => {
    let [area, sure, middle, rims] = [0, 0, 0, 0];
    for (const k of own) {
      area += size[k];
      sure += chance[k] * size[k];
      middle += centre[k] * size[k];
      rims += rim[k];
    }
    return Math.sqrt(area) * (sure / area) * (middle / area + 0.1) * (1 - 0.6 * Math.min(1, (rims / own.length) * 4));
  });
  const most = Math.max(...worth);
  const out = new Uint8Array(inside.length);
  parts.forEach((own, i) => {
    if ((worth[i] as number) >= 0.3 * most) for (const k of own) out[k] = 1;
  });
  return out;
}

/** The connected parts of what is 1. */
function partsOf({ start, to }: Superpixels, inside: Uint8Array): number[][] {
  const seen = new Uint8Array(inside.length);
  const parts: number[][] = [];
  for (let from = 0; from < inside.length; from++) {
    if (inside[from] === 0 || seen[from] !== 0) continue;
    const own: number[] = [];
    const stack = [from];
    seen[from] = 1;
    while (stack.length > 0) {
      const k = stack.pop() as number;
      own.push(k);
      for (let e = start[k]; e < start[k + 1]; e++) {
        const j = to[e];
        if (inside[j] === 0 || seen[j] !== 0) continue;
        seen[j] = 1;
        stack.push(j);
      }
    }
    parts.push(own);
  }
  return parts;
}

const PULL = 0.01;
/** A walk with some places held, and the score as its prior. */
function twoLabels({ count, size, start, to, weight, degree }: Superpixels, held: Int16Array, score: Float32Array): Float32Array {
  const x = Float32Array.from(score, (value, k) => (held[k] >= 0 ? held[k] : value));
  for (let round = 0; round < 80; round++)
    for (let i = 0; i < count; i++) {
      const k = round % 2 === 1 ? count - 1 - i : i;
      if (held[k] >= 0) continue;
      const own = PULL * Math.sqrt(size[k]);
      let sum = own * score[k];
      for (let e = start[k]; e < start[k + 1]; e++) sum += weight[e] * x[to[e]];
      x[k] = sum / (degree[k] + own);
    }
  return x;
}

const MOST_PLANES = 4;
const LEAST_PLANE = 0.015;
const PLANE_GAIN = 3;
/**
 * Planes of what is not the subject: the last merges of a tree are undone while what they joined differs enough in colour and detail for
 * its size. A blurred ground stays one.
 */
function planesOf({ pixels, map, lab, width, height }: Scene, inside: Uint8Array): number[][] {
  const { count, size, means } = pixels;
  const graph = regionGraph({ width, height, data: map }, lab, count);
  graph.borders.forEach((own, k) => {
    for (const j of [...own.keys()]) if (inside[k] !== inside[j]) own.delete(j);
  });
  const { merges } = mergeTree(graph, { ...guided, apart: 1e6 });
  type Node = { size: number; sums: number[]; leaves: number[]; from: [number, number] | null; side: number };
  const nodes: Node[] = Array.from({ length: count }, (_, k) => ({
    size: size[k],
    sums: [0, 1, 2, 3].map((c) => means[c as 0][k] * size[k]),
    leaves: [k],
    from: null,
    side: inside[k],
  }));
  const isTop = new Set(Array.from({ length: count }, (_, k) => k).filter((k) => inside[k] === 0));
  merges.forEach(({ one, other }) => {
    const [a, b] = [nodes[one] as Node, nodes[other] as Node];
    const side = a.side === b.side ? a.side : -1;
    nodes.push({
      size: a.size + b.size,
      sums: a.sums.map((sum, c) => sum + (b.sums[c] as number)),
      leaves: side === 0 ? [...a.leaves, ...b.leaves] : [],
      from: [one, other],
      side,
    });
    if (side !== 0) return;
    isTop.delete(one);
    isTop.delete(other);
    isTop.add(nodes.length - 1);
  });
  const mean = (node: Node, c: number) => (node.sums[c] as number) / node.size;
  let planes = [...isTop].map((k) => nodes[k] as Node);
  const isLarge = (node: Node) => node.size > LEAST_PLANE * map.length;
  // What was joined last may be a crumb: it must not keep what lies below it together.
  const withoutCrumbs = (list: readonly Node[]): Node[] =>
    list.flatMap((node): Node[] => {
      if (!node.from || !isLarge(node)) return [node];
      const [a, b] = node.from.map((k) => nodes[k] as Node) as [Node, Node];
      return isLarge(a) === isLarge(b) ? [node] : withoutCrumbs([a, b]);
    });
  planes = withoutCrumbs(planes);
  while (planes.filter(isLarge).length < MOST_PLANES) {
    const found = planes
      .flatMap((node) => {
        if (!node.from) return [];
        const [a, b] = node.from.map((k) => nodes[k] as Node) as [Node, Node];
        const least = Math.min(a.size, b.size) / map.length;
        const apart = Math.hypot(...[0, 1, 2].map((c) => mean(a, c) - mean(b, c)), 0.8 * (mean(a, 3) - mean(b, 3)));
        return least < LEAST_PLANE ? [] : [{ node, a, b, gain: apart * Math.sqrt(least) }];
      })
      .sort((one, other) => other.gain - one.gain)[0];
    if (!found || found.gain < PLANE_GAIN) break;
    planes = [...planes.filter((node) => node !== found.node), ...withoutCrumbs([found.a, found.b])];
  }
  planes.sort((a, b) => b.size - a.size);
  const main = planes.filter((node, i) => i === 0 || isLarge(node));
  const groups = main.map((node) => [...node.leaves]);
  // Crumbs join the plane that they are most alike.
  for (const crumb of planes.filter((node) => !main.includes(node))) {
    const unlike = main.map((node) => Math.hypot(...[0, 1, 2].map((c) => mean(node, c) - mean(crumb, c))));
    groups[unlike.indexOf(Math.min(...unlike))]?.push(...crumb.leaves);
  }
  return groups;
}

/** What a plane may be, by its place, colour and detail. */
function kindOf({ pixels: { means, size }, height }: Scene, own: readonly number[]): ProposedThing['kind'] {
  const sums = [0, 0, 0, 0];
  let [whole, top, bottom, down] = [0, 0, 0, 0];
  for (const k of own) {
    whole += size[k];
    for (let c = 0; c < 4; c++) sums[c] = (sums[c] as number) + means[c as 0][k] * size[k];
    down += means[5][k] * size[k];
    if (means[5][k] < 0.03 * height) top++;
    if (means[5][k] > 0.97 * height) bottom++;
  }
  const [l = 0, , b = 0, detail = 0] = sums.map((sum) => sum / whole);
  const isSmooth = detail < SMOOTH;
  if (top > 0 && bottom === 0 && isSmooth && (b < 3 || l > 75)) return 'sky';
  if (isSmooth && top === 0 && b < 4 && down / whole > 0.4 * height) return 'water';
  if (isSmooth || bottom === 0) return 'background';
  return top > 0 ? 'background' : 'ground';
}
const SMOOTH = -3;
