import { say } from '@viaticum/contract';

const KEY = 'viaticum-exact-figures';

/** Whether colour differences are given as figures (ΔE00) beside the words for them. */
export const exactFiguresOn = (): boolean => globalThis.localStorage?.getItem(KEY) === 'on';
export const setExactFigures = (isOn: boolean): void => localStorage.setItem(KEY, isOn ? 'on' : 'off');

/** " (ΔE00 1.4)" for who wants figures, else nothing. */
export const figure = (deltaE: number): string => (exactFiguresOn() ? say` (ΔE00 ${deltaE.toFixed(1)})` : '');

/**
 * How far two colours are apart, as a painter says it. The steps follow what observers judge of ΔE00: about 1 is just noticed side by side,
 * about 2 at a second look (common practice, no published source).
 */
function nearness(deltaE: number): string {
  if (deltaE < 1) return say('the same to the eye');
  if (deltaE < 2.5) return say('hardly to be told apart');
  if (deltaE < 5) return say('close');
  if (deltaE < 10) return say('some way off');
  return say('far off');
}
/** In words, with the figure for who wants it. */
export const apart = (deltaE: number): string => `${nearness(deltaE)}${figure(deltaE)}`;
