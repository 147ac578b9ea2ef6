import { describe, expect, it } from '@jest/globals';
import { seeded } from '../fixtures/index.js';
import type { Rgba } from '../raster/index.js';
import { doubts, liveLabels, prepareScene, proposeThings, refinedLabels, type ThingMark, walk } from './index.js';
import { coveredBy } from './marks.js';

const [W, H] = [240, 180];
const inDisc = (x: number, y: number, cx: number, cy: number, r: number) => (x - cx) ** 2 + (y - cy) ** 2 < r * r;
/** 0 ground, 1 a pot on it, 2 a light in the pot; in grainy colours that run a little from left to right. */
const truthAt = (x: number, y: number) => (inDisc(x, y, 135, 80, 9) ? 2 : inDisc(x, y, 120, 95, 55) ? 1 : 0);

function picture(seed: number, grain: number): Rgba {
  const random = seeded(seed);
  const data = new Uint8ClampedArray(W * H * 4);
  const colours = [
    [150, 160, 140],
    [120, 70, 45],
    [235, 215, 150],
  ] as const;
  for (let y = 0; y < H; y++)
    for (let x = 0; x < W; x++) {
      const colour = colours[truthAt(x, y)] as readonly number[];
      const shade = 25 * (x / W) - 12 + grain * (random() - 0.5);
      for (let c = 0; c < 3; c++) data[(y * W + x) * 4 + c] = colour[c] + shade;
      data[(y * W + x) * 4 + 3] = 255;
    }
  return { width: W, height: H, data };
}
const toEnd = <T>(work: Generator<unknown, T>): T => {
  let step = work.next();
  while (!step.done) step = work.next();
  return step.value;
};
const share = (...points: [number, number][]) => points.map(([x, y]): [number, number] => [x / W, y / H]);
const circle = (cx: number, cy: number, r: number) =>
  share(
    ...Array.from({ length: 16 }, (_, k): [number, number] => [
      cx + r * Math.cos((k * Math.PI) / 8),
      cy + r * Math.sin((k * Math.PI) / 8),
    ]),
  );
const ground: ThingMark = { thing: 0, kind: 'stroke', points: share([15, 15], [220, 20], [225, 165], [20, 165]) };
const pot: ThingMark = { thing: 1, kind: 'stroke', points: share([85, 80], [100, 120], [150, 120]) };
const light: ThingMark = { thing: 2, kind: 'ring', points: circle(135, 80, 9) };

/** Shared pixels over all of either. */
function overlap(labels: ArrayLike<number>, thing: number): number {
  let [both, either] = [0, 0];
  for (let i = 0; i < labels.length; i++) {
    const [mine, true_] = [labels[i] === thing, truthAt(i % W, Math.floor(i / W)) === thing];
    if (mine && true_) both++;
    if (mine || true_) either++;
  }
  return both / either;
}

describe('things told apart by marks (against the rendered truth)', () => {
  const scene = toEnd(prepareScene(picture(3, 30)));
  const walked = walk(scene, [ground, pot, light], 3);

  it('a stroke over each and a ring round the small one are enough', () => {
    const labels = refinedLabels(scene, walked);
    expect(overlap(labels, 0)).toBeGreaterThan(0.97);
    expect(overlap(labels, 1)).toBeGreaterThan(0.94);
    expect(overlap(labels, 2)).toBeGreaterThan(0.8);
  });
  it('while the hand draws the answer is coarser and already right in the main', () => {
    const labels = liveLabels(scene, walked);
    expect(overlap(labels, 0)).toBeGreaterThan(0.93);
    expect(overlap(labels, 1)).toBeGreaterThan(0.85);
  });
  it('what is marked by a ring alone lies nowhere else', () => {
    const labels = refinedLabels(scene, walked);
    for (let i = 0; i < labels.length; i++) if (labels[i] === 2) expect(inDisc(i % W, Math.floor(i / W), 135, 80, 16)).toBe(true);
  });
  it('one tap parts something already, and one stroke more mends what was wrong', () => {
    const tap: ThingMark = { thing: 1, kind: 'tap', points: share([120, 110]) };
    const first = refinedLabels(scene, walk(scene, [ground, tap], 2));
    expect(overlap(first, 1)).toBeGreaterThan(0.7);
    // Two things marked the other way round are the other way round.
    const swapped = walk(
      scene,
      [
        { ...ground, thing: 1 },
        { ...pot, thing: 0 },
      ],
      2,
    );
    expect(
      overlap(
        refinedLabels(scene, swapped).map((thing) => 1 - thing),
        0,
      ),
    ).toBeGreaterThan(0.95);
  });
  it('chances of all things add up to one, marks hold what they cover, and the greatest doubt is not on a mark', () => {
    const { chance, held } = walked;
    for (let k = 0; k < held.length; k++) expect(chance.reduce((sum, one) => sum + one[k], 0)).toBeCloseTo(1, 2);
    expect(held.filter((thing) => thing === 2).length).toBeGreaterThan(0);
    const [first] = doubts(scene, walked);
    expect(held[first?.superpixel ?? 0]).toBe(-1);
  });
  it('the same marks give the same labels, in whatever order they were made', () => {
    const again = refinedLabels(scene, walk(scene, [light, pot, ground], 3));
    expect(again).toEqual(refinedLabels(scene, walked));
  });
  it('a ring within another takes its pixels out of it', () => {
    const outer: ThingMark = { thing: 1, kind: 'ring', points: circle(120, 95, 55) };
    const [first, second] = coveredBy(scene, [outer, light]);
    const inner = new Set(second?.pixels);
    expect(first?.pixels.some((pixel) => inner.has(pixel))).toBe(false);
    expect(second?.pixels.length).toBeGreaterThan(200);
  });
  it('a picture of one colour is parted by the marks alone', () => {
    const even = toEnd(prepareScene({ width: 80, height: 60, data: new Uint8ClampedArray(80 * 60 * 4).fill(128) }));
    const left: ThingMark = {
      thing: 0,
      kind: 'stroke',
      points: [
        [0.1, 0.2],
        [0.1, 0.8],
      ],
    };
    const right: ThingMark = {
      thing: 1,
      kind: 'stroke',
      points: [
        [0.9, 0.2],
        [0.9, 0.8],
      ],
    };
    const labels = refinedLabels(even, walk(even, [left, right], 2));
    expect([labels[30 * 80 + 4], labels[30 * 80 + 75]]).toEqual([0, 1]);
  });
});

describe('a first proposal', () => {
  const proposalOf = (grain: number) => {
    const scene = toEnd(prepareScene(picture(4, grain)));
    return { scene, ...proposeThings(scene) };
  };
  /** Shared pixels over all pixels of either, of the pot with its light against what is proposed. */
  const subjectOverlap = ({ scene, things, labels }: ReturnType<typeof proposalOf>) => {
    const at = things.findIndex((one) => one.kind === 'subject');
    let [both, either] = [0, 0];
    scene.map.forEach((k, i) => {
      const [x, y] = [(i % scene.width) * (W / scene.width), Math.floor(i / scene.width) * (H / scene.height)];
      const [is, was] = [labels[k] === at, truthAt(x, y) > 0];
      if (is && was) both++;
      if (is || was) either++;
    });
    return both / either;
  };
  it('finds what stands out clearly from its ground', () => {
    expect(subjectOverlap(proposalOf(12))).toBeGreaterThan(0.85);
  });
  it('the leaves beside a pot stand out from the pale ground as it does, but are no part of it', () => {
    const random = seeded(11);
    const isLeaf = (x: number, y: number) => x > 40 && x < 110 && y > 70 && y < 150;
    const isPot = (x: number, y: number) => inDisc(x, y, 140, 100, 44) && !isLeaf(x, y);
    const data = new Uint8ClampedArray(W * H * 4);
    for (let y = 0; y < H; y++)
      for (let x = 0; x < W; x++) {
        const crumb = 70 * (random() - 0.5);
        const own = isPot(x, y) ? [130, 40, 30] : isLeaf(x, y) ? [50 + crumb, 95 + crumb, 25 + crumb] : [225, 222, 214];
        data.set([...own, 255], (y * W + x) * 4);
      }
    const scene = toEnd(prepareScene({ width: W, height: H, data }));
    const { things, labels } = proposeThings(scene);
    const subject = things.findIndex((one) => one.kind === 'subject');
    const labelAt = (x: number, y: number) =>
      labels[scene.map[Math.floor((y * scene.height) / H) * scene.width + Math.floor((x * scene.width) / W)]];
    expect(subject).toBeGreaterThanOrEqual(0);
    expect(labelAt(150, 100)).toBe(subject);
    expect(labelAt(70, 110)).not.toBe(subject);
    // They are a plane of their own, not the ground.
    expect(labelAt(70, 110)).not.toBe(labelAt(220, 15));
  });
  it('proposes no subject where nothing stands out', () => {
    const even = { width: W, height: H, data: new Uint8ClampedArray(W * H * 4).fill(150) };
    const { things, labels } = proposeThings(toEnd(prepareScene(even)));
    expect(things.map((one) => one.kind)).not.toContain('subject');
    expect(new Set(labels).size).toBe(things.length);
  });
  it('helps marks: a thing that nobody marked stays where it was guessed', () => {
    const { scene, labels, things } = proposalOf(12);
    const subject = things.findIndex((one) => one.kind === 'subject');
    // The light is marked as a thing of its own; pot and ground are guesses.
    const marks: ThingMark[] = [{ thing: things.length, kind: 'ring', points: circle(135, 80, 9) }];
    const told = refinedLabels(scene, walk(scene, marks, things.length + 1, { hint: labels }));
    const at = (x: number, y: number) =>
      told[Math.floor((y * scene.height) / H) * scene.width + Math.floor((x * scene.width) / W)];
    expect(at(100, 110)).toBe(subject);
    expect(at(135, 80)).toBe(things.length);
    expect(at(10, 10)).not.toBe(subject);
  });
  it('gives way to a mark: what was guessed as ground and is stroked as the pot becomes the pot', () => {
    const { scene } = proposalOf(12);
    const wrong = Int16Array.from({ length: scene.pixels.count }, () => 0);
    const marks: ThingMark[] = [{ thing: 1, kind: 'stroke', points: share([90, 80], [120, 120], [150, 110]) }];
    const told = liveLabels(scene, walk(scene, marks, 2, { hint: wrong }));
    const count = (is: (x: number, y: number) => boolean) =>
      told.reduce(
        (sum, one, i) =>
          sum +
          (one === 1 && is((i % scene.width) * (W / scene.width), Math.floor(i / scene.width) * (H / scene.height)) ? 1 : 0),
        0,
      );
    const inside = count((x, y) => truthAt(x, y) === 1);
    expect(inside / count(() => true)).toBeGreaterThan(0.9);
    expect(inside / ((Math.PI * 55 * 55 * scene.width * scene.height) / (W * H))).toBeGreaterThan(0.8);
  });
  it('while one draws, what is marked by rings alone lies in them, as it does afterwards', () => {
    const { scene } = proposalOf(12);
    const marks: ThingMark[] = [
      { thing: 0, kind: 'stroke', points: share([10, 20], [230, 20]) },
      { thing: 1, kind: 'ring', points: circle(135, 80, 9) },
      { thing: 2, kind: 'stroke', points: share([90, 100], [150, 120]) },
    ];
    const live = liveLabels(scene, walk(scene, marks, 3));
    live.forEach((one, i) => {
      if (one !== 1) return;
      const [x, y] = [(i % scene.width) * (W / scene.width), Math.floor(i / scene.width) * (H / scene.height)];
      expect(inDisc(x, y, 135, 80, 11)).toBe(true);
    });
  });
});
