import { describe, expect, it } from '@jest/globals';
import { type Lesson, newStudio } from '@viaticum/contract';
import { carryOut, startHistory } from '../document/index.js';
import { demoLesson, smallLesson, testStep } from '../fixtures/lessons.js';
import { uniform } from '../pace/index.js';
import { planLesson } from '../plan/index.js';
import {
  boardMin,
  bringerOf,
  bringFor,
  cautionsFor,
  circuitLoad,
  coatBoards,
  dampness,
  doneBy,
  kitBrushes,
  kitFindings,
  kitLines,
  kitPaint,
  kitRoom,
  kitThings,
  lampWatts,
  letterFor,
  mlInWords,
  preparation,
  rackM2,
  studentLines,
  studioLines,
  tubesInWords,
} from './index.js';

const demos = (['balloons', 'kettle', 'star'] as const).map((name) => demoLesson(name));
const lines = (lesson: Lesson) => {
  const planned = planLesson(lesson);
  return kitLines(lesson, planned, kitPaint(lesson, planned.plan, newStudio));
};

describe('brushes and things', () => {
  it('every head has each brush that the plan puts into a hand; two may share what is not worked wet', () => {
    const [lesson] = demos as [Lesson];
    const { brushes } = kitBrushes(lesson, planLesson(lesson));
    const of = (id: string) => brushes.find(({ brush }) => brush.id === id);
    expect(of('rigger-2')).toMatchObject({ perHead: 1, count: 13, isShared: false, mayNot: null });
    // The wide flat blends the sky.
    expect(of('flat-2-in')?.mayNot).toMatch(/wet/);
    const shared = { ...lesson, kit: { sharedBrushes: ['rigger-2', 'flat-2-in'] } };
    const again = kitBrushes(shared, planLesson(shared)).brushes;
    expect(again.find(({ brush }) => brush.id === 'rigger-2')).toMatchObject({ count: 7, isShared: true });
    expect(again.find(({ brush }) => brush.id === 'rigger-2')?.extraMin).toBeGreaterThan(0);
    expect(again.find(({ brush }) => brush.id === 'flat-2-in')).toMatchObject({ count: 13, isShared: false });
  });
  it('supports have some to spare, prints are the sheets of all drawings, water is of two pots', () => {
    const [lesson] = demos as [Lesson];
    const things = kitThings(lesson, planLesson(lesson));
    const of = (key: string) => things.find((one) => one.key === key);
    expect(of('support')).toMatchObject({ count: 13 + 2, perHead: 1 });
    expect(of('prints')?.count).toBe(13 * (of('prints')?.perHead ?? 0));
    expect(of('pots')?.count).toBe(26);
    expect(of('water')?.count).toBeGreaterThanOrEqual(Math.ceil(13 * 0.6 * 2));
    expect(of('bucket')?.note).toMatch(/12 at 1 sink/);
    expect(kitThings(lesson, planLesson(lesson), 4).some(({ key }) => key === 'bucket')).toBe(false);
  });
  it('on a dark ground the transfer paper is light', () => {
    const [lesson] = demos as [Lesson];
    const paper = (one: Lesson) => kitThings(one, planLesson(one)).find(({ key }) => key === 'transfer-paper')?.name;
    const traced = {
      ...lesson,
      school: { ...lesson.school, drawing: 'tracing' as const, transferMedium: 'transfer-paper' as const },
    };
    expect(paper(traced)).toBe('dark transfer paper');
    const first = traced.steps.find((step) => step.wholeCanvas)?.mixIds[0];
    const dark = traced.mixes.map((mix) =>
      mix.id === first
        ? {
            ...mix,
            recipe: [
              { tubeId: 'umber', parts: 3 },
              { tubeId: 'ultramarine', parts: 2 },
            ],
          }
        : mix,
    );
    expect(paper({ ...traced, mixes: dark })).toBe('light transfer paper');
  });
  it('what a lesson needs besides is on the lists, for each or for all', () => {
    const [lesson] = demos as [Lesson];
    const extras = [
      { id: 'x1', name: 'cotton buds', shelf: 'sundries' as const, count: 3, per: 'head' as const },
      { id: 'x2', name: 'table cover', shelf: 'sundries' as const, count: 4, per: 'group' as const },
    ];
    const things = kitThings({ ...lesson, kit: { heads: 10, extras } }, planLesson(lesson));
    expect(things.filter(({ extraId }) => extraId).map(({ count, perHead }) => [count, perHead])).toEqual([
      [30, 3],
      [4, null],
    ]);
  });
});

describe('who brings what', () => {
  it('by the rule of the lesson and by its word; what is nobody’s own stays with the studio', () => {
    const [base] = demos as [Lesson];
    expect(bringerOf(base, 'brush rigger-2')).toBe('studio');
    const mixed: Lesson = { ...base, kit: { by: 'mixed', who: [{ what: 'brush rigger-2', by: 'studio' }] } };
    expect([bringerOf(mixed, 'brush flat-2-in'), bringerOf(mixed, 'brush rigger-2'), bringerOf(mixed, 'tube white')]).toEqual([
      'student',
      'studio',
      'studio',
    ]);
    const theirs: Lesson = { ...base, kit: { by: 'students' } };
    expect([bringerOf(theirs, 'tube white'), bringerOf(theirs, 'water')]).toEqual(['student', 'studio']);
  });
  it('the lists are in the order of the shelves; studio and students miss nothing between them', () => {
    for (const lesson of demos) {
      const all = lines({ ...lesson, kit: { by: 'mixed' } });
      const shelves = all.map(({ shelf }) => ['paint', 'mediums', 'brushes', 'supports', 'paper', 'sundries'].indexOf(shelf));
      expect(shelves).toEqual([...shelves].sort((a, b) => a - b));
      const keys = new Set([...studioLines(all), ...studentLines(all)].map(({ key }) => key));
      expect(all.filter(({ key }) => !keys.has(key))).toEqual([]);
      expect(new Set(all.map(({ key }) => key)).size).toBe(all.length);
    }
  });
  it('a letter names what one lacks, and what not to buy', () => {
    const lesson: Lesson = { ...(demos[0] as Lesson), kit: { by: 'mixed' } };
    const letter = letterFor(lesson, lines(lesson), { firstName: 'Ines', has: new Set(['apron']) });
    expect(letter).toMatch(/^Dear Ines,/);
    expect(letter).toMatch(/– rigger 2 \(or round 2\)/);
    expect(letter).not.toMatch(/apron/);
    expect(letter).toMatch(/You need not buy: white/);
    expect(letterFor(demos[0] as Lesson, lines(demos[0] as Lesson), { firstName: 'Ines' })).toMatch(
      /bring nothing: all is there/,
    );
  });
  it('an invitation says what the kit says, and without it tubes and brushes', () => {
    const [lesson] = demos as [Lesson];
    expect(bringFor(lesson)).toMatch(/^Bring: a canvas 16 × 20 in\.\nTubes: white/);
    expect(bringFor({ ...lesson, kit: { by: 'studio' } })).toBe('Bring: old clothes. Everything else is there.');
    expect(bringFor({ ...lesson, kit: { by: 'mixed' } })).toMatch(/^Bring:\n– 2 in flat\n/);
  });
  it('amounts are said as one reads them', () => {
    expect([tubesInWords([75, 150, 75]), tubesInWords([37]), tubesInWords([])]).toEqual([
      '2 × 75 + 150 ml',
      '37 ml',
      'in the cupboard',
    ]);
    expect([mlInWords(0.01), mlInWords(3.44), mlInWords(36.4)]).toEqual(['0.1 ml', '3.4 ml', '36 ml']);
  });
});

describe('before the class', () => {
  it('twenty boards, two coats of gesso, one person: as worked by hand in the design (E2)', () => {
    const each = boardMin(508, 406.4);
    expect(each).toBeCloseTo(2.5, 1);
    const { starts, endMin } = coatBoards({ boards: 20, eachMin: each, people: 1, waitMin: [62, 68] });
    expect(starts[1]).toBeCloseTo(Math.max(20 * each, each + 62), 6);
    expect(Math.round(starts[1] as number)).toBe(65);
    expect(Math.abs(endMin - (65 + 51 + 68))).toBeLessThan(1);
    const waves = coatBoards({ boards: 20, eachMin: each, people: 1, waitMin: [62, 68], places: 8 });
    expect(waves.waves).toBe(3);
    expect(Math.abs(waves.endMin - 7.5 * 60)).toBeLessThan(10);
    expect(rackM2(20, 508, 406.4)).toBeCloseTo(5.1, 1);
  });
  it('the rule is what laying board by board comes to', () => {
    const draw = uniform(9);
    for (let round = 0; round < 100; round++) {
      const [boards, eachMin] = [1 + Math.floor(draw() * 30), 1 + draw() * 4];
      const waitMin = Array.from({ length: 1 + Math.floor(draw() * 3) }, () => draw() * 120);
      // One person: every board as soon as it is dry and the hand is free, coat after coat.
      let hand = 0;
      const dry: number[] = new Array(boards).fill(0);
      waitMin.forEach((wait) => {
        for (let k = 0; k < boards; k++) {
          hand = Math.max(hand, dry[k] as number) + eachMin;
          dry[k] = hand + wait;
        }
      });
      const found = coatBoards({ boards, eachMin, people: 1, waitMin });
      expect(found.endMin).toBeCloseTo(Math.max(...dry), 6);
    }
  });
  it('nothing is done before what it waits for is dry, by night, or in class time', () => {
    const lesson: Lesson = {
      ...(demos[0] as Lesson),
      support: { ...(demos[0] as Lesson).support, kind: 'board', absorbency: 'raw' },
      kit: { beginsAt: '2026-12-05T14:00:00Z' },
    };
    const { mixes } = kitPaint(lesson, planLesson(lesson).plan, newStudio);
    const tasks = preparation(
      lesson,
      newStudio,
      mixes.map(({ premix }) => premix),
    );
    const of = (key: string) => tasks.find((one) => one.key === key);
    expect(of('gesso 2')?.startMin).toBeGreaterThan((of('gesso 1')?.endMin ?? 0) + 30);
    expect(of('sand')?.startMin).toBeGreaterThan((of('gesso 2')?.endMin ?? 0) + 120);
    expect(of('sand')?.caution).toMatch(/mask/);
    for (const { startMin, endMin } of tasks) {
      expect(endMin).toBeLessThanOrEqual(0);
      expect(startMin).toBeLessThanOrEqual(endMin);
      const hour = (((14 * 60 + startMin) % 1440) + 1440) % 1440;
      expect(hour).toBeGreaterThanOrEqual(8 * 60 - 1e-6);
      expect(hour).toBeLessThanOrEqual(21 * 60);
    }
    const late = preparation(
      lesson,
      newStudio,
      mixes.map(({ premix }) => premix),
      Date.parse('2026-12-05T13:50:00Z'),
    );
    expect(late.filter((one) => one.late).length).toBeGreaterThan(3);
  });
  it('nobody is in two places: what one does leaves the others free, what all do takes all of them', () => {
    const lesson: Lesson = { ...(demos[0] as Lesson), kit: { beginsAt: '2026-12-05T14:00:00Z', heads: 20 } };
    const premixed = kitPaint(lesson, planLesson(lesson).plan, newStudio).mixes.map(({ premix }) => premix);
    const by = (helpers: number) => preparation(lesson, { ...newStudio, helpers }, premixed);
    const three = by(3);
    for (const who of [1, 2, 3]) {
      const own = three.filter((one) => one.who.includes(who)).sort((one, other) => one.startMin - other.startMin);
      expect(own.length).toBeGreaterThan(1);
      for (const [k, { startMin }] of own.entries())
        if (k > 0) expect(startMin).toBeGreaterThanOrEqual((own[k - 1]?.endMin ?? 0) - 1e-6);
    }
    // The hands' minutes are the same, whoever does them.
    const hands = (tasks: typeof three) => tasks.reduce((sum, { minutes, who }) => sum + minutes * who.length, 0);
    expect(Math.abs(hands(three) - hands(by(1)))).toBeLessThan(three.length * 2);
    // More people begin no earlier.
    const begins = (tasks: typeof three) =>
      Math.min(...tasks.filter(({ key }) => key !== 'shop').map(({ startMin }) => startMin));
    expect(begins(three)).toBeGreaterThan(begins(by(1)));
    expect(three.find(({ key }) => key === 'tables')?.who).toEqual([1, 2, 3]);
    const [shop, ...others] = three;
    expect(shop?.key).toBe('shop');
    expect(Math.min(...others.map(({ startMin }) => startMin))).toBeGreaterThanOrEqual(shop?.endMin ?? 0);
    expect([doneBy({ who: [1] }, 1), doneBy({ who: [2] }, 3), doneBy({ who: [1, 2, 3] }, 3)]).toEqual([
      '',
      'person 2',
      'all 3 together',
    ]);
  });
});

describe('air in which nothing dries', () => {
  it('is met by every part of the kit without a number that cannot be', () => {
    const wet: Lesson = {
      ...(demos[0] as Lesson),
      room: { ...(demos[0] as Lesson).room, airC: 12, humidity: 1 },
      support: {
        ...(demos[0] as Lesson).support,
        kind: 'board',
        absorbency: 'raw',
        groundCoats: [{ mixId: (demos[0] as Lesson).mixes[0]?.id ?? '', technique: 'wash' }],
      },
    };
    const paint = kitPaint(wet, planLesson(wet).plan, newStudio);
    expect(Number.isFinite(paint.groupMl)).toBe(true);
    for (const { startMin, endMin } of preparation(
      wet,
      newStudio,
      paint.mixes.map(({ premix }) => premix),
    )) {
      expect(Number.isFinite(startMin)).toBe(true);
      expect(startMin).toBeLessThanOrEqual(endMin);
    }
    for (const { words } of kitFindings(wet, paint, newStudio)) expect(words).not.toMatch(/Infinity|NaN/);
  });
});

describe('a sheet of paper', () => {
  it('lies on a board and is clipped to it; a canvas needs neither', () => {
    const [balloons] = demos as [Lesson];
    const keys = (lesson: Lesson) => kitThings(lesson, planLesson(lesson)).map(({ key, count }) => `${key} ${count}`);
    const paper: Lesson = { ...balloons, support: { ...balloons.support, kind: 'paper' }, kit: { heads: 12 } };
    expect(keys(paper)).toEqual(expect.arrayContaining(['under-board 13', 'clips 52']));
    expect(keys(balloons).some((one) => /under-board|clips/.test(one))).toBe(false);
  });
});

describe('the room', () => {
  it('lamps for the tables: 750 lux, 100 lm/W, half of it on the tables (worked by hand)', () => {
    // 12 painters, 6.48 m² · 750 lx = 4860 lm on the tables, 9720 lm of the lamps.
    expect(lampWatts(12 * 0.54)).toBeCloseTo(97.2, 6);
    expect(kitRoom({ ...(demos[0] as Lesson), kit: { heads: 12 } }, newStudio).light).toMatch(/about 100 W/);
  });
  it('dryers on a circuit by the rule of four fifths, beside what hangs on it (worked by hand, F)', () => {
    expect(circuitLoad(230, 16, 1200)).toEqual({ limitW: 2944, dryers: 2 });
    expect(circuitLoad(230, 16, 1200, 2200).dryers).toBe(0);
    expect([circuitLoad(110, 15, 1200).dryers, circuitLoad(230, 16, 5000).dryers]).toEqual([1, 0]);
  });
  it('a full room is damper, the more the less it is aired (worked by hand, F)', () => {
    const points = [2, 4, 0.5].map((changes) => Math.round(100 * dampness(13, 150, changes, 21)));
    expect(points).toEqual([12, 6, 47]);
    const found = kitRoom({ ...(demos[0] as Lesson), room: { name: 'x', airC: 21, humidity: 0.45, airSpeed: 0.1 } }, newStudio);
    expect(Math.round(found.paintOverMin.as)).toBe(19);
    expect(found.paintOverMin.full).toBeGreaterThan(found.paintOverMin.as * 1.2);
  });
});

describe('cautions', () => {
  const all = [
    ...demos,
    { ...(demos[0] as Lesson), kit: { children: true }, room: { ...(demos[0] as Lesson).room, outdoors: true } },
    smallLesson([testStep('one', { dryer: true })]),
  ];
  it('each ends with who decides, and none says that anything does no harm', () => {
    for (const lesson of all)
      for (const { words } of cautionsFor(lesson)) {
        expect(words).toMatch(/(decides?|says|counts for more|which sockets share a circuit)\.$/);
        expect(words).not.toMatch(/\bsafe\b|non-toxic|harmless/i);
      }
    expect(letterFor(demos[0] as Lesson, lines(demos[0] as Lesson), { firstName: 'Ines' })).not.toMatch(/\bsafe\b/i);
  });
  it('metals are named with their tube, and children are told which to replace', () => {
    const cadmium = { id: 'cad', pigment: 'PY35', grade: 'artist' as const };
    const lesson = { ...(demos[0] as Lesson), tubes: [...(demos[0] as Lesson).tubes, cadmium], kit: { children: true } };
    const words = cautionsFor(lesson).map((one) => one.words);
    expect(words.some((one) => /^Cadmium yellow contains cadmium/.test(one))).toBe(true);
    expect(words.some((one) => /Replace .*cadmium yellow/.test(one))).toBe(true);
  });
});

describe('what the kit notices', () => {
  const noticed = (lesson: Lesson, studio = newStudio) =>
    kitFindings(lesson, kitPaint(lesson, planLesson(lesson).plan, studio), studio);
  const key = (name: string) => (one: { key: string }) => one.key.startsWith(name);
  const [balloons] = demos as [Lesson];

  it('each act takes its finding away', () => {
    const small: Lesson = {
      ...balloons,
      support: { ...balloons.support, widthMm: 200, heightMm: 250 },
      areas: balloons.areas.map((area) => ({
        ...area,
        outline: area.outline.map((polygon) =>
          polygon.map((ring) => ring.map(([x, y]): [number, number] => [x / 2.03, y / 2.03])),
        ),
      })),
    };
    const lowId = balloons.mixes.find(({ name }) => name === 'low sky')?.id ?? '';
    const lessons: [string, Lesson][] = [
      ['brush-wide', small],
      ['speck', { ...balloons, kit: { premix: [{ mixId: lowId, how: 'palette' }] } }],
      ['damp-room', { ...balloons, room: { ...balloons.room, humidity: 0.3 } }],
    ];
    for (const [name, lesson] of lessons) {
      const found = noticed(lesson).find(key(name));
      expect([name, found?.fix !== undefined]).toEqual([name, true]);
      if (!found?.fix) continue;
      const { command, args } = found.fix;
      const { lesson: mended } = carryOut(startHistory(lesson), command, args as never);
      expect(noticed(mended).some((one) => one.key === found.key && name !== 'damp-room')).toBe(false);
    }
  });
  it('white that is short, a fee that is too low, metals for children, too many dryers are said', () => {
    const white = kitPaint(balloons, planLesson(balloons).plan, newStudio).tubes[0];
    const short = { ...newStudio, stock: [{ paint: white?.key ?? '', ml: white?.groupMl ?? 0 }] };
    expect(noticed(balloons, short).find(key('white-short'))?.words).toMatch(/[5-7] classes in ten would run out/);
    expect(noticed({ ...balloons, kit: { feeMinor: 900, fixedMinor: 30_000 } }).some(key('fee-below'))).toBe(true);
    expect(noticed({ ...balloons, kit: { feeMinor: 9000, fixedMinor: 30_000 } }).some(key('fee-below'))).toBe(false);
    expect(noticed({ ...balloons, kit: { children: true } }).find(key('children-metal'))?.words).toMatch(/burnt umber/);
    const dryers = { count: 9, watts: 1200 };
    const circuits = { count: 2, amps: 16, volts: 230 };
    expect(noticed({ ...balloons, room: { ...balloons.room, dryers, circuits } }).find(key('circuit'))?.words).toMatch(
      /carry 4 at a time/,
    );
  });
});
