import { describe, expect, it } from '@jest/globals';
import type { Mark, Step } from '@viaticum/contract';
import { deltaE00, srgbToLab } from '@viaticum/kernels/colour';
import { toEnd } from '@viaticum/kernels/cooperative';
import { stageSession } from '@viaticum/kernels/painting';
import { labRaster, type Rgba } from '@viaticum/kernels/raster';
import { areasWorkedOn } from '../derived/index.js';
import { carryOut, emptyLesson, lessonFaults, startHistory } from '../document/index.js';
import { schoolOf } from '../draft/index.js';
import type { Point } from '../geometry/index.js';
import { stageInput } from '../stage/index.js';
import { beginLesson, lineMarks } from './index.js';
import { lineColour } from './lines.js';

const [W, H] = [508, 406];
const mm = 254 / W;
/** A dark round brush head before a grey wall, with three pale bristles that reach out of it to the right. */
const isHead = (x: number, y: number) => (x - 200) ** 2 + (y - 200) ** 2 < 90 ** 2;
type Segment = [Point, Point];
const bristles = [-40, 0, 40].map(
  (dy): Segment => [
    [230, 200 + dy / 3],
    [420, 200 + dy * 2],
  ],
);
const near = (x: number, y: number): boolean =>
  bristles.some(([[ax, ay], [bx, by]]) => {
    const t = Math.max(0, Math.min(1, ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / ((bx - ax) ** 2 + (by - ay) ** 2)));
    return Math.hypot(x - ax - t * (bx - ax), y - ay - t * (by - ay)) < 1.2;
  });
const PALE = [226, 218, 190] as const;
function picture(): Rgba {
  const data = new Uint8ClampedArray(W * H * 4);
  for (let y = 0; y < H; y++)
    for (let x = 0; x < W; x++) {
      const own = near(x, y) ? PALE : isHead(x, y) ? [62, 44, 36] : [128, 136, 140];
      data.set([...own, 255], (y * W + x) * 4);
    }
  return { width: W, height: H, data };
}
const reference = picture();
const told = {
  map: {
    width: W,
    height: H,
    data: Int32Array.from({ length: W * H }, (_, i) => (isHead(i % W, Math.floor(i / W)) ? 1 : 0)),
  },
  things: [
    { name: 'Wall', role: 'background' as const },
    { name: 'Head', role: 'subject' as const },
  ],
};
const inMm = ([x, y]: Point): Point => [x * mm, y * mm];
const along = bristles.map(([from, to]): Segment => [inMm(from), inMm(to)]);
const lines = [{ name: 'Bristles', along, widthMm: 1.2, taper: 0.6 }];
let count = 0;
const ids = () => `l${++count}`;
const empty = {
  ...emptyLesson('Brush', { widthMm: 254, heightMm: 203, unit: 'cm' as const }, ids),
  level: 'improver' as const,
  school: schoolOf('layers'),
};
const lesson = toEnd(beginLesson(empty, reference, ids, { told, lines }));
const mark = lesson.marks[0] as Mark;
const step = lesson.steps.find((one) => one.markIds.includes(mark.id)) as Step;
const pale = srgbToLab(PALE.map((byte) => byte / 255) as [number, number, number]);

describe('things of lines', () => {
  it('have the colour that they have in the picture, not that of the ground they are seen against', () => {
    const seen = lineColour(labRaster(reference), along, 1.2, mm);
    expect(deltaE00(seen as [number, number, number], pale)).toBeLessThan(4);
    expect(lineColour(labRaster(reference), [[[-50, -50] as Point, [-20, -20] as Point]], 1, mm)).toBeNull();
  });
  it('are marks of the lesson: as many as were drawn, as long as they are on average, on the area under most of them', () => {
    expect(lessonFaults(lesson)).toEqual([]);
    expect(mark.name).toBe('Bristles');
    expect(mark.count).toBe(3);
    const mean = along.reduce((sum, [[ax, ay], [bx, by]]) => sum + Math.hypot(bx - ax, by - ay), 0) / 3;
    expect(mark.lengthMm).toBeCloseTo(mean, 0);
    expect(lesson.areas.find((area) => area.id === mark.areaId)?.name).toBe('Wall');
  });
  it('have a mix of their colour, in a step of their own after everything that they cross', () => {
    const mix = lesson.mixes.find((one) => step.mixIds.includes(one.id));
    expect(deltaE00(mix?.targetLab as [number, number, number], pale)).toBeLessThan(6);
    expect(new Set(areasWorkedOn(lesson, step))).toEqual(new Set(lesson.areas.map((area) => area.id)));
    const coats = lesson.steps.flatMap((one, i) => (one.kind === 'paint' && one.markIds.length === 0 ? [i] : []));
    expect(lesson.steps.indexOf(step)).toBeGreaterThan(Math.max(...coats));
    expect(step.say).toContain('3 in all');
  });
  it('the stage picture has them where they were drawn, and nowhere else', () => {
    const before = lesson.steps[lesson.steps.indexOf(step) - 1] as Step;
    const painted = toEnd(stageSession().paint(stageInput(lesson, reference, W), [before.id, step.id]));
    const [one, other] = [painted.get(before.id) as Rgba, painted.get(step.id) as Rgba];
    const changed = Array.from({ length: W * H }, (_, i) => i).filter(
      (i) => Math.abs((one.data[i * 4] as number) - (other.data[i * 4] as number)) > 12,
    );
    expect(changed.length).toBeGreaterThan(300);
    const off = changed.filter((i) => {
      const [x, y] = [i % W, Math.floor(i / W)];
      return !bristles.some(([[ax, ay], [bx, by]]) => {
        const t = Math.max(0, Math.min(1, ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / ((bx - ax) ** 2 + (by - ay) ** 2)));
        return Math.hypot(x + 0.5 - ax - t * (bx - ax), y + 0.5 - ay - t * (by - ay)) < 5;
      });
    });
    expect(off).toEqual([]);
  });
  it('drawn anew they take the place of those that were there, and steps keep those that stay', () => {
    const more = lineMarks(lesson, [{ ...(lines[0] as (typeof lines)[0]), id: mark.id, along: along.slice(0, 2) }], ids);
    const next = carryOut(startHistory(lesson), 'replaceAreas', { areas: lesson.areas, lines: more }).lesson;
    expect(next.marks.map(({ id, count: many }) => [id, many])).toEqual([[mark.id, 2]]);
    expect(next.steps.find((one) => one.id === step.id)?.markIds).toEqual([mark.id]);
    const none = carryOut(startHistory(lesson), 'replaceAreas', { areas: lesson.areas, lines: [] }).lesson;
    expect(none.marks).toEqual([]);
    expect(lessonFaults(none)).toEqual([]);
  });
});
