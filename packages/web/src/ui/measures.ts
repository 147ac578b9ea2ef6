import type { Measures } from '@viaticum/contract';
import { setMeasures, usualMeasures } from '@viaticum/core/units';

const KEY = 'viaticum-measures';
const same = (one: Measures, other: Measures): boolean => JSON.stringify(one) === JSON.stringify(other);

/** How somebody measured who was here last, until it is known who is here now. */
export function keptMeasures(): Measures {
  try {
    return { ...usualMeasures, ...(JSON.parse(localStorage.getItem(KEY) ?? '{}') as Partial<Measures>) };
  } catch {
    return usualMeasures;
  }
}

/** From here on everything is said in these measures. Gives whether they are others than before. */
export function takeMeasures(next: Measures | null | undefined): boolean {
  const measures = next ?? usualMeasures;
  const isNew = !same(measures, keptMeasures());
  setMeasures(measures);
  try {
    if (isNew) localStorage.setItem(KEY, JSON.stringify(measures));
  } catch {
    /* they come with the next answer */
  }
  return isNew;
}
