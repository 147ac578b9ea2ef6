import { type Measures, numberSaid, speak } from '@viaticum/contract';

/** As most of the world measures. */
export const usualMeasures: Measures = { temperature: 'C', volume: 'ml', clock: '24' };
const ML_PER_FL_OZ = 29.5735;

let measures: Measures = usualMeasures;
/** How whoever reads this page or this paper measures, and in which language: set once, before anything is said. A thread has its own. */
export function setMeasures(next: Measures): void {
  measures = next;
  speak(next.language ?? 'en');
}
export const measuresNow = (): Measures => measures;

/** "°C" or "°F". */
export const degreesUnit = (): string => `°${measures.temperature}`;
/** Degrees Celsius as a number of the reader's degrees, to a tenth (a half degree Fahrenheit is nobody's business). */
export const degreesShown = (celsius: number): number =>
  measures.temperature === 'F' ? Math.round(celsius * 1.8 + 32) : Math.round(celsius * 10) / 10;
/** A number of the reader's degrees in degrees Celsius. */
export const degreesMeant = (shown: number): number =>
  measures.temperature === 'F' ? Math.round(((shown - 32) / 1.8) * 100) / 100 : shown;
/** "18.5 °C", "65 °F". */
export const degreesInWords = (celsius: number): string => `${numberSaid(degreesShown(celsius))} ${degreesUnit()}`;

/** A volume without its unit: under ten to a tenth, else whole ml; fluid ounces to a tenth, below one to a hundredth. Never nothing. */
function volumeNumber(ml: number): number {
  if (measures.volume === 'ml') return ml < 10 ? Math.max(0.1, Math.round(ml * 10) / 10) : Math.round(ml);
  const ounces = ml / ML_PER_FL_OZ;
  return ounces < 1 ? Math.max(0.01, Math.round(ounces * 100) / 100) : Math.round(ounces * 10) / 10;
}
export const volumeUnit = (): string => measures.volume;
/** "12 ml", "0.41 fl oz"; US fluid ounces (29.5735 ml). */
export const volumeInWords = (ml: number): string => `${numberSaid(volumeNumber(ml))} ${volumeUnit()}`;
/** To the nearest of so many parts of one. */
const roundedTo = (parts: number, value: number): number => Math.round(value * parts) / parts;
/**
 * The size of a tube as it is printed on it: whole or half ml, or fluid ounces, where 60 ml are sold as 2 and 37 ml as 1¼: the nearest quarter
 * within a fortieth of it, else to a hundredth (common practice, no published source).
 */
export function tubeSize(ml: number): number {
  if (measures.volume === 'ml') return roundedTo(2, ml);
  const ounces = ml / ML_PER_FL_OZ;
  const quarters = roundedTo(4, ounces);
  return Math.abs(quarters - ounces) <= ounces / 40 ? quarters : roundedTo(100, ounces);
}
/** A volume as a number of the reader's unit, for fields and tables: ml to a tenth, fluid ounces to a hundredth. */
export const volumeShown = (ml: number): number =>
  measures.volume === 'ml' ? roundedTo(10, ml) : roundedTo(100, ml / ML_PER_FL_OZ);
/** A number of the reader's volume in ml, to a thousandth. */
export const volumeMeant = (shown: number): number => (measures.volume === 'ml' ? shown : roundedTo(1000, shown * ML_PER_FL_OZ));
/**
 * What is measured with a syringe, which is marked in ml everywhere: "1.5 ml", and beside it "(0.05 fl oz)" for who counts in those, where
 * there is a hundredth of one.
 */
export function syringeInWords(ml: number): string {
  const marked = `${numberSaid(ml)} ml`;
  return measures.volume === 'ml' || ml < ML_PER_FL_OZ / 100 ? marked : `${marked} (${volumeInWords(ml)})`;
}

/** An hour and a minute as "14:05" or "2:05 pm". */
export function clockWords(hour: number, minute: number): string {
  const mm = String(minute).padStart(2, '0');
  if (measures.clock === '24') return `${String(hour).padStart(2, '0')}:${mm}`;
  return `${hour % 12 === 0 ? 12 : hour % 12}:${mm} ${hour < 12 ? 'am' : 'pm'}`;
}
