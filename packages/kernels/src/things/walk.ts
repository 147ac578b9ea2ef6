import { type Covered, coveredBy, type ThingMark } from './marks.js';
import { rimOf, type Scene, type Superpixels } from './prepare.js';

/** How likely every superpixel belongs to each thing, and what is held by marks. */
export type Walked = {
  things: number;
  /** For each thing the probability of every superpixel, 0-1. */
  chance: Float32Array[];
  /** The thing that a superpixel is held to by marks, or -1. */
  held: Int16Array;
  covered: Covered[];
};

/** A ring holds what it covers by so much of it; a stroke by less, since it is thin. */
const RING_HOLDS = 0.72;
const STROKE_HOLDS = 0.2;
/** A thing of whose strokes none holds a superpixel takes those best covered. */
const BEST_COVERED = 6;
const CLUSTERS = 5;
const LEAST_VARIANCE = [36, 16, 16, 20] as const;
/** Weight of appearance against neighbours. */
const APPEARANCE = 0.02;
const SWEEPS = 60;
const WARM_SWEEPS = 20;

/**
 * Tells things apart by marks: a random walk with priors on superpixels (Grady 2005, from memory). What looks like a thing's marks is
 * likely its own, and likeness flows over weak borders. Fast enough to answer while the hand draws. `hint` is a first guess of the thing of
 * every superpixel (-1: none): where it lies deep within a thing and looks like nothing that was marked as another, it counts as a mark.
 */
export function walk(
  scene: Scene,
  marks: readonly ThingMark[],
  things: number,
  { hint = null, from = null }: { hint?: Int16Array | null; from?: Walked | null } = {},
): Walked {
  const { pixels } = scene;
  const covered = coveredBy(scene, marks);
  const held = heldBy(scene, covered, things);
  if (hint) holdHints(scene, held, hint, things);
  const models = Array.from({ length: things }, (_, thing) => clustersOf(pixels, held, thing));
  const priors = priorsOf(pixels, models);
  // What was found before a mark more is nearly right already.
  const isWarm = from !== null && from.things === things && from.chance[0]?.length === pixels.count;
  const chance = priors.map((prior, thing) => Float32Array.from(isWarm ? (from.chance[thing] as Float32Array) : prior));
  for (let k = 0; k < pixels.count; k++)
    if (held[k] >= 0) for (let thing = 0; thing < things; thing++) chance[thing][k] = thing === held[k] ? 1 : 0;
  for (let thing = 0; thing < things; thing++) relax(pixels, held, priors[thing], chance[thing], isWarm ? WARM_SWEEPS : SWEEPS);
  return { things, chance, held, covered };
}

function heldBy({ map, pixels }: Scene, covered: readonly Covered[], things: number): Int16Array {
  const votes = Array.from({ length: things }, () => ({
    ring: new Float32Array(pixels.count),
    stroke: new Float32Array(pixels.count),
  }));
  for (const { mark, pixels: under } of covered) {
    const own = votes[mark.thing];
    const list = mark.kind === 'ring' ? own.ring : own.stroke;
    for (const pixel of under) list[map[pixel]] = list[map[pixel]] + 1;
  }
  const held = new Int16Array(pixels.count).fill(-1);
  for (let k = 0; k < pixels.count; k++) {
    let most = 0;
    votes.forEach(({ ring, stroke }, thing) => {
      const isHeld = ring[k] > RING_HOLDS * pixels.size[k] || stroke[k] >= STROKE_HOLDS * pixels.size[k];
      const sum = ring[k] + stroke[k];
      if (!isHeld || sum <= most) return;
      most = sum;
      held[k] = thing;
    });
  }
  votes.forEach(({ ring, stroke }, thing) => {
    if (held.includes(thing)) return;
    const share = (k: number) => (ring[k] + stroke[k]) / pixels.size[k];
    const best = Array.from({ length: pixels.count }, (_, k) => k)
      .filter((k) => share(k) > 0 && held[k] < 0)
      .sort((a, b) => share(b) - share(a));
    for (const k of best.slice(0, BEST_COVERED)) held[k] = thing;
  });
  return held;
}

/** A guess counts where it lies at least so many superpixels within its thing, … */
const DEEP = 2;
/** … and is unlike all that was marked as another (squared distance over variance). */
const UNLIKE = 9;
/** A guess that takes nearly all of the picture says nothing of its middle. */
const NEARLY_ALL = 0.85;

function holdHints(scene: Scene, held: Int16Array, hint: Int16Array, things: number): void {
  const { pixels } = scene;
  const marked = Array.from({ length: things }, (_, thing) => clustersOf(pixels, held, thing));
  const { count, start, to } = pixels;
  let deep = Uint8Array.from(hint, (thing) => (thing >= 0 ? 1 : 0));
  for (let ring = 0; ring < DEEP; ring++) {
    deep = deep.map((is, k) => {
      if (is === 0) return 0;
      for (let e = start[k]; e < start[k + 1]; e++) if (hint[to[e]] !== hint[k] || (ring > 0 && deep[to[e]] === 0)) return 0;
      return 1;
    });
  }
  const shares = new Float32Array(things);
  for (let k = 0; k < count; k++) if (hint[k] >= 0) shares[hint[k]] = shares[hint[k]] + 1 / count;
  const rim = shares.some((share) => share > NEARLY_ALL) ? rimOf(scene, 1) : null;
  for (let k = 0; k < count; k++) {
    const thing = hint[k];
    if (thing < 0 || held[k] >= 0 || deep[k] === 0) continue;
    if (shares[thing] > NEARLY_ALL && rim?.[k] === 0) continue;
    const isLikeOther = marked.some(
      (clusters, other) => other !== thing && clusters.some((cluster) => apartFrom(pixels, k, cluster) < UNLIKE),
    );
    if (!isLikeOther) held[k] = thing;
  }
}

function apartFrom({ means }: Superpixels, k: number, { mean, variance }: Cluster): number {
  let apart = 0;
  for (let c = 0; c < 4; c++) apart += (means[c][k] - mean[c]) ** 2 / variance[c];
  return apart;
}

type Cluster = { mean: number[]; variance: number[] };
/** Up to five clusters of what a thing's marks hold, by colour and detail (k-means, begun at what lies farthest apart). */
function clustersOf({ means, count }: Superpixels, held: Int16Array, thing: number): Cluster[] {
  const own: number[][] = [];
  for (let k = 0; k < count; k++) if (held[k] === thing) own.push([means[0][k], means[1][k], means[2][k], means[3][k]]);
  const [first] = own;
  if (!first) return [];
  const wanted = Math.min(CLUSTERS, Math.max(1, Math.floor(own.length / 3)));
  let centres = [first];
  while (centres.length < wanted) {
    const far = own.map((point) => Math.min(...centres.map((centre) => distance(centre, point))));
    centres.push(own[far.indexOf(Math.max(...far))]);
  }
  let mine: number[] = [];
  for (let round = 0; round < 6; round++) {
    mine = own.map((point) =>
      centres.reduce((best, centre, i) => (distance(centre, point) < distance(centres[best], point) ? i : best), 0),
    );
    centres = centres.map((centre, i) => meanOf(own.filter((_, k) => mine[k] === i)) ?? centre);
  }
  return centres.map((mean, i) => {
    const members = own.filter((_, k) => mine[k] === i);
    return {
      mean,
      variance: LEAST_VARIANCE.map((least, c) =>
        members.length > 1 ? least + members.reduce((sum, point) => sum + (point[c] - mean[c]) ** 2, 0) / members.length : least,
      ),
    };
  });
}

const distance = (one: readonly number[], other: readonly number[]): number =>
  one.reduce((sum, value, i) => sum + (value - other[i]) ** 2, 0);
const meanOf = (points: readonly number[][]): number[] | null =>
  points.length === 0 ? null : [0, 1, 2, 3].map((c) => points.reduce((sum, point) => sum + point[c], 0) / points.length);

function priorsOf(pixels: Superpixels, models: readonly Cluster[][]): Float32Array[] {
  const { count } = pixels;
  const priors = models.map(() => new Float32Array(count));
  for (let k = 0; k < count; k++) {
    let sum = 0;
    models.forEach((clusters, thing) => {
      let least = 60;
      for (const cluster of clusters) least = Math.min(least, apartFrom(pixels, k, cluster));
      const value = clusters.length > 0 ? Math.exp(-0.5 * least) + 1e-4 : 1e-6;
      priors[thing][k] = value;
      sum += value;
    });
    for (const prior of priors) prior[k] = prior[k] / sum;
  }
  return priors;
}

/** Gauss-Seidel, to and fro. */
function relax(
  { count, size, start, to, weight, degree }: Superpixels,
  held: Int16Array,
  prior: Float32Array,
  x: Float32Array,
  sweeps: number,
) {
  for (let round = 0; round < sweeps; round++)
    for (let i = 0; i < count; i++) {
      const k = round % 2 === 1 ? count - 1 - i : i;
      if (held[k] >= 0) continue;
      const own = APPEARANCE * Math.sqrt(size[k]);
      let sum = own * prior[k];
      for (let e = start[k]; e < start[k + 1]; e++) sum += weight[e] * x[to[e]];
      x[k] = sum / (degree[k] + own);
    }
}

/** The likeliest thing of every superpixel, `but` some. */
function decided({ chance, things }: Walked, but: ReadonlySet<number> = new Set()): Int16Array {
  const among = Array.from({ length: things }, (_, thing) => thing).filter((thing) => !but.has(thing));
  return Int16Array.from({ length: chance[0]?.length ?? 0 }, (_, k) =>
    among.reduce((best, thing) => (chance[thing][k] > chance[best][k] ? thing : best), among[0] ?? 0),
  );
}

/** The likeliest thing of every pixel, by its superpixel: what is shown while the hand draws. */
export function liveLabels(scene: Scene, walked: Walked): Int16Array {
  const { map } = scene;
  const ringed = onlyRinged(walked);
  const likeliest = calmed(scene, walked, decided(walked));
  if (ringed.size === 0) return Int16Array.from(map, (k) => likeliest[k]);
  // What is marked by rings alone lies in them and nowhere else.
  const others = calmed(scene, walked, decided(walked, ringed));
  const inRing = new Int16Array(map.length).fill(-1);
  for (const { mark, pixels } of walked.covered) if (mark.kind === 'ring') for (const pixel of pixels) inRing[pixel] = mark.thing;
  return Int16Array.from(map, (k, i) => {
    const own = likeliest[k];
    return ringed.has(own) && inRing[i] !== own ? others[k] : own;
  });
}

/** Parts below this share of the picture without a mark of their thing join a neighbour. */
const CRUMB = 0.01;
/** Small parts that nobody marked go to the neighbour that they touch most; all by superpixels. Changes the labels. */
function calmed({ pixels, map }: Scene, { covered, things }: Walked, labels: Int16Array): Int16Array {
  const { count, size, start, to, length } = pixels;
  const marked = new Int16Array(count).fill(-1);
  for (const { mark, pixels: under } of covered) for (const pixel of under) marked[map[pixel]] = mark.thing;
  const part = new Int32Array(count).fill(-1);
  const parts: { thing: number; own: number[]; px: number; isMarked: boolean }[] = [];
  for (let from = 0; from < count; from++) {
    if (part[from] >= 0) continue;
    const thing = labels[from];
    const found = { thing, own: [from], px: 0, isMarked: false };
    part[from] = parts.length;
    for (let i = 0; i < found.own.length; i++) {
      const k = found.own[i] as number;
      found.px += size[k];
      if (marked[k] === thing) found.isMarked = true;
      for (let e = start[k]; e < start[k + 1]; e++) {
        const j = to[e];
        if (labels[j] !== thing || part[j] >= 0) continue;
        part[j] = parts.length;
        found.own.push(j);
      }
    }
    parts.push(found);
  }
  const largest = new Float32Array(things);
  for (const { thing, px } of parts) largest[thing] = Math.max(largest[thing], px);
  const crumbs = parts.filter(({ thing, px, isMarked }) => !isMarked && px < CRUMB * map.length && px < largest[thing]);
  for (const { own, thing } of crumbs.sort((a, b) => a.px - b.px)) {
    const around = new Float32Array(things);
    for (const k of own)
      for (let e = start[k]; e < start[k + 1]; e++)
        if (labels[to[e]] !== thing) around[labels[to[e]]] = around[labels[to[e]]] + length[e];
    const next = around.indexOf(Math.max(...around));
    if (next >= 0) for (const k of own) labels[k] = next;
  }
  return labels;
}

/** Things that are marked by rings and by nothing else. */
export function onlyRinged({ covered }: Walked): Set<number> {
  const stroked = new Set(covered.flatMap(({ mark }) => (mark.kind === 'ring' ? [] : [mark.thing])));
  return new Set(covered.flatMap(({ mark }) => (mark.kind === 'ring' && !stroked.has(mark.thing) ? [mark.thing] : [])));
}

/** Where a mark would help most: how near the second likeliest thing comes to the likeliest, times the size; highest first. */
export function doubts({ pixels }: Scene, { chance, held }: Walked): { superpixel: number; doubt: number }[] {
  const found: { superpixel: number; doubt: number }[] = [];
  for (let k = 0; k < pixels.count; k++) {
    if (held[k] >= 0) continue;
    const [, second = 0] = chance.map((one) => one[k]).sort((a, b) => b - a);
    found.push({ superpixel: k, doubt: second * pixels.size[k] });
  }
  return found.sort((a, b) => b.doubt - a.doubt);
}
