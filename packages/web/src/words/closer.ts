import { worded } from '@viaticum/contract';
/** Nearer and farther on a canvas. */
export const closerWords = worded({ nearer: 'Nearer', farther: 'Farther', whole: 'Whole' } as const);
