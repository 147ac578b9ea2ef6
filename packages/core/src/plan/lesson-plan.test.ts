import { describe, expect, it } from '@jest/globals';
import type { Need, Step } from '@viaticum/contract';
import { betterOrder } from '../advice/index.js';
import { coatTimes } from '../coat/index.js';
import { demoLesson, smallLesson, testStep } from '../fixtures/lessons.js';
import { areaRung, filmUm, forStudents, meanFilmUm, rungAt, stepMinutes } from '../step/index.js';
import { lessonCard, planInWords, planLesson } from './index.js';

const quarterUp = (minutes: number) => Math.ceil(minutes * 4 - 1e-6) / 4;
const pauses = (steps: Step[], room = smallLesson([]).room) =>
  planLesson({ ...smallLesson(steps), room, planning: exact }).plan.items.filter((item) => item.kind === 'pause');
/** Nothing is met before its time. */
const exact = { pins: [], toleranceMin: 0 };
/** What two steps of so many minutes take off a wait, where one goes over the other's area in the same order of parts. */
const SAME_WAY_MIN = 4;
const first = testStep('one', {});

describe('a pause appears where a step would come too early', () => {
  const onGesso = coatTimes({ technique: 'block-in', absorbGPerM2: 8 }, smallLesson([]).room);
  it.each<[Need, number]>([
    ['paintOver', onGesso.paintOverMin],
    ['touchDry', onGesso.touchDryMin],
    ['firm', onGesso.firmH * 60],
    ['cured', onGesso.cureH * 60],
  ])('%s: as long as the coat needs from when a part is laid, rounded up to a quarter minute', (needs, minutes) => {
    const [pause] = pauses([first, testStep('two', { needs })]);
    expect((pause?.endMin as number) - (pause?.startMin as number)).toBe(quarterUp(minutes - SAME_WAY_MIN));
    expect(pause).toMatchObject({ title: 'Let the sky dry', areaIds: ['a'] });
    expect(pause?.reason).toContain('sky');
  });

  it('none where the step needs nothing, or where other work took the time', () => {
    expect(pauses([first, testStep('two', { needs: 'any' })])).toEqual([]);
    expect(
      pauses([
        first,
        testStep('talk', { kind: 'look', areaIds: ['b'], mixIds: [], doMin: 60 }),
        testStep('two', { needs: 'paintOver' }),
      ]),
    ).toEqual([]);
  });

  it('damper air makes it longer, drier air shorter', () => {
    const length = (humidity: number) => {
      const [pause] = pauses([first, testStep('two', { needs: 'paintOver' })], { ...smallLesson([]).room, humidity });
      return (pause?.endMin as number) - (pause?.startMin as number);
    };
    expect(length(0.8)).toBeGreaterThan(length(0.5) + 4);
    expect(length(0.2)).toBeLessThan(length(0.5) - 2);
  });

  it('a later coat lies on dry acrylic, which draws in less than gesso', () => {
    const [, second] = pauses([first, testStep('two', { needs: 'paintOver' }), testStep('three', { needs: 'paintOver' })]);
    const acrylic = coatTimes({ technique: 'block-in', absorbGPerM2: 2 }, smallLesson([]).room);
    expect((second?.endMin as number) - (second?.startMin as number)).toBe(quarterUp(acrylic.paintOverMin - SAME_WAY_MIN));
  });

  it('paint that runs under its neighbour is waited for, where it would spoil the colour, whichever of the two lies in front', () => {
    const pale = { id: 'n', name: 'hill white', recipe: [], targetLab: [88, 0, 4] as [number, number, number] };
    const dark = { id: 'd', name: 'sky dark', recipe: [], targetLab: [22, 0, -6] as [number, number, number] };
    const waits = (steps: Step[]) => {
      const lesson = { ...smallLesson(steps), mixes: [pale, dark], planning: exact };
      return planLesson(lesson).plan.items.filter((item) => item.kind === 'pause');
    };
    const [besideDark] = waits([
      testStep('one', { mixIds: ['d'] }),
      testStep('two', { areaIds: ['b'], needs: 'auto', mixIds: ['n'] }),
    ]);
    expect(besideDark?.title).toBe('Wait for the edge of the sky');
    const [cutIn] = waits([
      testStep('one', { areaIds: ['b'], mixIds: ['d'] }),
      testStep('two', { areaIds: ['a'], needs: 'auto', mixIds: ['n'] }),
    ]);
    expect(cutIn?.reason).toContain('hill');
  });

  it('of two steps over one area the shorter laying is taken off the wait', () => {
    const [pause] = pauses([first, testStep('two', { needs: 'paintOver', doMin: 3 })]);
    expect((pause?.endMin as number) - (pause?.startMin as number)).toBe(quarterUp(onGesso.paintOverMin - 3));
  });

  it('says what can be mixed meanwhile', () => {
    const lesson = smallLesson([first, testStep('two', { needs: 'paintOver', mixIds: ['n'] })]);
    lesson.mixes = [...lesson.mixes, { id: 'n', name: 'hill green', recipe: [{ tubeId: 'w', parts: 1 }] }];
    expect(planLesson(lesson).plan.items[1]?.meanwhile).toContain('hill green');
  });
});

describe('what the paint does not allow is said', () => {
  it('a blend longer than the paint stays workable, at the minute where it fails', () => {
    const { misses, coats } = planLesson(smallLesson([testStep('one', { technique: 'blend', doMin: 30, showMin: 2 })]));
    const open = coats[0]?.times.openMin as number;
    expect(misses).toEqual([{ kind: 'blend-outlasts', stepId: 'one', areaId: 'a', atMin: 2 + open, haveMin: open, wantMin: 30 }]);
    expect(planLesson(smallLesson([testStep('one', { technique: 'blend', doMin: 1 })])).misses).toEqual([]);
  });

  it('a step into wet paint that can only come too late', () => {
    const late = planLesson(
      smallLesson([
        first,
        testStep('long', { kind: 'look', areaIds: ['b'], mixIds: [], doMin: 20 }),
        testStep('two', { needs: 'wet', doMin: 1 }),
      ]),
    );
    expect(late.misses.map((miss) => miss.kind)).toEqual(['window']);
    expect(late.solution.status).not.toBe('infeasible');
    const soon = planLesson(
      smallLesson([testStep('one', { doMin: 2, medium: 'retarder' }), testStep('two', { needs: 'wet', doMin: 2 })]),
    );
    expect(soon.misses).toEqual([]);
    expect(soon.plan.waitMin).toBe(0);
  });

  it('into damp waits until the paint is no longer workable', () => {
    const { plan, misses } = planLesson(
      smallLesson([testStep('one', { doMin: 1 }), testStep('two', { needs: 'damp', doMin: 1 })]),
    );
    const times = coatTimes({ technique: 'block-in', absorbGPerM2: 8 }, smallLesson([]).room);
    expect(misses).toEqual([]);
    expect(plan.waitMin).toBe(quarterUp(times.openMin));
  });

  it('paint that never dries in saturated air', () => {
    const lesson = {
      ...smallLesson([first, testStep('two', { needs: 'paintOver' })]),
      room: { name: 'cellar', airC: 15, humidity: 1, airSpeed: 0.1 },
    };
    const { misses, plan } = planLesson(lesson);
    expect(misses.map((miss) => miss.kind)).toEqual(['never-dries']);
    expect(plan.coats[0]).toMatchObject({ openMin: null, paintOverMin: null, touchDryMin: null });
    expect(JSON.stringify(plan)).not.toContain('null,null,null,null,null');
  });
});

describe('durations', () => {
  const brush = (brushId: string, level: 'beginner' | 'experienced' = 'experienced', area = 'a') => {
    const { doMin: _, showMin: __, ...step } = testStep('one', { brushId, areaIds: [area] });
    return stepMinutes({ ...smallLesson([step]), level }, step, []);
  };
  it('what is typed wins, and the proposal stays known', () => {
    const step = testStep('one', { brushId: 'flat-1-in', doMin: 9, showMin: 1 });
    expect(stepMinutes(smallLesson([step]), step, [])).toMatchObject({ doMin: 9, showMin: 1 });
    expect(stepMinutes(smallLesson([step]), step, []).proposedDoMin).toBeGreaterThan(0);
  });
  it('a wider brush is quicker, a beginner twice as slow, a new mix costs time', () => {
    expect(brush('flat-2-in').doMin).toBeLessThan(brush('flat-6').doMin);
    expect(brush('flat-6', 'beginner').doMin).toBeCloseTo(2 * brush('flat-6').doMin, 0);
    const step = testStep('one', { brushId: 'flat-6' });
    const proposed = (mixes: number) =>
      stepMinutes(
        { ...smallLesson([step]), level: 'experienced' },
        step,
        Array.from({ length: mixes }, (_, k) => `new ${k}`),
      ).proposedDoMin as number;
    expect(proposed(2) - proposed(0)).toBe(3);
  });
});

describe('lessons at the edge', () => {
  const steps = [first, testStep('two', { needs: 'paintOver' })];
  it.each([
    ['bone-dry air', { humidity: 0 }],
    ['ten below zero', { airC: -10 }],
    ['a storm', { airSpeed: 20 }],
    ['full sun', { sunWPerM2: 600 }],
  ])('%s has a plan', (_, air) => {
    const { plan, misses } = planLesson({ ...smallLesson(steps), room: { ...smallLesson([]).room, ...air } });
    expect(misses).toEqual([]);
    expect(Number.isFinite(plan.endMin)).toBe(true);
    expect(plan.endMin).toBeGreaterThanOrEqual(8);
  });
  it('humidity that is no number is refused with a sentence', () => {
    expect(() => planLesson({ ...smallLesson(steps), room: { ...smallLesson([]).room, humidity: Number.NaN } })).toThrow(
      /Humidity/,
    );
  });
  it('no steps take no time; 200 steps keep their order, and other orders are refused with a sentence', () => {
    expect(planLesson(smallLesson([])).plan).toMatchObject({ endMin: 0, items: [], coats: [] });
    const many = smallLesson(
      Array.from({ length: 200 }, (_, i) => testStep(`s${i}`, { needs: i % 3 === 0 ? 'paintOver' : 'any' })),
    );
    const { plan, contradictions } = planLesson(many);
    expect(plan.items.filter((item) => item.kind === 'step')).toHaveLength(200);
    expect(contradictions).toEqual([]);
    expect(() => betterOrder(many).next()).toThrow(/too long to be searched/);
  });
  it('orders that go round in a circle are left out one by one, until the rest can be', () => {
    const circle = { ...smallLesson([first, testStep('two', { areaIds: ['b'] }), testStep('three', { areaIds: ['b'] })]) };
    circle.planning = {
      pins: [
        { firstId: 'two', thenId: 'one' },
        { firstId: 'three', thenId: 'two' },
        { firstId: 'one', thenId: 'three' },
      ],
    };
    const { contradictions, plan } = planLesson(circle);
    expect(contradictions).toHaveLength(2);
    expect(plan.items).toHaveLength(3);
  });
  it('a pause is filled: what fits is said with its minutes, the rest is bare', () => {
    const [pause] = pauses(steps);
    const filled = (pause?.fillers ?? []).reduce((sum, one) => sum + one.minutes, 0);
    expect(filled + (pause?.bareMin ?? 0)).toBeCloseTo((pause?.endMin as number) - (pause?.startMin as number), 9);
    expect(pause?.fillers?.map((one) => one.words)).toContain('change the water');
    const short = pauses([testStep('one', { technique: 'glaze' }), testStep('two', { needs: 'damp', technique: 'glaze' })])[0];
    for (const one of short?.fillers ?? [])
      expect(one.minutes).toBeLessThanOrEqual((short?.endMin as number) - (short?.startMin as number));
  });
});

describe('other students', () => {
  it('improvers take 0.7 of a beginner’s minutes, a break stays as long as it is', () => {
    const lesson = smallLesson([
      testStep('one', { doMin: 10 }),
      testStep('tea', { kind: 'break', doMin: 10, areaIds: [], mixIds: [] }),
    ]);
    expect(forStudents(lesson, 'improver').steps.map((step) => step.doMin)).toEqual([7, 10]);
    expect(forStudents(lesson, 'beginner')).toBe(lesson);
  });
});

describe('wetness at a minute of the plan', () => {
  const { plan, coats } = planLesson(smallLesson([first, testStep('two', { needs: 'paintOver' })]));
  const coat = coats[0] as (typeof coats)[number];
  it('climbs the ladder from bare to firm', () => {
    const at = (minute: number) => areaRung(plan.coats.slice(0, 1), 'a', minute).rung;
    const end = coat.laidToMin;
    expect(
      [
        -1,
        end,
        end + (coat.openMin as number) + 0.1,
        end + (coat.paintOverMin as number) + 0.1,
        end + (coat.touchDryMin as number) + 0.1,
        end + 600,
      ].map(at),
    ).toEqual(['unpainted', 'workable', 'damp', 'paint-over', 'touch-dry', 'firm']);
    expect(rungAt(coat, 0).nextMin).toBe(coat.openMin);
  });
  it('the film swells while it is laid and shrinks to its solids', () => {
    const film = (minute: number) => meanFilmUm(coat.times, coat.laidFromMin, coat.laidToMin, minute);
    expect(film(coat.laidFromMin)).toBe(0);
    expect(film(coat.laidFromMin + 1)).toBeLessThan(film(coat.laidToMin));
    expect(film(coat.laidToMin)).toBeGreaterThan(film(coat.laidToMin + 10));
    expect(film(coat.laidToMin + 500)).toBeGreaterThanOrEqual(coat.dryUm);
    expect(film(coat.laidToMin + 500)).toBeLessThan(coat.dryUm * 1.2);
    expect(filmUm(coat.times, 0)).toBeGreaterThan(filmUm(coat.times, 5));
  });
});

describe('the demo lesson', () => {
  it('has a plan without contradictions in which no paint is missed', () => {
    const { misses, plan, solution } = planLesson(demoLesson());
    expect(solution.status).toBe('feasible');
    expect(misses).toEqual([]);
    expect(plan.items.filter((item) => item.kind === 'step')).toHaveLength(17);
    expect(plan.items.filter((item) => item.kind === 'break')).toHaveLength(1);
    // A lesson that waits no more than a tenth of its time, within two and a half hours.
    expect(plan.endMin).toBeLessThanOrEqual(150);
    expect(plan.waitMin).toBeLessThanOrEqual(0.1 * plan.endMin);
  });
  it('reaches the picture: every mix is within ΔE00 6 of its target', async () => {
    const { looksOf } = await import('../derived/index.js');
    for (const look of looksOf(demoLesson()).values()) expect(look.deltaE).toBeLessThan(6);
  });
});

describe('air in which nothing dries', () => {
  const painted = smallLesson([testStep('one', { areaIds: ['a', 'b'] })]);
  const inAir = (change: Partial<typeof painted.room>) => ({ ...painted, room: { ...painted.room, ...change } });
  it('says never: saturated air, and cold below which acrylic forms no film (makers name about 9 to 10 °C)', () => {
    expect(planLesson(inAir({ humidity: 1 })).plan.never).toBe(true);
    expect(planLesson(inAir({ airC: 8 })).plan.never).toBe(true);
    expect(planLesson(inAir({ airC: 11 })).plan.never).toBeUndefined();
    expect(planInWords(planLesson(inAir({ humidity: 1 })).plan)).toBe('never dries in its room');
    expect(lessonCard(inAir({ humidity: 1 }))).toMatchObject({ never: true });
  });
  it('a lesson without paint is not touched by it', () => {
    const bare = smallLesson([testStep('talk', { kind: 'look', mixIds: [] })]);
    expect(planLesson({ ...bare, room: { ...bare.room, humidity: 1 } }).plan.never).toBeUndefined();
  });
  it('what is likely and what is the longest are told apart', () => {
    const { plan } = planLesson(painted);
    expect(planInWords(plan)).toMatch(/^likely /);
    expect(planInWords(plan, true)).toMatch(/^at the longest /);
    expect(lessonCard({ ...painted, planning: { ...painted.planning, cautious: true } })).toMatchObject({ cautious: true });
  });
});

describe('wet laid into wet', () => {
  const into = (change: Partial<Step> = {}) =>
    planLesson(
      smallLesson([
        testStep('one', { areaIds: ['a'], technique: 'blend', doMin: 3 }),
        testStep('two', { areaIds: ['a'], technique: 'blend', needs: 'wet', showMin: 0.25, doMin: 1, ...change }),
      ]),
    );
  const coat = (plan: ReturnType<typeof into>) =>
    plan.laid.find((one) => one.step.id === 'two') as ReturnType<typeof into>['laid'][number];
  it('is reckoned at the age of the real strokes: waits with the youngest paint, windows with the oldest', () => {
    const { drying, staying, times } = coat(into());
    expect(drying.touchDryMin).toBeGreaterThan(times.touchDryMin);
    expect(staying.openMin).toBeLessThanOrEqual(times.openMin);
  });
  it('a slow hand meets drier paint, so that the joint film dries sooner', () => {
    expect(coat(into({ doMin: 2 })).times.touchDryMin).toBeLessThan(coat(into({ doMin: 0.5 })).times.touchDryMin);
  });
  it('comes too late where the last strokes would meet paint that has set', () => {
    expect(into({ doMin: 20 }).misses.some((miss) => miss.kind === 'window')).toBe(true);
    expect(into().misses.some((miss) => miss.kind === 'window')).toBe(false);
  });
});

describe('the film of narrow things', () => {
  it('marks and fine brushes lay less than a broad brush, and dry sooner', () => {
    const lesson = smallLesson([
      testStep('broad', { areaIds: ['a'], technique: 'loaded', brushId: 'flat-1-in' }),
      testStep('fine', { areaIds: ['b'], technique: 'loaded', brushId: 'rigger-2' }),
    ]);
    const [broad, fine] = planLesson(lesson).laid;
    expect(fine?.wetUm).toBeLessThan(broad?.wetUm as number);
    expect(fine?.times.touchDryMin).toBeLessThan(broad?.times.touchDryMin as number);
  });
});
