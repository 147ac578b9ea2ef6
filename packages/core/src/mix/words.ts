import type { Amount } from '@viaticum/contract';
import { say } from '@viaticum/contract';

/** "3", "a touch", "2 specks". */
export function amountInWords(amount: Amount): string {
  return typeof amount === 'number' || /^\d/.test(amount) ? String(amount) : `a ${amount}`;
}

/** "3 white : 2 ultramarine : a touch of quinacridone"; `nameOf` gives the tube's short name. */
export function recipeInWords(recipe: readonly { tubeId: string; parts: Amount }[], nameOf: (tubeId: string) => string): string {
  return recipe
    .map(({ tubeId, parts }) =>
      typeof parts === 'number' ? `${parts} ${nameOf(tubeId)}` : say`${amountInWords(parts)} of ${nameOf(tubeId)}`,
    )
    .join(' : ');
}
