import { describe, expect, it } from '@jest/globals';
import { toEnd } from '@viaticum/kernels/cooperative';
import { drawn, seeded } from '@viaticum/kernels/fixtures';
import { labRaster } from '@viaticum/kernels/raster';
import { colourSpread, cutAreas, prepare, refineAreas, type Tap } from '@viaticum/kernels/segment';
import { outlineFault, visibleParts } from '../area/index.js';
import { meanOverlap, scene } from '../fixtures/scenes.js';
import { proposeAreas } from './propose.js';
import { growRegion, maskOutline } from './touch-up.js';

type Scene = Awaited<ReturnType<typeof scene>>;
/** Taps inside true regions, `each` a region, as a hurried hand would set them. */
const tapsOn = ({ labels, width, height, names }: Scene, each: number, seed: number): Tap[] => {
  const random = seeded(seed);
  return names.flatMap((_, area) => {
    const places = [...labels.keys()].filter((at) => {
      const [x, y] = [at % width, Math.floor(at / width)];
      if (x < 2 || y < 2 || x >= width - 2 || y >= height - 2) return false;
      return [0, -2, 2, -2 * width, 2 * width].every((by) => labels[at + by] === area);
    });
    return Array.from({ length: each }, (): Tap => {
      const at = places[Math.floor(random() * places.length)] as number;
      return { x: ((at % width) + 0.5) / width, y: (Math.floor(at / width) + 0.5) / height, area };
    });
  });
};

describe('areas proposed', () => {
  it('of a tile whose things each have a colour: as a painter would see them', async () => {
    const star = await scene('star', 420, 5);
    const session = toEnd(prepare(star.picture));
    const { map, areas } = refineAreas(session, cutAreas(session, 8));
    expect(areas).toBe(8);
    expect(meanOverlap(star.labels, map.data, 8, areas)).toBeGreaterThan(0.8);
  });
  it('with five taps an area they follow the taps, on every scene (mean of three hands)', async () => {
    const scores: number[] = [];
    for (const name of ['balloons', 'kettle', 'star'] as const) {
      const one = await scene(name, 480, 7);
      const session = toEnd(prepare(one.picture));
      const hands = [3, 4, 5].map((hand) => {
        const { map, areas } = refineAreas(session, cutAreas(session, one.names.length, tapsOn(one, 5, hand)));
        expect(areas).toBe(one.names.length);
        return meanOverlap(one.labels, map.data, areas, areas);
      });
      scores.push(hands.reduce((sum, score) => sum + score, 0) / hands.length);
    }
    expect(scores.reduce((sum, score) => sum + score, 0) / 3).toBeGreaterThan(0.8);
    expect(Math.min(...scores)).toBeGreaterThan(0.7);
  }, 60_000);
  it('every tap lies in the area it names, and unequal marks never share one', async () => {
    const one = await scene('kettle', 360, 2);
    const session = toEnd(prepare(one.picture));
    const taps = tapsOn(one, 3, 8);
    const { map } = cutAreas(session, 4, taps);
    const found = taps.map((tap) => map.data[Math.floor(tap.y * map.height) * map.width + Math.floor(tap.x * map.width)]);
    taps.forEach((tap, i) => {
      expect(found[i]).toBe(tap.area);
    });
  });
  it('two marks in one even place part it between them', () => {
    const session = toEnd(prepare(drawn(120, 120, () => [120, 130, 140])));
    const { map, areas } = cutAreas(session, 1, [
      { x: 0.5, y: 0.5, area: 0 },
      { x: 0.52, y: 0.5, area: 1 },
    ]);
    expect(areas).toBe(2);
    expect(map.data[60 * 120 + 60]).toBe(0);
    expect(map.data[60 * 120 + 62]).toBe(1);
  });
  it('a cut with more areas divides those of the cut with fewer', async () => {
    const one = await scene('balloons', 300, 4);
    const session = toEnd(prepare(one.picture));
    const [few, many] = [cutAreas(session, 5, [], 0), cutAreas(session, 9, [], 0)];
    expect([few.areas, many.areas]).toEqual([5, 9]);
    const home = new Map<number, number>();
    let stray = 0;
    many.map.data.forEach((area, at) => {
      if (!home.has(area)) home.set(area, few.map.data[at] as number);
      if (few.map.data[at] !== home.get(area)) stray++;
    });
    expect(stray).toBe(0);
  });
  it('is the same for the same picture', async () => {
    const one = await scene('star', 240, 3);
    const once = () => {
      const session = toEnd(prepare(one.picture));
      return [...refineAreas(session, cutAreas(session, 7)).map.data].join('');
    };
    expect(once()).toBe(once());
  });
});

describe('pictures that are hard to divide', () => {
  it.each([
    ['one colour', drawn(90, 60, () => [90, 120, 60])],
    ['one pixel', drawn(1, 1, () => [9, 9, 9])],
    ['one row', drawn(200, 1, (x) => [x, x, x])],
    ['a panorama of ten to one', drawn(600, 60, (x) => (x < 300 ? [200, 40, 40] : [40, 60, 200]))],
  ])('%s', (name, picture) => {
    const session = toEnd(prepare(picture));
    const spread = colourSpread(session);
    const { map, areas } = refineAreas(session, cutAreas(session, 6));
    expect(map.data).toHaveLength(picture.width * picture.height);
    if (name === 'one colour' || name === 'one pixel') expect(spread).toBeLessThan(1);
    else expect(spread).toBeGreaterThan(10);
    if (name.startsWith('a panorama')) expect(map.data[0]).not.toBe(map.data[599]);
    expect(areas).toBeLessThanOrEqual(6);
  });
});

describe('from regions to areas', () => {
  it('sheets are clean polygons in the right order of depth, with names, and cover the canvas', async () => {
    const one = await scene('balloons', 500, 2);
    const session = toEnd(prepare(one.picture));
    const taps = tapsOn(one, 6, 1);
    const { map, areas } = refineAreas(session, cutAreas(session, one.names.length, taps));
    const mmPerPx = 406.4 / map.width;
    const proposed = proposeAreas(map, areas, labRaster(one.picture), mmPerPx);
    expect(new Set(proposed.map((area) => area.name)).size).toBe(areas);
    for (const area of proposed) expect(outlineFault(area.outline)).toBeNull();
    const size = { widthMm: map.width * mmPerPx, heightMm: map.height * mmPerPx };
    const parts = visibleParts(
      proposed.map(({ outline, name }, i) => ({ id: String(i), name, outline })),
      size,
    );
    const covered = parts.reduce((sum, part) => sum + part.areaCm2, 0) * 100;
    expect(covered / (size.widthMm * size.heightMm)).toBeCloseTo(1, 3);
    // Pairs in the order that the scene was painted in.
    const rank = new Map(proposed.map((area, i) => [area.region, i]));
    const at = (name: string) => rank.get(one.names.indexOf(name)) as number;
    const pairs = [
      ['sky', 'far ridge'],
      ['sky', 'great balloon'],
      ['great balloon', 'cream stripes'],
      ['far ridge', 'near ridge'],
      ['sky', 'small balloons'],
      ['terraces', 'terrace edges'],
    ] as const;
    const wrong = pairs.filter(([behind, before]) => at(behind) > at(before));
    // Stripes on a thing do not say which of the two colours lies on the other.
    expect(wrong.filter(([, before]) => before !== 'cream stripes')).toEqual([]);
  }, 60_000);
  it('a region grown from a place keeps to its colour within the tolerance', async () => {
    const one = await scene('star', 300, 2);
    const lab = labRaster(one.picture);
    const eye = growRegion(lab, 150, 150, 18);
    const truth = one.labels.reduce((sum, label) => sum + (label === 7 ? 1 : 0), 0);
    const found = eye.data.reduce((sum, value) => sum + value, 0);
    expect(found / truth).toBeGreaterThan(0.85);
    expect(found / truth).toBeLessThan(1.1);
    expect(growRegion(lab, 150, 150, 200).data.every((value) => value === 1)).toBe(true);
    const outline = maskOutline(eye, 304.8 / 300);
    expect(outline).toHaveLength(1);
    expect(outlineFault(outline)).toBeNull();
    expect(outline.flat(2).length).toBeLessThan(40);
  });
});
