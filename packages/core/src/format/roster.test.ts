import { describe, expect, it } from '@jest/globals';
import { namesIn, readRoster, shortNames, toRoster } from './index.js';

describe('a roster', () => {
  it('is read from the column of first names, whatever else the file holds', () => {
    expect(readRoster('surname;first name;phone\nA;Mara;1\nB;Kofi;2\n').names).toEqual(['Mara', 'Kofi']);
    expect(readRoster('\uFEFFVorname,Ort\r\nInes,X\r\n"Tomasz, der",Y\r\n').names).toEqual(['Ines', 'Tomasz, der']);
    expect(readRoster('Mara Lind\n\n  Kofi  \n').names).toEqual(['Mara', 'Kofi']);
  });
  it('two of one name have a letter more; a name in quotes stays whole', () => {
    expect(namesIn('Kaya Lund\nKaya Brandt\n"Anne, Marie"\nBela').names).toEqual(['Kaya L', 'Kaya B', 'Anne, Marie', 'Bela']);
    expect(shortNames(['Ada Berg', 'Ada Bell', 'Ada'])).toEqual(['Ada Ber', 'Ada Bel', 'Ada']);
    expect(shortNames(['Ada', 'ada'])).toEqual(['Ada', 'ada']);
  });
  it('tells what is no name: addresses, numbers, lines without a letter', () => {
    expect(namesIn('Mara\nmara@example.org\n0664 123456\n---\nhttps://example.org\nO’Neill')).toEqual({
      names: ['Mara', 'O’Neill'],
      noNames: ['mara@example.org', '0664 123456', '---', 'https://example.org'],
    });
  });
  it('comes back as it went out', () => {
    const names = ['Mara', 'Ana-Lucía', '李', 'Anne, Marie', '=SUM'];
    expect(readRoster(toRoster(names)).names.slice(0, 4)).toEqual(names.slice(0, 4));
    // No table program takes a name for a formula.
    expect(toRoster(names)).toContain("'=SUM");
  });
  it('an empty file and one for a stadium are refused with a sentence', () => {
    expect(() => readRoster('')).toThrow(/No names were found/);
    expect(() => readRoster('first name\n')).toThrow(/No names were found/);
    expect(() => readRoster(Array.from({ length: 301 }, (_, i) => `N${i}`).join('\n'))).toThrow(/301 names/);
  });
});
