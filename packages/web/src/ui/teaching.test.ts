import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { strokes } from '@viaticum/contract';
import { readySchools, schoolOf, usualStroke } from '@viaticum/core/draft';
import { beginWords } from '../words/begin.js';
import { findWords, listWords, markWords } from '../words/steps.js';
import { othersWords, preparingWords, readWords, repairWords, valuesWords } from '../words/teach.js';
import { strokeWays } from './stroke-ways.js';

/** Every text of a catalogue, those that take numbers or names with some put in. */
function texts(value: unknown): string[] {
  if (typeof value === 'string') return [value];
  if (typeof value === 'function') {
    const say = value as (...args: unknown[]) => unknown;
    try {
      return [String(say(2, 3, 4, 5))];
    } catch {
      // It takes names.
      return [String(say('white', 'red', 'blue', 'green'))];
    }
  }
  return value && typeof value === 'object' ? Object.values(value).flatMap(texts) : [];
}
const all = [
  beginWords,
  findWords,
  listWords,
  markWords,
  repairWords,
  othersWords,
  preparingWords,
  readWords,
  valuesWords,
].flatMap(texts);

describe('the wording of the Steps station', () => {
  it('speaks calmly: no exclamation marks, no leftovers, no long tails of digits', () => {
    for (const text of all) {
      expect(text).not.toMatch(/!|undefined|NaN|\[object|\d\.\d{3,}/);
      expect(text.trim()).toBe(text.trimEnd());
    }
  });
  it('never declares anything safe', () => {
    for (const text of all) expect(text).not.toMatch(/\b(is|are) safe\b|harmless|non-toxic/i);
  });
});

describe('strokes', () => {
  it.each(strokes.map((stroke) => [stroke]))('%s has a diagram within its field, a name and how it is done', (stroke) => {
    const { leaves, hand, seconds } = strokeWays[stroke];
    expect(leaves.length).toBeGreaterThan(0);
    expect(hand).toMatch(/^M/);
    expect(seconds).toBeGreaterThan(0.5);
    // Absolute moves and lines stay in the field of 100 by 60.
    for (const path of [...leaves, hand])
      for (const [, x, y] of path.matchAll(/[ML](-?[\d.]+)[ ,](-?[\d.]+)/g)) {
        expect(Number(x)).toBeGreaterThanOrEqual(0);
        expect(Number(x)).toBeLessThanOrEqual(100);
        expect(Number(y)).toBeGreaterThanOrEqual(0);
        expect(Number(y)).toBeLessThanOrEqual(60);
      }
    expect(markWords.strokes[stroke].how).toMatch(/\.$/);
  });
  it('every technique has a stroke that goes with it', () => {
    for (const stroke of Object.values(usualStroke)) expect(strokes).toContain(stroke);
  });
  it('moving diagrams stand still where movement is not wanted', () => {
    const css = readFileSync(new URL('./stroke-diagram.module.css', import.meta.url), 'utf8');
    const still = css.slice(css.indexOf('prefers-reduced-motion: reduce'));
    expect(still).toMatch(/animation: none/);
    expect(css.indexOf('prefers-reduced-motion: reduce')).toBeGreaterThan(css.lastIndexOf('animation: stroke-'));
  });
});

describe('ready schools', () => {
  it('each has words and a reason, and is a whole school', () => {
    for (const [name, school] of Object.entries(beginWords.schools)) {
      expect(school.why).toMatch(/\.$/);
      expect(Object.keys(schoolOf(name as keyof typeof readySchools)).length).toBeGreaterThanOrEqual(17);
    }
    expect(Object.keys(beginWords.schools).sort()).toEqual(Object.keys(readySchools).sort());
  });
});
