/** Nearer and farther on a canvas. */
export const closerWords = { nearer: 'Nearer', farther: 'Farther', whole: 'Whole' } as const;
