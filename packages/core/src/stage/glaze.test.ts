import { describe, expect, it } from '@jest/globals';
import type { Lesson } from '@viaticum/contract';
import { toEnd } from '@viaticum/kernels/cooperative';
import { stageSession } from '@viaticum/kernels/painting';
import type { Rgba } from '@viaticum/kernels/raster';
import { glazeFilm, mediumOf } from '../derived/index.js';
import { smallLesson, testStep } from '../fixtures/lessons.js';
import { recipeParts } from '../mix/index.js';
import { stageInput } from './index.js';

const WIDTH = 160;
const lesson: Lesson = {
  ...smallLesson([
    testStep('white', { areaIds: ['a', 'b'], mixIds: ['m'] }),
    testStep('glaze', { areaIds: ['a'], mixIds: ['blue'], technique: 'glaze', needs: 'touchDry', brushId: 'flat-1-in' }),
  ]),
  tubes: [
    { id: 'w', pigment: 'PW6', grade: 'artist' },
    { id: 'b', pigment: 'PB29', grade: 'artist' },
  ],
  mixes: [
    { id: 'm', name: 'white', recipe: [{ tubeId: 'w', parts: 1 }] },
    { id: 'blue', name: 'blue', recipe: [{ tubeId: 'b', parts: 1 }] },
  ],
};
const paint = (of: Lesson, session = stageSession()) => {
  const pictures = toEnd(session.paint(stageInput(of, null, WIDTH), ['white', 'glaze']));
  return { before: pictures.get('white') as Rgba, after: pictures.get('glaze') as Rgba };
};
const glaze = (change: Partial<Lesson['steps'][number]>): Lesson => ({
  ...lesson,
  steps: lesson.steps.map((step) => (step.id === 'glaze' ? { ...step, ...change } : step)),
});
/** Mean of a channel over a part of the sky, shares of the canvas from its upper left corner. */
function mean({ width, height, data }: Rgba, c: 0 | 1 | 2, [x0, x1]: [number, number], [y0, y1]: [number, number]): number {
  let [sum, count] = [0, 0];
  for (let y = Math.floor(y0 * height); y < y1 * height; y++)
    for (let x = Math.floor(x0 * width); x < x1 * width; x++) {
      sum += data[(y * width + x) * 4 + c] as number;
      count++;
    }
  return sum / count;
}
const middle: [[number, number], [number, number]] = [
  [0.2, 0.8],
  [0.1, 0.4],
];

describe('a glaze on the canvas', () => {
  it('is one clear film, however often the brush goes over it: what lies below is seen through it', () => {
    const { before, after } = paint(lesson);
    const film = glazeFilm(lesson, lesson.mixes[1] as Lesson['mixes'][number]);
    const linear = (value: number) => (value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4);
    for (const c of [0, 1, 2] as const) {
      const below = linear(mean(before, c, ...middle) / 255);
      const wanted = (film?.over[c] ?? 0) + (film?.through[c] ?? 0) * below;
      // The hairs of the brush leave it a little uneven, never darker than the film.
      expect(linear(mean(after, c, ...middle) / 255)).toBeGreaterThan(wanted - 0.02);
      expect(linear(mean(after, c, ...middle) / 255)).toBeLessThan(wanted + 0.35 * Math.max(0.05, below - wanted));
    }
  });

  it('takes the usual parts of medium, or those that were said of the mix', () => {
    const [, mix] = lesson.mixes as [Lesson['mixes'][number], Lesson['mixes'][number]];
    const parts = recipeParts(mix, lesson) ?? [];
    expect(mediumOf(mix, parts, 'satin')).toBe(4);
    expect(mediumOf({ ...mix, mediumParts: 20 }, parts, 'satin')).toBe(20);
    const thin: Lesson = { ...lesson, mixes: lesson.mixes.map((one) => (one.id === 'blue' ? { ...one, mediumParts: 40 } : one)) };
    expect(mean(paint(thin).after, 0, ...middle)).toBeGreaterThan(mean(paint(lesson).after, 0, ...middle) + 5);
  });

  it('on one side it lies there and fades out; the shade side is the one away from the light', () => {
    const left = (of: Lesson) => mean(paint(of).after, 0, [0.05, 0.3], [0.1, 0.4]);
    const right = (of: Lesson) => mean(paint(of).after, 0, [0.7, 0.95], [0.1, 0.4]);
    const onRight = glaze({ side: 'right' });
    expect(right(onRight)).toBeLessThan(left(onRight) - 8);
    const lit = (azimuthDeg: number): Lesson => ({ ...glaze({ side: 'shade' }), light: { azimuthDeg, elevationDeg: 5 } });
    expect(right(lit(270))).toBeLessThan(left(lit(270)) - 8);
    expect(left(lit(90))).toBeLessThan(right(lit(90)) - 8);
  });

  it('an outline moved beneath it is repainted as from nothing, byte for byte', () => {
    const session = stageSession();
    paint(lesson, session);
    const moved: Lesson = {
      ...lesson,
      areas: lesson.areas.map((area) =>
        area.id === 'b'
          ? {
              ...area,
              outline: area.outline.map((part) => part.map((ring) => ring.map(([x, y]): [number, number] => [x, y - 12]))),
            }
          : area,
      ),
    };
    const again = paint(moved, session).after;
    expect(Buffer.compare(Buffer.from(again.data), Buffer.from(paint(moved).after.data))).toBe(0);
  });
});
