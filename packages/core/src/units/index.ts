export { called, counted, isSeveral, the, verb } from './count.js';
export { legibleMm, pixelsFor } from './legible.js';
export { capital, uncapital } from './letters.js';

export const MM_PER_INCH = 25.4;

/** Minutes as the interface says them: "4 min", "1 h 05", "2.5 min" below ten where a half matters; "never". */
export function minutesInWords(minutes: number): string {
  if (!Number.isFinite(minutes)) return 'never';
  const whole = Math.round(minutes);
  if (whole >= 2880) return `${(minutes / 1440).toFixed(1).replace(/\.0$/, '')} days`;
  if (whole >= 60) return `${Math.floor(whole / 60)} h ${String(whole % 60).padStart(2, '0')}`;
  return `${whole} min`;
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

/** A length in mm in the lesson's unit, without the unit: 406.4 → "16", 297 → "29.7". */
export function lengthNumber(mm: number, unit: 'in' | 'cm'): string {
  const value = unit === 'in' ? mm / MM_PER_INCH : mm / 10;
  return String(Math.round(value * 10) / 10);
}

/** "16 × 20 in". */
export function sizeInWords(widthMm: number, heightMm: number, unit: 'in' | 'cm'): string {
  return `${lengthNumber(widthMm, unit)} × ${lengthNumber(heightMm, unit)} ${unit}`;
}

/** "the sky, the far ridge and the near ridge" without the articles. */
export function listInWords(names: readonly string[]): string {
  if (names.length <= 1) return names[0] ?? '';
  return `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`;
}

/** A time of the day in minutes as "14:05"; a new day begins at 24:00. */
export function timeOfDay(minutes: number): string {
  const whole = Math.round(minutes);
  return `${String(Math.floor(whole / 60) % 24).padStart(2, '0')}:${String(whole % 60).padStart(2, '0')}`;
}

/** "18.5 °C". */
export const degreesInWords = (celsius: number): string => `${Math.round(celsius * 10) / 10} °C`;
/** "45 %" of a share. */
export const percentInWords = (share: number): string => `${Math.round(share * 100)} %`;
