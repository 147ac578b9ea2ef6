import type { Amount } from '@viaticum/contract';
import { say, sayBy } from '@viaticum/contract';
import { counted } from '../units/index.js';

/** "3", "a touch", "2 specks". */
export function amountInWords(amount: Amount): string {
  if (typeof amount === 'number') return String(amount);
  if (amount === 'touch') return say('a touch');
  if (amount === 'speck') return say('a speck');
  const [count = '', small = ''] = amount.split(' ');
  return small.startsWith('touch')
    ? sayBy(count === '1' ? 'mix|{0} touch' : 'mix|{0} touches', count)
    : counted(Number(count), 'speck');
}

/** "3 white : 2 ultramarine : a touch of quinacridone"; `nameOf` gives the tube's short name. */
export function recipeInWords(recipe: readonly { tubeId: string; parts: Amount }[], nameOf: (tubeId: string) => string): string {
  return recipe
    .map(({ tubeId, parts }) =>
      typeof parts === 'number' ? `${parts} ${nameOf(tubeId)}` : sayBy('mix|{0} of {1}', amountInWords(parts), nameOf(tubeId)),
    )
    .join(' : ');
}
