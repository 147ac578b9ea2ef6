import { localeNow } from '@viaticum/contract';
import { clockWords, measuresNow } from '@viaticum/core/units';

const day = () => new Intl.DateTimeFormat(localeNow(), { day: 'numeric', month: 'short', year: 'numeric' });

/** The time of day as “12:40” or “12:40 pm”, here. */
export function clockTime(at: number | string): string {
  const when = new Date(at);
  return clockWords(when.getHours(), when.getMinutes());
}
/** A day and a time as “25 Nov 2026, 12:40”. */
export const dayAndTime = (at: number | string): string => `${day().format(new Date(at))}, ${clockTime(at)}`;

/** A day as “25 Nov 2026”. */
export const dayOf = (at: number | string): string => day().format(new Date(at));

/** How a field takes a time of the day. */
export const clockFields = (): { format: string; use12Hours?: boolean } =>
  measuresNow().clock === '12' ? { format: 'h:mm a', use12Hours: true } : { format: 'HH:mm' };
