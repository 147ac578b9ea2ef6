import { describe, expect, it } from '@jest/globals';
import type { ClassEvent } from '@viaticum/contract';
import { uniform } from '../pace/index.js';
import { driven } from './class.fixture.js';
import { asKept, type ClassState, type Eye, fold, foldStretch, NO_NAME, newClass, seenBy, stateHash, viewFor } from './index.js';

const seen = (events: readonly ClassEvent[], eye: Eye): ClassEvent[] => events.flatMap((event) => seenBy(eye, event) ?? []);
const own = (studentId: string | null): Eye => ({ sees: 'own', studentId });
const held = (events: readonly ClassEvent[], eye: Eye): ClassState =>
  foldStretch(newClass(), seen(events, eye), events.at(-1)?.seq ?? 0);

/** A class of three in which something of each kind happens. */
function room() {
  const it = driven();
  const [mara, kofi, ines] = [it.join('Mara'), it.join('Kofi'), it.join('Ines')];
  it.say({ kind: 'instructor' }, { type: 'goOn', from: -1 });
  it.now += 60_000;
  it.say(mara, { type: 'done', studentId: mara.id, stepId: 'one' });
  it.say(kofi, { type: 'hand', studentId: kofi.id, reason: 'colour' });
  it.say(ines, { type: 'rename', studentId: ines.id, firstName: 'Inés' });
  it.say({ kind: 'instructor' }, { type: 'remove', studentId: kofi.id });
  it.say({ kind: 'instructor' }, { type: 'extend', minutes: 2 });
  return { it, mara, kofi, ines };
}

describe('what a screen is shown of a class', () => {
  it('a phone: the class and its own student, whole; nobody else, and no other name', () => {
    const { it, mara, ines } = room();
    const phone = held(it.events, own(mara.id));
    expect(Object.keys(phone.students)).toEqual([mara.id]);
    expect(phone.students[mara.id]).toEqual(it.state.students[mara.id]);
    for (const key of ['phase', 'plan', 'current', 'visits', 'airs', 'seq'] as const) expect(phone[key]).toEqual(it.state[key]);
    expect(JSON.stringify(seen(it.events, own(mara.id)))).not.toMatch(/Kofi|Ines|Inés/);
    // Who was taken out hears it; who is nobody yet hears the class alone.
    expect(held(it.events, own(ines.id)).removed).toEqual([]);
    expect(held(it.events, own('s2')).removed).toEqual(['s2']);
    expect(held(it.events, own(null)).students).toEqual({});
  });
  it('a wall: everybody where they are, without a name', () => {
    const { it } = room();
    const wall = held(it.events, { sees: 'room' });
    const nameless = Object.entries(it.state.students).map(([id, one]) => [id, { ...one, firstName: NO_NAME }]);
    expect(wall.students).toEqual(Object.fromEntries(nameless));
    expect(stateHash(held(it.events, { sees: 'all' }))).toBe(stateHash(it.state));
  });
  it('however its stretches were cut, and repeated, a phone holds the same', () => {
    const { it, mara } = room();
    const whole = stateHash(held(it.events, own(mara.id)));
    const draw = uniform(5);
    for (let round = 0; round < 200; round++) {
      const state = newClass();
      let from = 0;
      while (from < it.events.length) {
        const to = Math.min(it.events.length, from + 1 + Math.floor(draw() * 4));
        const part = seen(it.events.slice(from, to), own(mara.id));
        foldStretch(state, part, to);
        if (draw() < 0.3) foldStretch(state, part, to);
        from = to;
      }
      expect(stateHash(state)).toBe(whole);
    }
  });
  it('in a class in groups a phone knows its own, though it does not know how many are in each', () => {
    const it = driven();
    const [mara, kofi] = [it.join('Mara'), it.join('Kofi')];
    it.say({ kind: 'instructor' }, { type: 'goOn', from: -1 });
    it.say(
      { kind: 'instructor' },
      {
        type: 'divide',
        groups: [
          { id: 'a', name: 'Window' },
          { id: 'b', name: 'Door' },
        ],
        of: [
          { studentId: mara.id, group: 'a' },
          { studentId: kofi.id, group: 'a' },
        ],
      },
    );
    // The smallest group is the other one.
    const late = it.join('Ines');
    it.say({ kind: 'instructor' }, { type: 'goTo', from: 0, to: 2, group: 'b' });
    const phone = held(it.events, own(late.id));
    expect(phone.students[late.id]?.group).toBe('b');
    expect(viewFor(phone, late.id).current?.index).toBe(2);
    expect(viewFor(held(it.events, own(mara.id)), mara.id).current?.index).toBe(0);
  });
  it('a log is a slice of itself for who sees all', () => {
    const { it } = room();
    const plain = newClass();
    for (const event of it.events) fold(plain, event);
    expect(seen(it.events, { sees: 'all' })).toEqual(it.events);
    expect(asKept(plain, plain.students.s1 as never, [])).toEqual(plain.students.s1);
  });
});
