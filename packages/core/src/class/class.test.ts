import { describe, expect, it } from '@jest/globals';
import type { ClassEvent, Command } from '@viaticum/contract';
import { driven, instructor, minute, slowerAir, wet } from './class.fixture.js';
import {
  type Actor,
  type ClassState,
  coatsNow,
  currentItem,
  decide,
  elapsedSeconds,
  fold,
  happened,
  newClass,
  planMinute,
  Refusal,
  secondsLeft,
  stateHash,
} from './index.js';

describe('a class', () => {
  it('opens, goes on, is held and extended, and its clock leaves the hold out', () => {
    const it_ = driven();
    expect(it_.state.phase).toBe('open');
    it_.say(instructor, { type: 'goOn', from: -1 });
    expect(currentItem(it_.state)?.stepId).toBe('one');
    it_.now += 60_000;
    expect(secondsLeft(it_.state, it_.now)).toBe(240);
    it_.say(instructor, { type: 'hold' });
    it_.now += 500_000;
    expect(elapsedSeconds(it_.state, it_.now)).toBe(60);
    it_.say(instructor, { type: 'resume' });
    it_.say(instructor, { type: 'extend', minutes: 2 });
    it_.now += 30_000;
    expect(secondsLeft(it_.state, it_.now)).toBe(330);
    it_.say(instructor, { type: 'goOn', from: 0 });
    it_.now += 600_000;
    expect(planMinute(it_.state, it_.now)).toBe(15); // the paint dries on past the planned end of the pause
    expect(secondsLeft(it_.state, it_.now)).toBe(-180);
    it_.say(instructor, { type: 'goOn', from: 1 });
    it_.now += 6_000_000;
    expect(planMinute(it_.state, it_.now)).toBe(20); // a step waits at its end
    it_.say(instructor, { type: 'end' });
    expect(it_.state.phase).toBe('ended');
  });

  it('takes going on back for five seconds, with the clock as it was, also out of a hold', () => {
    const it_ = driven();
    it_.say(instructor, { type: 'goOn', from: -1 });
    it_.now += 90_000;
    it_.say(instructor, { type: 'hold' });
    it_.say(instructor, { type: 'goOn', from: 0 });
    it_.now += 4_000;
    it_.say(instructor, { type: 'takeBack' });
    expect(it_.state.phase).toBe('held');
    expect(elapsedSeconds(it_.state, it_.now)).toBe(90);
    it_.say(instructor, { type: 'resume' });
    it_.now += 20_000;
    expect(() => it_.say(instructor, { type: 'takeBack' })).toThrow(/five seconds/);
  });

  it('painting on in a pause begins the next step and is kept, with what was left to wait; taken back it is forgotten', () => {
    const it_ = driven();
    expect(() => it_.say(instructor, { type: 'paintOn', from: -1 })).toThrow(Refusal);
    it_.say(instructor, { type: 'goOn', from: -1 });
    expect(() => it_.say(instructor, { type: 'paintOn', from: 0 })).toThrow(/not waiting/);
    it_.say(instructor, { type: 'goOn', from: 0 });
    it_.now += 120_000;
    expect(() => it_.say({ kind: 'assistant' }, { type: 'paintOn', from: 1 })).toThrow(Refusal);
    it_.say(instructor, { type: 'paintOn', from: 1 });
    expect(currentItem(it_.state)?.stepId).toBe('two');
    expect(it_.state.paintedOn).toEqual([{ stepId: 'two', areaIds: [], leftMin: 5, at: it_.now }]);
    expect(happened(it_.events).items.find((one) => one.kind === 'pause')?.paintedOnMin).toBe(5);
    it_.say(instructor, { type: 'takeBack' });
    expect(it_.state.paintedOn).toEqual([]);
    expect(currentItem(it_.state)?.kind).toBe('pause');
  });

  it('the very first step taken back leaves an open class', () => {
    const it_ = driven();
    it_.say(instructor, { type: 'goOn', from: -1 });
    it_.say(instructor, { type: 'takeBack' });
    expect([it_.state.phase, it_.state.current]).toEqual(['open', null]);
    expect(() => it_.say(instructor, { type: 'takeBack' })).toThrow(/nothing to take back/);
  });

  it('two desks that go on at once move it by one step only', () => {
    const it_ = driven();
    it_.say(instructor, { type: 'goOn', from: -1 });
    expect(() => it_.say(instructor, { type: 'goOn', from: -1 })).toThrow(/moved on meanwhile/);
    it_.say(instructor, { type: 'goOn', from: 0 });
    it_.say(instructor, { type: 'goOn', from: 1 });
    expect(() => it_.say(instructor, { type: 'goOn', from: 2 })).toThrow(/last step/);
  });

  it('students are done, take it back within five seconds, raise and lower a hand; twice is once', () => {
    const it_ = driven();
    const mara = it_.join('Mara');
    it_.say(instructor, { type: 'goOn', from: -1 });
    const done: Command = { type: 'done', studentId: mara.id, stepId: 'one' };
    expect([it_.say(mara, done), it_.say(mara, done)]).toEqual([1, 0]);
    it_.now += 3_000;
    it_.say(mara, { type: 'notYet', studentId: mara.id, stepId: 'one' });
    expect(it_.state.students[mara.id]?.doneAt).toEqual({});
    it_.say(mara, done);
    it_.now += 30_000;
    expect(() => it_.say(mara, { type: 'notYet', studentId: mara.id, stepId: 'one' })).toThrow(/five seconds/);
    expect(it_.say(instructor, { type: 'notYet', studentId: mara.id, stepId: 'one' })).toBe(1);
    const hand: Command = { type: 'hand', studentId: mara.id, reason: 'colour' };
    expect([it_.say(mara, hand), it_.say(mara, hand)]).toEqual([1, 0]);
    expect(it_.state.students[mara.id]?.hand).toEqual({ reason: 'colour', at: it_.now });
    expect([
      it_.say(instructor, { type: 'handDown', studentId: mara.id }),
      it_.say(mara, { type: 'handDown', studentId: mara.id }),
    ]).toEqual([1, 0]);
  });
});

describe('who may say what', () => {
  const onlyInstructor: Command[] = [
    { type: 'goOn', from: -1 },
    { type: 'takeBack' },
    { type: 'hold' },
    { type: 'resume' },
    { type: 'extend', minutes: 1 },
    { type: 'end' },
    { type: 'remove', studentId: 's1' },
    { type: 'goTo', from: 0, to: 1 },
    { type: 'replan', from: 0 },
    { type: 'say', text: 'Watch your water' },
    { type: 'film', filmId: 'f', atMs: 0, isPlaying: true, rate: 1 },
    { type: 'seat', studentId: 's1', seat: 3 },
    { type: 'climate', airC: 25, humidity: 0.5 },
    { type: 'touchTest', areaId: 'sky', dry: true },
  ];
  it.each(onlyInstructor.map((command) => [command.type, command] as const))('a student may not %s', (_, command) => {
    const it_ = driven();
    const mara = it_.join('Mara');
    it_.say(instructor, { type: 'goOn', from: -1 });
    expect(() => it_.say(mara, command)).toThrow(expect.objectContaining({ code: 'forbidden' }));
  });

  it('who teaches beside the instructor does all but end the class, divide it, and take somebody out', () => {
    const it_ = driven(wet);
    const mara = it_.join('Mara');
    const co: Actor = { kind: 'co' };
    it_.say(co, { type: 'goOn', from: -1 });
    it_.say(co, { type: 'hold' });
    it_.say(co, { type: 'say', text: 'Look here' });
    it_.say(co, { type: 'done', studentId: mara.id, stepId: 'one' });
    expect(it_.state).toMatchObject({ phase: 'held', said: [{ text: 'Look here' }] });
    expect(it_.state.students[mara.id]?.doneAt.one).toBeDefined();
    const groups = [
      { id: 'a', name: 'A' },
      { id: 'b', name: 'B' },
    ];
    for (const command of [
      { type: 'end' },
      { type: 'remove', studentId: mara.id },
      { type: 'divide', groups, of: [] },
      { type: 'speed', speed: 20 },
    ] as Command[])
      expect(() => it_.say(co, command)).toThrow(expect.objectContaining({ code: 'forbidden' }));
  });
  it('an assistant sees to hands and touches, a sensor tells the air; neither does anything else', () => {
    const it_ = driven(wet);
    const mara = it_.join('Mara');
    it_.say(instructor, { type: 'goOn', from: -1 });
    const assistant: Actor = { kind: 'assistant' };
    const sensor: Actor = { kind: 'sensor' };
    it_.say(mara, { type: 'hand', studentId: mara.id, reason: 'lost' });
    it_.say(assistant, { type: 'handDown', studentId: mara.id });
    it_.say(assistant, { type: 'touchTest', areaId: 'sky', dry: false });
    expect(it_.state.touches).toHaveLength(1);
    expect(it_.say(sensor, { type: 'climate', airC: 25, humidity: 0.5 }, slowerAir(wet, 0.9))).toBe(1);
    // Whoever looked may say what is done.
    expect(it_.say(assistant, { type: 'done', studentId: mara.id, stepId: 'one' })).toBe(1);
    for (const command of onlyInstructor.filter((one) => one.type !== 'touchTest'))
      expect(() => it_.say(assistant, command)).toThrow(expect.objectContaining({ code: 'forbidden' }));
    for (const command of [
      ...onlyInstructor.filter((one) => one.type !== 'climate'),
      { type: 'handDown', studentId: mara.id },
    ] as Command[])
      expect(() => it_.say(sensor, command)).toThrow(expect.objectContaining({ code: 'forbidden' }));
  });

  const forOthers = (studentId: string): Command[] => [
    { type: 'done', studentId, stepId: 'one' },
    { type: 'notYet', studentId, stepId: 'one' },
    { type: 'hand', studentId, reason: 'lost' },
    { type: 'handDown', studentId },
    { type: 'rename', studentId, firstName: 'X' },
  ];
  it.each(forOthers('s1').map((command) => [command.type, command] as const))(
    'a student may not %s for another, a guest not at all',
    (_, command) => {
      const it_ = driven();
      it_.join('Mara');
      const kofi = it_.join('Kofi');
      it_.say(instructor, { type: 'goOn', from: -1 });
      expect(() => it_.say(kofi, command)).toThrow(expect.objectContaining({ code: 'forbidden' }));
      expect(() => it_.say({ kind: 'guest' }, command)).toThrow(expect.objectContaining({ code: 'join-first' }));
    },
  );

  it('nothing is accepted in an ended class, and no step before it is reached', () => {
    const it_ = driven();
    const mara = it_.join('Mara');
    expect(() => it_.say(mara, { type: 'done', studentId: mara.id, stepId: 'one' })).toThrow(/not started/);
    it_.say(instructor, { type: 'goOn', from: -1 });
    expect(() => it_.say(mara, { type: 'done', studentId: mara.id, stepId: 'two' })).toThrow(/not come to this step/);
    expect(() => it_.say(mara, { type: 'done', studentId: mara.id, stepId: 'zzz' })).toThrow(/not in the lesson/);
    it_.say(instructor, { type: 'remove', studentId: mara.id });
    expect(() => it_.say(mara, { type: 'hand', studentId: mara.id, reason: 'lost' })).toThrow(/no longer in this class/);
    it_.say(instructor, { type: 'end' });
    for (const command of [...onlyInstructor, { type: 'join', firstName: 'Late', kit: [] } as Command]) {
      expect(() => decide(it_.state, instructor, command, it_.now, () => 'x')).toThrow(Refusal);
    }
  });
});

describe('two of one name', () => {
  it('have a letter and an edge of their own colour, the first of them none, and the next what is free', () => {
    const room = driven();
    const people = ['Kaya', 'Kaya L', 'Bela', 'kaya b'].map((name) => room.join(name));
    const edges = () => people.map(({ id }) => room.state.students[id]?.edge);
    expect(edges()).toEqual([undefined, 1, undefined, 2]);
    room.say(instructor, { type: 'remove', studentId: people[1]?.id as string });
    const again = room.join('Kaya M');
    expect(room.state.students[again.id]?.edge).toBe(1);
    expect(() => room.join('KAYA')).toThrow(/There is a KAYA already/);
  });
});

describe('folding', () => {
  it('the same events give the same state and hash, repeated ones change nothing, a gap throws', () => {
    const it_ = driven();
    const mara = it_.join('Mara');
    it_.say(instructor, { type: 'goOn', from: -1 });
    it_.say(mara, { type: 'done', studentId: mara.id, stepId: 'one' });
    const again: ClassState = newClass();
    for (const event of it_.events) {
      fold(again, JSON.parse(JSON.stringify(event)) as ClassEvent);
      fold(again, event);
    }
    expect(stateHash(again)).toBe(stateHash(it_.state));
    expect(again).toEqual(it_.state);
    it_.say(instructor, { type: 'hold' });
    expect(stateHash(again)).not.toBe(stateHash(it_.state));
    expect(() => fold(newClass(), it_.events[2] as ClassEvent)).toThrow(/missing/);
  });
});

describe('touch tests', () => {
  /** In the pause, so many minutes after it began. */
  function inPause(after: number) {
    const it = driven(wet);
    it.say(instructor, { type: 'goOn', from: -1 });
    it.now += 5 * minute;
    it.say(instructor, { type: 'goOn', from: 0 });
    it.now += after * minute;
    return it;
  }
  it('“not yet” after the time makes the coats of this class slower and the pause longer; “dry” before it the other way', () => {
    const slow = inPause(8);
    const before = secondsLeft(slow.state, slow.now);
    slow.say(instructor, { type: 'touchTest', areaId: 'sky', dry: false });
    expect(slow.state.dryFactor).toBeGreaterThan(1.02);
    // The wait counts from when the coat was laid: seven minutes, so much longer.
    expect(secondsLeft(slow.state, slow.now) - before).toBeCloseTo((slow.state.dryFactor - 1) * 7 * 60, 6);
    const { coats } = coatsNow(slow.state, slow.now);
    expect(coats[0]?.paintOverMin).toBeCloseTo(7 * slow.state.dryFactor, 9);
    expect(coats[0]?.firmMin).toBeNull();
    const quick = inPause(4);
    quick.say(instructor, { type: 'touchTest', areaId: 'sky', dry: true });
    expect(quick.state.dryFactor).toBeLessThan(1);
  });
  it('a touch that agrees with the plan changes nearly nothing; without any, the plan stands as it was published', () => {
    const it0 = inPause(2);
    expect(coatsNow(it0.state, it0.now).coats).toEqual(wet.coats);
    it0.say(instructor, { type: 'touchTest', areaId: 'sky', dry: false });
    expect(it0.state.dryFactor).toBeGreaterThanOrEqual(1);
    expect(it0.state.dryFactor).toBeLessThan(1.05);
  });
  it('dry means dry: the pause ends for all that is as old or older; one act takes it back, and the factor with it', () => {
    const it0 = inPause(3);
    const before = secondsLeft(it0.state, it0.now);
    expect(before).toBeGreaterThan(60);
    it0.say(instructor, { type: 'touchTest', areaId: 'sky', dry: true });
    expect(secondsLeft(it0.state, it0.now)).toBe(0);
    const at = it0.state.touches.at(-1)?.at as number;
    it0.say({ kind: 'assistant' }, { type: 'touchBack', at });
    expect(secondsLeft(it0.state, it0.now)).toBeCloseTo(before, 6);
    expect(it0.state.dryFactor).toBe(1);
    expect(it0.say(instructor, { type: 'touchBack', at })).toBe(0);
    const again = newClass();
    for (const event of it0.events) fold(again, JSON.parse(JSON.stringify(event)));
    expect(stateHash(again)).toBe(stateHash(it0.state));
  });
  it('one stray key changes no class: dry after a minute of seven moves the factor by less than a hundredth', () => {
    const it0 = inPause(1);
    it0.say(instructor, { type: 'touchTest', areaId: 'sky', dry: true });
    expect(Math.abs(it0.state.dryFactor - 1)).toBeLessThan(0.03);
  });
  it('a log of before tests named their coat folds as it did: its factor is the one it had', () => {
    const it0 = inPause(3);
    it0.apply({ type: 'touchTested', v: 1, areaId: 'sky', dry: true });
    expect(it0.state.dryFactor).toBeLessThan(0.9);
    expect(secondsLeft(it0.state, it0.now)).toBeGreaterThan(0);
  });
  it('only the instructor touches, only what was painted, and a fresh fold of the events is the same', () => {
    const it1 = inPause(8);
    const student = it1.join('Ida');
    expect(() => it1.say(student, { type: 'touchTest', areaId: 'sky', dry: true })).toThrow(Refusal);
    expect(() => it1.say(instructor, { type: 'touchTest', areaId: 'hill', dry: true })).toThrow(/Nothing that dries/);
    it1.say(instructor, { type: 'touchTest', areaId: 'sky', dry: false });
    const again = newClass();
    for (const event of it1.events) fold(again, event);
    expect(stateHash(again)).toBe(stateHash(it1.state));
    expect(again.touches).toHaveLength(1);
  });
});
