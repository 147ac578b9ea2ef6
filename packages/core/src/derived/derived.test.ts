import { describe, expect, it } from '@jest/globals';
import type { Lesson } from '@viaticum/contract';
import { deltaE00 } from '@viaticum/kernels/colour';
import { carryOut, startHistory } from '../document/index.js';
import { demoLesson, smallLesson, testStep } from '../fixtures/lessons.js';
import {
  areasWorkedOn,
  bringInWords,
  chroma,
  colourBeneath,
  colourOf,
  extentsOf,
  firstPaints,
  followSheet,
  huesApart,
  laysPaint,
  looksOf,
  mixesWithin,
  overlapsBetween,
  paintLayers,
  restsOn,
  seenAreas,
  usedMixes,
  visibleOf,
  weightOf,
} from './index.js';

const demo = demoLesson('kettle');

describe('what of a lesson is seen', () => {
  it('areas share the canvas: their visible parts never add up to more than it', () => {
    for (const name of ['balloons', 'kettle', 'star'] as const) {
      const lesson = demoLesson(name);
      const sum = visibleOf(lesson).reduce((total, part) => total + part.areaCm2, 0);
      expect(sum).toBeLessThanOrEqual((lesson.support.widthMm * lesson.support.heightMm) / 100 + 1);
    }
  });
  it('paint runs under its neighbours: what is painted is never less than what is seen', () => {
    const seen = new Map(visibleOf(demo).map((part) => [part.id, part.areaCm2]));
    for (const extent of extentsOf(demo)) expect(extent.areaCm2).toBeGreaterThanOrEqual((seen.get(extent.id) ?? 0) - 0.1);
    const laps = overlapsBetween(demo);
    for (const [one, others] of laps) for (const [other, cm2] of others) expect(laps.get(other)?.get(one)).toBeCloseTo(cm2, 6);
  });
  it('a dropped thing is not seen, and what lies behind it is', () => {
    const thing = { id: 'cups', name: 'cups', fate: 'kept' as const };
    const with1 = carryOut(startHistory(demo), 'addThing', { thing, areaIds: ['mugs'] });
    const without = carryOut(with1, 'setFate', { id: 'cups', fate: 'dropped' }).lesson;
    expect(seenAreas(without).map((area) => area.id)).not.toContain('mugs');
    expect(seenAreas(demo).map((area) => area.id)).toContain('mugs');
  });
  it('who rests on whom goes both ways', () => {
    for (const area of demo.areas) for (const other of restsOn(demo, area.id)) expect(restsOn(demo, other)).toContain(area.id);
  });
});

describe('what steps lay', () => {
  const steps = [
    testStep('tone', { kind: 'prepare', technique: 'wash', areaIds: [], wholeCanvas: true }),
    testStep('sky', { areaIds: ['a'] }),
    testStep('tea', { kind: 'break', areaIds: [], technique: undefined as never }),
    testStep('hill', { areaIds: ['b'], mixIds: [] }),
  ];
  const lesson = smallLesson(steps);
  it('a ground is for all areas, a step for its own, a break for none', () => {
    expect(lesson.steps.map((step) => areasWorkedOn(lesson, step))).toEqual([['a', 'b'], ['a'], [], ['b']]);
    expect(lesson.steps.map(laysPaint)).toEqual([true, true, false, true]);
  });
  it('the first step that paints an area by itself', () => {
    expect([firstPaints(lesson, 'a'), firstPaints(lesson, 'b'), firstPaints(lesson, 'x')]).toEqual([1, 3, -1]);
  });
  it('what lies beneath is the last coat that covers, or the bare ground', () => {
    const white = looksOf(lesson).get('m')?.colour?.lab;
    expect(colourOf(lesson, lesson.steps[1] as Lesson['steps'][number])).toEqual(white);
    expect(colourOf(lesson, { mixIds: [] })).toBeNull();
    expect(colourBeneath(lesson, 0, 'a')).toBeNull();
    expect(colourBeneath(lesson, 2, 'a')).toEqual(white);
  });
  it('layers for phones: lines of a drawing in every area, nothing for a break', () => {
    const drawn = smallLesson([
      testStep('trace', { kind: 'transfer', areaIds: [], wholeCanvas: true, technique: undefined as never }),
      ...steps,
    ]);
    expect(paintLayers(drawn, drawn.steps[0] as never).map((layer) => [layer.areaId, layer.kind])).toEqual([
      ['a', 'line'],
      ['b', 'line'],
    ]);
    expect(paintLayers(drawn, drawn.steps[3] as never)).toEqual([]);
  });
  it('a step weighs what it changes: much where it covers another colour, nothing where it repeats it', () => {
    const blue = { id: 'blue', name: 'blue', recipe: [{ tubeId: 'u', parts: 1 }] };
    const painted = (mixId: string): Lesson => ({
      ...smallLesson([testStep('one', { areaIds: ['a'] }), testStep('two', { areaIds: ['a'], mixIds: [mixId] })]),
      tubes: [...lesson.tubes, { id: 'u', pigment: 'PB29', grade: 'artist' }],
      mixes: [...lesson.mixes, blue],
    });
    expect(weightOf(painted('m'), 'two')).toBeCloseTo(0, 6);
    const seen = visibleOf(lesson).find((part) => part.id === 'a')?.areaCm2 as number;
    const looks = looksOf(painted('blue'));
    const apart = deltaE00(looks.get('m')?.colour?.lab as never, looks.get('blue')?.colour?.lab as never);
    expect(weightOf(painted('blue'), 'two')).toBeCloseTo(seen * apart, 3);
    expect(weightOf(lesson, 'nowhere')).toBe(0);
  });
});

describe('mixes in use', () => {
  it('those of steps and grounds, with all that they are mixed from', () => {
    const deep: Lesson = {
      ...smallLesson([testStep('one', { mixIds: ['top'] })]),
      mixes: [
        { id: 'm', name: 'white', recipe: [{ tubeId: 'w', parts: 1 }] },
        { id: 'middle', name: 'middle', recipe: [], mixedFrom: [{ mixId: 'm', parts: 1 }] },
        { id: 'top', name: 'top', recipe: [], mixedFrom: [{ mixId: 'middle', parts: 2 }] },
        { id: 'idle', name: 'idle', recipe: [{ tubeId: 'w', parts: 1 }] },
      ],
    };
    expect([...usedMixes(deep)].sort()).toEqual(['m', 'middle', 'top']);
    expect(mixesWithin(deep, (mix) => mix.id === 'top').map((mix) => mix.id)).toEqual(['m', 'middle', 'top']);
  });
  it('hue and chroma are those of the colour circle', () => {
    expect(chroma([50, 3, 4])).toBe(5);
    expect(huesApart([50, 10, 0], [50, 0, 10])).toBeCloseTo(90, 9);
    expect(huesApart([50, 10, -1], [50, 10, 1])).toBeLessThan(12);
  });
});

describe('what a student is given', () => {
  it('the sheet has every step with its number, and no more than three sentences of it', () => {
    const sheet = followSheet(demo);
    expect(Object.values(sheet.steps).map((step) => step.number)).toEqual(demo.steps.map((_, i) => i + 1));
    for (const step of Object.values(sheet.steps)) expect(step.lines.length).toBeLessThanOrEqual(3);
    expect(followSheet(demo)).toBe(sheet);
  });
  it('what to bring is a canvas, tubes and brushes, in a sentence each', () => {
    const lines = bringInWords(demo).split('\n');
    expect(lines.map((line) => line.split(':')[0])).toEqual(['Bring', 'Tubes', 'Brushes']);
    for (const line of lines) expect(line).toMatch(/\.$/);
    expect(bringInWords({ ...demo, tubes: [], steps: [] }).split('\n')).toHaveLength(1);
  });
});
