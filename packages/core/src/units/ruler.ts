const MM_PER_INCH = 25.4;

/** The marks of a ruler: sixteenths of an inch, or millimetres. */
const rulerStepMm = (unit: 'in' | 'cm'): number => (unit === 'in' ? MM_PER_INCH / 16 : 1);

/** The mark of a ruler that is nearest to a length, in mm: what a hand measures when a length is said as `lengthNumber` says it. */
export const onRuler = (mm: number, unit: 'in' | 'cm'): number => Math.round(mm / rulerStepMm(unit)) * rulerStepMm(unit);

const letters: Readonly<Record<string, number>> = {
  '½': 1 / 2,
  '¼': 1 / 4,
  '¾': 3 / 4,
  '⅛': 1 / 8,
  '⅜': 3 / 8,
  '⅝': 5 / 8,
  '⅞': 7 / 8,
};
const LENGTH = /^(\d+(?:[.,]\d+)?)?\s*(?:(\d+)\s*\/\s*(\d+)|([½¼¾⅛⅜⅝⅞]))?\s*(in|"|″|cm|mm)?$/;

/** A length as it is typed, in mm: "3 1/2", "5/8", "3½ in", "40 mm", "4,5"; without a unit it is of the given one. Null where it is none. */
export function readLength(text: string, unit: 'in' | 'cm'): number | null {
  const typed = text.trim();
  // "12/3" alone is a fraction, "1 2/3" one and two thirds.
  const bare = /^(\d+)\s*\/\s*(\d+)\s*(in|"|″|cm|mm)?$/.exec(typed);
  const [, whole, over, under, letter, own] = bare
    ? [undefined, undefined, bare[1], bare[2], undefined, bare[3]]
    : (LENGTH.exec(typed) ?? []);
  if (whole === undefined && over === undefined && letter === undefined) return null;
  const value =
    Number((whole ?? '0').replace(',', '.')) + (over ? Number(over) / Number(under) : 0) + (letter ? (letters[letter] ?? 0) : 0);
  const each = { in: MM_PER_INCH, '"': MM_PER_INCH, '″': MM_PER_INCH, cm: 10, mm: 1 }[own ?? unit] ?? MM_PER_INCH;
  return Number.isFinite(value) ? value * each : null;
}
