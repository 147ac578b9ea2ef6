import { describe, expect, it } from '@jest/globals';
import type { Lesson, Surface } from '@viaticum/contract';
import { toEnd } from '@viaticum/kernels/cooperative';
import { stageSession } from '@viaticum/kernels/painting';
import type { Rgba } from '@viaticum/kernels/raster';
import { surfaceMinutes, surfaceStrokes } from '../derived/index.js';
import { demoLesson } from '../fixtures/lessons.js';
import { planLesson } from '../plan/index.js';
import { surfaces } from '../surface/index.js';
import { squintedOff, stageInput } from './index.js';

const WIDTH = 320;
/** One area over a whole small canvas, in a dark and a light mix, painted flat in the dark one and gone over in the light. */
function striped(surface: Surface, rest: Partial<Lesson['areas'][number]> = {}): Lesson {
  const { tubes, mixes, steps, ...demo } = demoLesson('balloons');
  const support = { ...demo.support, widthMm: 200, heightMm: 160, groundCoats: [] };
  const byLight = [...mixes].filter((mix) => mix.targetLab).sort((a, b) => (a.targetLab?.[0] ?? 0) - (b.targetLab?.[0] ?? 0));
  const [dark, light] = [byLight[0], byLight.at(-1)] as [Lesson['mixes'][number], Lesson['mixes'][number]];
  const step = { ...(steps.find((one) => one.kind === 'paint') as Lesson['steps'][number]), markIds: [] };
  const { passageId: _, coverShare: __, side: ___, ...plain } = step;
  const outline: [number, number][][][] = [
    [
      [
        [0, 0],
        [200, 0],
        [200, 160],
        [0, 160],
      ],
    ],
  ];
  return {
    ...demo,
    support,
    tubes,
    mixes: [dark, light],
    marks: [],
    things: [],
    passages: [],
    leftOut: [],
    samples: [],
    variants: [],
    references: [],
    planning: { pins: [] },
    areas: [{ id: 'all', name: 'all', outline, surface, ...rest }],
    subjectAreaId: 'all',
    steps: [
      { ...plain, id: 'base', areaIds: ['all'], mixIds: [dark.id], technique: 'block-in' },
      {
        ...plain,
        id: 'over',
        areaIds: ['all'],
        mixIds: [dark.id, light.id],
        technique: 'loaded',
        pass: 'lights',
        brushId: 'round-2',
        coverShare: 0.2,
      },
    ],
  } as Lesson;
}
/** A picture of light stripes on dark, upright or level. */
function stripes(isUpright: boolean): Rgba {
  const [width, height] = [WIDTH, (WIDTH * 160) / 200];
  const data = new Uint8ClampedArray(width * height * 4);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const isLight = (isUpright ? x : y) % 16 < 5;
      for (let c = 0; c < 3; c++) data[(y * width + x) * 4 + c] = isLight ? 225 : 40;
      data[(y * width + x) * 4 + 3] = 255;
    }
  return { width, height, data };
}
const paint = (lesson: Lesson, picture: Rgba | null, session = stageSession()) =>
  toEnd(session.paint(stageInput(lesson, picture, WIDTH), ['base', 'over']));
const after = (pictures: Map<string, Rgba>, id: string) => pictures.get(id) as Rgba;
/** How much lightness changes from pixel to pixel across and down, over all pixels that a step changed. */
function changes(picture: Rgba) {
  let [across, down] = [0, 0];
  for (let y = 1; y < picture.height - 1; y++)
    for (let x = 1; x < picture.width - 1; x++) {
      const at = (px: number, py: number) => picture.data[(py * picture.width + px) * 4] as number;
      across += Math.abs(at(x + 1, y) - at(x - 1, y));
      down += Math.abs(at(x, y + 1) - at(x, y - 1));
    }
  return { across, down };
}

describe('a pass over a surface', () => {
  const lesson = striped('short-fur');
  it('brings the canvas nearer to its picture', () => {
    const picture = stripes(true);
    const pictures = paint(lesson, picture);
    const off = (id: string) => squintedOff(picture, after(pictures, id), 200).mean;
    expect(off('over')).toBeLessThan(off('base') - 2);
  });
  it('its strokes run as the picture does', () => {
    const [upright, level] = [true, false].map((way) => changes(after(paint(lesson, stripes(way)), 'over')));
    expect(upright?.across).toBeGreaterThan(1.3 * (upright?.down ?? 0));
    expect(level?.down).toBeGreaterThan(1.3 * (level?.across ?? 0));
  });
  it('or as they were combed, where there is no picture', () => {
    const combed = (to: [number, number]) =>
      changes(after(paint(striped('short-fur', { combed: [[[100, 80], to]] }), null), 'over'));
    const [upright, level] = [combed([100, 120]), combed([140, 80])];
    expect(upright.across / upright.down).toBeGreaterThan(1.25 * (level.across / level.down));
  });
  it('the same lesson gives the same bytes, also when only its combing was changed and changed back', () => {
    const session = stageSession();
    const first = after(paint(lesson, stripes(true), session), 'over').data;
    const combed = after(
      paint(
        striped('short-fur', {
          combed: [
            [
              [0, 0],
              [200, 0],
            ],
          ],
        }),
        stripes(true),
        session,
      ),
      'over',
    ).data;
    expect(Buffer.compare(Buffer.from(first), Buffer.from(combed))).not.toBe(0);
    const again = after(paint(lesson, stripes(true), session), 'over').data;
    expect(Buffer.compare(Buffer.from(first), Buffer.from(again))).toBe(0);
  });
  it('lights are only laid where they lighten, darks only where they darken', () => {
    const pictures = paint(lesson, stripes(true));
    const [base, over] = [after(pictures, 'base'), after(pictures, 'over')];
    let darker = 0;
    for (let i = 0; i < base.data.length; i += 4) if ((over.data[i] as number) < (base.data[i] as number) - 24) darker++;
    expect(darker / (base.data.length / 4)).toBeLessThan(0.01);
  });
});

describe('strokes of a surface in their time', () => {
  const step = (doMin?: number) => ({ pass: 'lights' as const, areaIds: ['all'], ...(doMin === undefined ? {} : { doMin }) });
  const covered = (lesson: Lesson, doMin?: number) => {
    const [one] = surfaceStrokes(lesson, step(doMin));
    return one ? { count: one.count, minutes: (one.count * one.pass.seconds * 2) / 60, widthMm: one.widthMm } : null;
  };
  const fur: Lesson = { ...striped('short-fur'), level: 'beginner' };
  it('are no more than can be laid in it', () => {
    for (const minutes of [2, 5, 8]) expect(covered(fur, minutes)?.minutes).toBeLessThanOrEqual(minutes + 0.1);
    expect(covered(fur, 8)?.count).toBeGreaterThan(covered(fur, 2)?.count ?? 0);
  });
  it('where time is short the brush is larger, but no more than twice', () => {
    const [usual, short] = [covered(fur, 200), covered(fur, 2)];
    expect(short?.widthMm).toBeCloseTo(2 * (usual?.widthMm ?? 0), 6);
  });
  it('nothing is finer than a level can paint', () => {
    for (const [level, least] of [
      ['beginner', 1.5],
      ['improver', 1],
      ['experienced', 0.6],
    ] as const)
      for (const surface of Object.keys(surfaces) as Surface[])
        for (const { pass } of surfaces[surface].passes)
          for (const one of surfaceStrokes({ ...striped(surface), level }, { pass, areaIds: ['all'] }))
            expect(one.widthMm).toBeGreaterThanOrEqual(least - 1e-9);
  });
  it('make the minutes of their step', () => {
    const { minutes } = planLesson(fur);
    const own = minutes.get('over');
    expect(own?.doMin).toBeGreaterThan(surfaceMinutes(fur, step()) * 2);
    expect(own?.doMin).toBeLessThan(surfaceMinutes(fur, step()) * 2 + 12);
  });
  it('an area without a surface has none', () => {
    const { surface: _, ...plain } = fur.areas[0] as Lesson['areas'][number];
    expect(surfaceStrokes({ ...fur, areas: [plain] }, step())).toEqual([]);
  });
});

describe('the table of surfaces', () => {
  const all = Object.values(surfaces).flatMap(({ base, passes }) => [base, ...passes]);
  it('says everything once: no sentence is said of two passes', () => {
    const said = all.flatMap(({ say, watch, checkpoint, finish }) => [say, watch, checkpoint, finish]);
    expect(new Set(said).size).toBe(said.length);
  });
  it('lays darks before lights, and lights last', () => {
    for (const { passes } of Object.values(surfaces)) {
      const order = passes.map((one) => ['darks', 'middles', 'lights'].indexOf(one.pass));
      expect(order).toEqual([...order].sort());
    }
  });
});
