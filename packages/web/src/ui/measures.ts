import type { Language, Measures } from '@viaticum/contract';
import { setMeasures, usualMeasures } from '@viaticum/core/units';
import { browserLanguage } from './language.js';

const KEY = 'viaticum-measures';
/** Who never chose a language reads that of the browser. */
const inALanguage = (measures: Measures): Measures => ({ ...measures, language: measures.language ?? browserLanguage() });
const same = (one: Measures, other: Measures): boolean => JSON.stringify(one) === JSON.stringify(other);

/** How somebody measured who was here last, until it is known who is here now. */
export function keptMeasures(): Measures {
  try {
    return inALanguage({ ...usualMeasures, ...(JSON.parse(localStorage.getItem(KEY) ?? '{}') as Partial<Measures>) });
  } catch {
    return inALanguage(usualMeasures);
  }
}

/** From here on everything is said in these measures. Gives whether they are others than before. */
export function takeMeasures(next: Measures | null | undefined): boolean {
  const measures = inALanguage(next ?? usualMeasures);
  const isNew = !same(measures, keptMeasures());
  setMeasures(measures);
  try {
    if (isNew) localStorage.setItem(KEY, JSON.stringify(measures));
  } catch {
    /* they come with the next answer */
  }
  return isNew;
}

/** What is read on this browser until somebody signs in who chose a language themselves. */
export function keepLanguage(language: Language): void {
  try {
    localStorage.setItem(KEY, JSON.stringify({ ...keptMeasures(), language }));
  } catch {
    /* it is said in the browser's own language again */
  }
}
