import { worded } from '@viaticum/contract';
/** What takes a while, and can be left. */
export const jobWords = worded({ cancel: 'Cancel', left: 'Not worked out.', again: 'Work it out' } as const);
