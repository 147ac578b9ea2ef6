import { worded } from '@viaticum/contract';
/** Words of every screen that follows a class. */
export const liveWords = worded({
  sayAgain: 'No network: say it again when you are back.',
});
