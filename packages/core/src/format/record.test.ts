import { describe, expect, it } from '@jest/globals';
import Papa from 'papaparse';
import { recordCsv } from './index.js';

const item = {
  kind: 'step',
  title: 'Sky, blended',
  planned: 12,
  actual: 14.26,
  present: 5,
  done: 3,
  assumed: 2,
};
const told = {
  code: 'KRN4WQ',
  beganAt: Date.UTC(2026, 4, 9, 14, 0),
  items: [
    item,
    { ...item, kind: 'pause', title: 'Let the sky dry', planned: 6, actual: 5 },
    { ...item, title: '=Rim', actual: null },
  ],
  hands: [
    { firstName: 'Mara', reason: 'colour', minute: 9, tookMin: 2 },
    { firstName: 'Kofi', reason: 'lost', minute: 12, tookMin: null },
    { firstName: 'Mara', reason: 'brush', minute: 20, tookMin: 1 },
  ],
  messages: [{ minute: 3, text: 'Watch your water' }],
  airs: [{ minute: 1, airC: 17, humidity: 0.75 }],
  holds: [{ minute: 4, minutes: 2 }],
};

describe('a class as a table', () => {
  const rows = Papa.parse<Record<string, string>>(recordCsv(told), { header: true }).data;
  it('has a line for each step and pause with its minutes, who was there and who was done', () => {
    expect(rows[0]).toMatchObject({
      date: '2026-05-09',
      class: 'KRN4WQ',
      title: 'Sky, blended',
      'planned min': '12',
      'took min': '14.3',
      present: '5',
      'said done': '3',
      'assumed done': '2',
    });
    expect(rows[1]).toMatchObject({ what: 'pause', present: '' });
    // What was not taught took no time, and no title is taken for a formula.
    expect(rows[2]).toMatchObject({ title: "'=Rim", 'took min': '', present: '' });
  });
  it('has air, holds, messages and hands by the minute, and names nobody', () => {
    expect(rows.find((row) => row.what === 'air')).toMatchObject({ minute: '1', title: '17 °C, 75 %' });
    expect(rows.find((row) => row.what === 'held')).toMatchObject({ minute: '4', 'took min': '2' });
    expect(rows.find((row) => row.what === 'told all')?.title).toBe('Watch your water');
    expect(rows.filter((row) => row.what === 'hand').map((row) => row.title)).toEqual([
      'Student 1: colour',
      'Student 2: lost',
      'Student 1: brush',
    ]);
    expect(recordCsv(told)).not.toMatch(/Mara|Kofi/);
  });
});
