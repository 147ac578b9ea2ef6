import { beforeEach, describe, expect, it } from '@jest/globals';
import { newClass } from '@viaticum/core/class';
import { remember, remembered, rememberedState } from './remembered.js';

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
