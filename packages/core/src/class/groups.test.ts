import { describe, expect, it } from '@jest/globals';
import type { Plan } from '@viaticum/contract';
import { driven, instructor, minute, wet } from './class.fixture.js';
import { belief, currentItem, fold, happened, newClass, partsOf, secondsLeft, stateHash, viewFor, viewOf } from './index.js';

const left = { id: 'left', name: 'by the window' };
const right = { id: 'right', name: 'by the door' };

/** A class of four that was together for the first step, then in two groups. */
function divided(plan: Plan = wet) {
  const room = driven(plan);
  const people = ['Ada', 'Bela', 'Cato', 'Dina'].map((name) => room.join(name));
  room.say(instructor, { type: 'goOn', from: -1 });
  room.now += 4 * minute;
  const [ada, bela, cato, dina] = people as [(typeof people)[0], (typeof people)[0], (typeof people)[0], (typeof people)[0]];
  room.say(instructor, {
    type: 'divide',
    groups: [left, right],
    of: [cato, dina].map(({ id }) => ({ studentId: id, group: 'right' })),
  });
  return { room, ada, bela, cato, dina, at: (id: string) => viewOf(room.state, id) };
}

describe('a class in groups', () => {
  it('begins where the class was; each then goes on by itself, with its own clock and its own people', () => {
    const { room, ada, cato, at } = divided();
    expect(partsOf(room.state).map(({ name, view }) => [name, Object.values(view.students).map((one) => one.firstName)])).toEqual(
      [
        ['by the window', ['Ada', 'Bela']],
        ['by the door', ['Cato', 'Dina']],
      ],
    );
    expect(currentItem(at('left'))?.stepId).toBe('one');
    room.now += minute;
    room.say(instructor, { type: 'goOn', from: 0, group: 'left' });
    expect(currentItem(at('left'))?.kind).toBe('pause');
    expect(currentItem(at('right'))?.stepId).toBe('one');
    room.now += 2 * minute;
    expect(secondsLeft(at('left'), room.now)).toBeCloseTo(5 * 60, 6);
    expect(secondsLeft(at('right'), room.now)).toBeCloseTo(-2 * 60, 6);
    expect(viewFor(room.state, ada.id)).toBe(at('left'));
    expect(viewFor(room.state, cato.id)).toBe(at('right'));
  });
  it('what one group says of itself touches no other: held, a minute more, taken back', () => {
    const { room, at } = divided();
    room.say(instructor, { type: 'hold', group: 'right' });
    expect([at('left').phase, at('right').phase, room.state.phase]).toEqual(['running', 'held', 'running']);
    room.say(instructor, { type: 'hold' });
    expect([at('left').phase, room.state.phase]).toEqual(['held', 'held']);
    room.say(instructor, { type: 'resume' });
    room.say(instructor, { type: 'extend', minutes: 3, group: 'left' });
    expect(at('left').current?.extendedMin).toBe(3);
    expect(at('right').current?.extendedMin).toBe(0);
    room.say(instructor, { type: 'goOn', from: 0, group: 'right' });
    room.say(instructor, { type: 'takeBack', group: 'right' });
    expect(currentItem(at('right'))?.stepId).toBe('one');
  });
  it('a step must say whose it is, and may not come before its group is there', () => {
    const { room, cato } = divided();
    expect(() => room.say(instructor, { type: 'goOn', from: 0 })).toThrow(/Say which of its groups/);
    expect(() => room.say(instructor, { type: 'goOn', from: 0, group: 'third' })).toThrow(/not in the class/);
    room.say(instructor, { type: 'goOn', from: 0, group: 'left' });
    room.say(instructor, { type: 'goOn', from: 1, group: 'left' });
    expect(() => room.say(cato, { type: 'done', studentId: cato.id, stepId: 'two' })).toThrow(/has not come to this step/);
    expect(room.say(cato, { type: 'done', studentId: cato.id, stepId: 'one' })).toBe(1);
    expect(belief(viewFor(room.state, cato.id), room.state.students[cato.id] as never, room.now).stepNow).toBeNull();
  });
  it('who joins goes where the fewest are, and may be sent elsewhere', () => {
    const { room, dina, at } = divided();
    room.say(instructor, { type: 'move', studentId: dina.id, group: 'left' });
    const emil = room.join('Emil');
    expect(room.state.students[emil.id]?.group).toBe('right');
    expect(Object.keys(at('left').students)).toContain(dina.id);
    expect(room.say(instructor, { type: 'move', studentId: dina.id, group: 'left' })).toBe(0);
    expect(() => room.say(instructor, { type: 'move', studentId: dina.id, group: 'none' })).toThrow(/not in the class/);
  });
  it('all come together where one of the groups is; a touch and the air are of all', () => {
    const { room, at } = divided();
    for (const from of [0]) room.say(instructor, { type: 'goOn', from, group: 'left' });
    room.now += 3 * minute;
    room.say(instructor, { type: 'touchTest', areaId: 'sky', dry: true, group: 'left' });
    expect(secondsLeft(at('left'), room.now)).toBe(0);
    room.say(instructor, { type: 'together', where: 'left' });
    expect(room.state.groups).toBeUndefined();
    expect(currentItem(room.state)?.kind).toBe('pause');
    expect(Object.values(room.state.students).every((student) => student.group === undefined)).toBe(true);
    room.say(instructor, { type: 'goOn', from: 1 });
    expect(currentItem(room.state)?.stepId).toBe('two');
  });
  it('folded again from its events it is the same; the end is the end of all', () => {
    const { room, at } = divided();
    room.say(instructor, { type: 'goOn', from: 0, group: 'right' });
    room.say(instructor, { type: 'end' });
    expect([at('left').phase, at('right').phase, room.state.phase]).toEqual(['ended', 'ended', 'ended']);
    const again = newClass();
    for (const event of room.events) fold(again, event);
    expect(stateHash(again)).toBe(stateHash(room.state));
    expect(JSON.parse(JSON.stringify(viewOf(again, 'right')))).toEqual(JSON.parse(JSON.stringify(at('right'))));
  });
  it('afterwards each group is told of by itself, the one too that ended by coming to the other', () => {
    const { room, cato } = divided();
    room.say(instructor, { type: 'goOn', from: 0, group: 'left' });
    room.now += 4 * minute;
    room.say(cato, { type: 'done', studentId: cato.id, stepId: 'one' });
    room.say(instructor, { type: 'goOn', from: 0, group: 'right' });
    room.now += 2 * minute;
    const inGroups = happened(room.events);
    expect(inGroups.parts.map(({ name }) => name)).toEqual([left.name, right.name]);
    const own = (id: string) => happened(room.events, id).items.find((one) => one.stepId === 'one');
    // The one went on at once, the other four minutes later; each counts its own people.
    expect((own('right')?.actual ?? 0) - (own('left')?.actual ?? 0)).toBeCloseTo(4, 6);
    expect([own('left')?.done, own('right')?.done]).toEqual([0, 1]);
    expect([own('left')?.present, own('right')?.present]).toEqual(
      ['left', 'right'].map((id) => Object.values(room.state.students).filter((one) => one.group === id).length),
    );
    const before = own('right');
    room.say(instructor, { type: 'together', where: 'left' });
    room.say(instructor, { type: 'end' });
    const after = happened(room.events);
    expect(after.parts.map(({ name }) => name)).toEqual([null, right.name]);
    expect([after.part, after.students]).toEqual(['all', 4]);
    const apart = happened(room.events, after.parts[1]?.id);
    expect(apart.items.find((one) => one.stepId === 'one')).toEqual(before);
    expect(apart.items.find((one) => one.kind === 'pause')?.actual).toBeCloseTo(2, 6);
    expect(happened(driven().events).parts).toEqual([]);
  });
});
