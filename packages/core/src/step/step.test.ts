import { describe, expect, it } from '@jest/globals';
import type { Lesson, Step } from '@viaticum/contract';
import { coatTimes } from '../coat/index.js';
import { demoLesson, smallLesson, testMark, testStep } from '../fixtures/lessons.js';
import {
  coatOf,
  filmUm,
  forStudents,
  meanFilmUm,
  mistEvery,
  paceOf,
  rangeOf,
  rungAt,
  rungMinutes,
  stepMinutes,
  timesOf,
  topCoat,
} from './index.js';

const own = (step: Partial<Step>, mixes = 0, lesson: Lesson = smallLesson([])) => {
  const one = testStep('s', { doMin: undefined as never, showMin: undefined as never, brushId: 'flat-1-in', ...step });
  return stepMinutes(
    { ...lesson, level: 'experienced', steps: [one] },
    one,
    Array.from({ length: mixes }, (_, k) => `new ${k}`),
  );
};

describe('minutes that are proposed', () => {
  it('a wider brush takes less, a larger area more, and a mix a minute and a half', () => {
    const narrow = own({ brushId: 'flat-1-2-in' }).doMin;
    const wide = own({ brushId: 'flat-2-in' }).doMin;
    expect(wide).toBeLessThan(narrow);
    expect(own({ areaIds: ['a', 'b'] }).doMin).toBeGreaterThan(own({ areaIds: ['b'] }).doMin);
    expect(own({}, 2).doMin - own({}, 0).doMin).toBeCloseTo(3, 9);
  });
  it('the whole canvas takes at least as long as any of its areas', () => {
    const whole = own({ areaIds: [], wholeCanvas: true, technique: 'wash' }).doMin;
    expect(whole).toBeGreaterThanOrEqual(own({ areaIds: ['b'], technique: 'wash' }).doMin);
  });
  it('a step on nothing takes no longer than being set up', () => {
    expect(own({ areaIds: [] }).doMin).toBe(0.5);
  });
  it('beginners need twice the time of an experienced hand; what was typed is stretched for others', () => {
    const lesson = {
      ...smallLesson([testStep('a', { doMin: 4 }), testStep('b', { kind: 'break', doMin: 10 })]),
      level: 'experienced' as const,
    };
    expect(paceOf({ level: 'beginner' })).toBe(2);
    expect(forStudents(lesson, 'beginner').steps.map((step) => step.doMin)).toEqual([8, 10]);
    expect(forStudents(lesson, 'experienced')).toBe(lesson);
    expect(forStudents(forStudents(lesson, 'beginner'), 'experienced').steps).toEqual(lesson.steps);
  });
  it('marks take the hand’s time for each; what is typed stands beside what would be proposed', () => {
    const lesson = { ...smallLesson([]), marks: [testMark('few', 'a', { count: 5 }), testMark('many', 'a', { count: 50 })] };
    const few = own({ areaIds: [], markIds: ['few'] }, 0, lesson).doMin;
    const many = own({ areaIds: [], markIds: ['many'] }, 0, lesson).doMin;
    expect(many).toBeGreaterThan(few);
    const typed = own({ doMin: 7 });
    expect(typed.doMin).toBe(7);
    expect(typed.proposedDoMin).not.toBeNull();
  });
  it('showing takes a quarter of doing where nothing else is said; a break is not shown', () => {
    expect(own({ doMin: 20 }).showMin).toBe(5);
    expect(own({ doMin: 20, kind: 'break' }).showMin).toBe(0);
  });
});

describe('the ladder of a coat', () => {
  const coat = { openMin: 4, paintOverMin: 12, touchDryMin: 20, firmMin: 180 };
  it('goes up rung by rung, each with the time to the next', () => {
    const at = [-1, 0, 3.9, 4, 12, 20, 180].map((minute) => rungAt(coat, minute));
    expect(at.map((one) => one.rung)).toEqual(['unpainted', 'workable', 'workable', 'damp', 'paint-over', 'touch-dry', 'firm']);
    expect(at[0]?.nextMin).toBe(1);
    expect(at[2]?.nextMin).toBeCloseTo(0.1, 9);
    expect(at.at(-1)?.nextMin).toBeNull();
  });
  it('stays on its rung for ever where the next never comes', () => {
    expect(rungAt({ ...coat, paintOverMin: null, touchDryMin: null, firmMin: null }, 9999)).toEqual({
      rung: 'damp',
      nextMin: null,
    });
  });
  it('the coat laid last lies on top, once it is begun', () => {
    const laid = (stepId: string, laidFromMin: number) =>
      ({ ...coat, stepId, areaId: 'a', laidFromMin, laidToMin: laidFromMin + 2 }) as never;
    const coats = [laid('one', 0), laid('two', 10)] as { stepId: string }[];
    const top = (minute: number) => topCoat(coats as never, 'a', minute) as { stepId: string } | null;
    expect([top(-1)?.stepId, top(5)?.stepId, top(10)?.stepId]).toEqual([undefined, 'one', 'two']);
    expect(topCoat(coats as never, 'b', 5)).toBeNull();
  });
  it('minutes to what a step needs follow the rungs', () => {
    const times = { ...coatTimes({ technique: 'block-in' }, { airC: 20, humidity: 0.5, airSpeed: 0.1 }) };
    expect(rungMinutes('paintOver', times)).toBeLessThanOrEqual(rungMinutes('touchDry', times));
    expect(rungMinutes('touchDry', times)).toBeLessThan(rungMinutes('firm', times));
    expect(rungMinutes('firm', times)).toBeLessThan(rungMinutes('cured', times));
  });
});

describe('a film that dries', () => {
  const times = coatTimes({ technique: 'block-in' }, { airC: 20, humidity: 0.5, airSpeed: 0.1 });
  it('only ever sinks, from its wet to its dry thickness', () => {
    const films = Array.from({ length: 200 }, (_, i) => filmUm(times, i));
    for (const [i, film] of films.entries()) if (i > 0) expect(film).toBeLessThanOrEqual((films[i - 1] as number) + 1e-9);
    expect(films.at(-1)).toBeGreaterThanOrEqual(times.dryUm - 1e-6);
    expect(films[0]).toBeGreaterThan(1.5 * times.dryUm);
  });
  it('a coat laid part by part swells while the brush is at work', () => {
    expect(meanFilmUm(times, 10, 16, 10)).toBe(0);
    expect(meanFilmUm(times, 10, 16, 13)).toBeGreaterThan(meanFilmUm(times, 10, 16, 11));
    expect(meanFilmUm(times, 10, 16, 16)).toBeLessThanOrEqual(filmUm(times, 0));
    expect(meanFilmUm(times, 10, 16, 200)).toBeCloseTo(filmUm(times, 184), 1);
  });
});

describe('a coat in its room', () => {
  const lesson = demoLesson('balloons');
  const step = lesson.steps.find((one) => one.technique === 'blend') as Step;
  const coat = coatOf(
    lesson,
    step,
    step.areaIds[0] as string,
    { showMin: 1, doMin: 8, proposedDoMin: 8, leadMin: 0, edgeMin: 0 },
    { below: undefined },
  );
  it('dries sooner in warm dry air, and the careful ends lie on either side', () => {
    const [dry, damp] = [0.3, 0.75].map((humidity) => timesOf(coat, { ...lesson.room, humidity }));
    expect(dry?.openMin).toBeLessThan(damp?.openMin as number);
    const range = rangeOf(coat, lesson.room);
    const likely = timesOf(coat, lesson.room);
    expect(range.early.openMin).toBeLessThanOrEqual(likely.openMin + 1e-9);
    expect(range.late.paintOverMin).toBeGreaterThanOrEqual(likely.paintOverMin - 1e-9);
  });
  it('mist is passed as seldom as is enough', () => {
    const { openMin } = timesOf(coat, lesson.room);
    expect(mistEvery(coat, lesson.room, openMin / 2)).toBe(10);
    const often = mistEvery(coat, lesson.room, openMin * 2);
    expect(often).toBeLessThan(10);
    expect(timesOf({ ...coat, mist: { everyMin: often, untilMin: openMin * 2 } }, lesson.room).mist?.runs ?? false).toBe(false);
  });
});
