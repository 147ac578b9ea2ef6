const MM_PER_INCH = 25.4;

/** The marks of a ruler: sixteenths of an inch, or millimetres. */
const rulerStepMm = (unit: 'in' | 'cm'): number => (unit === 'in' ? MM_PER_INCH / 16 : 1);

/** The mark of a ruler that is nearest to a length, in mm: what a hand measures when a length is said as `lengthNumber` says it. */
export const onRuler = (mm: number, unit: 'in' | 'cm'): number => Math.round(mm / rulerStepMm(unit)) * rulerStepMm(unit);
