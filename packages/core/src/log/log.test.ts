import { describe, expect, it } from '@jest/globals';
import type { ClassLog, Lesson, LoggedItem, LoggedTouch } from '@viaticum/contract';
import { driven, instructor, minute, wet } from '../class/class.fixture.js';
import { type CommandName, carryOut, startHistory } from '../document/index.js';
import { takesOf } from '../film/index.js';
import { demoLesson } from '../fixtures/index.js';
import { planLesson } from '../plan/index.js';
import {
  logByHand,
  logCsv,
  logOf,
  logOfTakes,
  readLogCsv,
  rowsByHand,
  type Suggestion,
  suggestions,
  wordsOfLog,
} from './index.js';
import { asksAt } from './pace.js';

const NOW = Date.UTC(2026, 10, 30);
const lesson = demoLesson();
const plan = planLesson(lesson);
const paints = lesson.steps.filter((step) => step.kind === 'paint');
const step = paints[1] as Lesson['steps'][number];
const planned = (id: string): number => {
  const own = plan.minutes.get(id);
  return own ? own.showMin + own.doMin : 0;
};

const apply = (one: Lesson, name: CommandName, args: never): Lesson => carryOut(startHistory(one), name, args).lesson;

const itemOf = (one: Lesson['steps'][number], actual: number | null, rest: Partial<LoggedItem> = {}): LoggedItem => ({
  kind: 'step',
  stepId: one.id,
  title: one.title,
  technique: one.technique ?? null,
  planned: planned(one.id),
  actual,
  present: actual === null ? 0 : 12,
  done: 0,
  assumed: 0,
  asks: 0,
  reasons: [],
  ...rest,
});
const classOf = (items: LoggedItem[], rest: Partial<ClassLog> = {}): ClassLog => ({
  kind: 'class',
  title: lesson.title,
  lessonId: '',
  at: '2026-11-02T18:00:00.000Z',
  room: lesson.room.name,
  air: null,
  students: 12,
  level: 'beginner',
  plannedMin: 145,
  actualMin: 150,
  finished: 10,
  items,
  touches: [],
  paces: [],
  note: '',
  ...rest,
});
const logged = (logs: ClassLog[]) => logs.map((log, k) => ({ id: `c${k}`, log }));
const ask = (logs: ClassLog[]): Suggestion[] => suggestions(lesson, logged(logs), logged(logs), NOW);
const of = (all: Suggestion[], kind: string) => all.find(({ key }) => key.startsWith(kind));

it('classes are saved as a table; one alone is read again as it was', () => {
  const log = logByHand(
    {
      ...{ title: '=SUM(A1)', at: '2026-10-06', students: 9, note: '' },
      items: [
        { title: step.title, planned: 5, actual: 9.25, note: 'late; "light"' },
        { title: 'Tea', planned: null, actual: null, note: '' },
      ],
    },
    lesson,
  );
  const [head, first, ...rest] = logCsv([log, log]).trimEnd().split('\r\n');
  expect(head).toBe('date,class,kind,step,planned,actual,technique,present,asks,note');
  expect(first).toMatch(/^2026-10-06,'=SUM\(A1\),by-hand,/);
  expect(rest).toHaveLength(3);
  expect(`${head}\r\n${logCsv([log], false)}`).toBe(logCsv([log]));
  expect(readLogCsv(logCsv([log]))).toEqual({
    day: '2026-10-06',
    items: [
      { title: step.title, planned: 5, actual: 9.3, note: 'late; "light"' },
      { title: 'Tea', planned: null, actual: null, note: '' },
    ],
  });
});

describe('what classes suggest', () => {
  it('is nothing where they went as planned, and nothing after one class', () => {
    const asPlanned = classOf(lesson.steps.map((one) => itemOf(one, planned(one.id))));
    expect(ask([asPlanned, asPlanned, asPlanned])).toEqual([]);
    expect(ask([classOf([itemOf(step, planned(step.id) + 9)])])).toEqual([]);
  });

  it('makes a step as long as it took, with what that costs, and can be taken by one command', () => {
    const took = planned(step.id) + 6;
    const found = of(ask([took - 1, took, took + 1].map((one) => classOf([itemOf(step, one)]))), 'minutes') as Suggestion;
    expect(found.words).toContain(`“${step.title}” took`);
    expect(found.evidence).toBe(
      `${took - 1}, ${took} and ${took + 1} min in 3 classes, planned ${Math.round(planned(step.id))}.`,
    );
    const changed = apply(lesson, found.edit.command, found.edit.args as never);
    expect(planLesson(changed).plan.endMin - plan.plan.endMin).toBeCloseTo(found.minutes, 6);
    const own = planLesson(changed).minutes.get(step.id);
    expect((own?.showMin ?? 0) + (own?.doMin ?? 0)).toBeCloseTo(took, 0);
  });

  it('reckons with a room that dries slower only when enough coats of several classes say so', () => {
    const coat = (k: number): LoggedTouch => ({
      stepId: step.id,
      technique: (['wash', 'block-in', 'glaze'] as const)[k % 3] ?? null,
      predictedMin: 10,
      wetAtMin: 12.6,
      dryAtMin: 14.6,
    });
    const room = (classes: number, coats: number) =>
      of(
        ask(Array.from({ length: classes }, () => classOf([], { touches: Array.from({ length: coats }, (_, k) => coat(k)) }))),
        'drying',
      );
    expect(room(1, 3)).toBeUndefined();
    expect(room(1, 20)).toBeUndefined();
    const found = room(6, 5) as Suggestion;
    expect(found.words).toMatch(/dry (2\d|3\d) % slower than reckoned/);
    expect(found.minutes).toBeGreaterThan(0);
    const changed = apply(lesson, found.edit.command, found.edit.args as never);
    // Longer drying is slower evaporation: coats of the plan take so much longer.
    const waits = (one: Lesson) => planLesson(one).plan.coats.map((each) => each.paintOverMin ?? 0);
    const [before, after] = [waits(lesson), waits(changed)];
    before.forEach((minutes, k) => {
      expect((after[k] as number) / minutes).toBeGreaterThan(1.15);
      expect((after[k] as number) / minutes).toBeLessThan(1.45);
    });
    expect(suggestions(changed, [], [], NOW)).toEqual([]);
  });

  it('adds a checkpoint where many asked, in the words of what they asked', () => {
    const asked = classOf([
      itemOf(step, planned(step.id), { asks: 7, reasons: ['wet', 'wet', 'brush', 'wet', 'lost', 'wet', 'colour'] }),
    ]);
    const found = of(ask([asked, asked]), 'asks') as Suggestion;
    expect(found.evidence).toBe('14 of 24 asked; 10 in a hundred is usual.');
    const changed = apply(lesson, found.edit.command, found.edit.args as never);
    expect(changed.steps.find(({ id }) => id === step.id)?.checkpoint).toContain('Touch the rim: is it dry enough to go on?');
    // Taken, it is not asked again.
    expect(of(suggestions(changed, logged([asked, asked]), [], NOW), 'asks')).toBeUndefined();
  });

  it('says of what was always left out that it may be, and meets paint sooner that was dry before its time', () => {
    const left = classOf([itemOf(step, null)]);
    expect(of(ask([left, left]), 'left-out')).toBeUndefined();
    const found = of(ask([left, left, left]), 'left-out') as Suggestion;
    expect(found.edit).toEqual({ command: 'editStep', args: { id: step.id, step: { mayBeLeftOut: true } } });
    const early = classOf([{ ...itemOf(step, 5), kind: 'pause', stepId: null, touchedEarlyMin: 6 }]);
    expect(of(ask([early, early, early]), 'early')?.edit).toEqual({ command: 'setPlanning', args: { toleranceMin: 3 } });
  });
});

describe('help', () => {
  it('is a rate a student, drawn to what is usual where little is known', () => {
    const one = logged([classOf([itemOf(step, 5, { asks: 1, present: 2 })])]);
    const many = logged(Array.from({ length: 10 }, () => classOf([itemOf(step, 5, { asks: 6, present: 12 })])));
    const rate = (all: typeof one) => asksAt(all).get(step.id)?.rate ?? 0;
    // (20 · 0.1 + 1) / (20 + 2), by hand.
    expect(rate(one)).toBeCloseTo(3 / 22, 9);
    expect(rate(many)).toBeCloseTo((2 + 60) / 140, 9);
  });
});

describe('a class that is noted by hand', () => {
  it('begins with the steps of the lesson, and is told by its own sums', () => {
    const rows = rowsByHand(lesson, planned).map((row, k) => ({ ...row, actual: k < 3 ? 10 : null }));
    const log = logByHand({ title: 'Tuesday', at: '2026-11-03', students: 9, items: rows, note: 'the stove was on' }, lesson);
    expect([log.kind, log.actualMin, log.students, log.items[0]?.stepId]).toEqual(['by-hand', 30, 9, lesson.steps[0]?.id]);
    expect(log.items.filter(({ actual }) => actual === null)).toHaveLength(rows.length - 3);
    expect(wordsOfLog(log)).toContain('the stove was on');
  });
  it('is read from a table, in any order of its columns', () => {
    const { day, items } = readLogCsv(
      'Note;Step;Actual;Date;Planned\n"wet, still";Sky;12,5;2026-10-01;10\n;Ridge;;2026-10-01;7\n',
    );
    expect(day).toBe('2026-10-01');
    expect(items).toEqual([
      { title: 'Sky', planned: 10, actual: 12.5, note: 'wet, still' },
      { title: 'Ridge', planned: 7, actual: null, note: '' },
    ]);
    expect(() => readLogCsv('a,b\n1,2')).toThrow(
      'No step was found in this file. It needs the columns date, step, planned, actual, note.',
    );
  });
});

describe('a class that was taught', () => {
  it('in groups is logged group by group, with the hands that were raised in each and how long help took', () => {
    const room = driven(wet);
    const people = ['Ada', 'Bela', 'Cato', 'Dina'].map((name) => room.join(name));
    const handOf = (k: number, minutes: number) => {
      const who = people[k] as (typeof people)[0];
      room.say(who, { type: 'hand', studentId: who.id, reason: 'too-wet' });
      room.now += minutes * minute;
      room.say(who, { type: 'handDown', studentId: who.id });
    };
    room.say(instructor, { type: 'goOn', from: -1 });
    handOf(2, 2);
    room.now += 2 * minute;
    room.say(instructor, {
      type: 'divide',
      groups: [
        { id: 'left', name: 'by the window' },
        { id: 'right', name: 'by the door' },
      ],
      of: [2, 3].map((k) => ({ studentId: people[k]?.id as string, group: 'right' })),
    });
    room.say(instructor, { type: 'goOn', from: 0, group: 'left' });
    handOf(0, 1);
    room.now += 3 * minute;
    room.say(instructor, { type: 'goOn', from: 0, group: 'right' });
    room.say(instructor, { type: 'end' });
    const log = logOf(room.events, { ...lesson, room: { ...lesson.room, calibration: 0.5 } }) as ClassLog;
    expect(log).toMatchObject({ kind: 'class', students: 4, groups: [{ students: 2 }, { students: 2 }] });
    const of = (group: string, k: number) => log.items.filter((item) => item.group === group)[k];
    expect([of('by the window', 0)?.actual, of('by the door', 0)?.actual]).toEqual([4, 8]);
    // Whose hand was up before they were divided counts where they went.
    expect([of('by the window', 0)?.asks, of('by the door', 0)?.asks]).toEqual([0, 1]);
    expect(of('by the door', 0)).toMatchObject({ helpMin: [2], reasons: ['too-wet'] });
    expect(of('by the window', 1)).toMatchObject({ asks: 1, helpMin: [1] });
    expect(JSON.stringify(log)).not.toMatch(/Ada|Bela|Cato|Dina/);
  });
  it('what was filmed in a day is logged by its good takes, against their planned minutes', () => {
    const take = takesOf(lesson).find(({ kind, stepIds }) => kind === 'canvas' && stepIds.length === 1);
    const at = Date.UTC(2026, 9, 3, 9);
    const note = (id: string, minutes: number, kind: 'started' | 'stopped' | 'good' | 'again') => ({
      ...{ id, at: at + minutes * 60_000, takeId: take?.id as string, kind },
    });
    const notes = [note('a', 0, 'started'), note('b', 4, 'stopped'), note('c', 4, 'again')];
    expect(logOfTakes(lesson, notes)).toBeNull();
    const log = logOfTakes(lesson, [...notes, note('d', 5, 'started'), note('e', 12, 'stopped'), note('f', 12, 'good')]);
    expect(log).toMatchObject({ kind: 'takes', at: '2026-10-03T09:00:00.000Z', actualMin: 7, level: 'experienced' });
    expect(log?.items).toEqual([expect.objectContaining({ stepId: take?.stepIds[0], actual: 7 })]);
    // One alone before a camera is no class that minutes are suggested from.
    const twice = [log, log].map((one, k) => ({ id: `t${k}`, log: one as ClassLog }));
    expect(suggestions(lesson, twice, twice, NOW).filter(({ key }) => key.startsWith('minutes'))).toEqual([]);
  });
});
