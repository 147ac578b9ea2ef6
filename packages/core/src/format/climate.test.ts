import { describe, expect, it } from '@jest/globals';
import { readClimate } from './index.js';

describe('a climate log', () => {
  it('is read with a heading, a byte-order mark, decimal commas and semicolons', () => {
    const log = readClimate(
      '\uFEFFtime;temperature °C;humidity %\r\n2026-05-01 09:10;18,5;62\r\n2026-05-01 09:40;19,5;58\r\n2026-05-01 10:05;21;50\r\n',
    );
    expect(log).toEqual({
      hours: [
        { atMin: 570, airC: 19, humidity: 0.6 },
        { atMin: 630, airC: 21, humidity: 0.5 },
      ],
      readings: 3,
      skipped: 0,
      firstFault: null,
      gaps: [],
    });
  });

  it('without a heading: time, °C, %, wind and sun, with commas', () => {
    expect(readClimate('14:00,24.2,35,1.5,420\n15:00,25,33,2,380').hours).toEqual([
      { atMin: 870, airC: 24.2, humidity: 0.35, airSpeed: 1.5, sunWPerM2: 420 },
      { atMin: 930, airC: 25, humidity: 0.33, airSpeed: 2, sunWPerM2: 380 },
    ]);
  });

  it('days are taken together by the hour, gaps and unreadable lines are told', () => {
    const log = readClimate(
      'when\ttemp\tRH\n2026-05-01T08:00Z\t16\t70\n2026-05-02T08:30Z\t18\t60\n2026-05-02T11:00Z\tx\t60\n2026-05-02T12:00Z\t22\t150\n1:15 pm\t23\t45',
    );
    expect(log.hours).toEqual([
      { atMin: 510, airC: 17, humidity: 0.65 },
      { atMin: 810, airC: 23, humidity: 0.45 },
    ]);
    expect(log.gaps).toEqual([9, 10, 11, 12]);
    expect(log.skipped).toBe(2);
    expect(log.firstFault).toBe('Line 4: the temperature is missing or not between −20 and 60 °C.');
  });

  it.each([
    ['nothing', '', /empty/],
    ['only a heading', 'time,temp,humidity', /No reading was found/],
    ['a heading without humidity', 'time,temp\n09:00,20', /names no time or no humidity/],
    ['something else', 'a letter\nto a friend', /three columns: time, °C and %/],
    ['times that are none', '29:00,20,50', /no time of the day/],
  ])('%s is refused with a sentence', (_, text, words) => {
    expect(() => readClimate(text)).toThrow(words);
  });
});
