import { beforeEach, describe, expect, it } from '@jest/globals';
import { newClass } from '@viaticum/core/class';
import { forgetOld, remember, remembered, rememberedState } from './remembered.js';

const store = new Map<string, string>();
let isFull = false;
beforeEach(() => {
  store.clear();
  isFull = false;
  Object.assign(globalThis, {
    localStorage: {
      getItem: (key: string) => store.get(key) ?? null,
      setItem: (key: string, value: string) => {
        if (isFull) throw new Error('QuotaExceededError');
        store.set(key, value);
      },
      removeItem: (key: string) => store.delete(key),
    },
  });
});

describe('what a phone keeps', () => {
  it('comes back as it was, is let go with null, and is nothing where it cannot be read', () => {
    remember('a', { x: [1, 2] });
    expect(remembered('a')).toEqual({ x: [1, 2] });
    remember('a', null);
    expect(remembered('a')).toBeNull();
    store.set('b', '{half');
    expect(remembered('b')).toBeNull();
  });
  it('a full storage stops nothing', () => {
    isFull = true;
    expect(() => remember('a', 1)).not.toThrow();
  });
  it('a state from an earlier version, which lacks what today’s has, is heard anew from the server', () => {
    const state = newClass();
    remember('class', { state, you: 'mara' });
    expect(rememberedState('class')).toEqual({ state, you: 'mara' });
    const { visits: _, ...older } = state;
    remember('class', { state: older, you: 'mara' });
    expect(rememberedState('class')).toBeNull();
    expect(rememberedState('none')).toBeNull();
  });
});

describe('a phone after thirty days', () => {
  const DAY = 86_400_000;
  const now = Date.UTC(2026, 4, 1);
  const keep = (code: string) => {
    for (const key of [
      `sheet-${code}`,
      `class-${code}`,
      `student-${code}`,
      `recipes-${code}-pb29`,
      `film-/api/join/${code}`,
      `offered-${code}`,
    ])
      store.set(`viaticum-${key}`, 'x');
  };
  beforeEach(() => {
    // A storage has its keys as its own.
    Object.assign(globalThis, {
      localStorage: new Proxy(globalThis.localStorage, {
        ownKeys: () => [...store.keys()],
        getOwnPropertyDescriptor: () => ({ enumerable: true, configurable: true }),
      }),
    });
  });
  it('forgets a class that was not looked at since, with all that was kept of it, and keeps the others and its settings', () => {
    keep('KRN4WQ');
    forgetOld('KRN4WQ', now);
    keep('ZZZ234');
    store.set('viaticum-alone-class-a_b-C', 'x');
    store.set('viaticum-phone', 'settings');
    forgetOld('ZZZ234', now + 29 * DAY);
    expect(store.has('viaticum-class-KRN4WQ')).toBe(true);
    forgetOld('ZZZ234', now + 31 * DAY);
    expect([...store.keys()].filter((key) => key.includes('KRN4WQ'))).toEqual([]);
    expect([...store.keys()].filter((key) => key.includes('ZZZ234'))).toHaveLength(6);
    expect([store.get('viaticum-phone'), store.get('viaticum-alone-class-a_b-C')]).toEqual(['settings', 'x']);
    forgetOld('', now + 70 * DAY);
    expect([...store.keys()].sort()).toEqual(['viaticum-phone', 'viaticum-seen']);
    expect(store.get('viaticum-seen')).not.toMatch(/KRN4WQ|ZZZ234/);
  });
  it('looked at again within the time a class stays', () => {
    keep('KRN4WQ');
    for (const days of [0, 20, 40, 60]) forgetOld('KRN4WQ', now + days * DAY);
    expect(store.has('viaticum-sheet-KRN4WQ')).toBe(true);
  });
});
