import { say, worded } from '@viaticum/contract';
/** Words of the labels on portions of mixes. */
export const labelWords = worded({
  title: (lesson: string) => say`Labels: ${lesson}`,
  painted: 'paint out here',
  steps: (numbers: readonly number[]) => say`for step ${numbers.join(', ')}`,
  made: 'mixed on ____________',
  keeps: (days: number) => say`keeps about ${days} days closed. Not food.`,
} as const);
