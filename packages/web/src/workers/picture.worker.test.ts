import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { Outline } from '@viaticum/contract';
import { outlineArea } from '@viaticum/core/area';
import { drawn } from '@viaticum/core/fixtures';
import { benchWorker } from './bench.fixture.js';
import { CancelledJob } from './job-worker.js';
import type { LayArgs, PictureJobs } from './picture-jobs.js';

/** A red kite on a blue sky over brown land. */
const picture = drawn(160, 200, (x, y) =>
  Math.hypot(x - 50, y - 60) < 25 ? [200, 50, 40] : y > 150 ? [110, 80, 50] : [110, 150, 210],
);
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
let fetched = 0;
let bench: Awaited<ReturnType<typeof benchWorker<PictureJobs>>>;
afterAll(() => bench.close());
/** How far the last job said it was. */
let told: number[] = [];

/** Asks the worker as the page does, and waits for its last word. */
async function ask<N extends keyof PictureJobs>(
  name: N,
  args: PictureJobs[N]['args'],
  cancelAfter?: number,
): Promise<{ answer: PictureJobs[N]['answer'] } | { failed: string } | { cancelled: true }> {
  const shares: number[] = [];
  told = shares;
  const job = bench.worker.ask(name, args, (share) => {
    shares.push(share);
    if (cancelAfter !== undefined && shares.length >= cancelAfter) job.cancel();
  });
  if (cancelAfter === 0) job.cancel();
  try {
    return { answer: await job.answer };
  } catch (error) {
    return error instanceof CancelledJob ? { cancelled: true } : { failed: (error as Error).message };
  }
}
async function answer<N extends keyof PictureJobs>(name: N, args: PictureJobs[N]['args']): Promise<PictureJobs[N]['answer']> {
  const said = await ask(name, args);
  if (!('answer' in said)) throw new Error(JSON.stringify(said));
  return said.answer;
}

const whole = {
  url: '/kite',
  widthPx: 160,
  heightPx: 200,
  placement: { mmPerPx: 2, xMm: 0, yMm: 0, rotationDeg: 0, flip: false },
};
const lay = (more: Partial<LayArgs> = {}) =>
  answer('lay', { canvas: { widthMm: 320, heightMm: 400 }, whole, others: [], areas: [], things: [], ...more });

beforeAll(async () => {
  class Canvas {
    constructor(
      readonly width: number,
      readonly height: number,
    ) {}
    getContext() {
      return { drawImage: () => undefined, putImageData: () => undefined, getImageData: () => picture };
    }
    async convertToBlob() {
      return { size: this.width * this.height };
    }
  }
  Object.assign(globalThis, {
    OffscreenCanvas: Canvas,
    ImageData: class {},
    createImageBitmap: async () => ({ width: 160, height: 200, close: () => undefined }),
    fetch: async (url: string) => {
      fetched++;
      return { ok: url === '/kite', blob: async () => ({}) };
    },
  });
  bench = await benchWorker<PictureJobs>(() => import('./picture.worker.js'));
});

describe('the picture worker', () => {
  it('says that there is no picture before one was laid, and that one cannot be read', async () => {
    expect(await ask('grey', { blurMm: 0 })).toMatchObject({ failed: expect.stringContaining('no picture yet') });
    const lost = {
      canvas: { widthMm: 320, heightMm: 400 },
      whole: { ...whole, url: '/gone' },
      others: [],
      areas: [],
      things: [],
    };
    expect(await ask('lay', lost)).toMatchObject({ failed: expect.stringContaining('could not be read') });
  });
  it('lays a picture once read, and shows it anew only where it was changed', async () => {
    const before = fetched;
    expect((await lay()).image).toBeNull();
    expect((await lay({ whole: { ...whole, extend: true } })).image).not.toBeNull();
    expect(fetched - before).toBe(1);
  });
  it('tells how much of the canvas carries on from the edge', async () => {
    const half = { ...whole, extend: true, placement: { ...whole.placement, xMm: 160 } };
    expect((await lay({ whole: half })).continuedShare).toBeCloseTo(0.5, 1);
    await lay();
  });
  it('finds the masses of the picture with their shares', async () => {
    const { classes } = await answer('values', { count: 3, blurMm: 0 });
    expect(classes).toHaveLength(3);
    expect(classes.reduce((sum, one) => sum + one.share, 0)).toBeCloseTo(1, 6);
    expect(classes.at(-1)?.share).toBeCloseTo((160 * 151 - Math.PI * 625) / 32_000, 1);
  });
  it('proposes the three areas, near their true size, with progress on the way', async () => {
    const { areas, spread } = await answer('propose', { count: 3, taps: [], refined: true });
    expect(spread).toBeGreaterThan(20);
    expect(areas.map((area) => area.name.replace(/^(dark|dull|strong|pale) /, '')).sort()).toEqual(['blue', 'brown', 'red']);
    const kite = areas.find((area) => area.name.includes('red'));
    expect(Math.abs(outlineArea(kite?.seen as Outline) / (Math.PI * 2500) - 1)).toBeLessThan(0.06);
    expect(told.length).toBeGreaterThan(0);
  });
  it('a job can be cancelled before it runs; the next one is answered', async () => {
    await lay();
    expect(await ask('propose', { count: 3, taps: [], refined: true }, 0)).toMatchObject({ cancelled: true });
    expect(await ask('grey', { blurMm: 3 })).toHaveProperty('answer');
  });
  it('matches new areas with old ones, and names the heirs of those that are gone', async () => {
    const old = [box(0, 0, 320, 400), box(0, 300, 320, 100)];
    const areas = [box(0, 0, 320, 400), box(0, 300, 150, 100), box(150, 300, 170, 100)];
    const { stands, heirs } = await answer('match', { areas, old });
    expect(stands).toEqual([0, null, 1]);
    expect(heirs).toEqual([[0], [1, 2]]);
  });
  it('measures spots, means, a grown patch and the ends of the scale', async () => {
    const [sky, off] = await answer('spots', {
      places: [
        [280, 40],
        [900, 900],
      ],
      radiusMm: 6,
    });
    expect(sky?.[2]).toBeLessThan(-20);
    expect(off).toBeNull();
    const [land, none] = await answer('means', { areas: [box(0, 310, 320, 90), []] });
    expect(land?.[0]).toBeLessThan(45);
    expect(none).toBeNull();
    const patch = await answer('region', { at: [100, 120], tolerance: 12 });
    expect(Math.abs(outlineArea(patch) / (Math.PI * 2500) - 1)).toBeLessThan(0.06);
    const { darkL, lightL, dark } = await answer('extremes', { share: 0.05 });
    expect(lightL).toBeGreaterThan(darkL);
    expect(outlineArea(dark)).toBeGreaterThan(100);
  });
  it('measures edges, directions and the composition of the areas it is given', async () => {
    const areas = [box(0, 0, 320, 400), box(0, 302, 320, 98)];
    const [edge] = await answer('edges', { areas });
    expect(edge).toMatchObject({ one: 0, other: 1, kind: 'hard' });
    expect((await answer('flow', { areas })).every((stroke) => stroke.area >= 0)).toBe(true);
    const notes = await answer('notes', {
      areas: areas.map((outline, i) => ({ id: String(i), name: i === 0 ? 'sky' : 'land', outline })),
      subjectId: undefined,
    });
    expect(notes.map((note) => note.kind)).toContain('unbroken-line');
  });
  it('drops a thing: its place takes the colour behind it', async () => {
    const areas = [
      { id: 'sky', outline: box(0, 0, 320, 400) },
      { id: 'kite', thingId: 'e', outline: box(50, 70, 100, 100) },
    ];
    const { image, patterned } = await lay({ areas, things: [{ id: 'e', name: 'kite', fate: 'dropped' }] });
    expect(image).not.toBeNull();
    expect(patterned).toEqual([]);
    const [spot] = await answer('spots', { places: [[100, 120]], radiusMm: 6 });
    expect(spot?.[1]).toBeLessThan(10);
  });
});
