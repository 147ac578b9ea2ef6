import { describe, expect, it } from '@jest/globals';
import { byId, type EventBody, Id, isId, RESERVED_IDS } from '@viaticum/contract';
import { Ajv } from 'ajv';
import { driven, instructor } from './class.fixture.js';
import { fold, newClass, stateHash } from './index.js';

const isValid = new Ajv().compile(Id);
const odd = [...RESERVED_IDS, 'é', '🙂', '\u0000', '', 'a b', 'x'.repeat(33)];

describe('ids from outside', () => {
  it.each(odd)('%j is no id, for the schema and for the test alike', (text) => {
    expect([isValid(text), isId(text)]).toEqual([false, false]);
  });
  it.each(['a', 'constructors', 'to_string', '-', '__proto', 'x'.repeat(32)])('%j is one', (text) => {
    expect([isValid(text), isId(text)]).toEqual([true, true]);
  });
  it('a record by ids answers to what was put in and to nothing else', () => {
    const record = byId([['a', 1]]);
    expect(record.a).toBe(1);
    for (const name of RESERVED_IDS) expect(record[name]).toBeUndefined();
  });
});

describe('a log that was written before ids were narrow', () => {
  const bad: EventBody[] = RESERVED_IDS.flatMap((studentId): EventBody[] => [
    { type: 'joined', v: 1, studentId, firstName: 'X', kit: [] },
    { type: 'handRaised', v: 1, studentId, reason: 'lost' },
    { type: 'seated', v: 1, studentId, seat: 2 },
    { type: 'stepDone', v: 1, studentId: 's1', stepId: studentId },
    { type: 'removed', v: 1, studentId },
    { type: 'touchTested', v: 1, areaId: studentId, dry: true },
  ]);
  it('is read: what names no id is passed over and counted, all else stands', () => {
    const it_ = driven();
    const mara = it_.join('Mara');
    it_.say(instructor, { type: 'goOn', from: -1 });
    const before = structuredClone(it_.state);
    for (const body of bad) it_.apply(body);
    expect(it_.state).toMatchObject({ passedOver: bad.length, seq: before.seq + bad.length });
    expect({ ...it_.state, passedOver: 0, seq: 0, at: 0 }).toEqual({ ...before, passedOver: 0, seq: 0, at: 0 });
    it_.say(mara, { type: 'hand', studentId: mara.id, reason: 'lost' });
    expect(it_.state.students[mara.id]?.hand).not.toBeNull();
    const again = newClass();
    for (const event of it_.events) fold(again, event);
    expect(stateHash(again)).toBe(stateHash(it_.state));
    expect(({} as Record<string, unknown>).hand).toBeUndefined();
  });
  it('a student whom only the prototype knows is in no class', () => {
    const it_ = driven();
    for (const studentId of RESERVED_IDS)
      expect(() => it_.say(instructor, { type: 'hand', studentId, reason: 'lost' })).toThrow(/not in the class/);
  });
});
