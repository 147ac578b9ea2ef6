/** Words of the labels on portions of mixes. */
export const labelWords = {
  title: (lesson: string) => `Labels: ${lesson}`,
  painted: 'paint out here',
  steps: (numbers: readonly number[]) => `for step ${numbers.join(', ')}`,
  made: 'mixed on ____________',
  keeps: (days: number) => `keeps about ${days} days closed. Not food.`,
} as const;
