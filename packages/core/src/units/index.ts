export { called, counted, isSeveral, the, verb } from './count.js';
export { hueOf, hueSaid, offInWords } from './hues.js';
export { legibleMm, pixelsFor } from './legible.js';
export { capital, lowered, uncapital } from './letters.js';
export * from './measures.js';
export { onRuler, readLength } from './ruler.js';

import { numberSaid, say } from '@viaticum/contract';
import { clockWords } from './measures.js';

export const MM_PER_INCH = 25.4;

/** Minutes as the interface says them: "4 min", "1 h 05", "2.5 min" below ten where a half matters; "never". */
export function minutesInWords(minutes: number): string {
  if (!Number.isFinite(minutes)) return say('never');
  const whole = Math.round(minutes);
  if (whole >= 2880) return say`${(minutes / 1440).toFixed(1).replace(/\.0$/, '')} days`;
  if (whole >= 60) return `${Math.floor(whole / 60)} h ${String(whole % 60).padStart(2, '0')}`;
  return say`${whole} min`;
}

/** A waiting time, always rounded up so that nobody goes on too early. */
export function waitInWords(minutes: number): string {
  return minutesInWords(Math.ceil(minutes - 1e-9));
}

/** Seconds as a clock: "12:40", "1:05:00"; negative ones as "0:00". */
export function clock(seconds: number): string {
  if (!Number.isFinite(seconds)) return '–:––';
  const left = Math.max(0, Math.ceil(seconds));
  const h = Math.floor(left / 3600);
  const m = Math.floor((left % 3600) / 60);
  const s = String(left % 60).padStart(2, '0');
  return h > 0 ? `${h}:${String(m).padStart(2, '0')}:${s}` : `${m}:${s}`;
}

/** Minutes from the start of a class as "0:53". */
export function hourMinute(minutes: number): string {
  const whole = Math.floor(minutes + 1e-9);
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`;
}

/** Parts of an inch on a ruler. */
const INCH_PARTS = 16;
const shortFractions: Record<string, string> = { '1/2': '½', '1/4': '¼', '3/4': '¾' };

/** A length in mm as a ruler in inches has it, to the nearest sixteenth: 16 → "5/8", 279.4 → "11", 88.9 → "3 ½"; below a thirty-second "0". */
export function inchesInWords(mm: number): string {
  const parts = Math.round((Math.abs(mm) / MM_PER_INCH) * INCH_PARTS);
  let [over, under] = [parts % INCH_PARTS, INCH_PARTS];
  while (over > 0 && over % 2 === 0) [over, under] = [over / 2, under / 2];
  const whole = Math.floor(parts / INCH_PARTS);
  // The fonts have halves and quarters as one letter; smaller parts are written out, as one says them.
  const rest = over === 0 ? '' : (shortFractions[`${over}/${under}`] ?? `${over}/${under}`);
  return `${mm < 0 && parts > 0 ? '−' : ''}${[whole > 0 || rest === '' ? String(whole) : '', rest].filter(Boolean).join(' ')}`;
}

/** A length in mm in the lesson's unit, as it is read off a ruler and without the unit: 406.4 → "16", 15.5 → "5/8", 297 → "29.7". */
export const lengthNumber = (mm: number, unit: 'in' | 'cm'): string =>
  unit === 'in' ? inchesInWords(mm) : numberSaid(Math.round(mm) / 10);

/** A length in mm in the lesson's unit, as a number for a field: to a hundredth of an inch, to a mm. */
export const lengthValue = (mm: number, unit: 'in' | 'cm'): number =>
  unit === 'in' ? Math.round((mm / MM_PER_INCH) * 100) / 100 : Math.round(mm) / 10;

/** "16 × 20 in". */
export function sizeInWords(widthMm: number, heightMm: number, unit: 'in' | 'cm'): string {
  return `${lengthNumber(widthMm, unit)} × ${lengthNumber(heightMm, unit)} ${unit}`;
}

/** "the sky, the far ridge and the near ridge" without the articles. */
export function listInWords(names: readonly string[]): string {
  if (names.length <= 1) return names[0] ?? '';
  return say`${names.slice(0, -1).join(', ')} and ${names.at(-1)}`;
}

/** A time of the day in minutes as "14:05" or "2:05 pm"; a new day begins at 24:00. */
export function timeOfDay(minutes: number): string {
  const whole = Math.round(minutes);
  return clockWords(Math.floor(whole / 60) % 24, whole % 60);
}

/** "45 %" of a share. */
export const percentInWords = (share: number): string => `${Math.round(share * 100)} %`;
