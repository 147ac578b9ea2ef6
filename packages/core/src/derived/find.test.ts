import { describe, expect, it } from '@jest/globals';
import { demoLesson, smallLesson, testStep } from '../fixtures/lessons.js';
import { plainWords, richLines } from '../text/index.js';
import { findInLesson, followSheet } from './index.js';

describe('words with bold and lists', () => {
  it('bold between two stars, items after a dash; everything else is what it is, tags too', () => {
    expect(richLines('Take **little** paint\n- one\n<b>two</b> * three')).toEqual([
      {
        isItem: false,
        spans: [
          { text: 'Take ', isBold: false },
          { text: 'little', isBold: true },
          { text: ' paint', isBold: false },
        ],
      },
      { isItem: true, spans: [{ text: 'one', isBold: false }] },
      { isItem: false, spans: [{ text: '<b>two</b> * three', isBold: false }] },
    ]);
    expect(plainWords('Take **little** paint\n- one')).toBe('Take little paint\none');
    expect(plainWords('**')).toBe('**');
  });
  it('emoji, right-to-left words and ten thousand words come through', () => {
    for (const text of ['🎨 **🖌️**', 'השמים **כהים** למעלה', 'wort '.repeat(10_000)])
      expect(plainWords(text)).toBe(text.replaceAll('**', ''));
  });
  it('phones get the words alone', () => {
    const sheet = followSheet(smallLesson([testStep('one', { say: '**Slowly** now. Then stop.' })]));
    expect(sheet.steps.one?.lines).toEqual(['Slowly now.', 'Then stop.']);
  });
});

describe('finding in a lesson', () => {
  const demo = demoLesson();
  it('steps by what is said in them, with the words around', () => {
    const [found] = findInLesson(demo, 'upside down');
    expect(found).toMatchObject({ kind: 'step', name: 'Last look, then sign' });
    expect(found?.excerpt).toMatch(/Turn it upside down/);
  });
  it('names come first; all words must be there, in any order; accents and case make no difference', () => {
    expect(findInLesson(demo, 'sky')[0]?.name.toLowerCase()).toContain('sky');
    expect(findInLesson(demo, 'HIGH sky').some((one) => one.kind === 'mix')).toBe(true);
    expect(findInLesson(demo, 'zzz sky')).toEqual([]);
    const accented = { ...demo, title: 'x', areas: demo.areas.map((area, i) => (i === 0 ? { ...area, name: 'Église' } : area)) };
    expect(findInLesson(accented, 'eglise')[0]).toMatchObject({ kind: 'area', name: 'Église' });
  });
  it('tubes by pigment, mixes by what is in them; nothing sought finds nothing', () => {
    expect(findInLesson(demo, 'PB29').map((one) => one.kind)).toContain('tube');
    expect(findInLesson(demo, 'magenta').some((one) => one.kind === 'mix')).toBe(true);
    expect(findInLesson(demo, '  ')).toEqual([]);
  });
});
