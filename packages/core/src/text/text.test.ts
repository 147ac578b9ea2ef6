import { describe, expect, it } from '@jest/globals';
import { type Technique, techniques } from '@viaticum/contract';
import fc from 'fast-check';
import { demoLesson } from '../fixtures/lessons.js';
import { careWords, otherWords, paintingWords, plainSay, plainWords, readingMinutes, richLines, richWords } from './index.js';

const lesson = demoLesson('kettle');
const step = (technique: Technique, rest: Partial<Parameters<typeof paintingWords>[1]> = {}) =>
  paintingWords(lesson, {
    technique,
    areaIds: ['kettle', 'spout'],
    mixIds: ['m-copper'],
    brushId: 'flat-1-in',
    needs: 'any',
    ...rest,
  });

describe('the words of a step that paints', () => {
  it.each(techniques)('%s: what to do, what goes wrong, how to look and when it is right, in whole sentences', (technique) => {
    const words = step(technique);
    for (const text of [words.say, words.watch, words.checkpoint, words.finish]) expect(text).toMatch(/^[A-Z“].*[.?]$/);
    expect(words.checkpoint).toMatch(/\?$/);
    expect(words.title.length).toBeLessThanOrEqual(120);
    expect(readingMinutes(words.say)).toBeLessThan(1);
  });
  it('names the mix and the brush first, then what to do', () => {
    expect(step('block-in').say).toMatch(/^Middle copper, with the 1 in flat\. Find the outline of /);
    expect(step('block-in', { mixIds: [] }).say).toMatch(/^Find the outline of /);
    expect(step('blend', { needs: 'wet' }).say).toMatch(/^Straight on, while it is wet\. /);
  });
  it('is called by its areas, or by the whole canvas', () => {
    expect(step('block-in').title).toMatch(/^Kettle and spout|^Copper|^.* and /);
    expect(step('wash', { areaIds: [], wholeCanvas: true }).title).toBe('Tone the whole canvas');
    expect(step('glaze', { areaIds: [], wholeCanvas: true }).title).toMatch(/^The whole canvas/);
  });
  it('an instructor’s own words for a technique go before ours', () => {
    const own = { ...lesson, method: { name: 'mine', says: [{ technique: 'glaze' as const, say: 'Thin as tea.' }] } };
    const words = paintingWords(own, { technique: 'glaze', areaIds: ['kettle'], mixIds: [], needs: 'touchDry' });
    expect(words.say).toBe('Thin as tea.');
  });
  it('steps that lay no paint have words too', () => {
    for (const words of Object.values(otherWords)) {
      expect(words.say).toMatch(/\.$/);
      expect(words.checkpoint).toMatch(/\?$/);
    }
  });
});

describe('what the plan adds to what is said', () => {
  it('is taken out again, and nothing else', () => {
    const own = 'Long strokes, from the rim.';
    const added = `Now comes the rough part: at the end of “wash” it looks its worst. Do not mend it yet. ${own} ${careWords.rinse} ${careWords.water}`;
    expect(plainSay(added)).toBe(own);
    expect(plainSay(own)).toBe(own);
  });
  it('takes its time to be read aloud', () => {
    expect(readingMinutes(Array.from({ length: 130 }, () => 'word').join(' '))).toBeCloseTo(1, 9);
    expect(readingMinutes('  ')).toBe(0);
  });
});

describe('bold and lists, whatever is typed', () => {
  const typed = fc.string({ unit: 'grapheme', maxLength: 60 });
  it('every letter that is no mark is shown, in its order', () => {
    fc.assert(
      fc.property(typed, (text) => {
        const shown = richLines(text)
          .map(
            ({ isItem, spans }) =>
              (isItem ? '- ' : '') + spans.map((one) => (one.isBold ? `**${one.text}**` : one.text)).join(''),
          )
          .join('\n');
        expect(shown).toBe(text);
      }),
      { seed: 4, numRuns: 500 },
    );
  });
  it('plain words hold no more than what was typed', () => {
    fc.assert(
      fc.property(typed, (text) => plainWords(text).length <= text.length),
      { seed: 5, numRuns: 300 },
    );
  });
  it('lines are stored as they were read', () => {
    fc.assert(
      fc.property(typed, (text) => {
        expect(richWords(richLines(text))).toBe(text);
      }),
      { seed: 6, numRuns: 500 },
    );
  });
  it('a bold run with a star in it, which no mark can hold, keeps its words', () => {
    expect(richWords([{ isItem: true, spans: [{ text: '2 * 3', isBold: true }] }])).toBe('- 2 * 3');
  });
});
