import { describe, expect, it } from '@jest/globals';
import type { Lesson, Mark } from '@viaticum/contract';
import { toEnd } from '@viaticum/kernels/cooperative';
import { stageSession } from '@viaticum/kernels/painting';
import { smallLesson, testMark, testStep } from '../fixtures/lessons.js';
import { planLesson } from '../plan/index.js';
import { stageInput } from '../stage/index.js';
import { areasWorkedOn, coverOf, followSheet, isOnlyMarks, markAreaCm2, markMinutes } from './index.js';

const tufts = testMark('tufts', 'b', { count: 30, lengthMm: 20, widthMm: 3, taper: 1 });
const base = testStep('base', { areaIds: ['a', 'b'], mixIds: ['dark'], doMin: 5 });
const { doMin: _, areaIds: __, ...bare } = testStep('grass', { needs: 'paintOver', technique: 'loaded' });
const grass = { ...bare, areaIds: [], markIds: ['tufts'] };
const lesson: Lesson = {
  ...smallLesson([base, grass]),
  marks: [tufts],
  tubes: [
    { id: 'w', pigment: 'PW6', grade: 'artist' },
    { id: 'k', pigment: 'PBk7', grade: 'artist' },
  ],
  mixes: [
    { id: 'm', name: 'white', recipe: [{ tubeId: 'w', parts: 1 }] },
    { id: 'dark', name: 'dark', recipe: [{ tubeId: 'k', parts: 1 }] },
  ],
};

describe('marks', () => {
  it('thirty tufts that taper to nothing are triangles; dots are round', () => {
    expect(markAreaCm2(tufts)).toBeCloseTo(30 * 20 * 3 * 0.5 * 0.01, 9);
    expect(markAreaCm2({ ...tufts, kind: 'dots' })).toBeCloseTo((30 * Math.PI * 9) / 400, 9);
  });

  // Common practice, no published source: worked examples of the design, minutes of the experienced hand alone.
  it.each<[string, Partial<Mark>, number]>([
    ['400 hairs by rake', { kind: 'hairs', tool: 'rake', count: 400, lengthMm: 14, widthMm: 0.6 }, 1.5],
    ['140 hairs by liner', { kind: 'hairs', count: 140, lengthMm: 10, widthMm: 0.5 }, 5.8],
    ['16 spokes of 85 mm', { kind: 'lines', count: 16, lengthMm: 85, widthMm: 1.2 }, 2.7],
    ['32 dots by handle', { kind: 'dots', tool: 'handle', count: 32, lengthMm: 4, widthMm: 4 }, 1.1],
    ['60 tufts by fan', { count: 60, lengthMm: 12, widthMm: 1.5 }, 2.3],
    ['300 drops', { kind: 'spatter', count: 300, lengthMm: 1, widthMm: 1.5 }, 2.2],
  ])('%s', (_, mark, minutes) => {
    expect(Math.abs(markMinutes({ ...tufts, ...mark }) - minutes)).toBeLessThan(0.15);
  });
  it('400 hairs by rake take a beginner no more than 4 minutes, setting up included', () => {
    const hairs = { ...tufts, kind: 'hairs' as const, tool: 'rake' as const, count: 400, lengthMm: 14, widthMm: 0.6 };
    const step = grass;
    const minutes = planLesson({ ...lesson, level: 'beginner', marks: [hairs], steps: [{ ...step, mixIds: [] }] }).minutes;
    expect(minutes.get('grass')?.doMin).toBeLessThanOrEqual(4);
  });

  it('a step of marks alone works on their area only, and covers as much of it as they take', () => {
    expect(isOnlyMarks(grass)).toBe(true);
    expect(areasWorkedOn(lesson, grass)).toEqual(['b']);
    const share = coverOf(lesson, grass);
    expect(share).toBeCloseTo(markAreaCm2(tufts) / 220, 2);
    expect(coverOf(lesson, base)).toBe(1);
  });

  it('the plan gives them minutes that grow with their number, and a coat that dries on their area alone', () => {
    const plan = planLesson(lesson);
    const many = planLesson({ ...lesson, marks: [{ ...tufts, count: 300 }] });
    const minutes = (of: typeof plan) => of.minutes.get('grass')?.doMin ?? 0;
    // A fan: 1.5 s each, loaded again for 6 s after eight; a beginner takes twice as long.
    expect(minutes(many) - minutes(plan)).toBeCloseTo((2 * (270 * 1.5 + 34 * 6)) / 60, 0);
    const coats = plan.plan.coats.filter((coat) => coat.stepId === 'grass');
    expect(coats.map((coat) => coat.areaId)).toEqual(['b']);
    expect(coats[0]?.coverShare).toBeLessThan(0.1);
    // They wait until the hill can be painted over.
    expect(plan.plan.items.some((item) => item.kind === 'pause')).toBe(true);
  });

  it('phones get what is to be counted, and how often a repeat is done', () => {
    const sheet = followSheet({ ...lesson, steps: [base, { ...grass, repeat: { most: 3, until: 'the rim is even' } }] });
    expect(sheet.steps.grass?.counts).toEqual([
      { name: 'tufts', count: 30, until: '' },
      { name: 'grass', count: 3, until: 'the rim is even' },
    ]);
    const strewn = followSheet({ ...lesson, marks: [{ ...tufts, kind: 'spatter', count: 40 }] });
    expect(strewn.steps.grass?.counts).toEqual([]);
  });
});

describe('marks in stage pictures', () => {
  const WIDTH = 240;
  const painted = (change: Partial<Lesson> = {}) => {
    const own = { ...lesson, ...change };
    const pictures = toEnd(stageSession().paint(stageInput(own, null, WIDTH), ['base', 'grass']));
    const [before, after] = [pictures.get('base'), pictures.get('grass')];
    const places: [number, number][] = [];
    for (let i = 0; i < WIDTH * 300; i++)
      if ((after?.data[i * 4] ?? 0) - (before?.data[i * 4] ?? 0) > 60) places.push([i % WIDTH, Math.floor(i / WIDTH)]);
    return places;
  };
  const mm = 200 / WIDTH;

  it('they lie in their area, as much of it as was reckoned, more for a greater number', () => {
    const places = painted();
    expect(places.length * mm * mm).toBeGreaterThan(0.4 * 100 * markAreaCm2(tufts));
    expect(places.length * mm * mm).toBeLessThan(1.6 * 100 * markAreaCm2(tufts));
    expect(places.every(([, y]) => y * mm > 125)).toBe(true);
    expect(painted({ marks: [{ ...tufts, count: 90 }] }).length).toBeGreaterThan(1.8 * places.length);
  });

  it('none fall on what is covered up', () => {
    const areas = [
      ...lesson.areas,
      {
        id: 'c',
        name: 'post',
        outline: [
          [
            [
              [80, 140] as [number, number],
              [120, 140] as [number, number],
              [120, 250] as [number, number],
              [80, 250] as [number, number],
            ],
          ],
        ],
      },
    ];
    const drops = { ...tufts, kind: 'spatter' as const, areaId: 'b', count: 300, widthMm: 4, protectIds: ['c'] };
    const places = painted({ areas, marks: [drops] });
    expect(places.length).toBeGreaterThan(100);
    expect(places.some(([x]) => x * mm > 82 && x * mm < 118)).toBe(false);
  });

  it('a unit set round a point has its place at every turn', () => {
    const round = { at: [100, 200] as [number, number], radiusMm: 30 };
    const places = painted({ marks: [{ ...tufts, kind: 'unit', count: 6, lengthMm: 8, taper: 0, round }] });
    const turns = new Set(
      places.map(([x, y]) => Math.round(((Math.atan2(y * mm - 200, x * mm - 100) * 180) / Math.PI + 360) / 60) % 6),
    );
    expect(turns.size).toBe(6);
    for (const [x, y] of places) {
      const far = Math.hypot(x * mm - 100, y * mm - 200);
      expect(far).toBeGreaterThan(26);
      expect(far).toBeLessThan(42);
    }
  });
});
