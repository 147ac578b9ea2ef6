import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, jest } from '@jest/globals';
import type { Command } from '@viaticum/contract';
import { IDBFactory } from 'fake-indexeddb';
import { keptRows } from './kept-rows.js';
import { commandOutbox } from './outbox.js';

const pressed = { wall: 1, offset: 2, bound: 3, seenSeq: 4 };
const done = (stepId: string): Command => ({ type: 'done', studentId: 's1', stepId });
/** What is stored is stored a moment later: waits until so many rows lie there. */
const stored = async (count: number, code = 'CODE23') => {
  for (let turn = 0; turn < 200 && (await keptRows(code).all()).length !== count; turn++)
    await new Promise((resolve) => setTimeout(resolve, 10));
  return keptRows(code).all();
};

beforeEach(() => {
  globalThis.indexedDB = new IDBFactory();
});

describe('what was said and has no answer', () => {
  it('outlasts the page: another one finds it in its order, with when it was pressed, and sends it under the same id', async () => {
    const first = commandOutbox(keptRows('CODE23'), () => undefined);
    const ids = [first.put(done('one'), pressed).id, first.put(done('two'), pressed).id];
    await stored(2);
    const onChange = jest.fn();
    const next = commandOutbox(keptRows('CODE23'), onChange);
    await next.load();
    expect(onChange).toHaveBeenCalledTimes(1);
    expect(next.next()).toEqual([
      expect.objectContaining({ id: ids[0], command: done('one'), pressed }),
      expect.objectContaining({ id: ids[1], command: done('two'), pressed }),
    ]);
    expect(next.next()).toEqual([]);
    next.broken();
    expect(next.next().map(({ id }) => id)).toEqual(ids);
    next.settle(ids[0] as string, { ok: true });
    expect((await stored(1)).map(({ id }) => id)).toEqual([ids[1]]);
    // Of another class it is none.
    expect(await keptRows('CODE24').all()).toEqual([]);
  });
  it('what undoes itself is answered at once and leaves nothing behind', async () => {
    const outbox = commandOutbox(keptRows('CODE23'), () => undefined);
    const said = outbox.put(done('one'), pressed).answer;
    const back = outbox.put({ type: 'notYet', studentId: 's1', stepId: 'one' }, pressed).answer;
    expect(await Promise.all([said, back])).toEqual([{ ok: true }, { ok: true }]);
    expect(outbox.rows()).toEqual([]);
    expect(await stored(0)).toEqual([]);
  });
  it('what moves the class is not stored', async () => {
    const outbox = commandOutbox(keptRows('CODE23'), () => undefined);
    outbox.put({ type: 'goOn', from: 1 }, pressed);
    outbox.put(done('one'), pressed);
    expect(outbox.rows()).toHaveLength(2);
    expect((await stored(1)).map(({ command }) => command.type)).toEqual(['done']);
  });
  it('after two weeks nobody waits for it', async () => {
    const rows = keptRows('CODE23');
    await rows.put({ id: 'old', command: done('one'), pressed });
    const later = Date.now() + 15 * 24 * 3_600_000;
    const clock = jest.spyOn(Date, 'now').mockReturnValue(later);
    expect(await rows.all()).toEqual([]);
    clock.mockRestore();
    expect(await rows.all()).toEqual([]);
  });
  it('without a database it is kept with the page’s own things', async () => {
    const store = new Map<string, string>();
    Object.assign(globalThis, {
      indexedDB: undefined,
      localStorage: {
        getItem: (key: string) => store.get(key) ?? null,
        setItem: (key: string, value: string) => store.set(key, value),
        removeItem: (key: string) => store.delete(key),
      },
    });
    const rows = keptRows('CODE23');
    await rows.put({ id: 'a', command: done('one'), pressed });
    await rows.put({ id: 'b', command: done('two'), pressed });
    expect((await keptRows('CODE23').all()).map(({ id }) => id)).toEqual(['a', 'b']);
    await rows.remove(['a']);
    expect((await keptRows('CODE23').all()).map(({ id }) => id)).toEqual(['b']);
  });
});
