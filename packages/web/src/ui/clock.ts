const clock = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit', hourCycle: 'h23' });
const day = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric' });

/** The time of day as “12:40”, here. */
export const clockTime = (at: number | string): string => clock.format(new Date(at));
/** A day and a time as “25 Nov 2026, 12:40”. */
export const dayAndTime = (at: number | string): string => `${day.format(new Date(at))}, ${clockTime(at)}`;
