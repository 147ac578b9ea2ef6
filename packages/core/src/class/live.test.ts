import { describe, expect, it } from '@jest/globals';
import type { Plan } from '@viaticum/contract';
import { driven, instructor, item, minute, plan, slowerAir, wet } from './class.fixture.js';
import {
  ahead,
  airChange,
  classTime,
  coatsNow,
  dryingLeft,
  expectedEnd,
  fold,
  isNewAir,
  leaveOutFor,
  newClass,
  ownPace,
  secondsLeft,
  stateHash,
  touchable,
} from './index.js';

/** In the drying pause of the sky, which all painted for five minutes; Mara said Done at once, Kofi four minutes late. */
function lateStudent() {
  const it = driven(wet);
  const [mara, kofi, lin] = [it.join('Mara'), it.join('Kofi'), it.join('Lin')];
  it.say(instructor, { type: 'goOn', from: -1 });
  it.now += 5 * minute;
  it.say(mara, { type: 'done', studentId: mara.id, stepId: 'one' });
  it.say(instructor, { type: 'goOn', from: 0 });
  it.now += 4 * minute;
  return { it, mara, kofi, lin };
}
const studentOf = (it: ReturnType<typeof driven>, id: string) => {
  const found = it.state.students[id];
  if (!found) throw new Error('no such student');
  return found;
};

describe('a student’s own drying clock', () => {
  it('runs from their own Done: four minutes later, four minutes more', () => {
    const { it: room, mara, kofi } = lateStudent();
    room.say(kofi, { type: 'done', studentId: kofi.id, stepId: 'one' });
    room.now += minute;
    const own = (id: string) => secondsLeft(room.state, room.now, studentOf(room, id));
    expect(own(mara.id)).toBeCloseTo(2 * 60, 6);
    expect(own(kofi.id) - own(mara.id)).toBeCloseTo(4 * 60, 6);
    expect(secondsLeft(room.state, room.now)).toBeCloseTo(2 * 60, 6);
    const coat = (id: string) => coatsNow(room.state, room.now, studentOf(room, id)).coats[0];
    expect((coat(kofi.id)?.laidToMin ?? 0) - (coat(mara.id)?.laidToMin ?? 0)).toBeCloseTo(4, 9);
  });
  it('has not begun while they still paint; who never says Done, or came later, is as the class is', () => {
    const { it: room, kofi, lin } = lateStudent();
    // Kofi has said Done to something else before, so that what he has not said means something.
    studentOf(room, kofi.id).doneAt.zero = room.now - 20 * minute;
    expect(dryingLeft(room.state, wet.items[1] as Plan['items'][number], room.now, studentOf(room, kofi.id))).toBeCloseTo(7, 9);
    expect(secondsLeft(room.state, room.now, studentOf(room, lin.id))).toBeCloseTo(3 * 60, 6);
    const late = room.join('Late');
    expect(secondsLeft(room.state, room.now, studentOf(room, late.id))).toBeCloseTo(3 * 60, 6);
  });
  it('paint dries on while the class is held', () => {
    const { it: room } = lateStudent();
    const before = secondsLeft(room.state, room.now);
    room.say(instructor, { type: 'hold' });
    room.now += minute;
    expect(before - secondsLeft(room.state, room.now)).toBeCloseTo(60, 6);
  });
});

describe('the air', () => {
  it('is noted at most once a minute, and only where it changed', () => {
    const it_ = driven(wet);
    it_.say(instructor, { type: 'goOn', from: -1 });
    const note = (airC: number, humidity: number) =>
      it_.say({ kind: 'sensor' }, { type: 'climate', airC, humidity }, slowerAir(wet, 1.2));
    expect(note(20.4, 0.52)).toBe(0);
    expect(note(20.4, 0.53)).toBe(1);
    expect(note(25, 0.7)).toBe(0);
    it_.now += minute;
    expect(note(21.3, 0.55)).toBe(0);
    expect(note(21.4, 0.53)).toBe(1);
    expect(it_.state.climate).toMatchObject({ airC: 21.4, humidity: 0.53, airSpeed: 0.1 });
    expect(isNewAir(it_.state, { type: 'climate', airC: 30, humidity: 0.9 }, it_.now)).toBe(false);
  });
  it('re-times a pause: what has dried stays dried, the rest takes longer', () => {
    const { it: room } = lateStudent();
    expect(secondsLeft(room.state, room.now)).toBeCloseTo(3 * 60, 6);
    room.say(instructor, { type: 'climate', airC: 20, humidity: 0.8 }, slowerAir(wet, 2));
    expect(secondsLeft(room.state, room.now)).toBeCloseTo(6 * 60, 6);
    room.now += 2 * minute;
    expect(secondsLeft(room.state, room.now)).toBeCloseTo(4 * 60, 6);
    room.say(instructor, { type: 'climate', airC: 20, humidity: 0.4 }, slowerAir(wet, 0.5));
    expect(secondsLeft(room.state, room.now)).toBeCloseTo(60, 6);
  });
  it('of classes of before is one factor for all coats, coat by coat once that is known', () => {
    const { it: room } = lateStudent();
    const factor = (of: number) => room.apply({ type: 'climateNoted', v: 1, airC: 20, humidity: 0.8, airSpeed: 0.1, factor: of });
    factor(2);
    expect(secondsLeft(room.state, room.now)).toBeCloseTo(6 * 60, 6);
    room.now += 2 * minute;
    room.say(instructor, { type: 'climate', airC: 20, humidity: 0.5 }, slowerAir(wet, 1));
    expect(secondsLeft(room.state, room.now)).toBeCloseTo(2 * 60, 6);
  });
  it('in which a coat never dries: the pause has no end; drier air brings it on from where it stood', () => {
    const { it: room } = lateStudent();
    const never = { air: { rows: [[-1, -1, -1, -1]], row: [0], left: [Array(14).fill(-1)] } };
    room.say(instructor, { type: 'climate', airC: 20, humidity: 1 }, never);
    expect(secondsLeft(room.state, room.now)).toBe(Number.POSITIVE_INFINITY);
    expect(expectedEnd(room.state, room.now)).toBe(Number.POSITIVE_INFINITY);
    expect(coatsNow(room.state, room.now).coats[0]?.paintOverMin).toBeNull();
    room.now += 30 * minute;
    room.say(instructor, { type: 'climate', airC: 20, humidity: 0.5 }, slowerAir(wet, 1));
    expect(secondsLeft(room.state, room.now)).toBeCloseTo(3 * 60, 6);
  });
  it('says what a note of it changed: minutes of each wet coat before and since, and how many times as long all take', () => {
    const { it: room } = lateStudent();
    expect(airChange(room.state, room.now)).toBeNull();
    room.say(instructor, { type: 'climate', airC: 20, humidity: 0.8 }, slowerAir(wet, 2));
    const change = airChange(room.state, room.now);
    expect(change?.wet).toEqual([{ stepId: 'one', areaId: 'sky', wasMin: expect.closeTo(3, 6), isMin: expect.closeTo(6, 6) }]);
    expect(change?.times).toEqual({ least: 2, most: 2 });
    room.now += 6 * minute;
    expect(airChange(room.state, room.now)?.wet).toEqual([]);
  });
  it('leaves dry what was dry', () => {
    const { it: room } = lateStudent();
    room.now += 20 * minute;
    room.say(instructor, { type: 'climate', airC: 12, humidity: 0.9 }, slowerAir(wet, 8));
    expect(secondsLeft(room.state, room.now)).toBeLessThan(0);
    const [coat] = coatsNow(room.state, room.now).coats;
    expect((coat?.laidToMin ?? 0) + (coat?.paintOverMin ?? 99)).toBeLessThanOrEqual(coatsNow(room.state, room.now).minute);
  });
  it('moves everything that is to come by the same minutes: the pause now, pauses ahead, the end', () => {
    const it_ = driven(wet);
    it_.say(instructor, { type: 'goOn', from: -1 });
    const lengths = () => ahead(it_.state, it_.now).map((one) => one.endMin - one.startMin);
    expect(lengths()).toEqual([5, 7, 8]);
    expect(expectedEnd(it_.state, it_.now)).toBe(20);
    it_.now += 2 * minute;
    it_.say(instructor, { type: 'climate', airC: 20, humidity: 0.8 }, slowerAir(wet, 2));
    expect(lengths()).toEqual([5, 14, 8]);
    expect(expectedEnd(it_.state, it_.now)).toBe(27);
    it_.now += 3 * minute;
    it_.say(instructor, { type: 'goOn', from: 0 });
    it_.now += 4 * minute;
    expect(secondsLeft(it_.state, it_.now)).toBeCloseTo(10 * 60, 6);
    expect(lengths()).toEqual([14, 8]);
  });
});

describe('which coat was touched', () => {
  const two: Plan = {
    ...wet,
    items: [
      { ...item('one', 0, 5), areaIds: ['sky'] },
      { ...item('two', 5, 9), areaIds: ['hill'] },
      { ...item(undefined, 9, 14), areaIds: ['sky'] },
      { ...item('three', 14, 20), areaIds: ['sky'] },
    ],
    coats: [
      { ...(wet.coats[0] as Plan['coats'][number]), paintOverMin: 9, touchDryMin: 11 },
      {
        ...(wet.coats[0] as Plan['coats'][number]),
        stepId: 'two',
        areaId: 'hill',
        laidFromMin: 5,
        laidToMin: 9,
        paintOverMin: 6,
      },
    ],
  };
  it('may be one of several that dry: what the class waits for first, none that is fresh or long dry', () => {
    const room = driven(two);
    room.say(instructor, { type: 'goOn', from: -1 });
    room.now += 5 * minute;
    room.say(instructor, { type: 'goOn', from: 0 });
    expect(touchable(room.state, room.now)).toEqual([]);
    room.now += 4 * minute;
    room.say(instructor, { type: 'goOn', from: 1 });
    const areas = () => touchable(room.state, room.now).map((coat) => coat.areaId);
    expect(areas()).toEqual(['sky']);
    room.now += 3 * minute;
    expect(areas()).toEqual(['sky', 'hill']);
    room.now += 7 * minute;
    expect(areas()).toEqual([]);
  });
});

describe('going elsewhere', () => {
  it('forward leaves out what lies between, back does it again, both can be taken back', () => {
    const it_ = driven();
    it_.say(instructor, { type: 'goOn', from: -1 });
    it_.say(instructor, { type: 'goTo', from: 0, to: 2 });
    expect(it_.state.current?.index).toBe(2);
    it_.say(instructor, { type: 'takeBack' });
    expect(it_.state.current?.index).toBe(0);
    it_.say(instructor, { type: 'goTo', from: 0, to: 2 });
    it_.say(instructor, { type: 'goTo', from: 2, to: 1 });
    expect(it_.state.visits.map((visit) => visit.index)).toEqual([0, 2, 1]);
    // A step that was come to may be said Done to, also after going back.
    const mara = it_.join('Mara');
    expect(it_.say(mara, { type: 'done', studentId: mara.id, stepId: 'two' })).toBe(1);
    expect(() => it_.say(instructor, { type: 'goTo', from: 2, to: 0 })).toThrow(/moved on meanwhile/);
    expect(() => it_.say(instructor, { type: 'goTo', from: 1, to: 9 })).toThrow(/not in the lesson/);
    expect(it_.say(instructor, { type: 'goTo', from: 1, to: 1 })).toBe(0);
  });
});

describe('seats and messages', () => {
  it('who comes takes the lowest free seat; who is moved to a seat that is taken changes places', () => {
    const it_ = driven();
    const [a, b, c] = [it_.join('A'), it_.join('B'), it_.join('C')];
    it_.say(instructor, { type: 'remove', studentId: a.id });
    const d = it_.join('D');
    const seats = () => [b, c, d].map((one) => it_.state.students[one.id]?.seat);
    expect(seats()).toEqual([1, 2, 0]);
    it_.say(instructor, { type: 'seat', studentId: d.id, seat: 2 });
    expect(seats()).toEqual([1, 0, 2]);
    it_.say(instructor, { type: 'seat', studentId: b.id, seat: 7 });
    expect(seats()).toEqual([7, 0, 2]);
    expect(it_.say(instructor, { type: 'seat', studentId: b.id, seat: 7 })).toBe(0);
  });
  it('the newest messages are kept', () => {
    const it_ = driven();
    for (let i = 0; i < 14; i++) it_.say(instructor, { type: 'say', text: ` word ${i} ` });
    expect(it_.state.said.map((one) => one.text)).toEqual(Array.from({ length: 10 }, (_, i) => `word ${i + 4}`));
  });
});

describe('a rehearsal', () => {
  it('its time runs faster from when it is told to, without a jump', () => {
    const it_ = driven(plan, true);
    expect(classTime(it_.state, 5)).toBe(5);
    it_.say(instructor, { type: 'speed', speed: 60 }, { real: it_.now });
    expect(classTime(it_.state, it_.now)).toBe(it_.now);
    expect(classTime(it_.state, it_.now + 1000)).toBe(it_.now + minute);
    const real = it_.now + 1000;
    it_.now = classTime(it_.state, real);
    it_.say(instructor, { type: 'speed', speed: 1 }, { real });
    expect(classTime(it_.state, real + 500)).toBe(it_.now + 500);
  });
  it('hands are no faster: taking back has as many real seconds; a real class cannot be made faster', () => {
    const it_ = driven(plan, true);
    it_.say(instructor, { type: 'speed', speed: 20 }, { real: it_.now });
    it_.say(instructor, { type: 'goOn', from: -1 });
    it_.now += 4 * 20 * 1000;
    expect(it_.say(instructor, { type: 'takeBack' })).toBe(1);
    expect(() => driven().say(instructor, { type: 'speed', speed: 20 }, { real: 1 })).toThrow(/rehearsal only/);
  });
});

describe('who is behind', () => {
  it('leaves out what takes least from the picture for each minute, until the time is made up for', () => {
    const long: Plan = { ...plan, items: ['a', 'b', 'c', 'd'].map((id, i) => item(id, i * 5, i * 5 + 5)) };
    const it_ = driven(long);
    const mara = it_.join('Mara');
    const facts = {
      a: { minutes: 5, weight: 1 },
      b: { minutes: 4, weight: 400 },
      c: { minutes: 2, weight: 20 },
      d: { minutes: 3, weight: 90 },
    };
    it_.say(instructor, { type: 'goOn', from: -1 });
    it_.say(mara, { type: 'done', studentId: mara.id, stepId: 'a' });
    const out = (late: number) => leaveOutFor(it_.state, studentOf(it_, mara.id), late, facts);
    expect(out(1)).toEqual({ stepIds: ['c'], savedMin: 2 });
    expect(out(4)).toEqual({ stepIds: ['c', 'd'], savedMin: 5 });
    expect(out(60)).toEqual({ stepIds: ['c', 'd', 'b'], savedMin: 9 });
    expect(leaveOutFor(it_.state, studentOf(it_, mara.id), 9, {})).toEqual({ stepIds: [], savedMin: 0 });
  });
  it('a pace is the time to Done against the plan’s', () => {
    const { it: room, mara, kofi } = lateStudent();
    room.say(kofi, { type: 'done', studentId: kofi.id, stepId: 'one' });
    expect(ownPace(room.state, mara.id)).toEqual([1]);
    expect(ownPace(room.state, kofi.id)[0]).toBeCloseTo(9 / 5, 9);
    expect(ownPace(room.state, 'nobody')).toEqual([]);
  });
});

it('the end that is expected follows what is left of the present item', () => {
  const { it: room } = lateStudent();
  expect(expectedEnd(room.state, room.now)).toBeCloseTo(9 + 3 + 8, 9);
  room.say(instructor, { type: 'extend', minutes: 2 });
  expect(expectedEnd(room.state, room.now)).toBeCloseTo(9 + 5 + 8, 9);
});

it('all of it folds to the same state from its events alone', () => {
  const { it: room, kofi } = lateStudent();
  room.say(kofi, { type: 'done', studentId: kofi.id, stepId: 'one' });
  room.say(instructor, { type: 'climate', airC: 26, humidity: 0.3 }, slowerAir(room.state.plan ?? wet, 0.7));
  room.say(instructor, { type: 'touchTest', areaId: 'sky', dry: true });
  room.say(instructor, { type: 'say', text: 'Watch your water' });
  room.say(instructor, { type: 'seat', studentId: kofi.id, seat: 5 });
  room.say(instructor, { type: 'goTo', from: 1, to: 0 });
  room.say(instructor, { type: 'end' });
  const again = newClass();
  for (const event of room.events) fold(again, JSON.parse(JSON.stringify(event)));
  expect(stateHash(again)).toBe(stateHash(room.state));
});
