import { describe, expect, it } from '@jest/globals';
import type { Command } from '@viaticum/contract';
import fc from 'fast-check';
import { type Device, device } from '../fixtures/class-cases/device.js';
import { driven, instructor, minute, wet } from './class.fixture.js';
import { asKept, belief, isKept, type Kept, nextKept, phoneClock, putKept, WINDOW, whenSaid } from './index.js';

const pressed = { wall: 0, offset: 0, bound: 0, seenSeq: 0 };
const done = (stepId: string): Command => ({ type: 'done', studentId: 's1', stepId });
const row = (id: string, command: Command): Kept => ({ id, command, pressed });
const put = (...commands: Command[]) =>
  commands.reduce((rows, one, k) => putKept(rows, row(`k${k}`, one), new Set()).rows, [] as Kept[]);

describe('what waits for a network', () => {
  it('a hand taken down and a Done taken back need not be said at all, as long as they are not on their way', () => {
    const hand: Command = { type: 'hand', studentId: 's1', reason: 'other' };
    expect(put(hand, { type: 'handDown', studentId: 's1' })).toEqual([]);
    expect(put(done('one'), done('two'), { type: 'notYet', studentId: 's1', stepId: 'one' }).map((one) => one.id)).toEqual([
      'k1',
    ]);
    const sent = putKept([row('k0', hand)], row('k1', { type: 'handDown', studentId: 's1' }), new Set(['k0']));
    expect(sent).toEqual({ rows: [row('k0', hand), row('k1', { type: 'handDown', studentId: 's1' })], settled: [] });
    // Of somebody else it undoes nothing.
    expect(put(hand, { type: 'handDown', studentId: 's2' })).toHaveLength(2);
  });
  it('goes on its way in its order, never more than a window of it at once', () => {
    const rows = Array.from({ length: 40 }, (_, k) => row(`k${k}`, done(`step${k}`)));
    const first = nextKept(rows, new Set());
    expect(first.map((one) => one.id)).toEqual(rows.slice(0, WINDOW).map((one) => one.id));
    expect(nextKept(rows, new Set(first.map((one) => one.id)))).toEqual([]);
    expect(nextKept(rows.slice(3), new Set(first.slice(3).map((one) => one.id))).map((one) => one.id)).toEqual([
      'k16',
      'k17',
      'k18',
    ]);
  });
  it('what one says of oneself is kept; what moves the class is not', () => {
    expect((['goOn', 'hold', 'touchTest', 'end', 'replan'] as const).some((type) => isKept({ type } as Command))).toBe(false);
    expect((['done', 'answer', 'hand', 'look', 'join'] as const).every((type) => isKept({ type } as Command))).toBe(true);
  });
  it('counts on one’s own screen at once: done, taken back, a hand', () => {
    const room = driven(wet);
    const mara = room.join('Mara');
    room.say(instructor, { type: 'goOn', from: -1 });
    const student = room.state.students[mara.id];
    if (!student) throw new Error('no student');
    const at = room.now + 3 * minute;
    const kept = (command: Command): Kept => ({
      id: 'x',
      command,
      pressed: { wall: at - 500, offset: 500, bound: 10, seenSeq: 2 },
    });
    const own = asKept(room.state, student, [
      kept({ type: 'done', studentId: mara.id, stepId: 'one' }),
      kept({ type: 'hand', studentId: mara.id, reason: 'colour' }),
    ]);
    expect(own.doneAt.one).toBe(at);
    expect(own.hand).toEqual({ reason: 'colour', at });
    expect(student.doneAt.one).toBeUndefined();
    expect(
      asKept(room.state, { ...student, doneAt: { one: at } }, [kept({ type: 'notYet', studentId: mara.id, stepId: 'one' })])
        .doneAt,
    ).toEqual({});
  });
});

describe('when it was said', () => {
  const state = { clock: null };
  it('is when it was pressed, between what was seen before and now', () => {
    expect(whenSaid(state, { pressed: 50_000, bound: 100 }, 10_000, 90_000)).toEqual({ saidAt: 50_000 });
    expect(whenSaid(state, { pressed: 9_950, bound: 100 }, 10_000, 90_000)).toEqual({ saidAt: 10_000 });
    expect(whenSaid(state, { pressed: 89_000, bound: 100 }, 10_000, 90_000)).toBeNull();
  });
  it('is the middle of what is possible where the clock cannot be believed', () => {
    const middle = { saidAt: 50_000, rough: true };
    expect(whenSaid(state, { pressed: 50_000, bound: 200_000 }, 10_000, 90_000)).toEqual(middle);
    expect(whenSaid(state, { pressed: -86_400_000, bound: 100 }, 10_000, 90_000)).toEqual(middle);
    expect(whenSaid(state, { pressed: 86_400_000, bound: 100 }, 10_000, 90_000)).toEqual(middle);
    expect(whenSaid(state, { pressed: Number.NaN, bound: 100 }, 10_000, 90_000)).toEqual(middle);
  });
  it('in a rehearsal that runs faster goes by the class’s time', () => {
    const clock = { real: 0, at: 1_000_000, speed: 20 };
    expect(whenSaid({ clock }, { pressed: 10_000, bound: 100 }, 1_000_000, 1_400_000)).toEqual({ saidAt: 1_200_000 });
  });
  it('a Done of before the end is heard after it; one of after it is not', () => {
    const room = driven(wet);
    const mara = room.join('Mara');
    room.say(instructor, { type: 'goOn', from: -1 });
    room.now += 5 * minute;
    const saidAt = room.now;
    room.now += minute;
    room.say(instructor, { type: 'end' });
    room.now += 20 * minute;
    const command: Command = { type: 'done', studentId: mara.id, stepId: 'one' };
    expect(() => room.say(mara, command, { said: { saidAt: room.now - minute } })).toThrow(/ended/);
    expect(room.say(mara, command, { said: { saidAt } })).toBe(1);
    expect(room.state.students[mara.id]?.doneAt.one).toBe(saidAt);
  });
  it('what a student said themselves replaces what the desk took them to have done', () => {
    const room = driven(wet);
    const mara = room.join('Mara');
    room.say(instructor, { type: 'goOn', from: -1 });
    room.now += 4 * minute;
    const saidAt = room.now;
    room.now += 10 * minute;
    const command: Command = { type: 'done', studentId: mara.id, stepId: 'one' };
    room.say(instructor, command);
    expect(room.say(mara, command)).toBe(0);
    expect(room.say(mara, command, { said: { saidAt } })).toBe(1);
    expect(room.state.students[mara.id]).toMatchObject({ doneAt: { one: saidAt }, doneBy: {} });
  });
});

describe('the server’s clock on a screen', () => {
  it('goes by the shortest trip of the last ten minutes; what drifts grows less sure', () => {
    const clock = phoneClock();
    clock.first(1000, 61_000);
    expect(clock.now(1000, 0)).toBe(61_000);
    clock.trip(1000, 1400, 400, 61_200 + 30);
    clock.trip(2000, 2040, 1040, 62_020);
    clock.trip(3000, 3900, 2900, 63_000);
    expect(clock.reading(3900, 2900)).toEqual({ offset: 60_000, bound: expect.closeTo(20 + 50e-6 * 1860, 6) });
  });
  it('that is set by somebody changes nothing, also without a network', () => {
    const clock = phoneClock();
    clock.trip(0, 20, 20, 100_010);
    expect(clock.now(5000, 5000)).toBe(105_000);
    // Forty minutes on, and back again.
    expect(clock.now(5000 + 2_400_000, 6000)).toBeCloseTo(106_000, -3);
    expect(clock.now(7000, 7000)).toBeCloseTo(107_000, -3);
  });
  it('outlasts a reload, a second less sure', () => {
    const before = phoneClock();
    before.trip(0, 20, 20, 100_010);
    const stored = before.reading(20, 20);
    expect(phoneClock(stored).reading(50, 0)).toEqual({ offset: stored.offset, bound: stored.bound + 1000 });
  });
});

describe('phones with clocks that are wrong, without networks, reloaded', () => {
  type Act = { who: number; does: 'press' | 'offline' | 'online' | 'reload' | 'set'; by: number; after: number };
  const acts = fc.array(
    fc.record({
      who: fc.nat(6),
      does: fc.constantFrom('press', 'press', 'press', 'offline', 'online', 'reload', 'set') as fc.Arbitrary<Act['does']>,
      by: fc.integer({ min: -1440, max: 1440 }),
      after: fc.integer({ min: 50, max: 90_000 }),
    }),
    { maxLength: 200 },
  );
  it('every press is heard once, at its time within its bound, and no more than a window is on its way', () => {
    fc.assert(
      fc.property(acts, (all) => {
        let at = 1_000_000;
        const heard = new Map<string, { saidAt: number; bound: number }>();
        const pressedAt = new Map<string, number>();
        const phones: Device[] = Array.from({ length: 7 }, () =>
          device(
            ({ command, pressed, bound, at: now }) => {
              const key = (command as { stepId: string }).stepId;
              expect(heard.has(key)).toBe(false);
              const said = whenSaid({ clock: null }, { pressed, bound }, 1_000_000, now);
              heard.set(key, { saidAt: said?.saidAt ?? now, bound: said?.rough ? Number.POSITIVE_INFINITY : bound });
            },
            () => 1,
          ),
        );
        for (const one of phones) one.listen(at);
        for (const [k, act] of all.entries()) {
          at += act.after;
          const phone = phones[act.who] as Device;
          for (const one of phones) one.listen(at);
          if (act.does === 'press') {
            pressedAt.set(`p${k}`, at);
            phone.press(done(`p${k}`), at);
          } else if (act.does === 'offline') phone.goOffline(at);
          else if (act.does === 'online') phone.goOnline(at);
          else if (act.does === 'reload') phone.reload(at);
          else phone.setClock(act.by, at);
        }
        for (const one of phones) one.goOnline(at);
        expect(new Set(heard.keys())).toEqual(new Set(pressedAt.keys()));
        for (const [key, { saidAt, bound }] of heard)
          expect(Math.abs(saidAt - (pressedAt.get(key) ?? 0))).toBeLessThanOrEqual(bound + 2001);
        expect(Math.max(...phones.map((one) => one.counts.mostInFlight))).toBeLessThanOrEqual(WINDOW);
      }),
      { seed: 20, numRuns: 150 },
    );
  });
  it('what is believed is the same whether it was heard at once or later', () => {
    const both = [false, true].map((isLate) => {
      const room = driven(wet);
      const mara = room.join('Mara');
      room.say(instructor, { type: 'goOn', from: -1 });
      room.now += 4 * minute;
      const saidAt = room.now;
      const say = () => room.say(mara, { type: 'done', studentId: mara.id, stepId: 'one' }, isLate ? { said: { saidAt } } : {});
      if (!isLate) say();
      room.now += minute;
      room.say(instructor, { type: 'goOn', from: 0 });
      room.now += 3 * minute;
      if (isLate) {
        belief(room.state, room.state.students[mara.id] as never, room.now);
        say();
      }
      return belief(room.state, room.state.students[mara.id] as never, room.now).fingerprint();
    });
    expect(both[0]).toBe(both[1]);
  });
});
