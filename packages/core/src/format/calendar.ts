import { say } from '@viaticum/contract';
import ical, { ICalCalendarMethod } from 'ical-generator';

/** A class as a calendar has it. Times in ms since 1970 UTC. */
export type CalendarEntry = {
  id: string;
  title: string;
  startMs: number;
  endMs: number;
  place: string;
  /** What to bring, where to join. */
  words: string;
  url?: string;
};

/** Entries as an iCalendar file (RFC 5545), times in UTC, so that every calendar shows them in its own area. Throws a sentence where one ends before it begins. */
export function toIcs(name: string, entries: readonly CalendarEntry[], stampMs: number): string {
  const calendar = ical({ name, prodId: { company: 'Viaticum', product: 'Viaticum' }, method: ICalCalendarMethod.PUBLISH });
  for (const entry of entries) {
    if (!(entry.endMs > entry.startMs)) throw new RangeError(say`“${entry.title}” ends before it begins. Set its times.`);
    calendar.createEvent({
      id: entry.id,
      summary: entry.title,
      start: new Date(entry.startMs),
      end: new Date(entry.endMs),
      stamp: new Date(stampMs),
      location: entry.place,
      description: entry.words,
      ...(entry.url && { url: entry.url }),
    });
  }
  return calendar.toString();
}

/** Whether there is a time zone of this name (IANA). */
export function isTimeZone(name: string): boolean {
  try {
    return Boolean(new Intl.DateTimeFormat('en', { timeZone: name }));
  } catch {
    return false;
  }
}
