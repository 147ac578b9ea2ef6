import { describe, expect, it } from '@jest/globals';
import type { Lesson, Reference } from '@viaticum/contract';
import { demoLesson } from '../fixtures/index.js';
import { canvasWhen, creditOf, finishOf } from './index.js';

const lesson = demoLesson();
const END = Date.UTC(2026, 9, 6, 19, 40);
const HOUR = 3_600_000;
const hoursTo = (one: Lesson): Record<string, number> =>
  Object.fromEntries(canvasWhen(one, END).map(({ kind, atMs }) => [kind, (atMs - END) / HOUR]));
const schooled = (school: Partial<Lesson['school']>, rest: Partial<Lesson> = {}): Lesson => ({
  ...lesson,
  ...rest,
  school: { ...lesson.school, ...school },
});

describe('when canvases may be handled', () => {
  it('rack, stack, varnish and pack follow one another; what was not varnished is wrapped after three days', () => {
    const brushed = hoursTo(schooled({ varnish: 'brushed' }));
    expect(Object.keys(brushed)).toEqual(['rack', 'stack', 'varnish', 'pack']);
    expect(brushed.rack).toBeLessThanOrEqual(brushed.stack as number);
    // Common practice, no published source: thin paint is varnished after three days, and rests a day after it.
    expect(brushed.varnish).toBeGreaterThanOrEqual(72);
    expect((brushed.pack as number) - (brushed.varnish as number)).toBeGreaterThanOrEqual(24);
    const bare = hoursTo(schooled({ varnish: 'none' }));
    expect(Object.keys(bare)).toEqual(['rack', 'stack', 'pack']);
    expect(bare.pack).toBeGreaterThanOrEqual(72);
  });
  it('cold damp air puts off what dry air allows, and thick paint waits two weeks', () => {
    const damp = { ...lesson, room: { ...lesson.room, airC: 14, humidity: 0.8 } };
    expect(hoursTo(damp).rack).toBeGreaterThan(hoursTo(lesson).rack as number);
    const thick = schooled(
      { varnish: 'brushed' },
      { steps: lesson.steps.map((step) => (step.technique ? { ...step, technique: 'impasto' as const } : step)) },
    );
    expect(hoursTo(thick).varnish).toBeGreaterThanOrEqual(14 * 24);
  });
  it('is said to the half hour, of days to the day; of nothing painted nothing is said', () => {
    for (const { atMs } of canvasWhen(lesson, END)) expect(atMs % (HOUR / 2)).toBe(0);
    expect(canvasWhen({ ...lesson, steps: [] }, END)).toEqual([]);
  });
  it('what is reckoned slower of the room is slower here too', () => {
    const slow = { ...lesson, room: { ...lesson.room, calibration: 0.5 } };
    expect(hoursTo(slow).rack).toBeGreaterThan(hoursTo(lesson).rack as number);
  });
});

describe('whether it is finished', () => {
  const [first, second] = lesson.steps.filter(({ kind }) => kind === 'paint') as [Lesson['steps'][0], Lesson['steps'][0]];
  it('what the last class did not come to is told, and apart from it what need not be painted', () => {
    const items = [first, second].map((step) => ({ stepId: step.id, actual: null }));
    const left = {
      ...lesson,
      steps: lesson.steps.map((step) => (step.id === second.id ? { ...step, mayBeLeftOut: true } : step)),
    };
    const found = finishOf(left, { items: items as never });
    expect(found.open.map(({ title }) => title)).toEqual([first.title]);
    expect(found.optional.map(({ title }) => title)).toEqual([second.title]);
    expect(found.stop.length).toBeGreaterThan(1);
    expect(finishOf(lesson, null).open).toEqual([]);
  });
  it('the last look knows the sides and the margin, and which varnish belongs to the paint', () => {
    const words = (one: Lesson) => finishOf(one, null).last.join(' ');
    expect(words({ ...lesson, support: { ...lesson.support, wrapMm: 30 } })).toContain('sides of the canvas');
    expect(words({ ...lesson, support: { ...lesson.support, marginMm: 10 } })).toContain('Tape off');
    expect(finishOf(schooled({ varnish: 'none' }), null).varnish).toHaveLength(1);
    expect(finishOf(schooled({ varnish: 'sprayed' }, { finish: 'matt' }), null).varnish.join(' ')).toMatch(/matt.*outdoors/s);
    expect(finishOf(schooled({ varnish: 'brushed', transferMedium: 'charcoal' }), null).varnish.join(' ')).toContain(
      'sprayed first pass',
    );
  });
});

it('a reference is credited by what is known of it; where that is too little nothing is claimed', () => {
  const of = (permission: Reference['permission']) => creditOf({ permission });
  expect(of({ kind: 'permission', by: 'M. Field', year: 2024 })).toBe('After a photograph by M. Field, 2024, with permission');
  expect(of({ kind: 'permission' })).toBeNull();
  expect(of({ kind: 'own' })).toBe('After a photograph of one’s own');
  expect(of({ kind: 'unset' })).toBeNull();
});
