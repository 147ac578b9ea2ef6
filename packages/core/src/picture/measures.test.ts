import { describe, expect, it } from '@jest/globals';
import type { Outline } from '@viaticum/contract';
import { deltaE00 } from '@viaticum/kernels/colour';
import { drawn, seeded } from '@viaticum/kernels/fixtures';
import { blur, labels, labRaster, lightness, plane } from '@viaticum/kernels/raster';
import { labelSheets } from '../area/index.js';
import { scene } from '../fixtures/scenes.js';
import { compose, correctionGains, type Source, workSize } from './compose.js';
import { compositionNotes, leanOf } from './composition.js';
import { flowField, meanDirection } from './direction.js';
import { edgeKind, erf, fitStep, measureEdges } from './edges.js';
import { colourInWords, compareInWords } from './words.js';

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

describe('softness of an edge', () => {
  it('erf at known places (Abramowitz and Stegun, table 7.1)', () => {
    for (const [x, value] of [
      [0, 0],
      [0.5, 0.5204999],
      [1, 0.8427008],
      [2, 0.9953223],
      [-1, -0.8427008],
    ] as const)
      expect(erf(x)).toBeCloseTo(value, 6);
  });
  it('the width of a fitted step is the one it was made with', () => {
    const ts = Array.from({ length: 61 }, (_, i) => (i - 30) * 0.3);
    for (const sigma of [0.4, 1, 2.2]) {
      const values = ts.map((t) => 40 + 12 * erf((t - 0.4) / (sigma * Math.SQRT2)));
      const found = fitStep(ts, values);
      expect(found.sigmaMm / sigma).toBeGreaterThan(0.93);
      expect(found.sigmaMm / sigma).toBeLessThan(1.07);
      expect(found.height).toBeCloseTo(24, 0);
    }
  });
  it.each([1, 2, 3.5])('a border blurred by %d mm is measured within 15 per cent, whatever its slope and grain', (sigmaMm) => {
    const [size, mmPerPx] = [220, 0.4];
    const random = seeded(4);
    const map = labels(size, size);
    const l = plane(size, size);
    for (let y = 0; y < size; y++)
      for (let x = 0; x < size; x++) {
        const right = x > 90 + 0.25 * y;
        map.data[y * size + x] = right ? 1 : 0;
        l.data[y * size + x] = right ? 70 : 35;
      }
    const soft = blur(l, sigmaMm / mmPerPx);
    for (let i = 0; i < soft.data.length; i++) soft.data[i] = (soft.data[i] as number) + 3 * (random() - 0.5);
    const lab = { width: size, height: size, l: soft.data, a: new Float32Array(size * size), b: new Float32Array(size * size) };
    const [edge] = measureEdges(map, lab, mmPerPx);
    expect(edge).toMatchObject({ one: 0, other: 1 });
    expect(Math.abs((edge?.widthMm as number) / (2.563 * sigmaMm) - 1)).toBeLessThan(0.15);
    expect(edge?.lengthMm).toBeGreaterThan(80);
  });
  it('hard, soft, lost', () => {
    expect(edgeKind(0.6, 30)).toBe('hard');
    expect(edgeKind(3, 30)).toBe('soft');
    expect(edgeKind(9, 30)).toBe('lost');
    expect(edgeKind(0.6, 2)).toBe('lost');
  });
});

describe('direction of strokes', () => {
  it.each([-75, -40, 0, 12, 33, 60, 90])('a grating at %d° is found within one degree', (deg) => {
    const [size, mmPerPx] = [240, 0.5];
    const turn = ((deg + 90) * Math.PI) / 180;
    const l = plane(size, size);
    for (let y = 0; y < size; y++)
      for (let x = 0; x < size; x++)
        l.data[y * size + x] = 50 + 20 * Math.sin(((x * Math.cos(turn) + y * Math.sin(turn)) * mmPerPx * 2 * Math.PI) / 9);
    const mean = meanDirection(flowField(l, labels(size, size), mmPerPx));
    const off = Math.abs((((((mean?.deg as number) - deg + 90) % 180) + 180) % 180) - 90);
    expect(off).toBeLessThan(1);
    expect(mean?.coherence).toBeGreaterThan(0.9);
  });
  it('an even or a grainy place has none, and says so', () => {
    const even = plane(120, 120);
    expect(meanDirection(flowField(even, labels(120, 120), 0.5))).toBeNull();
    const random = seeded(6);
    for (let i = 0; i < even.data.length; i++) even.data[i] = random() * 30;
    expect(meanDirection(flowField(even, labels(120, 120), 0.5))).toBeNull();
  });
  it('two areas side by side keep their own directions', () => {
    const l = plane(240, 120);
    const map = labels(240, 120);
    for (let y = 0; y < 120; y++)
      for (let x = 0; x < 240; x++) {
        map.data[y * 240 + x] = x < 120 ? 0 : 1;
        l.data[y * 240 + x] = 50 + 20 * Math.sin((x < 120 ? x : y) / 3);
      }
    const strokes = flowField(l, map, 0.5);
    const of = (area: number) => meanDirection(strokes.filter((stroke) => stroke.area === area))?.deg as number;
    expect(Math.abs(Math.abs(of(0)) - 90)).toBeLessThan(2);
    expect(Math.abs(of(1))).toBeLessThan(2);
  });
});

describe('colours in words', () => {
  it('names', () => {
    expect(colourInWords([50, 0, 0])).toBe('grey');
    expect(colourInWords([25, -20, 10])).toBe('dark green');
    expect(colourInWords([85, 8, 20])).toBe('cream');
    expect(colourInWords([64, 6, 18])).toBe('beige');
    expect(colourInWords([70, 30, 55])).toBe('strong orange');
    expect(colourInWords([38, 18, 25])).toBe('brown');
    expect(colourInWords([5, 0, 0])).toBe('near black');
  });
  it('comparisons say steps of value, hue and strength', () => {
    expect(compareInWords([60, 0, 0], [45, 0, 0])).toBe('1.4 steps lighter');
    expect(compareInWords([60, 0, -14], [45, 0, 0])).toBe('1.4 steps lighter, and stronger');
    expect(compareInWords([60, 2, -20], [60, 18, 8])).toContain('bluer');
    expect(compareInWords([50, 10, 10], [50, 10, 10])).toBe('the same to the eye');
    expect(compareInWords([40, 30, 20], [50, 6, 4])).toBe('0.9 steps darker, and stronger');
  });
});

describe('the picture as it will be painted', () => {
  const canvas = { widthMm: 406.4, heightMm: 508 };
  const bare: [number, number, number] = [240, 238, 232];
  const plain = { canvas, others: new Map<string, Source>(), areas: [], things: [], bare };
  const placed = (picture: Source['pixels'], more: Partial<Source> = {}): Source => ({
    pixels: picture,
    widthPx: picture.width,
    heightPx: picture.height,
    placement: { mmPerPx: canvas.widthMm / picture.width, xMm: 0, yMm: 0, rotationDeg: 0, flip: false },
    ...more,
  });
  const pixels = 60_000;

  it('a flipped picture is mirrored, what lies beyond it stays bare or carries on the edge, marked', () => {
    const picture = drawn(40, 50, (x) => (x < 20 ? [200, 0, 0] : [0, 0, 200]));
    const whole = placed(picture);
    const {
      picture: laid,
      source,
      mmPerPx,
    } = compose({ ...plain, whole: { ...whole, placement: { ...whole.placement, flip: true } } }, pixels);
    const at = (share: number) => (Math.floor(laid.height / 2) * laid.width + Math.floor(laid.width * share)) * 4;
    expect([...laid.data.slice(at(0.2), at(0.2) + 3)]).toEqual([0, 0, 200]);
    expect(source.every((kind) => kind === 1)).toBe(true);
    const shifted = { ...whole, placement: { ...whole.placement, xMm: 100 } };
    const gap = compose({ ...plain, whole: shifted }, pixels);
    const left = Math.floor(laid.height / 2) * laid.width + Math.floor(50 / mmPerPx);
    expect(gap.source[left]).toBe(0);
    expect([...gap.picture.data.slice(left * 4, left * 4 + 3)]).toEqual(bare);
    const on = compose({ ...plain, whole: { ...shifted, extend: true } }, pixels);
    expect(on.source[left]).toBe(2);
    expect([...on.picture.data.slice(left * 4, left * 4 + 3)]).toEqual([200, 0, 0]);
  });
  it('a neutral spot becomes grey at its own lightness, a white one light', () => {
    const cast = drawn(20, 25, () => [150, 130, 100]);
    const whole = placed(cast, { correction: { neutral: { xPx: 5, yPx: 5, rgb: [150, 130, 100] } } });
    const { picture } = compose({ ...plain, whole }, pixels);
    const [r, g, b] = picture.data as unknown as [number, number, number];
    expect(Math.max(r, g, b) - Math.min(r, g, b)).toBeLessThanOrEqual(1);
    expect(g).toBeGreaterThan(125);
    const white = compose(
      { ...plain, whole: placed(cast, { correction: { white: { xPx: 5, yPx: 5, rgb: [150, 130, 100] } } }) },
      pixels,
    );
    expect(white.picture.data[1]).toBeGreaterThan(235);
    expect(correctionGains(undefined)).toEqual([1, 1, 1]);
  });
  it.each(['small', 'great'])(
    'a dropped thing (%s balloons) leaves the sky behind it: mean ΔE00 at most 2.5',
    async (which) => {
      const gone = which === 'small' ? ['small', 'baskets'] : ['great', 'stripes', 'baskets'];
      const full = await scene('balloons', 500, 1);
      const truth = await scene('balloons', 500, 1, gone);
      const areas = full.areas.map(({ id, outline }) => ({ id, outline, ...(gone.includes(id) ? { thingId: 'e' } : {}) }));
      const things = [{ id: 'e', name: 'balloons', fate: 'dropped' as const }];
      const { picture, mmPerPx } = compose({ ...plain, whole: placed(full.picture), areas, things }, 240_000);
      const bareTruth = compose({ ...plain, whole: placed(truth.picture) }, 240_000);
      const [ours, theirs] = [labRaster(picture), labRaster(bareTruth.picture)];
      const mask = labelSheets(
        areas.map((area) => area.outline),
        picture.width,
        picture.height,
        mmPerPx,
      );
      let [sum, n] = [0, 0];
      mask.data.forEach((area, i) => {
        if (!gone.includes(areas[area]?.id ?? '')) return;
        const lab = (from: typeof ours): [number, number, number] => [
          from.l[i] as number,
          from.a[i] as number,
          from.b[i] as number,
        ];
        sum += deltaE00(lab(ours), lab(theirs));
        n++;
      });
      expect(n).toBeGreaterThan(1000);
      expect(sum / n).toBeLessThan(2.5);
    },
    60_000,
  );
  it.each([
    ['kettle', ['mugs', 'insides'], ['cloth']],
    ['balloons', ['great', 'stripes', 'baskets'], []],
  ] as const)('what lies behind with a pattern is named (%s)', async (name, gone, patterned) => {
    const one = await scene(name, 480, 3);
    const areas = one.areas.map(({ id, outline }) => ({
      id,
      outline,
      ...((gone as readonly string[]).includes(id) ? { thingId: 'e' } : {}),
    }));
    const size = one.canvas as { widthMm: number; heightMm: number };
    const whole = placed(one.picture, {
      placement: { mmPerPx: size.widthMm / 480, xMm: 0, yMm: 0, rotationDeg: 0, flip: false },
    });
    const laid = compose({ ...plain, canvas: size, whole, areas, things: [{ id: 'e', name: 'e', fate: 'dropped' }] }, 150_000);
    expect(laid.patterned).toEqual(patterned);
  });
  it('a moved thing is where it was moved to, and the place it left is filled', () => {
    const picture = drawn(80, 100, (x, y) => (x >= 10 && x < 20 && y >= 10 && y < 20 ? [220, 30, 30] : [90, 120, 200]));
    const k = canvas.widthMm / 80;
    const areas = [
      { id: 'sky', outline: box(0, 0, canvas.widthMm, canvas.heightMm) },
      { id: 'kite', thingId: 'e', outline: box(50 * k, 60 * k, 10 * k, 10 * k) },
    ];
    const move = { dxMm: 40 * k, dyMm: 50 * k, scale: 1, aboutXMm: 0, aboutYMm: 0 };
    const { picture: laid } = compose(
      { ...plain, whole: placed(picture), areas, things: [{ id: 'e', name: 'kite', fate: 'moved', move }] },
      pixels,
    );
    const colour = (x: number, y: number) => {
      const at = (Math.floor((y / 100) * laid.height) * laid.width + Math.floor((x / 80) * laid.width)) * 4;
      return [...laid.data.slice(at, at + 3)];
    };
    expect(colour(55, 65)).toEqual([220, 30, 30]);
    for (const [value, wanted] of colour(15, 15).map((value, c) => [value, [90, 120, 200][c] as number]))
      expect(Math.abs((value as number) - (wanted as number))).toBeLessThan(4);
  });
  it('without a reference the areas stand in their chosen colours', () => {
    const areas = [
      { id: 'a', outline: box(0, 0, 406.4, 250), targetLab: [60, 0, -30] as [number, number, number] },
      { id: 'b', outline: box(100, 100, 50, 50) },
    ];
    const { picture, source } = compose({ ...plain, whole: null, areas }, pixels);
    expect(source[0]).toBe(3);
    expect(source.at(-1)).toBe(0);
    expect(labRaster(picture).b[0]).toBeCloseTo(-30, 0);
  });
  it('the raster keeps the canvas’s proportion', () => {
    const { width, height, mmPerPx } = workSize(canvas, 1_800_000);
    expect(width * height).toBeLessThan(1_802_000);
    expect(width * mmPerPx).toBeCloseTo(406.4, 6);
    expect(Math.abs(height * mmPerPx - 508)).toBeLessThan(mmPerPx);
  });
});

describe('composition', () => {
  const notesOf = (
    areas: { id: string; name: string; outline: Outline; sheet?: Outline; facing?: 'left' | 'right'; thingName?: string }[],
    subject?: string,
    shade: (x: number, y: number) => [number, number, number] = () => [120, 120, 120],
  ) => {
    const picture = drawn(100, 100, shade);
    const map = labelSheets(
      areas.map((area) => area.outline),
      100,
      100,
      2,
    );
    return compositionNotes(labRaster(picture), map, areas, 2, subject);
  };
  const sky = { id: 'sky', name: 'sky', outline: box(0, 0, 200, 200) };
  const find = (notes: ReturnType<typeof notesOf>, kind: string) => notes.filter((note) => note.kind === kind);

  it('a horizon across the middle is worth a thought, one at a third is not; both run unbroken', () => {
    const land = (y: number) => ({ id: 'land', name: 'land', outline: box(0, y, 200, 200 - y) });
    expect(find(notesOf([sky, land(100)]), 'horizon')[0]).toMatchObject({ worth: true, text: expect.stringContaining('50 %') });
    expect(find(notesOf([sky, land(134)]), 'horizon')[0]).toMatchObject({ worth: false, text: expect.stringContaining('33 %') });
    expect(find(notesOf([sky, land(134)]), 'unbroken-line')).toHaveLength(1);
    // A tower breaks the line.
    expect(
      find(notesOf([sky, land(134), { id: 't', name: 'tower', outline: box(90, 60, 20, 140) }]), 'unbroken-line'),
    ).toHaveLength(0);
  });
  it('a subject in the middle, and one that all but touches the edge', () => {
    const hut = (x: number) => ({ id: 'hut', name: 'hut', outline: box(x, 80, 40, 40) });
    expect(find(notesOf([sky, hut(80)], 'hut'), 'subject-centre')[0]?.worth).toBe(true);
    expect(find(notesOf([sky, hut(120)], 'hut'), 'subject-centre')[0]).toMatchObject({
      worth: false,
      text: expect.stringContaining('20 %'),
    });
    expect(find(notesOf([sky, hut(156)], 'hut'), 'subject-edge')[0]?.text).toContain('4 mm');
    expect(find(notesOf([sky, hut(158.5)], 'hut'), 'tangent')[0]?.text).toContain('1.5 mm');
    expect(find(notesOf([sky, hut(160)], 'hut'), 'subject-edge')).toHaveLength(0);
  });
  it('even numbers of like things, odd ones not', () => {
    const posts = (n: number) => ({
      id: 'p',
      name: 'posts',
      outline: Array.from({ length: n }, (_, i) => box(10 + 40 * i, 100, 12, 50)[0] as Outline[number]),
    });
    expect(find(notesOf([sky, posts(4)]), 'even-count')[0]).toMatchObject({ worth: true, text: 'Posts: 4 parts.' });
    // Six arms of a star are six, and four that are called four are meant to be.
    const arms: typeof sky = {
      ...sky,
      id: 'arms',
      name: 'arms',
      outline: Array.from({ length: 6 }, (_, i) => {
        const t = (i * Math.PI) / 3;
        return box(100 + 50 * Math.cos(t) - 5, 100 + 50 * Math.sin(t) - 5, 10, 10)[0] as (typeof sky.outline)[number];
      }),
    };
    expect(find(notesOf([sky, arms]), 'even-count')[0]).toMatchObject({ worth: false, text: 'Arms: 6 parts.' });
    expect(find(notesOf([sky, { ...posts(4), name: 'four posts' }]), 'even-count')[0]?.worth).toBe(false);
    expect(find(notesOf([sky, posts(3)]), 'even-count')[0]?.worth).toBe(false);
  });
  it('like things are counted on the whole sheet: what is cut up by something in front is still one', () => {
    const cut = { id: 'p', name: 'wall', outline: [box(10, 100, 60, 50)[0], box(100, 100, 60, 50)[0]] as Outline };
    expect(find(notesOf([sky, cut]), 'even-count')).toHaveLength(1);
    expect(find(notesOf([sky, { ...cut, sheet: box(10, 100, 150, 50) }]), 'even-count')).toHaveLength(0);
  });
  it('a border that ends just on another, and not one that overlaps', () => {
    const hill = { id: 'h', name: 'hill', outline: box(40, 120, 60, 80) };
    const cart = (y: number) => ({ id: 'c', name: 'cart', outline: box(55, y, 30, 30) });
    expect(find(notesOf([sky, hill, cart(89)]), 'tangent')).toHaveLength(0); // corners of boxes lie apart
    const tip: Outline = [
      [
        [
          [70, 119],
          [90, 60],
          [50, 60],
        ],
      ],
    ];
    const peak: Outline = [
      [
        [
          [70, 120],
          [110, 199],
          [30, 199],
        ],
      ],
    ];
    expect(
      find(notesOf([sky, { id: 'a', name: 'spire', outline: peak }, { id: 'b', name: 'lamp', outline: tip }]), 'tangent')[0]
        ?.text,
    ).toMatch(/ends just on/);
  });
  it('weight, balance and the lightest place', () => {
    const right = notesOf([sky], undefined, (x) => (x > 80 ? [255, 255, 255] : [90, 90, 90]));
    expect(find(right, 'weight')[0]?.text).toContain('right');
    expect(find(right, 'bright-edge')[0]?.worth).toBe(true);
    expect(find(right, 'balance')[0]?.text).toContain('darker than the right');
    const even = notesOf([sky]);
    expect(find(even, 'weight')).toEqual([]);
    expect(find(even, 'balance')[0]?.text).toContain('Both halves');
  });
  it('a hue that stands alone, and where things look and lean', () => {
    const areas = [sky, { id: 'r', name: 'roof', outline: box(10, 20, 20, 60), facing: 'left' as const, thingName: 'hut' }];
    const notes = notesOf(areas, undefined, (x, y) => (x >= 5 && x < 15 && y >= 10 && y < 40 ? [200, 40, 30] : [120, 120, 120]));
    expect(find(notes, 'lonely-hue')[0]?.text).toMatch(/Only the roof is red/);
    expect(find(notes, 'facing')[0]).toMatchObject({ worth: true, text: 'The hut looks out of the picture.' });
    const lean: Outline = [
      [
        [
          [100, 200],
          [110, 200],
          [150, 100],
          [140, 100],
        ],
      ],
    ];
    expect(leanOf(lean)).toBeGreaterThan(15);
    expect(leanOf(lean)).toBeLessThan(30);
    expect(leanOf(box(0, 0, 10, 10))).toBeNull();
  });
  it('lightness of the whole is not needed to be even', () =>
    expect(lightness(drawn(2, 1, () => [255, 255, 255])).data[0]).toBeCloseTo(100, 2));
});
