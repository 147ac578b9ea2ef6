import { describe, expect, it } from '@jest/globals';
import { driven, instructor, item, minute, plan, wet } from './class.fixture.js';
import { belief, classMinute, expectedEnd, ownPace, secondsLeft } from './index.js';

/** A class at its first step of five minutes, with two students. */
function painting(of = plan) {
  const room = driven(of);
  const [ida, ben] = [room.join('Ida'), room.join('Ben')];
  room.say(instructor, { type: 'goOn', from: -1 });
  const later = (minutes: number) => {
    room.now += minutes * minute;
  };
  const held = (minutes: number) => {
    room.say(instructor, { type: 'hold' });
    later(minutes);
    room.say(instructor, { type: 'resume' });
  };
  return { room, ida, ben, later, held };
}

describe('a class that is held', () => {
  it('has as much time left after the hold as before it', () => {
    const { room, later } = painting();
    later(2);
    const left = secondsLeft(room.state, room.now);
    room.say(instructor, { type: 'hold' });
    later(7);
    expect(secondsLeft(room.state, room.now)).toBeCloseTo(left, 6);
    room.say(instructor, { type: 'resume' });
    expect(secondsLeft(room.state, room.now)).toBeCloseTo(left, 6);
    later(1);
    expect(secondsLeft(room.state, room.now)).toBeCloseTo(left - 60, 6);
  });
  it('ends later by what the hold lasted', () => {
    const { room, later, held } = painting();
    later(1);
    const end = expectedEnd(room.state, room.now);
    held(6);
    expect(expectedEnd(room.state, room.now)).toBeCloseTo(end + 6, 6);
  });
  it('dries all the same: paint knows of no hold', () => {
    const { room, later } = painting(wet);
    later(5);
    room.say(instructor, { type: 'goOn', from: 0 });
    const before = classMinute(room.state, room.now);
    room.say(instructor, { type: 'hold' });
    later(4);
    expect(classMinute(room.state, room.now)).toBeCloseTo(before + 4, 6);
  });
});

describe('a hold and the pace of a student', () => {
  it('time that was held is nobody’s own time', () => {
    const { room, ida, ben, later, held } = painting();
    later(2);
    held(10);
    later(2);
    room.say(ida, { type: 'done', studentId: ida.id, stepId: 'one' });
    later(3.5);
    room.say(ben, { type: 'done', studentId: ben.id, stepId: 'one' });
    expect(ownPace(room.state, ida.id)).toEqual([expect.closeTo(4 / 5, 6)]);
    expect(ownPace(room.state, ben.id)).toEqual([expect.closeTo(7.5 / 5, 6)]);
  });
  it('who says Done while the class is held has needed the time until it was', () => {
    const { room, ida, later } = painting();
    later(3);
    room.say(instructor, { type: 'hold' });
    later(8);
    room.say(ida, { type: 'done', studentId: ida.id, stepId: 'one' });
    expect(ownPace(room.state, ida.id)).toEqual([expect.closeTo(3 / 5, 6)]);
  });
  it('several holds in one step are all left out; holds of another step are not its own', () => {
    const { room, ida, later, held } = painting();
    for (const minutes of [2, 5]) {
      later(1);
      held(minutes);
    }
    later(1);
    room.say(ida, { type: 'done', studentId: ida.id, stepId: 'one' });
    later(1);
    room.say(instructor, { type: 'goOn', from: 0 });
    room.say(instructor, { type: 'goOn', from: 1 });
    later(1);
    held(9);
    later(3);
    room.say(ida, { type: 'done', studentId: ida.id, stepId: 'two' });
    expect(ownPace(room.state, ida.id)).toEqual([expect.closeTo(3 / 5, 6), expect.closeTo(4 / 8, 6)]);
  });
});

describe('late and on the way', () => {
  const three = { ...plan, items: [item('one', 0, 5), item('two', 5, 9), item('three', 9, 20)] };
  it('who came later is not late with what was over before', () => {
    const { room, later } = painting(three);
    later(5);
    room.say(instructor, { type: 'goOn', from: 0 });
    later(0.5);
    const jo = room.join('Jo');
    later(4);
    room.say(jo, { type: 'done', studentId: jo.id, stepId: 'two' });
    room.say(instructor, { type: 'goOn', from: 1 });
    const student = room.state.students[jo.id] as (typeof room.state.students)[string];
    expect(belief(room.state, student, room.now).late).toBeNull();
    expect(ownPace(room.state, jo.id)).toEqual([]);
  });
});
