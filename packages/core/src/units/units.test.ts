import { describe, expect, it } from '@jest/globals';
import { brushes, brushInWords, brushOf } from '../brush/index.js';
import {
  capital,
  clock,
  hourMinute,
  legibleMm,
  lengthNumber,
  lengthValue,
  minutesInWords,
  pixelsFor,
  sizeInWords,
  timeOfDay,
  waitInWords,
} from './index.js';

describe('times and lengths in words', () => {
  it.each([
    [0, '0 min'],
    [4.4, '4 min'],
    [59.6, '1 h 00'],
    [65, '1 h 05'],
    [141, '2 h 21'],
    [Number.POSITIVE_INFINITY, 'never'],
    [2880, '2 days'],
    [3600, '2.5 days'],
  ])('%d min is %s', (minutes, words) => {
    expect(minutesInWords(minutes)).toBe(words);
  });
  it('a wait is rounded up, so that nobody goes on too early', () => {
    expect([waitInWords(11.01), waitInWords(11)]).toEqual(['12 min', '11 min']);
  });
  it.each([
    [0, '0:00'],
    [-5, '0:00'],
    [59.2, '1:00'],
    [760, '12:40'],
    [3900, '1:05:00'],
  ])('%d s on a clock is %s', (seconds, words) => {
    expect(clock(seconds)).toBe(words);
  });
  it('minutes of the class, inches and centimetres', () => {
    expect([hourMinute(53.9), hourMinute(125)]).toEqual(['0:53', '2:05']);
    expect(sizeInWords(406.4, 508, 'in')).toBe('16 × 20 in');
    expect(lengthNumber(297, 'cm')).toBe('29.7');
    // A4 in inches, as paper is sold (ISO 216: 210 × 297 mm).
    expect(sizeInWords(210, 297, 'in')).toBe('8 ¼ × 11 11/16 in');
  });
  // The marks of a ruler in inches, from its end; common practice, no published source.
  it.each([
    [0, '0'],
    [1, '1/16'],
    [2, '1/8'],
    [3, '3/16'],
    [4, '¼'],
    [6, '3/8'],
    [8, '½'],
    [10, '5/8'],
    [12, '¾'],
    [14, '7/8'],
    [15, '15/16'],
    [16, '1'],
    [24, '1 ½'],
    [163, '10 3/16'],
    [640, '40'],
  ])('%i sixteenths of an inch are read as “%s”', (sixteenths, said) => {
    expect(lengthNumber((sixteenths * 25.4) / 16, 'in')).toBe(said);
  });
  it('what is said in inches is within a thirty-second of what is meant, and read back as it was said', () => {
    const glyphs: Record<string, number> = { '½': 1 / 2, '¼': 1 / 4, '¾': 3 / 4 };
    const read = (said: string) =>
      said.split(' ').reduce((sum, part) => {
        const [over = 0, under = 1] = part.split('/').map(Number);
        return sum + (glyphs[part] ?? over / under);
      }, 0);
    for (let mm = 0; mm < 700; mm += 0.37) {
      const inches = read(lengthNumber(mm, 'in'));
      expect([mm, Math.abs(inches * 25.4 - mm) <= 25.4 / 32 + 1e-9]).toEqual([mm, true]);
      expect(lengthNumber(inches * 25.4, 'in')).toBe(lengthNumber(mm, 'in'));
    }
  });
  it('a field has a number that can be typed', () => {
    expect([lengthValue(15.5, 'in'), lengthValue(406.4, 'in'), lengthValue(155.4, 'cm')]).toEqual([0.61, 16, 15.5]);
  });
});

describe('times of the day', () => {
  it('are written with two figures, never with a sixtieth minute, and begin anew at midnight', () => {
    expect([0, 845, 1077.75, 59.6, 1445].map(timeOfDay)).toEqual(['00:00', '14:05', '17:58', '01:00', '00:05']);
    expect([capital('sky'), capital('')]).toEqual(['Sky', '']);
  });
});

describe('brushes', () => {
  it('have ids of their own, widths in mm and words', () => {
    expect(new Set(brushes.map((brush) => brush.id)).size).toBe(brushes.length);
    expect(brushOf('flat-1-in')?.widthMm).toBe(25.4);
    expect(brushes.map(brushInWords)).toEqual(expect.arrayContaining(['1 in flat', 'rigger 2']));
    expect([brushOf(undefined), brushOf('none')]).toEqual([null, null]);
  });
});

describe('text on a wall', () => {
  it('from eight metres it is about 70 px high on a 55-inch screen of 1920 × 1080', () => {
    expect(pixelsFor(legibleMm(8), 55, 1920, 1080)).toBeCloseTo(70, -0.5);
  });
  it('a just legible letter spans five minutes of arc (common in optics): 20/20 is 8.9 mm at 6.1 m', () => {
    // The Snellen letter of 20/20 at 20 ft is 8.87 mm high (from memory).
    expect(legibleMm(6.096) / 3.8).toBeCloseTo(8.87, 1);
  });
  it('twice as far is twice as large', () => {
    expect(legibleMm(12)).toBeCloseTo(2 * legibleMm(6), 9);
  });
});
