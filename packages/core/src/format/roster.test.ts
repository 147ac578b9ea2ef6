import { describe, expect, it } from '@jest/globals';
import { readRoster, toRoster } from './index.js';

describe('a roster', () => {
  it('is read from the column of first names, whatever else the file holds', () => {
    expect(readRoster('surname;first name;phone\nA;Mara;1\nB;Kofi;2\n')).toEqual(['Mara', 'Kofi']);
    expect(readRoster('\uFEFFVorname,Ort\r\nInes,X\r\n"Tomasz, der",Y\r\n')).toEqual(['Ines', 'Tomasz,']);
    expect(readRoster('Mara Lind\n\n  Kofi  \n')).toEqual(['Mara', 'Kofi']);
  });
  it('comes back as it went out', () => {
    const names = ['Mara', 'Ana-Lucía', '李', '=SUM'];
    expect(readRoster(toRoster(names)).slice(0, 3)).toEqual(names.slice(0, 3));
    // No table program takes a name for a formula.
    expect(toRoster(names)).toContain("'=SUM");
  });
  it('an empty file and one for a stadium are refused with a sentence', () => {
    expect(() => readRoster('')).toThrow(/No names were found/);
    expect(() => readRoster('first name\n')).toThrow(/No names were found/);
    expect(() => readRoster(Array.from({ length: 301 }, (_, i) => `N${i}`).join('\n'))).toThrow(/301 names/);
  });
});
