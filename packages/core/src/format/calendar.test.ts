import { describe, expect, it } from '@jest/globals';
import ICAL from 'ical.js';
import { toIcs } from './index.js';

const entry = {
  id: 'k3m9',
  title: 'Balloons over the terraces',
  startMs: Date.UTC(2026, 10, 28, 17, 30),
  endMs: Date.UTC(2026, 10, 28, 21, 0),
  place: 'Studio, second floor; ring twice',
  words:
    'Bring an apron.\nTubes: white, ultramarine, “burnt umber”, and six more, of which none may be left at home by anyone who joins.',
  url: 'http://127.0.0.1:4870/join/AC3D4F',
};

describe('iCalendar', () => {
  const text = toIcs('Classes', [entry], Date.UTC(2026, 10, 25));
  it('is read back by another program (ical.js, RFC 5545): times, place and words with their commas and line ends', () => {
    const [event] = new ICAL.Component(ICAL.parse(text)).getAllSubcomponents('vevent').map((one) => new ICAL.Event(one));
    expect(event?.summary).toBe(entry.title);
    expect(event?.startDate.toJSDate().getTime()).toBe(entry.startMs);
    expect(event?.endDate.toJSDate().getTime()).toBe(entry.endMs);
    expect(event?.location).toBe(entry.place);
    expect(event?.description).toBe(entry.words);
    expect(event?.uid).toContain('k3m9');
  });
  it('lines end as RFC 5545 says and are folded at 75 octets', () => {
    const lines = text.split('\r\n');
    expect(lines[0]).toBe('BEGIN:VCALENDAR');
    for (const line of lines) expect(new TextEncoder().encode(line).length).toBeLessThanOrEqual(75);
  });
  it('a class that ends before it begins is refused in a sentence', () => {
    expect(() => toIcs('Classes', [{ ...entry, endMs: entry.startMs }], 0)).toThrow(/ends before it begins/);
  });
});
