/** @jest-environment ./tools/jest-page.mjs */
import { afterEach, describe, expect, it } from '@jest/globals';
import { apart, exactFiguresOn, figure, setExactFigures } from './exact.js';
import { words } from './words.js';

afterEach(() => localStorage.clear());

describe('colour differences', () => {
  it('are words, farther apart the larger they are', () => {
    const said = [0.4, 1.8, 4, 8, 20].map(apart);
    expect(said).toEqual(['the same to the eye', 'hardly to be told apart', 'close', 'some way off', 'far off']);
    expect(words.paints.deltaE(4)).toBe('close');
  });
  it('have their figure for who wants it, on this machine', () => {
    expect(exactFiguresOn()).toBe(false);
    expect(figure(3.14)).toBe('');
    setExactFigures(true);
    expect(apart(3.14)).toBe('close (ΔE00 3.1)');
    expect(words.paints.exactly(3.14)).toBe('ΔE00 3.1, ');
    setExactFigures(false);
    expect(apart(3.14)).toBe('close');
  });
});
