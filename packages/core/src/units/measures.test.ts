import { afterEach, describe, expect, it } from '@jest/globals';
import { readAir } from '../class/index.js';
import { tubesInWords } from '../kit/index.js';
import {
  clockWords,
  degreesInWords,
  degreesMeant,
  degreesShown,
  setMeasures,
  syringeInWords,
  timeOfDay,
  tubeSize,
  usualMeasures,
  volumeInWords,
  volumeMeant,
  volumeShown,
} from './index.js';

afterEach(() => setMeasures(usualMeasures));
const inAmerica = () => setMeasures({ temperature: 'F', volume: 'fl oz', clock: '12' });

describe('degrees', () => {
  // NIST SP 811, B.8: t/°C = (t/°F − 32) / 1.8; water freezes at 32 °F and boils at 212 °F.
  it('are Celsius to a tenth, or Fahrenheit as a thermometer shows them', () => {
    expect([degreesInWords(18.54), degreesInWords(-3)]).toEqual(['18.5 °C', '-3 °C']);
    inAmerica();
    expect([0, 20, 37, 100, -40].map(degreesInWords)).toEqual(['32 °F', '68 °F', '99 °F', '212 °F', '-40 °F']);
  });
  it('what is typed comes back as it was typed', () => {
    for (const degrees of [19.5, 23]) expect(degreesShown(degreesMeant(degrees))).toBe(degrees);
    inAmerica();
    for (let degrees = 20; degrees < 120; degrees++) expect(degreesShown(degreesMeant(degrees))).toBe(degrees);
  });
  it('are read off a thermometer with its letter or without, in the reader’s degrees', () => {
    expect(readAir('68 °F', '45').air).toEqual({ airC: 20, humidity: 0.45 });
    inAmerica();
    expect(readAir('68', '45').air).toEqual({ airC: 20, humidity: 0.45 });
    expect(readAir('20 °C', '45').air).toEqual({ airC: 20, humidity: 0.45 });
    expect(readAir('200', '45').fault).toBe('Between 14 and 122 °F. What does the thermometer show?');
    setMeasures(usualMeasures);
    expect(readAir('68', '45').fault).toBe('Between −10 and 50 °C. What does the thermometer show?');
  });
});

describe('volumes', () => {
  // NIST Handbook 44, Appendix C: one US fluid ounce is 29.573 ml.
  it('are ml, or US fluid ounces', () => {
    expect([0.02, 3.14, 250.4].map(volumeInWords)).toEqual(['0.1 ml', '3.1 ml', '250 ml']);
    inAmerica();
    expect([0.02, 3.14, 29.5735, 59, 473].map(volumeInWords)).toEqual([
      '0.01 fl oz',
      '0.11 fl oz',
      '1 fl oz',
      '2 fl oz',
      '16 fl oz',
    ]);
  });
  it('tubes are told by the size that is printed on them', () => {
    expect(tubesInWords([59, 59, 118])).toBe('2 × 59 + 118 ml');
    inAmerica();
    expect(tubesInWords([59, 59, 118])).toBe('2 × 2 + 4 fl oz');
  });
  // Sizes as tubes carry them in both units (common practice, no published source).
  it('a size is the one a shop sells, not its exact ounces', () => {
    inAmerica();
    expect([22, 37, 60, 75, 118, 120, 150, 250, 473].map(tubeSize)).toEqual([0.75, 1.25, 2, 2.5, 4, 4, 5, 8.5, 16]);
    expect([20, 40].map(tubeSize)).toEqual([0.68, 1.35]);
    setMeasures(usualMeasures);
    expect([7.5, 59.147, 60].map(tubeSize)).toEqual([7.5, 59, 60]);
  });
  it('typed, they are meant in the reader’s unit, and come back as typed', () => {
    expect(volumeMeant(60)).toBe(60);
    inAmerica();
    expect(volumeMeant(2)).toBe(59.147);
    for (const typed of [0.25, 0.75, 1.25, 2, 3.4, 16, 128]) {
      expect(volumeShown(volumeMeant(typed))).toBe(typed);
      expect(tubeSize(volumeMeant(typed))).toBe(typed);
    }
  });
  it('what a syringe measures is said as it is marked, ounces beside it', () => {
    expect(syringeInWords(1.5)).toBe('1.5 ml');
    inAmerica();
    expect([1.5, 0.017].map(syringeInWords)).toEqual(['1.5 ml (0.05 fl oz)', '0.017 ml']);
  });
});

describe('the clock', () => {
  it('has twenty-four hours or twelve: noon is 12 pm, midnight 12 am', () => {
    expect([clockWords(0, 5), clockWords(12, 0), timeOfDay(17 * 60 + 58)]).toEqual(['00:05', '12:00', '17:58']);
    inAmerica();
    expect([clockWords(0, 5), clockWords(12, 0), clockWords(11, 59), timeOfDay(17 * 60 + 58)]).toEqual([
      '12:05 am',
      '12:00 pm',
      '11:59 am',
      '5:58 pm',
    ]);
  });
});
