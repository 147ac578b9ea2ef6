import type { School } from '@viaticum/contract';
import { worded } from '@viaticum/contract';

type Toned = { lightness: number };
/** In which order the values of one area are laid. */
export type ValuesRule = { reason: string; sequence: <T extends Toned>(darkToLight: readonly T[]) => T[]; lightsLast: boolean };

const middleOut = <T>(list: readonly T[]): T[] => {
  const middle = Math.floor((list.length - 1) / 2);
  const order: T[] = [];
  for (let step = 0; order.length < list.length; step++) {
    const [down, up] = [middle - step, middle + step];
    if (down >= 0) order.push(list[down] as T);
    if (step > 0 && up < list.length) order.push(list[up] as T);
  }
  return order;
};

/** The order of values, one entry for each choice of the school; lists go from dark to light. */
export const valuesRules: Record<School['values'], ValuesRule> = worded(
  {
    'dark-to-light': {
      reason: 'Opaque paint covers: darks first, the lightest lights last.',
      sequence: (list) => [...list],
      lightsLast: true,
    },
    'extremes-first': {
      reason: 'The darkest and the lightest fix the scale for all between.',
      sequence: (list) =>
        list.length < 3 ? [...list] : [list[0], list.at(-1), ...list.slice(1, -1)].flatMap((one) => (one ? [one] : [])),
      lightsLast: false,
    },
    'middle-out': { reason: 'From a middle tone one can go both ways.', sequence: middleOut, lightsLast: true },
    'white-first': {
      reason: 'White laid first and coloured while wet makes soft lights.',
      sequence: (list) => [...list].reverse(),
      lightsLast: false,
    },
    'transparent-darks': {
      reason: 'Transparent darks first keep their depth; white only when all is covered.',
      sequence: (list) => [...list],
      lightsLast: true,
    },
  },
  ['say', 'watch', 'checkpoint', 'finish', 'title', 'reason', 'ahead', 'look', 'brushed', 'sprayed', 'name', 'words'],
);
