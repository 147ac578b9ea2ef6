import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import type { Lesson } from '@viaticum/contract';
import { toEnd } from '@viaticum/kernels/cooperative';
import { stageSession, turnOfVector } from '@viaticum/kernels/painting';
import type { Rgba } from '@viaticum/kernels/raster';
import { asDrafted, draftLesson } from '../draft/index.js';
import { demoLesson, smallLesson, testStep } from '../fixtures/lessons.js';
import { squintedOff, stageInput } from './index.js';

const WIDTH = 240;
const demo = demoLesson();
const last = (lesson: Lesson) => lesson.steps.at(-1)?.id as string;
const paint = (lesson: Lesson, wanted: string[], session = stageSession(), reference: Rgba | null = null) =>
  toEnd(session.paint(stageInput(lesson, reference, WIDTH), wanted));
const bytes = (picture: Rgba | undefined) => Buffer.from((picture as Rgba).data as Uint8ClampedArray);

/** Pixels that differ, by the number of their area (-1 where none lies). */
function changedIn(lesson: Lesson, one: Rgba, other: Rgba): Map<string, number> {
  const { areas } = stageInput(lesson, null, WIDTH);
  const counts = new Map<string, number>();
  for (let at = 0; at < one.width * one.height; at++) {
    if ([0, 1, 2].every((c) => one.data[at * 4 + c] === other.data[at * 4 + c])) continue;
    const area = areas.find((candidate) => (candidate.seen[at] as number) > 0 && candidate.outline.length > 0)?.id ?? 'none';
    counts.set(area, (counts.get(area) ?? 0) + 1);
  }
  return counts;
}

describe('stage pictures', () => {
  const all = demo.steps.map((step) => step.id);
  const pictures = paint(demo, all);

  it('there is one after every step, also without a reference, and each painting step changes the canvas', () => {
    expect([...pictures.keys()]).toEqual(all);
    demo.steps.forEach((step, i) => {
      if (i === 0) return;
      const before = pictures.get(all[i - 1] as string) as Rgba;
      const after = pictures.get(step.id) as Rgba;
      const isSame = Buffer.compare(bytes(before), bytes(after)) === 0;
      expect([step.title, isSame]).toEqual([step.title, step.kind === 'break' || step.kind === 'look']);
    });
  });

  it('the same lesson gives the same bytes', () => {
    const again = paint(demo, [last(demo)]);
    expect(Buffer.compare(bytes(again.get(last(demo))), bytes(pictures.get(last(demo))))).toBe(0);
  });

  it('a change is painted anew from its step only, and equals a painting from nothing byte for byte', () => {
    const session = stageSession();
    paint(demo, [], session);
    const changed: Lesson = {
      ...demo,
      steps: demo.steps.map((step) => (step.id === 's13' ? { ...step, mixIds: ['m-shade'] } : step)),
    };
    const work = session.paint(stageInput(changed, null, WIDTH), [last(changed)]);
    const first = work.next();
    // Twelve steps stand as they were: the first one painted is the thirteenth.
    expect(first.value).toBe(13);
    const quick = toEnd(work);
    const fresh = paint(changed, [last(changed)]);
    expect(Buffer.compare(bytes(quick.get(last(changed))), bytes(fresh.get(last(changed))))).toBe(0);
    expect(session.remembered()).toBe(demo.steps.length);
  });

  it('changing one mix changes only the pixels of its areas', () => {
    const mixes = demo.mixes.map((mix) => (mix.id === 'm-far' ? { ...mix, recipe: [{ tubeId: 'magenta', parts: 1 }] } : mix));
    const other = paint({ ...demo, mixes }, [last(demo)]);
    const changed = changedIn(demo, pictures.get(last(demo)) as Rgba, other.get(last(demo)) as Rgba);
    const where = [...changed.keys()];
    expect(changed.get('far')).toBeGreaterThan(500);
    // At the rim the light on a ridge of paint looks over the border by a pixel, and overlaps show through hairs.
    const beside = where.filter((id) => id !== 'far').reduce((sum, id) => sum + (changed.get(id) ?? 0), 0);
    expect(beside).toBeLessThan((changed.get('far') as number) * 0.12);
  });
});

describe('towards a picture', () => {
  // Left half dark, right half light: each mix must go where it belongs.
  const reference: Rgba = (() => {
    const [width, height] = [240, 300];
    const data = new Uint8ClampedArray(width * height * 4).fill(255);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) for (let c = 0; c < 3; c++) data[(y * width + x) * 4 + c] = x < width / 2 ? 40 : 225;
    return { width, height, data };
  })();
  const lesson: Lesson = {
    ...smallLesson([
      testStep('base', { areaIds: ['a', 'b'], mixIds: ['dark'], brushId: 'flat-1-in' }),
      testStep('light', {
        areaIds: ['a', 'b'],
        mixIds: ['m'],
        technique: 'block-in',
        needs: 'paintOver',
        coverShare: 0.5,
        brushId: 'flat-1-2-in',
      }),
    ]),
    tubes: [
      { id: 'w', pigment: 'PW6', grade: 'artist' },
      { id: 'k', pigment: 'PBk7', grade: 'artist' },
    ],
    mixes: [
      { id: 'm', name: 'white', recipe: [{ tubeId: 'w', parts: 1 }] },
      {
        id: 'dark',
        name: 'dark',
        recipe: [
          { tubeId: 'w', parts: 1 },
          { tubeId: 'k', parts: 4 },
        ],
      },
    ],
  };
  const meanOf = (picture: Rgba, fromX: number, toX: number) => {
    let sum = 0;
    let count = 0;
    for (let y = 20; y < picture.height - 20; y++)
      for (let x = fromX; x < toX; x++) {
        sum += picture.data[(y * picture.width + x) * 4 + 1] as number;
        count++;
      }
    return sum / count;
  };
  it('a later coat lies where it brings the canvas nearer to the picture', () => {
    const pictures = paint(lesson, ['base', 'light'], stageSession(), reference);
    const base = pictures.get('base') as Rgba;
    const light = pictures.get('light') as Rgba;
    expect(Math.abs(meanOf(base, 10, 110) - meanOf(base, 130, 230))).toBeLessThan(8);
    expect(meanOf(light, 130, 230) - meanOf(light, 10, 110)).toBeGreaterThan(100);
  });
});

describe('an area that changes is repainted where it shows, and equals a painting from nothing byte for byte', () => {
  const moved = (id: string, dx: number, dy: number): Lesson => ({
    ...demo,
    areas: demo.areas.map((area) =>
      area.id === id
        ? {
            ...area,
            outline: area.outline.map((polygon) =>
              polygon.map((ring) => ring.map(([x, y]): [number, number] => [x + dx, y + dy])),
            ),
          }
        : area,
    ),
  });
  const turned = (id: string): Lesson => ({
    ...demo,
    areas: demo.areas.map((area) => (area.id === id ? { ...area, directionDeg: 35 } : area)),
  });
  const softened: Lesson = {
    ...demo,
    areas: demo.areas.map((area) => (area.id === 'near' ? { ...area, edges: [{ with: 'far', kind: 'soft' as const }] } : area)),
  };
  // A picture with a slope and a few shapes, so that cells choose between mixes.
  const reference: Rgba = (() => {
    const [width, height] = [240, 300];
    const data = new Uint8ClampedArray(width * height * 4).fill(255);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const tone = Math.round(230 - (150 * y) / height + 25 * Math.sin(x / 17) * Math.cos(y / 23));
        data.set([tone, Math.min(255, tone + 12), Math.max(0, tone - 18)], (y * width + x) * 4);
      }
    return { width, height, data };
  })();
  const changes: [string, Lesson][] = [
    ['a small thing moved', moved('baskets', 3, 2)],
    ['small balloons moved', moved('small', -6, 4)],
    ['a ridge moved', moved('near', 0, 5)],
    ['the great balloon moved', moved('great', 8, 0)],
    ['strokes turned', turned('trees')],
    ['strokes of the largest area turned', turned('sky')],
    ['an edge softened', softened],
  ];
  const all = demo.steps.map((step) => step.id);
  it.each(changes)('%s', (_, changed) => {
    // Without a picture colours follow the areas' own extent, with one they follow the picture: some of each.
    const isOdd = changes.findIndex(([, one]) => one === changed) % 2 === 1;
    for (const picture of isOdd ? [null] : [reference]) {
      const session = stageSession();
      paint(demo, [], session, picture);
      const quick = toEnd(session.paint(stageInput(changed, picture, WIDTH), all));
      const fresh = paint(changed, all, stageSession(), picture);
      for (const id of all) expect([id, Buffer.compare(bytes(quick.get(id)), bytes(fresh.get(id)))]).toEqual([id, 0]);
      // And back again, from what was repainted.
      const back = toEnd(session.paint(stageInput(demo, picture, WIDTH), [last(demo)]));
      const first = paint(demo, [last(demo)], stageSession(), picture);
      expect(Buffer.compare(bytes(back.get(last(demo))), bytes(first.get(last(demo))))).toBe(0);
    }
  });
  it('in a step that lays several mixes side by side, beside marks and drawn lines', () => {
    const kettle = JSON.parse(
      readFileSync(new URL('../../../server/assets/demo/kettle.json', import.meta.url), 'utf8'),
    ) as Lesson;
    const picture: Rgba = { ...reference, height: 180, data: reference.data.slice(0, 240 * 180 * 4) };
    const ids = kettle.steps.map((step) => step.id);
    for (const [id, dx, dy] of [
      ['insides', 2, 1],
      ['spout', -3, 2],
    ] as const) {
      const areas = kettle.areas.map((area) =>
        area.id === id
          ? {
              ...area,
              outline: area.outline.map((polygon) =>
                polygon.map((ring) => ring.map(([x, y]): [number, number] => [x + dx, y + dy])),
              ),
            }
          : area,
      );
      const session = stageSession();
      paint(kettle, [], session, picture);
      const quick = toEnd(session.paint(stageInput({ ...kettle, areas }, picture, WIDTH), ids));
      const fresh = paint({ ...kettle, areas }, ids, stageSession(), picture);
      for (const one of ids) expect([one, Buffer.compare(bytes(quick.get(one)), bytes(fresh.get(one)))]).toEqual([one, 0]);
    }
  });
  it('work that ends half-way leaves what was there', () => {
    const session = stageSession();
    paint(demo, [], session, reference);
    const work = session.paint(stageInput(moved('small', 4, 4), reference, WIDTH), []);
    for (let i = 0; i < 5; i++) work.next();
    const quick = toEnd(session.paint(stageInput(moved('baskets', 3, 2), reference, WIDTH), [last(demo)]));
    const fresh = paint(moved('baskets', 3, 2), [last(demo)], stageSession(), reference);
    expect(Buffer.compare(bytes(quick.get(last(demo))), bytes(fresh.get(last(demo))))).toBe(0);
  });
});

describe('where strokes run', () => {
  it('the direction of a vector is right to a quarter of a degree, all round (against atan2)', () => {
    for (let deg = 0; deg < 360; deg += 3.7) {
      const t = (deg * Math.PI) / 180;
      const found = (turnOfVector(37 * Math.cos(t), 37 * Math.sin(t)) * 360) / 1024;
      const off = Math.abs(((found - deg + 540) % 360) - 180);
      expect(off).toBeLessThan(0.25 + 180 / 1024);
    }
  });
  it('strokes towards a point and round it paint another picture than those along one direction', () => {
    const areas = (flow?: NonNullable<Lesson['areas'][number]['flow']>) =>
      demo.areas.map((area) => (area.id === 'sky' && flow ? { ...area, flow } : area));
    const [along, towards, round] = [undefined, 'towards' as const, 'round' as const].map((kind) =>
      paint({ ...demo, areas: areas(kind && { kind, at: [200, 300] }) }, ['s3']).get('s3'),
    );
    expect(Buffer.compare(bytes(along), bytes(towards))).not.toBe(0);
    expect(Buffer.compare(bytes(round), bytes(towards))).not.toBe(0);
  });
  it('an edge that is soft fades into its neighbour; a hard one does not', () => {
    const soft = (kind: 'hard' | 'soft' | 'lost') => {
      const areas = demo.areas.map((area) => (area.id === 'far' ? { ...area, edges: [{ with: 'sky', kind }] } : area));
      return stageInput({ ...demo, areas }, null, WIDTH).areas.find((area) => area.id === 'far')?.seen as Uint8Array;
    };
    const between = (mask: Uint8Array) => mask.filter((value) => value > 0 && value < 255).length;
    expect(between(soft('hard'))).toBe(0);
    expect(between(soft('soft'))).toBeGreaterThan(100);
    expect(between(soft('lost'))).toBeGreaterThan(between(soft('soft')));
  });
});

describe('lessons at the edge', () => {
  it('no areas, no mixes and no steps leave the bare canvas; a draft of one school after another can be painted', () => {
    const bare = paint({ ...demo, areas: [], mixes: [] }, [last(demo)]).get(last(demo)) as Rgba;
    expect(bare.data[0]).toBeGreaterThan(200);
    expect(paint({ ...demo, steps: [] }, []).size).toBe(0);
    expect(paint({ ...demo, mixes: [], tubes: [] }, [last(demo)]).size).toBe(1);
    let n = 0;
    for (const order of ['subject-first', 'whole-together'] as const) {
      const school = { ...demo, school: { ...demo.school, order } };
      const drafted = asDrafted(
        school,
        draftLesson(school, () => `d${n++}`),
      );
      expect(paint(drafted, [last(drafted)]).size).toBe(1);
    }
  });
});

describe('the difference with half-closed eyes', () => {
  const flat = (value: number): Rgba => ({ width: 60, height: 75, data: new Uint8ClampedArray(60 * 75 * 4).fill(value) });
  it('is none from itself, grows with the difference, and does not see a fine pattern', () => {
    expect(squintedOff(flat(128), flat(128), 200).mean).toBeLessThan(0.01);
    const far = squintedOff(flat(128), flat(60), 200);
    expect(far.mean).toBeGreaterThan(15);
    expect(far.p95).toBeCloseTo(far.mean, 1);
    const pattern = flat(128);
    for (let i = 0; i < pattern.data.length; i++)
      if (i % 4 < 3) (pattern.data as Uint8ClampedArray)[i] = (i >> 2) % 2 === 0 ? 118 : 138;
    expect(squintedOff(flat(128), pattern, 200).mean).toBeLessThan(1);
  });
});
