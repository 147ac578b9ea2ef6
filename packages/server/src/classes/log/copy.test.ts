import { describe, expect, it } from '@jest/globals';
import type { ClassEvent } from '@viaticum/contract';
import type { Eye } from '@viaticum/core/class';
import { demoLesson } from '@viaticum/core/fixtures';
import { planLesson } from '@viaticum/core/plan';
import { LogCopy } from './copy.js';

const { plan } = planLesson(demoLesson('kettle'));
const opened: ClassEvent = {
  seq: 1,
  at: 1000,
  actor: 'instructor',
  body: { type: 'opened', v: 1, revision: 1, plan, code: 'KRN4WQ' },
};
const joined = (seq: number, studentId: string): ClassEvent => ({
  seq,
  at: 1000 + seq,
  actor: studentId,
  body: { type: 'joined', v: 1, studentId, firstName: studentId, kit: [], seat: seq - 2, has: [] } as ClassEvent['body'],
});
const held = (...events: ClassEvent[]) => {
  const copy = new LogCopy();
  copy.hear(events);
  return copy;
};
const ALL: Eye = { sees: 'all' };
const seqs = (events: readonly ClassEvent[]) => events.map((event) => event.seq);

describe('a log in memory', () => {
  it('what was taken counts for the next decision, but nobody is told of it before it is committed', () => {
    const copy = held(opened);
    copy.take(joined(2, 'a'));
    expect(Object.keys(copy.state.students)).toEqual(['a']);
    expect([copy.head, seqs(copy.after(0, 10, ALL).events)]).toEqual([1, [1]]);
    copy.commit();
    expect([copy.head, seqs(copy.after(0, 10, ALL).events)]).toEqual([2, [1, 2]]);
  });
  it('goes back to what is committed, as if the rest had never been', () => {
    const copy = held(opened, joined(2, 'a'));
    copy.take(joined(3, 'b'));
    copy.take(joined(4, 'c'));
    copy.rewind();
    expect([copy.head, copy.state.seq, Object.keys(copy.state.students)]).toEqual([2, 2, ['a']]);
    copy.take(joined(3, 'd'));
    copy.commit();
    expect(Object.keys(copy.state.students)).toEqual(['a', 'd']);
  });
  it('hears only what is new to it, and gives that', () => {
    const copy = held(opened, joined(2, 'a'));
    expect(seqs(copy.hear([opened, joined(2, 'a'), joined(3, 'b')]))).toEqual([3]);
    expect(seqs(copy.hear([opened]))).toEqual([]);
    expect(copy.head).toBe(3);
  });
  it('gives no more than is asked for', () => {
    const copy = held(opened, joined(2, 'a'), joined(3, 'b'), joined(4, 'c'));
    expect(copy.after(1, 2, ALL)).toMatchObject({ from: 2, to: 3, events: [{ seq: 2 }, { seq: 3 }] });
    expect(copy.after(4, 2, ALL)).toEqual({ from: 5, to: 4, events: [] });
  });
  it('a phone is given what is its own, as far as there is anything; what is of others counts as seen', () => {
    const copy = held(opened, joined(2, 'a'), joined(3, 'b'), joined(4, 'c'));
    const own = (studentId: string | null): Eye => ({ sees: 'own', studentId });
    expect(copy.after(0, 10, own('b'))).toEqual({ from: 1, to: 4, events: [opened, joined(3, 'b')] });
    // As many of its own as were asked for, wherever they stand.
    expect(copy.after(1, 1, own('c'))).toMatchObject({ from: 2, to: 4, events: [{ seq: 4 }] });
    expect(copy.after(1, 9, own(null))).toEqual({ from: 2, to: 4, events: [] });
  });
  it('takes nothing over a gap', () => {
    expect(() => held(opened).take(joined(3, 'b'))).toThrow();
  });
});
