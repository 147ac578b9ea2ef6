import { describe, expect, it } from '@jest/globals';
import type { Area, Lesson } from '@viaticum/contract';
import { toEnd } from '@viaticum/kernels/cooperative';
import { labRaster, type Rgba } from '@viaticum/kernels/raster';
import { carryOut, emptyLesson, lessonFaults, startHistory } from '../document/index.js';
import { schoolOf } from '../draft/index.js';
import { redoLesson } from '../lesson-from-picture/index.js';
import { litWords, sideOf } from '../text/index.js';
import { lightPicture, lightsIn, twoLights } from './index.js';

const round = (cx: number, cy: number, r: number): [number, number][] =>
  Array.from({ length: 48 }, (_, i) => [cx + r * Math.cos((i * Math.PI) / 24), cy + r * Math.sin((i * Math.PI) / 24)]);
const whole: [number, number][] = [
  [0, 0],
  [200, 0],
  [200, 160],
  [0, 160],
];
const ground: Area = { id: 'table', name: 'Table', role: 'ground', outline: [[whole]], targetLab: [70, 5, 18] };
const ball: Area = {
  id: 'ball',
  name: 'Ball',
  role: 'subject',
  form: { kind: 'round' },
  outline: [[round(90, 80, 40)]],
  targetLab: [72, 45, 38],
};
let count = 0;
const ids = () => `l${++count}`;
const lesson: Lesson = {
  ...emptyLesson('Ball', { widthMm: 200, heightMm: 160, unit: 'cm' }, ids),
  level: 'improver',
  school: schoolOf('layers'),
  light: { azimuthDeg: 315, elevationDeg: 30 },
  areas: [ground, ball],
};
const lightnessAt = (picture: Rgba, x: number, y: number): number =>
  labRaster(picture).l[Math.floor((y / 160) * picture.height) * picture.width + Math.floor((x / 200) * picture.width)] as number;

describe('a lesson without a photograph, by its light', () => {
  const picture = lightPicture(lesson, 400) as Rgba;
  it('is nothing where no body is said', () => {
    expect(lightPicture({ ...lesson, areas: [ground] }, 400)).toBeNull();
  });
  it('a ball is its colour in the light, darker away from it, darkest before the rim', () => {
    // A little darker where a screen does not reach the colour.
    expect(Math.abs(lightnessAt(picture, 78, 62) - 72)).toBeLessThan(3);
    expect(lightnessAt(picture, 112, 102)).toBeLessThan(35);
    // The table keeps its colour where nothing falls on it, and is darker where the ball throws its shadow.
    expect(lightnessAt(picture, 20, 140)).toBeCloseTo(70, 0);
    const dark = labRaster(picture).l.filter((value) => Math.abs(value - 70 * 0.55) < 1.5).length;
    expect(dark).toBeGreaterThan(500);
  });
  it('the sky takes no shadow', () => {
    const sky = lightPicture({ ...lesson, areas: [{ ...ground, role: 'sky' }, ball] }, 400) as Rgba;
    expect(labRaster(sky).l.filter((value) => Math.abs(value - 70 * 0.55) < 1.5).length).toBeLessThan(50);
  });
  it('the lesson is drafted by it: mixes for the lights and the shades of the ball, steps that say where the light is, targets kept', () => {
    const wide = lightPicture(lesson, 720) as Rgba;
    const { lesson: drafted } = toEnd(redoLesson(lesson, lesson, wide, ids, { keepsTargets: true }));
    expect(lessonFaults(drafted)).toEqual([]);
    expect(drafted.areas.find((area) => area.id === 'ball')?.targetLab).toEqual([72, 45, 38]);
    const own = drafted.mixes.filter((mix) => mix.areaId === 'ball' || mix.alsoAreaIds?.includes('ball'));
    const values = own.map((mix) => mix.targetLab?.[0] ?? 0);
    expect(Math.max(...values) - Math.min(...values)).toBeGreaterThan(25);
    const said = drafted.steps.map((step) => step.say).join(' ');
    expect(said).toContain('The ball is round');
    expect(said).toContain('upper left-hand side');
  });
  it('its light is found again where a photograph would show it', () => {
    const photo = { ...lesson, areas: [ground, { ...ball, form: { kind: 'round' as const } }] };
    const [found] = lightsIn(photo, picture);
    expect(found?.areaId).toBe('ball');
    expect(Math.abs((found?.azimuthDeg ?? 0) - 315)).toBeLessThan(15);
    expect(found?.explained).toBeGreaterThan(0.6);
  });
  it('two things lit from different sides are two lights', () => {
    const from = (areaId: string, azimuthDeg: number) => ({ areaId, azimuthDeg, elevationDeg: 30, explained: 0.5 });
    expect(twoLights([from('a', 350), from('b', 20)])).toBeNull();
    expect(twoLights([from('a', 350), from('b', 70)])?.map((one) => one.areaId)).toEqual(['a', 'b']);
  });
});

describe('the light in words', () => {
  it.each([
    [0, 'top'],
    [44, 'upper right'],
    [90, 'right'],
    [225, 'lower left'],
    [359, 'top'],
  ] as const)('%i° is the %s', (deg, side) => expect(sideOf(deg)).toBe(side));
  it('a box has faces and no light that comes back; a flat thing says nothing, nor does light from the eye', () => {
    const light = { azimuthDeg: 90, elevationDeg: 20 };
    const of = (kind: 'box' | 'flat' | 'round', by = light) =>
      litWords({ light: by, areas: [] }, { id: 'c', form: { kind }, name: 'Crate' });
    expect(of('box')).toBe(
      'The crate has flat faces: each is one value with an edge between, the lightest turned to the right-hand side, the darkest to the left-hand side.',
    );
    const plums = { id: 'p', form: { kind: 'round' as const }, name: 'Two plums' };
    expect(litWords({ light, areas: [] }, plums)).toContain('The two plums are round');
    // What was said of the first is not said again of the second.
    expect(litWords({ light, areas: [ball, { ...ball, ...plums }] }, plums)).toBe(
      'The two plums are lit as the ball is: on the right-hand side.',
    );
    expect(of('flat')).toBeNull();
    expect(of('round', { azimuthDeg: 90, elevationDeg: 85 })).toBeNull();
  });
  it('a body is set, moved with its canvas, and undone', () => {
    const next = carryOut(startHistory(lesson), 'setForm', { id: 'table', form: { kind: 'box', edge: [100, 40] } }).lesson;
    expect(next.areas[0]?.form).toEqual({ kind: 'box', edge: [100, 40] });
    expect(carryOut(startHistory(next), 'setForm', { id: 'table', form: null }).lesson.areas[0]?.form).toBeUndefined();
    expect(() => carryOut(startHistory(lesson), 'setForm', { id: 'ball', form: { kind: 'cone', axisDeg: 400 } })).toThrow();
  });
});
