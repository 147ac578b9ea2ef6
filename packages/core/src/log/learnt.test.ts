import { describe, expect, it } from '@jest/globals';
import type { ClassLog, Lesson, LoggedHeap, LoggedPace, LoggedResult, LoggedTouch } from '@viaticum/contract';
import { seeded } from '@viaticum/kernels/fixtures';
import jstat from 'jstat';
import { carryOut, startHistory } from '../document/index.js';
import { demoLesson } from '../fixtures/index.js';
import { planLesson } from '../plan/index.js';
import { dryingTests, roomChanged } from './drying.js';
import {
  type Calibration,
  calibrations,
  groupResults,
  offInWords,
  personPace,
  resultOf,
  showsPicture,
  suggestions,
  usedShare,
} from './index.js';
import { signChance } from './results.js';
import { shrunk } from './spread.js';
import { paintUsed } from './used.js';

const NOW = Date.UTC(2026, 10, 30);
const lesson = demoLesson();
const emptyLog: ClassLog = {
  ...{ kind: 'class', title: 'A class', lessonId: '', at: '2026-10-01T18:00:00.000Z', room: lesson.room.name, air: null },
  ...{ students: 8, level: lesson.level, plannedMin: 100, actualMin: 100, finished: 8, note: '' },
  ...{ items: [], touches: [], paces: [] },
};
const logged = (logs: Partial<ClassLog>[]) => logs.map((log, k) => ({ id: `c${k}`, log: { ...emptyLog, ...log } }));
const taken = (one: Lesson, { take }: Pick<Calibration, 'take'>): Lesson =>
  carryOut(startHistory(one), take.command, take.args as never).lesson;
const at = (all: Calibration[], key: string) => all.find((one) => one.key === key);

describe('a factor from lots of known values', () => {
  // Gelman et al., Bayesian Data Analysis, 2.5: normal mean with known variances.
  it('is the weighted mean of the textbook, and its bounds hold 80 % of the normal distribution', () => {
    const spread = { prior: 0.3, lot: 0.08, one: 0.2 };
    const { factor, from, to } = shrunk([{ mean: 0.4, count: 4 }], spread);
    const own = 1 / (0.08 ** 2 + 0.2 ** 2 / 4);
    const [mean, sd] = [(own * 0.4) / (own + 1 / 0.09), 1 / Math.sqrt(own + 1 / 0.09)];
    expect(Math.log(factor)).toBeCloseTo(mean, 9);
    expect(Math.log(from)).toBeCloseTo(jstat.normal.inv(0.1, mean, sd), 4);
    expect(Math.log(to)).toBeCloseTo(jstat.normal.inv(0.9, mean, sd), 4);
    expect(shrunk([], spread).factor).toBe(1);
  });
  it('a person of three classes is known better than one of a single step; nobody is known by none', () => {
    const often = personPace([20, 18, 22].map((paceCount) => ({ paceSum: paceCount * Math.log(1.4), paceCount })));
    const once = personPace([{ paceSum: Math.log(1.4), paceCount: 1 }]);
    expect(often?.factor).toBeGreaterThan(1.36);
    expect(once?.factor).toBeLessThan(often?.factor ?? 0);
    expect((often?.to ?? 9) / (often?.from ?? 1)).toBeLessThan((once?.to ?? 0) / (once?.from ?? 1));
    expect(personPace([{ paceSum: 0, paceCount: 0 }])).toBeNull();
  });
});

describe('paint that was used', () => {
  const heap = (left: LoggedHeap['left'], grams?: number): LoggedHeap => ({
    ...{ mixId: 'm', name: 'sky', mixedMl: 100, plannedMl: 70, left, ...(grams !== undefined && { grams }) },
  });
  it('is what was mixed less what was left, weighed or judged', () => {
    expect(usedShare(heap('half'))).toBeCloseTo(50 / 70, 9);
    // 26 g at 1.3 g a ml are 20 ml.
    expect(usedShare(heap('none', 26))).toBeCloseTo(80 / 70, 9);
    expect(usedShare(heap('none', 1000))).toBe(0.05);
  });
  it('two classes that left half of everything need less; one heap moves little', () => {
    const [one, many] = [1, 12].map((count) =>
      paintUsed(logged([{ heaps: Array.from({ length: count }, () => heap('half')) }, {}])),
    );
    expect(one?.factor).toBeGreaterThan(0.85);
    expect(many?.factor).toBeLessThan(0.8);
    const both = logged([0, 1].map(() => ({ heaps: Array.from({ length: 6 }, () => heap('half')) })));
    const found = at(calibrations(lesson, both, NOW), 'paint') as Calibration;
    expect(found).toMatchObject({ isClear: true, observations: 12, classes: 2 });
    expect(found.change?.of).toBe('ml');
    expect(found.change?.by).toBeLessThan(-2);
  });
});

describe('drying that is taken over', () => {
  const technique = lesson.steps.find((step) => step.technique === 'block-in')?.technique ?? 'block-in';
  const coats = (share: number, rest: Partial<LoggedTouch> = {}): LoggedTouch[] =>
    [0.9, 1, 1.05, 1.1, 0.95, 1].map((off) => ({
      ...{
        stepId: null,
        technique,
        predictedMin: 20,
        wetAtMin: 20 * share * off * 0.94,
        dryAtMin: 20 * share * off * 1.06,
        ...rest,
      },
    }));
  const rooms = ['a', 'b', 'c', 'd', 'e', 'f', 'g', 'h'];
  it('belongs to a technique where it is so in every room, and lengthens its coats alone when it is taken', () => {
    const all = logged(rooms.map((room) => ({ room, touches: [...coats(1.5), ...coats(1, { technique: 'wash' })] })));
    const found = at(calibrations(lesson, all, NOW), `drying technique ${technique}`) as Calibration;
    expect(found.factor).toBeGreaterThan(1.15);
    expect(found.isClear).toBe(true);
    const changed = taken(lesson, found);
    const minutes = (one: Lesson, of: string | undefined) =>
      planLesson(one).laid.find(({ step }) => step.technique === of)?.times.paintOverMin ?? 0;
    expect(minutes(changed, technique) / minutes(lesson, technique)).toBeCloseTo(found.factor, 0);
    const other = lesson.steps.find((step) => step.technique && step.technique !== technique)?.technique;
    expect(minutes(changed, other)).toBe(minutes(lesson, other));
    // The same coats in classes that reckon with it tell the same of the bare model: it is not taken twice.
    const by = changed.learnt?.[0]?.factor as number;
    const reckoned = all.map((one) => ({
      id: `later ${one.id}`,
      log: {
        ...one.log,
        touches: one.log.touches.map((touch) =>
          touch.technique === technique ? { ...touch, predictedMin: touch.predictedMin * by, reckoned: by } : touch,
        ),
      },
    }));
    expect(at(calibrations(changed, reckoned, NOW), found.key)?.factor).toBeCloseTo(found.factor, 6);
    expect(at(calibrations(changed, reckoned, NOW), found.key)?.isClear).toBe(false);
    const back = carryOut(startHistory(changed), 'dropLearnt', { key: found.key }).lesson;
    expect(back.learnt).toBeUndefined();
  });
  it('three coats say nothing', () => {
    const all = logged([{ touches: coats(1.6).slice(0, 2) }, { touches: coats(1.6).slice(0, 1) }]);
    expect(calibrations(lesson, all, NOW).filter(({ isClear }) => isClear)).toEqual([]);
  });
  it('is told of a class from before the room was begun anew with less weight', () => {
    const tests = dryingTests(logged([{ touches: coats(1.2) }]), NOW, { name: lesson.room.name, learntSince: '2026-11-01' });
    const plain = dryingTests(logged([{ touches: coats(1.2) }]), NOW);
    expect((tests[0]?.years ?? 0) - (plain[0]?.years ?? 0)).toBeCloseTo(4, 9);
  });
  it('a room that dries slower since its last four classes is told, one that never changed hardly ever', () => {
    const draw = seeded(11);
    const bell = () => Math.sqrt(-2 * Math.log(draw() || 1e-9)) * Math.cos(2 * Math.PI * draw());
    const room = (classes: number, lastSlower: number) =>
      logged(
        Array.from({ length: classes }, (_, k) => {
          const ofClass = 0.1 * bell() + (k >= classes - 4 ? Math.log(lastSlower) : 0);
          const touches = Array.from({ length: 5 }, () => {
            const minutes = 20 * Math.exp(ofClass + 0.25 * bell());
            return { stepId: null, technique, predictedMin: 20, wetAtMin: minutes * 0.93, dryAtMin: minutes * 1.07 };
          });
          return { at: new Date(NOW - (classes - k) * 7 * 86_400_000).toISOString(), touches };
        }),
      );
    const found = (slower: number) =>
      Array.from({ length: 60 }, () => roomChanged(room(12, slower), lesson.room, NOW)).filter((one) => one !== null);
    expect(found(1).length).toBeLessThanOrEqual(4);
    const slower = found(1.35);
    expect(slower.length).toBeGreaterThan(36);
    expect(slower.every(({ factor }) => factor > 1)).toBe(true);
    // It is asked once: begun anew, there are no four classes before that differ.
    expect(roomChanged(room(12, 1.5), { ...lesson.room, learntSince: '2026-11-01' }, NOW)).toBeNull();
  });
});

describe('pace that is taken over', () => {
  const bare: Lesson = { ...lesson, steps: lesson.steps.map(({ doMin: _, ...step }) => step) };
  const own = bare.steps.filter((step) => step.technique === 'block-in');
  const paces = (share: number, rest: Partial<LoggedPace> = {}): LoggedPace[] =>
    own.flatMap((step) =>
      [0, 1, 2, 3].map((who) => ({
        ...{
          stepId: step.id,
          technique: 'block-in' as const,
          planned: 10,
          from: 10 * share - 1,
          to: 10 * share + 1,
          who,
          ...rest,
        },
      })),
    );
  it('is of steps whose minutes nobody typed, and changes what is proposed for them', () => {
    const all = logged([1, 2, 3, 4].map(() => ({ paces: paces(1.5) })));
    const found = calibrations(bare, all, NOW);
    const sum = ['pace technique block-in', `pace level ${lesson.level}`].reduce(
      (all, key) => all * (at(found, key)?.factor ?? 1),
      1,
    );
    expect(sum).toBeGreaterThan(1.1);
    expect(
      at(calibrations(bare, logged([{ paces: paces(1.5, { typed: true }) }]), NOW), 'pace technique block-in'),
    ).toBeUndefined();
    const level = at(found, `pace level ${lesson.level}`) as Calibration;
    const changed = taken(bare, level);
    const doing = (one: Lesson) => [...planLesson(one).minutes.values()].reduce((all, { doMin }) => all + doMin, 0);
    expect(level.factor).toBeGreaterThan(1.01);
    expect(doing(changed)).toBeGreaterThan(doing(bare));
  });
});

describe('photographs of results', () => {
  const area = lesson.areas.find(({ id }) => lesson.steps.some((step) => step.areaIds.includes(id))) as Lesson['areas'][number];
  const photo = (dL: number, id: string): LoggedResult => ({
    id,
    areas: [{ areaId: area.id, name: area.name, dL, da: 0, db: 0 }],
    things: [{ id: 'thing', name: 'kettle', wide: 1.06, high: 1, offX: 0.001, offY: 0 }],
  });
  it('tell of the group only, from five on, and not of what is chance', () => {
    const photos = [-8, -6, -7, -5, -9, 2, -6, -7].map((dL, k) => photo(dL, `${k}`));
    expect(groupResults(photos.slice(0, 4))).toEqual([]);
    const [first] = groupResults(photos).filter(({ of }) => of === 'value');
    expect(first).toMatchObject({ median: -6.5, count: 7, photos: 8, isClear: true });
    expect(offInWords(first as never)).toMatch(/^7 of 8 have .* too dark, by about half a step of value\.$/);
    const even = [-8, 6, -7, 5, -9, 8, -6, 7].map((dL, k) => photo(dL, `${k}`));
    expect(groupResults(even).filter(({ of, isClear }) => of === 'value' && isClear)).toEqual([]);
    expect(groupResults(photos).find(({ of }) => of === 'wide')).toMatchObject({ isClear: true });
  });
  it('become a question at the step where it is painted; taken, it is not asked again', () => {
    const results = [-8, -6, -7, -5, -9, -8, -6].map((dL, k) => photo(dL, `${k}`));
    const own = logged([{ results }]);
    const [found] = suggestions(lesson, own, [], NOW).filter(({ key }) => key.startsWith('result value'));
    expect(found?.edit.command).toBe('editStep');
    const changed = carryOut(startHistory(lesson), 'editStep', found?.edit.args as never).lesson;
    expect(changed.steps.some(({ checkpoint }) => /hold something white beside/.test(checkpoint))).toBe(true);
    expect(suggestions(changed, own, [], NOW).filter(({ key }) => key.startsWith('result value'))).toEqual([]);
  });
  it('are kept as numbers in shares of the canvas; one that shows little of the picture is none', () => {
    const jug = { id: 't', name: 'jug', widthShare: 1.0512, heightShare: 1, turnDeg: 0, words: [], atEdge: false };
    const check = {
      areas: [{ areaId: 'sky', name: 'sky', dL: -6.04, da: 1.26, db: 0 }],
      // What runs out of the canvas has no size of its own.
      things: [jug, { ...jug, id: 'hills', atEdge: true }].map((one) => ({ ...one, offMm: [8, -4] as [number, number] })),
    };
    expect(resultOf(check, 400)).toEqual({
      areas: [{ areaId: 'sky', name: 'sky', dL: -6, da: 1.3, db: 0 }],
      things: [{ id: 't', name: 'jug', wide: 1.051, high: 1, offX: 0.02, offY: -0.01 }],
    });
    expect(showsPicture({ ...check, notFound: [], seenShare: 0.75 })).toBe(true);
    expect(showsPicture({ ...check, notFound: ['cup', 'pot', 'lid'], seenShare: 0.75 })).toBe(false);
    expect(showsPicture({ ...check, notFound: [], seenShare: 0.39 })).toBe(false);
  });
  it('the sign test is that of the binomial distribution', () => {
    for (const [count, of] of [
      [4, 5],
      [7, 8],
      [12, 20],
      [5, 5],
    ] as const)
      expect(signChance(count, of)).toBeCloseTo(1 - jstat.binomial.cdf(count - 1, of, 0.5), 9);
  });
});
