import { describe, expect, it } from '@jest/globals';
import { waitedFor } from '@viaticum/core/class';
import { followSheet } from '@viaticum/core/derived';
import { demoLesson } from '@viaticum/core/fixtures';
import { planLesson } from '@viaticum/core/plan';
import { allowed } from '../live/drying.js';
import { brokenStrokes, TILE } from './broken-colour.js';
import { axisFor, farthest, nearest, ticksOf, timeLabel } from './ribbon/axis.js';
import { areaSection, filmHeight } from './ribbon/film.js';
import { lanesOf, placeAt } from './ribbon/lanes.js';
import { layersAfter, layersAt, wetnessAt } from './stage-layers.js';

const lesson = demoLesson();
const planned = planLesson(lesson);
const { plan } = planned;
const sheet = followSheet(lesson);
const section = (areaId: string, toMin = plan.endMin) => areaSection(planned, areaId, toMin, (minute) => minute * 4, 100, 2);

describe('the section through the paint', () => {
  it('heights follow the square root of the film, so that a glaze is seen beside an impasto', () => {
    expect(filmHeight(400, 2) / filmHeight(100, 2)).toBe(2);
    expect(filmHeight(-1, 2)).toBe(0);
  });
  it('each coat lies on the one before, swells while it is laid and shrinks as it dries', () => {
    const [ground, paint] = section('sky');
    if (!ground || !paint) throw new Error('two coats expected');
    const laid = paint.coat.laidToMin;
    expect(paint.topAt(laid - 1)).toBeLessThan(ground.topAt(laid - 1));
    const height = (minute: number) => 100 - paint.topAt(minute);
    expect(height(paint.coat.laidFromMin + 1)).toBeLessThan(height(laid));
    expect(height(laid + 60)).toBeLessThan(height(laid));
    expect(height(laid + 60)).toBeGreaterThan(100 - ground.topAt(laid + 60));
  });
  it('the wet part ends where the paint stops being workable, the damp part where it may be painted over', () => {
    const [ground] = section('sky');
    if (!ground) throw new Error('a coat expected');
    const right = (path: string) => Math.max(...[...path.matchAll(/[ML]([\d.]+) /g)].map((found) => Number(found[1])));
    const { laidToMin, openMin, paintOverMin } = ground.coat;
    expect(right(ground.wetPath)).toBeCloseTo((laidToMin + (openMin ?? 0)) * 4, 0);
    expect(right(ground.dampPath)).toBeCloseTo((laidToMin + (paintOverMin ?? 0)) * 4, 0);
  });
  it('a coat that has not begun within the time shown has no area', () => {
    expect(section('baskets', 5).every((slice) => slice.wetPath === '' || slice.coat.laidFromMin < 5)).toBe(true);
  });
});

describe('the time shown', () => {
  it('the whole lesson, halves of it round a minute, and outwards to days', () => {
    const whole = axisFor(200, 0, 50, 1000);
    expect([whole.fromMin, whole.toMin]).toEqual([0, 200]);
    expect(whole.toMinute(whole.toX(73))).toBeCloseTo(73, 9);
    const close = axisFor(200, 2, 100, 1000);
    expect([close.fromMin, close.toMin]).toEqual([75, 125]);
    expect(axisFor(200, 2, 0, 1000).fromMin).toBe(0);
    expect(axisFor(200, 2, 199, 1000).toMin).toBe(200);
    expect(axisFor(200, -1, 0, 1000).toMin).toBe(400);
    expect(axisFor(200, -3, 0, 1000).toMin).toBe(4320);
    expect([farthest(200), nearest(200)]).toEqual([-3, 4]);
    expect(axisFor(200, 99, 100, 1000).toMin - axisFor(200, 99, 100, 1000).fromMin).toBeGreaterThan(8);
  });
  it('is written along it, at most a dozen times', () => {
    for (const zoom of [-3, -2, -1, 0, 1, 2, 3, 4]) {
      const ticks = ticksOf(axisFor(213, zoom, 60, 900));
      expect(ticks.length).toBeGreaterThan(2);
      expect(ticks.length).toBeLessThan(14);
    }
    expect([53, 1440, 2160].map(timeLabel)).toEqual(['0:53', '1 d', '1 d 12 h']);
  });
});

describe('lanes', () => {
  const things = { ...lesson, things: [{ id: 'e', name: 'balloons', fate: 'kept' as const }] };
  const grouped = {
    ...things,
    areas: things.areas.map((area) => (/^(great|stripes|small)$/.test(area.id) ? { ...area, thingId: 'e' } : area)),
  };
  it('from more than nine areas on those of one thing share a lane, until it is unfolded', () => {
    expect(lanesOf(lesson, new Set())).toHaveLength(10);
    const lanes = lanesOf(grouped, new Set());
    expect(lanes).toHaveLength(8);
    expect(lanes.find((one) => one.id === 'e')?.areaIds).toHaveLength(3);
    expect(lanesOf(grouped, new Set(['e']))).toHaveLength(10);
    expect(lanesOf({ ...grouped, areas: grouped.areas.slice(0, 9) }, new Set())).toHaveLength(9);
  });
  it('a step dragged to a time stands after all that are half done by then', () => {
    const [first, second, third] = planned.solution.items;
    expect(placeAt(planned, 's5', 0)).toBe(0);
    expect(placeAt(planned, third?.step ?? '', ((first?.start ?? 0) + (first?.end ?? 0)) / 2)).toBe(1);
    expect(placeAt(planned, second?.step ?? '', plan.endMin)).toBe(lesson.steps.length - 1);
  });
});

describe('the canvas at a minute', () => {
  it('starts bare and holds every layer at the end', () => {
    expect(layersAt(sheet, plan, 0)).toEqual([]);
    const all = Object.values(sheet.steps).flatMap((step) => step.layers);
    expect(layersAt(sheet, plan, plan.endMin + 1)).toHaveLength(all.length);
    expect(layersAt(sheet, plan, plan.endMin + 1).every((layer) => layer.laid === 1)).toBe(true);
  });
  it('what was laid at home is there before the class begins', () => {
    const [first] = lesson.steps;
    const home = { ...lesson, steps: lesson.steps.map((step) => (step === first ? { ...step, ahead: true as const } : step)) };
    const own = planLesson(home).plan;
    const layers = layersAt(sheet, own, 0);
    expect(layers).toEqual((sheet.steps[first?.id ?? '']?.layers ?? []).map((layer) => ({ ...layer, laid: 1 })));
    expect(layers.length).toBeGreaterThan(0);
    expect(layersAfter(sheet, own, () => false)).toEqual(layers);
  });
  it('half way through a step its layer is half laid', () => {
    const item = plan.items.find((one) => one.kind === 'step' && one.showMin > 0);
    if (!item) throw new Error('a step expected');
    const half = (item.startMin + item.showMin + item.endMin) / 2;
    expect(layersAt(sheet, plan, half).at(-1)?.laid).toBeCloseTo(0.5, 6);
    expect(layersAt(sheet, plan, item.startMin + item.showMin / 2).at(-1)?.laid).toBe(0);
  });
  it('a student’s canvas shows only the steps they have done', () => {
    const [first, second] = lesson.steps;
    const layers = layersAfter(sheet, plan, (id) => id === first?.id);
    expect(layers).toHaveLength(sheet.steps[first?.id ?? '']?.layers.length ?? -1);
    expect(layersAfter(sheet, plan, (id) => id === first?.id || id === second?.id).length).toBeGreaterThan(layers.length);
  });
  it('wetness names the areas that are wet, in the order workable, damp, dry', () => {
    const coat = plan.coats.find((one) => one.areaId === 'far' && one.stepId !== lesson.steps[0]?.id);
    if (!coat) throw new Error('a coat expected');
    const rungAt = (minute: number) => wetnessAt(sheet, plan.coats, minute, true).find((one) => one.areaId === 'far');
    expect(rungAt(coat.laidToMin + 0.1)).toEqual({ areaId: 'far', rung: 'workable', label: 'far ridge workable' });
    expect(rungAt(coat.laidToMin + (coat.openMin ?? 0) + 0.1)?.rung).toBe('damp');
    expect(rungAt(coat.laidToMin + (coat.paintOverMin ?? 0) + 0.1)?.label).toBeUndefined();
    expect(wetnessAt(sheet, plan.coats, 0, true)).toEqual([]);
  });
});

describe('what a phone says about drying', () => {
  it('right after the ground: the whole canvas may be worked, and nothing may lie on it yet', () => {
    const [ground] = plan.items;
    const { now, notYet } = allowed(sheet, plan.coats, (ground?.endMin ?? 0) + 0.05);
    expect(now).toEqual(['the whole canvas workable: you may still blend it']);
    expect(notYet).toHaveLength(1);
    const [coat] = plan.coats;
    expect(notYet[0]?.minutes).toBeCloseTo((coat?.paintOverMin ?? 0) - 0.05, 6);
  });
  it('a pause waits for the slowest of its coats', () => {
    // In damp air there is more to wait for.
    const damp = planLesson({ ...lesson, room: { ...lesson.room, airC: 17, humidity: 0.7 } }).plan;
    const pauses = damp.items.filter((item) => item.kind === 'pause');
    expect(pauses.length).toBeGreaterThan(3);
    for (const pause of pauses) {
      const coat = waitedFor(damp.coats, pause);
      if (!coat) throw new Error('a coat expected');
      const dry = (one: typeof coat) => one.laidToMin + (one.paintOverMin ?? 0);
      const others = damp.coats.filter((one) => pause.areaIds.includes(one.areaId) && one.laidToMin <= pause.startMin + 1e-6);
      expect(dry(coat)).toBe(Math.max(...others.map(dry)));
    }
  });
});

describe('broken colour', () => {
  const areaShare = (share: number) => {
    const strokes = [...brokenStrokes(share, 3).matchAll(/M([-\d.]+) ([-\d.]+)q[-\d.]+ [-\d.]+ ([\d.]+) /g)].filter(
      ([, x, y]) => Number(x) >= 0 && Number(y) >= 0 && Number(y) <= TILE.height,
    );
    const laid = strokes.reduce((sum, [, , , length]) => sum + Number(length) * 3.4, 0) / (TILE.width * TILE.height);
    return 1 - Math.exp(-laid); // what strokes laid by chance cover
  };
  it.each([0.2, 0.5, 0.8])('covers about the share asked for (%d)', (share) => {
    expect(Math.abs(areaShare(share) - share)).toBeLessThan(0.1);
  });
  it('is the same for the same seed and another for another', () => {
    expect(brokenStrokes(0.5, 1)).toBe(brokenStrokes(0.5, 1));
    expect(brokenStrokes(0.5, 1)).not.toBe(brokenStrokes(0.5, 2));
  });
});
